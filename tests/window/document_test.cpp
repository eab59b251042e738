// The document and the window's frame: exact undo, files, recovery, keys, waiting.
#include <catch2/catch.hpp>

#include <QMenu>
#include <QRegularExpression>
#include <QShortcut>
#include <set>

#include "app/widgets/quantity_edit.h"
#include "job/job_file.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

QString saved_demo(const jobs::Folder& folder, const std::string& name = "t.job.json") {
    const std::string path = folder.file(name);
    REQUIRE(job::save_job(jobs::ternlight(), path).ok());
    return QString::fromStdString(path);
}

}  // namespace

TEST_CASE("undo and redo give back equal jobs after any edits", "[document]") {
    driver::application();
    Document d;
    d.replace(jobs::ternlight(), {});
    std::vector<job::Job> history{d.job()};
    for (int k = 0; k < 30; ++k) {
        d.edit("edit", [&](job::Job& job) {
            if (k % 3 == 0) job.pieces[0].edges[0].gap_mm += 0.1;
            else if (k % 3 == 1) job.readings[0].readings[static_cast<std::size_t>(k)].values[0] += 1;
            else job.name += "x";
        });
        history.push_back(d.job());
    }
    for (std::size_t k = history.size() - 1; k-- > 0;) {
        d.undo_stack().undo();
        REQUIRE(d.job() == history[k]);
    }
    for (std::size_t k = 1; k < history.size(); ++k) {
        d.undo_stack().redo();
        REQUIRE(d.job() == history[k]);
    }
}

TEST_CASE("a change of nothing leaves no step; steps with one key become one", "[document]") {
    driver::application();
    Document d;
    d.edit("nothing", [](job::Job&) {});
    CHECK(d.undo_stack().count() == 0);
    const auto before = d.job();
    for (int k = 1; k <= 5; ++k)
        d.edit(
            "drag", [&](job::Job& job) { job.boat.length_mm = k; }, "drag 1");
    CHECK(d.undo_stack().count() == 1);
    d.edit(
        "drag", [&](job::Job& job) { job.boat.length_mm = 9; }, "drag 2");
    CHECK(d.undo_stack().count() == 2);
    d.undo_stack().undo();
    CHECK(d.job().boat.length_mm == 5);
    d.undo_stack().undo();
    CHECK(d.job() == before);
}

TEST_CASE("many edits while results are on their way end with the results of the last", "[document]") {
    driver::application();
    Document d;
    d.replace(jobs::tube_job(), {});
    for (int k = 0; k < 25; ++k) d.edit("move", [&](job::Job& job) { job.pieces[0].edges[1].at_mm = -200 - 10 * k; });
    REQUIRE(QTest::qWaitFor([&] { return !d.computing(); }, 20000));
    QTest::qWait(1);
    CHECK(d.computed()->job == d.job());
    const auto direct = job::Pipeline().compute(d.job());
    CHECK(geometry::area_mm2(d.computed()->results.pieces[0].shape()->face_a) ==
          geometry::area_mm2(direct.pieces[0].shape()->face_a));
}

TEST_CASE("pieces are shown while sheets are still being laid out, with the earlier sheets beside them",
          "[document]") {
    driver::application();
    Document d;
    job::Job job = jobs::ternlight();
    for (int k = 0; k < 14; ++k) {  // enough parts to keep the sheets busy
        job.pieces.push_back(job.pieces[1]);
        job.pieces.back().id = "X" + std::to_string(k);
        job.pieces.back().plane.d_mm = 1900 + 90 * k;
    }
    d.replace(job, {});
    std::vector<bool> pending;
    QObject::connect(&d, &Document::computed_changed, &d,
                     [&] { pending.push_back(d.computed()->results.sheets_pending); });
    REQUIRE(QTest::qWaitFor([&] { return !d.computing(); }, 60000));
    QTest::qWait(1);
    REQUIRE(pending.size() >= 2);
    CHECK(pending.front());
    CHECK_FALSE(pending.back());
    const auto sheets = d.computed()->results.sheets.size();
    CHECK(sheets == 2);
    pending.clear();
    d.edit("move", [](job::Job& j) { j.pieces[5].plane.d_mm += 3; });
    REQUIRE(QTest::qWaitFor([&] { return !pending.empty(); }, 60000));
    CHECK(d.computed()->results.pieces[5].shape());
    CHECK(d.computed()->results.sheets.size() == sheets);
}

TEST_CASE("an edit does not make the window wait", "[document]") {
    driver::application();
    Document d;
    d.replace(jobs::ternlight(), {});
    // The edit returns before its results are there: they come through the event loop.
    const auto before = d.computed();
    d.edit("move", [&](job::Job& job) { job.readings[0].readings[0].values[0] += 1; });
    CHECK(d.computed() == before);
    CHECK(d.computing());
    REQUIRE(QTest::qWaitFor([&] { return !d.computing(); }, driver::patience_ms));
    CHECK(d.computed() != before);
}

TEST_CASE("a damaged job is refused with its line, and the open one stays", "[document]") {
    const jobs::Folder folder;
    Window w;
    REQUIRE(w.main.open(saved_demo(folder)));
    const auto before = w.document.job();
    std::string text = jobs::ternlight_text();
    text.replace(text.find("\"direct\""), 8, "\"magic\"");
    jobs::write(folder.file("bad.json"), text);
    CHECK_FALSE(w.main.open(QString::fromStdString(folder.file("bad.json"))));
    CHECK(w.document.job() == before);
    CHECK(w.main.notice()->words().contains("bad.json, line "));
    CHECK_FALSE(w.main.open(QString::fromStdString(folder.file("none.json"))));
    CHECK(w.document.job() == before);
}

TEST_CASE("a job that cannot be written says so and keeps the work", "[document]") {
    const jobs::Folder folder;
    driver::application();
    Document d;
    d.replace(jobs::ternlight(), {});
    const auto saved = d.save(QString::fromStdString(folder.file("no/such/folder/x.json")));
    REQUIRE_FALSE(saved.ok());
    CHECK(d.path().isEmpty());
    CHECK(d.job() == jobs::ternlight());
}

TEST_CASE("every key that does something in the whole window is in the list", "[document]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    QStringList keys;
    for (const auto* action : w.main.findChildren<QAction*>())
        for (const auto& sequence : action->shortcuts()) keys << sequence.toString();
    for (const auto* shortcut : w.main.findChildren<QShortcut*>())
        if (shortcut->context() == Qt::WindowShortcut || shortcut->context() == Qt::ApplicationShortcut)
            keys << shortcut->key().toString();
    keys.removeAll({});
    CHECK(keys.size() > 15);
    w.key(Qt::Key_F1);
    REQUIRE(w.main.side_panel());
    const QString listed = w.panel_words();
    for (QString key : keys) {
        INFO(key.toStdString());
        static const QRegularExpression step("^Ctrl\\+[1-6]$");
        if (step.match(key).hasMatch()) key = "Ctrl 1 to 6";
        CHECK(listed.contains(key.replace("+", " ")));
    }
}

TEST_CASE("the steps are a key away", "[document]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    for (int k = 0; k < 6; ++k) {
        w.key(static_cast<Qt::Key>(Qt::Key_1 + k), Qt::ControlModifier);
        CHECK(w.main.step() == all_steps[static_cast<std::size_t>(k)]);
    }
    w.key(Qt::Key_F1);
    REQUIRE(w.main.side_panel());
    w.key(Qt::Key_Escape);
    CHECK_FALSE(w.main.side_panel());
    w.key(Qt::Key_P, Qt::ControlModifier);
    CHECK(w.main.side_panel());
}

TEST_CASE("steps are chosen with the mouse as well, and columns fold away", "[document]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    auto* fix = w.named<QPushButton>("Fix");
    REQUIRE(fix);
    QTest::mouseClick(fix, Qt::LeftButton);
    CHECK(w.main.step() == StepId::fix);
    auto* pieces = w.named("pieces");
    REQUIRE(pieces);
    const int before = w.main.step_of(StepId::fix)->stage()->width();
    w.key(Qt::Key_B, Qt::ControlModifier);
    QTest::qWait(10);
    CHECK_FALSE(pieces->isVisible());
    CHECK(w.main.step_of(StepId::fix)->stage()->width() > before + 200);
    w.key(Qt::Key_B, Qt::ControlModifier);
    CHECK(pieces->isVisible());
}

TEST_CASE("with Tab alone a person comes through fields and drawing of a step", "[document]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    std::set<QWidget*> met;
    w.step_drawing(StepId::pieces)->setFocus();
    for (int k = 0; k < 120; ++k) {
        w.key(Qt::Key_Tab);
        met.insert(QApplication::focusWidget());
    }
    CHECK(met.count(w.named<QLineEdit>("face A at, fwd")));
    CHECK(met.count(w.named("edge unrolled")));
    CHECK(met.count(w.named("pieces")));
    CHECK(met.count(w.button("Papers to cut from")));
    CHECK(met.size() >= 25);
}

TEST_CASE("undo is named in the menu by what it undoes", "[document]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.edit("Move a joint", [](job::Job& job) { job.pieces[0].joints[0].at_mm = 5; });
    QStringList texts;
    for (auto* action : w.main.actions()) texts << action->text();
    CHECK(texts.contains("Undo: Move a joint"));
}

TEST_CASE("a length field takes any unit and arithmetic, keeps what is wrong, and gives back with Escape",
          "[document]") {
    driver::application();
    auto unit = units::LengthUnit::millimetre;
    std::unique_ptr<QuantityEdit> edit(length_edit([&] { return unit; }));
    edit->show();
    edit->activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(edit.get(), 3000));
    edit->setFocus();
    edit->set_range(0, 1000);
    double taken = -1;
    QString fault;
    QObject::connect(edit.get(), &QuantityEdit::taken, [&](double v) { taken = v; });
    QObject::connect(edit.get(), &QuantityEdit::fault_changed, [&](const QString& f) { fault = f; });
    const auto enter = [&](const char* text) {
        edit->selectAll();
        QTest::keyClicks(edit.get(), text);
        QTest::keyClick(edit.get(), Qt::Key_Return);
    };
    enter("2*18+3");
    CHECK(taken == 39);
    CHECK(edit->text() == "39.0 mm");
    for (int k = 0; k < units::length_unit_count; ++k) {
        unit = static_cast<units::LengthUnit>(k);
        enter("3 cm");
        CHECK(taken == 30);
        enter("1 in");
        CHECK(taken == 25.4);
    }
    unit = units::LengthUnit::millimetre;
    enter("1 in");
    enter("2 m");
    CHECK(taken == 25.4);
    CHECK(fault == "at most 1000.0 mm");
    CHECK(edit->text() == "2 m");
    QTest::keyClick(edit.get(), Qt::Key_Escape);
    CHECK(edit->text() == "25.4 mm");
    CHECK(fault.isEmpty());
    // A recomputation does not overwrite what a person is typing.
    edit->selectAll();
    QTest::keyClicks(edit.get(), "12");
    edit->set_value(500);
    CHECK(edit->text() == "12");
    edit->selectAll();
    QTest::keyClick(edit.get(), Qt::Key_Backspace);
    QTest::keyClick(edit.get(), Qt::Key_Return);
    CHECK_FALSE(fault.isEmpty());
}

TEST_CASE("a new job has no name until a person gives one, or its file does", "[document]") {
    const jobs::Folder folder;
    Window w;
    w.main.begin_new();
    CHECK(w.main.windowTitle().startsWith("New job"));
    CHECK(w.document.job().name.empty());
    REQUIRE(w.document.save(QString::fromStdString(folder.file("Kaltenbrook.job.json"))));
    CHECK(w.document.job().name == "Kaltenbrook");
    CHECK(w.main.windowTitle().startsWith("Kaltenbrook"));
    // What somebody has named stays so.
    REQUIRE(w.document.save(QString::fromStdString(folder.file("copy of it.job.json"))));
    CHECK(w.document.job().name == "Kaltenbrook");
}

TEST_CASE("with letters of twice the size every word of the band and of the first page has its room", "[document]") {
    // What a screen of 1280 x 800 is to them.
    Window w;
    w.main.resize(640, 400);
    w.settle();
    const auto whole = [&](const QPushButton* b) {
        INFO(b->text().toStdString() << " " << b->width() << " of " << b->minimumSizeHint().width());
        CHECK(b->width() >= b->minimumSizeHint().width());
        CHECK(b->height() >= b->fontMetrics().height());
    };
    for (const auto* b : w.main.findChildren<QPushButton*>())
        if (b->isVisible()) whole(b);
    w.main.begin(jobs::demo("ternlight"));
    if (w.main.side_panel()) QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    REQUIRE(w.settle());
    int steps = 0;
    QRect before;
    for (auto* b : w.main.findChildren<QPushButton*>("step")) {
        ++steps;
        const QRect now(b->mapTo(&w.main, QPoint()), b->size());
        CHECK(!now.intersects(before));
        CHECK(w.main.rect().contains(now));
        before = now;
        for (const auto* label : b->findChildren<QLabel*>()) {
            INFO(label->text().toStdString());
            CHECK(label->fontMetrics().horizontalAdvance(label->text()) <= b->width());
        }
    }
    CHECK(steps == 6);
}

TEST_CASE("the title bears its star exactly while there is something to save", "[document]") {
    Window w;
    w.main.begin(jobs::ternlight());
    CHECK_FALSE(w.main.windowTitle().contains("*"));
    w.document.edit("Another name", [](job::Job& job) { job.name = "Another"; });
    CHECK(w.main.windowTitle().startsWith("Another *"));
    w.document.undo_stack().undo();
    CHECK_FALSE(w.main.windowTitle().contains("*"));
}
