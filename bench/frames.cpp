// How long views take to be drawn, by software: the boat's with the demo, the section moved, all three cuts and the
// close-up anew; Cut's with the demo's pieces four times over. And how much memory the program takes with the demo.
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
#include "app/widgets/step.h"
#include "job/in_full.h"
#include "job/job_file.h"
#include "job/together.h"

using namespace bevelsmith;
using namespace bevelsmith::app;

namespace {

double largest_memory_mb() {
    std::ifstream status("/proc/self/status");
    for (std::string line; std::getline(status, line);)
        if (line.rfind("VmHWM:", 0) == 0) return std::stod(line.substr(6)) / 1024;
    return 0;
}

/// Milliseconds a frame, something moved before each.
template <class Move>
double frame_ms(QWidget& view, Move move) {
    constexpr int frames = 60;
    const auto begin = std::chrono::steady_clock::now();
    for (int k = 0; k < frames; ++k) {
        move(k);
        view.grab();
    }
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count() / frames;
}

bool settled(const Document& document) {
    constexpr int patience_ms = 300'000;
    return QTest::qWaitFor([&] { return !document.computing(); }, patience_ms);
}

/// The demo's pieces and units so many times over.
job::Job many_times(job::Job job, int times) {
    job::Ids all;
    for (const auto& piece : job::in_full(job).pieces) all.push_back(piece.id);
    for (int k = 1; k < times; ++k) job::copy_together(job, all, {0, 0, 0});
    return job;
}

}  // namespace

int main(int argc, char** argv) {
    QStandardPaths::setTestModeEnabled(true);
    Application application(argc, argv);
    set_up(application);
    auto demo = job::load_job(BEVELSMITH_SOURCE_DIR "/demo/ternlight.job.json");
    if (!demo) return 2;
    Document document;
    MainWindow window(document);
    window.resize(1280, 800);
    window.show();
    window.begin(*demo);
    window.show_boat();
    auto* view = window.findChild<BoatView*>();
    if (!settled(document) || !view) return 2;
    const double boat = frame_ms(*view, [&](int k) { view->move_cut(exchange::Cut::section, 1000 + 40.0 * k); });
    std::printf("a frame of the three cuts and the close-up, the section moved: %.1f ms\n", boat);
    std::printf("memory taken with the demo laid out: %.0f MB\n", largest_memory_mb());
    std::fflush(stdout);

    window.begin(many_times(*demo, 4));
    window.show_step(StepId::cut);
    if (!settled(document)) return 2;
    std::size_t sheets = 0, parts = 0;
    for (const auto& one : document.computed()->results.sheets) {
        sheets += one.layout->sheet_stock.size();
        parts += one.layout->placements.size();
    }
    const double cut = frame_ms(*window.step_of(StepId::cut)->drawing(), [](int) {});
    std::printf("a frame of Cut, %zu parts on %zu sheets: %.1f ms\n", parts, sheets, cut);
    document.undo_stack().setClean();
    return 0;
}
