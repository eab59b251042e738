// How long the boat's view takes to be drawn with the demo, by software: the section moved, all three cuts and the
// close-up anew; and how much memory the program has taken by then.
#include <QApplication>
#include <QStandardPaths>
#include <QTest>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <string>

#include "app/pieces/boat_view.h"
#include "app/setup.h"
#include "app/shell/main_window.h"
#include "job/job_file.h"

using namespace bevelsmith;
using namespace bevelsmith::app;

namespace {

double largest_memory_mb() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.rfind("VmHWM:", 0) == 0) return std::stod(line.substr(6)) / 1024;
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    QStandardPaths::setTestModeEnabled(true);
    Application application(argc, argv);
    set_up(application);
    auto job = job::load_job(BEVELSMITH_SOURCE_DIR "/demo/ternlight.job.json");
    if (!job) return 2;
    Document document;
    MainWindow window(document);
    window.resize(1280, 800);
    window.show();
    window.begin(std::move(job.value()));
    window.show_step("Pieces in the boat");
    if (!QTest::qWaitFor([&] { return !document.computing(); }, 60'000)) return 2;
    auto* view = window.findChild<BoatView*>();
    if (!view) return 2;
    constexpr int frames = 60;
    const auto begin = std::chrono::steady_clock::now();
    for (int k = 0; k < frames; ++k) {
        view->move_cut(exchange::Cut::section, 1000 + 40.0 * k);
        view->grab();
    }
    const std::chrono::duration<double, std::milli> took = std::chrono::steady_clock::now() - begin;
    std::printf("a frame of the three cuts and the close-up, the section moved: %.1f ms\n", took.count() / frames);
    std::printf("memory taken with the demo laid out: %.0f MB\n", largest_memory_mb());
    // The journal of a job that was never saved is not left behind.
    document.undo_stack().setClean();
    return 0;
}
