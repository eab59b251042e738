// The practice hull: a virtual boat to template, and the true fit of what is cut for her.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

/// The gaps of a tried piece along its edge: daylight upwards, fouling downwards.
class GapMap : public QWidget {
    Q_OBJECT
  public:
    explicit GapMap(const Document& document, QWidget* parent = nullptr);
    void show_trial(std::shared_ptr<const practice::Trial> trial, double wanted_mm);

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    const Document& document_;
    std::shared_ptr<const practice::Trial> trial_;
    double wanted_mm_ = 3;
};

class PracticePanel : public SidePanel {
    Q_OBJECT
  public:
    explicit PracticePanel(Document& document);

  private:
    void refresh();
    void add_boat(FieldList& fields);
    void add_instrument(FieldList& fields);
    void edit(const QString& what, const std::function<void(job::Practice&)>& change);
    /// Another boat: what was read of the one before does not belong to her.
    void change_boat(const QString& what, const std::function<void(practice::BoatSpec&)>& change);
    void take();
    survey::ReadingSet taken_set() const;
    void try_piece();
    void show_trial();
    std::string piece_id() const;

    Form *boat_, *instrument_;
    QLabel *words_, *taken_, *verdict_;
    FaultLine* fault_;
    Figure *gap_, *score_;
    GapMap* map_;
    QPushButton *take_, *act_;
    int school_ = 0;
    double at_mm_ = 1500, step_mm_ = 150, height_mm_ = -200;
};

/// A job to practise on: one boat, one bulkhead, nothing measured yet.
job::Job practice_job(unsigned seed);

}  // namespace bevelsmith::app
