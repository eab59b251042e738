// The band across the top: the job, the steps in the order of the work, what needs attention, units and look.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "app/widgets/step.h"

namespace bevelsmith::app {

/// A step's word over its count.
class StepButton : public QPushButton {
    Q_OBJECT
  public:
    explicit StepButton(const QString& word);
    void show_count(const QString& count);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void show_shortened();
    QString all_;
    QLabel *word_, *count_;
};

class TopBand : public QWidget {
    Q_OBJECT
  public:
    TopBand(Document& document, const std::vector<std::unique_ptr<Step>>& steps);
    void show_step(int index);
    QMenu* job_menu() const { return menu_; }
    /// The job's name, or the boat's, is typed where it stands.
    void rename_job();
    void rename_boat();

  signals:
    void step_chosen(int index);
    void attention_asked();

  private:
    QWidget* build_names();
    void rename(QWidget* where, const std::string& now, const QString& label, const QString& what,
                const std::function<void(job::Job&, const std::string&)>& set);
    bool eventFilter(QObject* watched, QEvent* event) override;
    std::vector<QWidget*> build_switches();
    QString clear_words() const;
    void resizeEvent(QResizeEvent* event) override;
    void fit();
    void show_attention();
    void refresh();
    void refresh_computing();
    Document& document_;
    const std::vector<std::unique_ptr<Step>>& steps_;
    std::vector<StepButton*> buttons_;
    QWidget* names_;
    /// Where there is no room for all words (large letters, a small screen): counts are shortened, and what needs
    /// attention is only numbers.
    bool tight_ = false;
    QToolButton* job_;
    QLabel* boat_;
    QPushButton* stop_;  ///< a computation that takes long
    QTimer patience_;
    QMenu* menu_;
    QPushButton* attention_;
    QComboBox* unit_;
    QPushButton* look_;
};

}  // namespace bevelsmith::app
