// The first page: ways into the program.
#pragma once

#include <QVBoxLayout>
#include <QWidget>
#include <functional>

namespace bevelsmith::app {

class Welcome : public QWidget {
    Q_OBJECT
  public:
    Welcome();
    /// One more way in, above the others.
    void offer(const QString& words, const std::function<void()>& act);

  signals:
    void new_asked();
    void demo_asked();
    void practice_asked();
    void open_asked();

  protected:
    void paintEvent(QPaintEvent*) override;

  private:
    QVBoxLayout* doors_;
};

}  // namespace bevelsmith::app
