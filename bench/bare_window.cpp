// A window of the toolkit with nothing in it, to hold the program's start against.
#include <QApplication>
#include <QPaintEvent>
#include <QTimer>
#include <QWidget>
#include <cstdio>

namespace {

class Bare : public QWidget {
    void paintEvent(QPaintEvent*) override {
        QTimer::singleShot(0, this, [] {
            std::puts("painted");
            QCoreApplication::quit();
        });
    }
};

}  // namespace

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    Bare window;
    window.resize(1280, 800);
    window.show();
    return application.exec();
}
