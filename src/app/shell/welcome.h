// The first page: ways into the program.
#pragma once

#include <QVBoxLayout>
#include <QWidget>
#include <vector>

#include "app/keeping/kept_work.h"
#include "app/keeping/recent_jobs.h"

class QScrollArea;

namespace bevelsmith::app {

class Welcome : public QWidget {
    Q_OBJECT
  public:
    Welcome();
    /// Work that was not saved stands above the doors: the newest, and a way to the rest.
    void offer(const std::vector<KeptWork>& works);
    /// The jobs worked on last stand below the doors.
    void offer_recent(const std::vector<RecentJob>& jobs);

  signals:
    void guide_asked();
    void new_asked();
    void recent_asked(const QString& path);
    void example_asked(const QString& name);
    void practice_asked();
    void open_asked();
    void kept_asked();
    void look_asked(const bevelsmith::app::KeptWork& work);
    void take_up_asked(const bevelsmith::app::KeptWork& work);
    void throw_away_asked(const bevelsmith::app::KeptWork& work);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    void add_doors();
    QScrollArea* scroll_;
    QWidget* words_;
    QVBoxLayout *kept_, *doors_, *recent_;
};

}  // namespace bevelsmith::app
