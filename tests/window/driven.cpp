// The real window driven by keys and mouse until somebody kills it: what kill_test.cpp starts and kills.
//   bevelsmith_driven MODE SEED LOG [JOB]
// Each edit is told to LOG at once, as "<milliseconds since 1970> <SHA-256 of the job's text>". Modes: typing,
// pausing, dragging, idle and busy (which are asked to end), unanswered (JOB has kept work, whose offer is left
// standing), reader (JOB is open elsewhere).
#include <fcntl.h>
#include <unistd.h>

#include <QDateTime>
#include <cstdio>
#include <random>

#include "app/document/file_digest.h"
#include "app/keeping/end_signals.h"
#include "app/widgets/drawing_view.h"
#include "job/job_file.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

/// Written with one call an edit, so that a kill leaves whole lines.
class Log {
  public:
    explicit Log(const char* path) : file_(::open(path, O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0644)) {}
    void edit(const job::Job& job) const {
        const QString digest = digest_of(job::job_to_text(job));
        const std::string line =
            std::to_string(QDateTime::currentMSecsSinceEpoch()) + " " + digest.toStdString() + "\n";
        (void)!::write(file_, line.data(), line.size());
    }

  private:
    int file_;
};

class Hand {
  public:
    Hand(Window& window, unsigned seed) : w_(window), random_(seed) {}
    int upto(int most) { return static_cast<int>(random_() % static_cast<unsigned>(most)); }

    /// A first set of readings, and the keys in its entry.
    void begin_first_piece() {
        w_.main.begin_new();
        w_.click("Make this set");
        to_entry();
    }
    void to_entry() {
        w_.main.show_step(StepId::measure);
        for (const char* name : {"next along", "next across", "next fwd"})
            if (auto* entry = w_.named<QLineEdit>(name)) return entry->setFocus();
    }
    /// One number and Enter: a reading is taken with every second or third of them.
    void type_number() {
        // Another window may have the screen's focus: the keys go to where this window's own is.
        if (!qobject_cast<QLineEdit*>(w_.main.focusWidget())) to_entry();
        QTest::keyClicks(w_.main.focusWidget(), QString::number(100 + upto(2000)));
        if (w_.main.focusWidget()) QTest::keyClick(w_.main.focusWidget(), Qt::Key_Return);
    }
    /// The panel's side is dragged for a while.
    void drag() {
        w_.main.show_step(StepId::pieces);
        auto* drawing = static_cast<DrawingView*>(w_.step_drawing(StepId::pieces));
        const auto* piece = job::find_piece(w_.document.job(), w_.document.selected_piece().toStdString());
        for (const auto& edge : piece->edges) {
            if (edge.kind != piece::EdgeKind::straight) continue;
            const QPoint from = drawing->to_widget(edge.side.normalized() * edge.at_mm / edge.side.norm()).toPoint();
            QTest::mousePress(drawing, Qt::LeftButton, {}, from);
            for (int k = 0; k < 20; ++k) {
                QTest::mouseMove(drawing, from + QPoint(upto(60) - 30, upto(60) - 30));
                QTest::qWait(15);
            }
            QTest::mouseRelease(drawing, Qt::LeftButton, {}, from);
            return;
        }
    }

  private:
    Window& w_;
    std::mt19937 random_;
};

}  // namespace

int main(int argc, char** argv) {
    if (argc < 4) return 2;
    const std::string mode = argv[1];
    Window w;
    Hand hand(w, static_cast<unsigned>(std::stoul(argv[2])));
    const Log log(argv[3]);
    if (argc > 4) w.main.open(argv[4]);
    else if (mode == "dragging") w.main.begin(jobs::ternlight());
    else hand.begin_first_piece();
    if (mode == "reader") w.click("Work on a copy");
    QObject::connect(&w.document.undo_stack(), &QUndoStack::indexChanged, &w.main,
                     [&] { log.edit(w.document.job()); });
    log.edit(w.document.job());
    on_end_signals(&w.main, [&] {
        const bool ends = w.main.close();
        if (ends) std::exit(0);
        return ends;
    });
    std::puts("ready");
    std::fflush(stdout);
    // Nobody has to wait for this for ever: it is killed long before.
    QElapsedTimer clock;
    clock.start();
    while (clock.elapsed() < 60'000) {
        if (mode == "busy") ::sleep(30);
        else if (mode == "idle") QTest::qWait(100);
        else if (mode == "dragging") hand.drag();
        else hand.type_number();
        QTest::qWait(mode == "pausing" ? hand.upto(1200) : hand.upto(25));
    }
    return 0;
}
