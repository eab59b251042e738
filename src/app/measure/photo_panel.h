// A template taken over from a photo.
#pragma once

#include <QFutureWatcher>
#include <QLineEdit>

#include "app/widgets/side_panel.h"
#include "imaging/trace.h"

namespace bevelsmith::app {

class PhotoView;

class PhotoPanel : public SidePanel {
    Q_OBJECT
  public:
    /// What becomes of the outline: readings of the boat, or a panel in stock.
    enum class As { readings, panel };
    PhotoPanel(Document& document, As as);
    static constexpr int widest = 860, narrowest = 680;

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    using Traced = Result<std::vector<imaging::TracedPoint>>;
    void connect_parts(QPushButton& browse, QPushButton& sample, QPushButton& aslant);
    void open(const QString& path);
    void refresh();
    void refresh_fields();
    void remap();
    void find_edge();
    void show_edge(const Traced& traced);
    void place_point(int index, const Vec2& pixel);
    void take();
    void take_panel();
    void say(const QString& fault);

    PhotoView* view_;
    QLineEdit* path_;
    Form* form_;
    QLabel *next_, *found_;
    FaultLine* fault_;
    QPushButton *straight_, *forget_, *find_, *remove_, *keep_, *act_;
    std::shared_ptr<const imaging::GreyImage> grey_;
    imaging::MarkDistances distances_;
    std::optional<imaging::Rectifier> map_;
    imaging::Lens lens_;
    As as_;
    int material_ = 0;  ///< a panel's
    std::string name_ = "Template from a photo";
    QFutureWatcher<Traced> finding_;
};

}  // namespace bevelsmith::app
