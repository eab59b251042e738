// Offering a piece up, or its trial pattern: what is seen along its edges is typed, and what is to be done told.
#pragma once

#include <QListWidget>
#include <QTableWidget>

#include "app/pieces/fitting_picture.h"
#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

class OfferUpPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit OfferUpPanel(Document& document);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void build_entry();
    void build_result();
    void refresh();
    void show_readings();
    void show_result();
    void offer_edges();
    void take();
    void feel();
    void remove_chosen();
    void enter();
    void take_back();
    void go_on();
    QString move_words(const piece::Move& move) const;
    /// The readings that are typed and not entered yet.
    const job::Fitting* draft() const;
    const job::JobPiece* piece() const;
    const piece::Outline* shape() const;
    int edge() const;
    void change_draft(const QString& what, const std::function<void(job::Fitting&)>& change);

    QLabel *lead_, *advice_, *past_;
    QComboBox *what_, *edge_, *seen_;
    QuantityEdit *along_, *gap_;
    FaultLine* fault_;
    QListWidget* list_;
    FittingPicture* picture_;
    QTableWidget* guide_;
    QPushButton *act_, *back_, *paper_, *feel_;
    std::vector<int> edges_;
    bool filling_ = false;
};

}  // namespace bevelsmith::app
