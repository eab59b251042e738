// What it costs: choices of material for a group of pieces, cost against weight, and what is to be bought.
#pragma once

#include <QFutureWatcher>
#include <functional>

#include "app/widgets/free_places.h"
#include "app/widgets/side_panel.h"
#include "job/finished_cost.h"

namespace bevelsmith::app {

/// Cost upwards, weight to the right, a mark a choice.
class CostPicture : public QWidget {
    Q_OBJECT
  public:
    explicit CostPicture(QWidget* parent = nullptr);
    /// Weights are shown in `mass_unit`, of `kg_each`.
    void show_costs(std::vector<job::FinishedCost> costs, const QString& currency, const QString& mass_unit,
                    double kg_each, int chosen);
    QSize sizeHint() const override { return {300, 210}; }

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    void draw_names(QPainter& p, const QRectF& field, const std::function<QPointF(const job::FinishedCost&)>& place,
                    FreePlaces& taken) const;
    std::vector<job::FinishedCost> costs_;
    QString currency_, mass_unit_;
    double kg_each_ = 1;
    int chosen_ = 0;
};

class CostPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit CostPanel(Document& document);
    ~CostPanel() override;

  private:
    void refresh();
    void work_out();
    void show_result();
    void add_fields(FieldList& fields);
    void add_rates(FieldList& fields);
    std::size_t group_ = 0, chosen_ = 0;
    QComboBox* groups_;
    CostPicture* picture_;
    QLabel *sums_, *shopping_;
    Form* form_;
    QPushButton *usual_, *another_, *gone_;
    QFutureWatcher<std::vector<job::FinishedCost>> watcher_;
    std::shared_ptr<std::atomic<bool>> stop_;
    std::shared_ptr<const Computed> worked_out_;  ///< for which, and for which group
    std::size_t worked_group_ = 0;
    bool again_ = false;
};

}  // namespace bevelsmith::app
