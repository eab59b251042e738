// bevelsmith [--demo] [JOB]
#include <QApplication>
#include <QCommandLineParser>
#include <QStyleFactory>
#include <QSurfaceFormat>

#include "app/look/theme.h"
#include "app/setup.h"
#include "app/shell/main_window.h"

int main(int argc, char** argv) {
    using namespace bevelsmith::app;
    QApplication application(argc, argv);
    set_up(application);
    QCommandLineParser arguments;
    arguments.setApplicationDescription("Templating, cutting and fixing of a boat's inside.");
    arguments.addHelpOption();
    arguments.addVersionOption();
    arguments.addOption({"demo", "open Ternlight, the demo job"});
    arguments.addOption({"night", "start with the night look"});
    arguments.addPositionalArgument("job", "job file to open", "[JOB]");
    arguments.process(application);
    theme().set_night(arguments.isSet("night"));
    Document document;
    MainWindow window(document);
    if (arguments.isSet("demo")) window.open_demo();
    else if (!arguments.positionalArguments().isEmpty()) window.open(arguments.positionalArguments().front());
    else window.offer_unnamed_work();
    window.show();
    return application.exec();
}
