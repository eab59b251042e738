// bevelsmith [--demo] [JOB]
#include <QApplication>
#include <QCommandLineParser>
#include <QScreen>
#include <QStyleFactory>
#include <QTimer>
#include <algorithm>
#include <cstdio>
#include <string_view>

#include "app/keeping/end_signals.h"
#include "app/look/theme.h"
#include "app/setup.h"
#include "app/shell/main_window.h"

namespace {

void describe(QCommandLineParser& arguments) {
    arguments.setApplicationDescription("Templating, cutting and fixing of a boat's inside.");
    arguments.addHelpOption();
    arguments.addVersionOption();
    arguments.addOption({"demo", "open Ternlight, the demo job"});
    arguments.addOption({"night", "start with the night look"});
    arguments.addOption(
        {"until-painted", "say \"painted\" when the first picture stands, and end: for measuring the start"});
    arguments.addPositionalArgument("job", "job file to open", "[JOB]");
}

/// Help is printed where there is no screen, too.
bool asks_for_words(int argc, char** argv) {
    return std::any_of(argv + 1, argv + argc, [](std::string_view argument) {
        return argument == "--help" || argument == "-h" || argument == "--help-all" || argument == "--version" ||
               argument == "-v";
    });
}

/// Ends the program when its window has been painted.
class UntilPainted : public QObject {
  public:
    using QObject::QObject;
    bool eventFilter(QObject*, QEvent* event) override {
        if (event->type() == QEvent::Paint)
            QTimer::singleShot(0, this, [] {
                std::puts("painted");
                QCoreApplication::quit();
            });
        return false;
    }
};

}  // namespace

int main(int argc, char** argv) {
    using namespace bevelsmith::app;
    QCommandLineParser arguments;
    describe(arguments);
    if (asks_for_words(argc, argv)) {
        QCoreApplication plain(argc, argv);
        name_program();
        arguments.process(plain);
    }
    Application application(argc, argv);
    set_up(application);
    arguments.process(application);
    theme().set_night(arguments.isSet("night"));
    Document document;
    application.on_fault = [&document](const QString& what, const QString& why) { document.add_fault(what, why); };
    MainWindow window(document);
    on_end_signals(&window, [&window] {
        const bool ends = window.close();
        if (ends) QCoreApplication::quit();
        return ends;
    });
    if (arguments.isSet("demo")) window.open_demo();
    else if (!arguments.positionalArguments().isEmpty()) window.open(arguments.positionalArguments().front());
    else window.offer_kept_work();
    UntilPainted until_painted;
    if (arguments.isSet("until-painted")) window.installEventFilter(&until_painted);
    // With its frame the window needs more than a screen of its own size has.
    const QSize room = window.screen()->availableSize() - QSize(16, 48);
    if (room.width() < window.width() || room.height() < window.height()) window.showMaximized();
    else window.show();
    return application.exec();
}
