// Sheets about states of a job: two of them side by side, all kept work, earlier versions.
#pragma once

#include <functional>
#include <utility>
#include <vector>

#include "app/keeping/kept_work.h"
#include "app/keeping/versions.h"
#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// Two states of a job, and what can be done about them.
struct Comparison {
    struct Side {
        QString title, words;  ///< "saved", "25 November, 14:02"
        job::Job job;
    };
    QString title;
    Side left, right;
    std::vector<std::pair<QString, std::function<void()>>> choices;
};

/// What the right state has that the left has not, in words and as silhouettes.
class ComparePanel : public SidePanel {
    Q_OBJECT
  public:
    ComparePanel(Document& document, const Comparison& comparison);

  private:
    void add_sides(const Comparison& c);
};

/// One kept work: silhouette, what it is, and what can be done with it.
class KeptCard : public QWidget {
    Q_OBJECT
  public:
    explicit KeptCard(const KeptWork& work);

  signals:
    void look_asked(const bevelsmith::app::KeptWork& work);
    void take_up_asked(const bevelsmith::app::KeptWork& work);
    void throw_away_asked(const bevelsmith::app::KeptWork& work);
};

/// "25 November, 14:02 · 12 changes · not in any file".
QString kept_in_words(const KeptWork& work);

/// All work that was kept, with its folder.
class KeptPanel : public SidePanel {
    Q_OBJECT
  public:
    KeptPanel(Document& document, const QString& folder);

  signals:
    void look_asked(const bevelsmith::app::KeptWork& work);
    void take_up_asked(const bevelsmith::app::KeptWork& work);
    void throw_away_asked(const bevelsmith::app::KeptWork& work);

  private:
    void refresh();
    QString folder_;
    QLabel* words_;
    QVBoxLayout* cards_;
};

/// Earlier versions of the job's file.
class VersionsPanel : public SidePanel {
    Q_OBJECT
  public:
    VersionsPanel(Document& document, const QString& job_path);

  signals:
    void look_asked(const bevelsmith::app::Version& version);
};

}  // namespace bevelsmith::app
