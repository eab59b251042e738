// Papers written from the window: nothing is overwritten unasked, names differ by kind and are safe, choices are
// remembered, writing goes on beside the window and can be stopped.
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileInfo>
#include <QLineEdit>
#include <set>

#include "app/cut/paper_kinds.h"
#include "job/job_file.h"
#include "job/starting_piece.h"
#include "window/cut_window.h"

using namespace cutting;

namespace {

void open_papers(Window& w) {
    w.main.show_panel(panel::Papers{});
    REQUIRE(w.named<QComboBox>("written as"));
}

void choose_piece(Window& w, const char* start) {
    auto* what = w.named<QComboBox>("piece or part");
    REQUIRE(what);
    REQUIRE(w.choose("piece or part", what->findText(start, Qt::MatchStartsWith)));
}

QString proposed(Window& w) {
    auto* path = w.named<QLineEdit>("file");
    REQUIRE(path);
    return path->text();
}

}  // namespace

TEST_CASE("no two kinds of paper of one thing propose the same file", "[papers]") {
    Window w;
    open_cut(w);
    open_papers(w);
    for (const char* of : {"The whole job", "B2  ", "Sheet 1 of"}) {
        choose_piece(w, of);
        std::set<QString> names;
        auto* format = w.named<QComboBox>("written as");
        for (int k = 0; k < format->count(); ++k) {
            REQUIRE(w.choose("written as", k));
            CHECK(names.insert(proposed(w)).second);
        }
        CHECK(names.size() >= 2);
    }
}

TEST_CASE("a file that is there is replaced only where that is asked for", "[papers]") {
    Window w;
    open_cut(w);
    const jobs::Folder folder;
    const QString file = QString::fromStdString(folder.file("mine.csv"));
    jobs::write(folder.file("mine.csv"), "somebody's own");
    open_papers(w);
    choose_piece(w, "The whole job");
    REQUIRE(w.choose("written as", 3));
    auto* path = w.named<QLineEdit>("file");
    path->setFocus();
    path->selectAll();
    QTest::keyClicks(path, file);
    REQUIRE(w.click("Write it"));
    CHECK(says(w, "there is such a file already"));
    CHECK(jobs::read(folder.file("mine.csv")) == "somebody's own");
    CHECK(w.main.side_panel());
    QCheckBox* replace = nullptr;
    for (auto* box : w.main.findChildren<QCheckBox*>())
        if (box->isVisible() && box->text() == "replace the file that is there") replace = box;
    REQUIRE(replace);
    replace->click();
    REQUIRE(w.click("Write it"));
    REQUIRE(QTest::qWaitFor([&] { return !w.main.side_panel(); }, driver::patience_ms));
    CHECK(jobs::read(folder.file("mine.csv")).find("part") == 0);
}

TEST_CASE("paper, distance of rows and folder are remembered for the next time, and the next window", "[papers]") {
    const jobs::Folder folder;
    {
        Window w;
        open_cut(w);
        open_papers(w);
        choose_piece(w, "B2  ");
        REQUIRE(w.choose("written as", 0));
        REQUIRE(w.choose("paper", 1));
        REQUIRE(w.fill("rows every", "50"));
        REQUIRE(w.fill("file", QString::fromStdString(folder.file("b2.pdf"))));
        REQUIRE(QTest::qWaitFor([&] { return !w.main.side_panel(); }, driver::patience_ms));
    }
    Window w;
    open_cut(w);
    open_papers(w);
    choose_piece(w, "B2  ");
    CHECK(w.named<QComboBox>("paper")->currentText() == "A3");
    CHECK(w.named<QLineEdit>("rows every")->text().startsWith("50"));
    CHECK(QFileInfo(proposed(w)).absolutePath() == QString::fromStdString(folder.path()));
}

TEST_CASE("whatever a piece is called, its file's name is plain", "[papers]") {
    job::Job job = jobs::ternlight();
    job.name = "=cmd|' /C calc'!A0\n..";
    job.pieces[0].name = "../../etc/pass\twd: <b>\"x\" *?|";
    const Computed computed{job, job::Pipeline().compute_pieces(job), {}};
    for (const auto& kind : paper_kinds()) {
        const PaperOf of{kind.of, kind.of == PaperOf::What::piece ? job.pieces[0].id : job.materials[0].id, 0};
        const QString name = proposed_name(computed, of, kind);
        CHECK(QFileInfo(name).fileName() == name);
        CHECK_FALSE(name.startsWith('.'));
        for (const char c : std::string("/\\:*?\"<>|\t\n='")) CHECK_FALSE(name.contains(QChar(c)));
    }
}

TEST_CASE("writing solids goes on beside the window and can be stopped; then nothing is there", "[papers]") {
    Window w;
    w.main.begin(jobs::demo("ternlight"));
    w.main.show_step(StepId::cut);
    REQUIRE(w.settle(3 * driver::patience_ms));
    const jobs::Folder folder;
    open_papers(w);
    choose_piece(w, "The whole job");
    auto* format = w.named<QComboBox>("written as");
    REQUIRE(w.choose("written as", format->findText("STEP", Qt::MatchStartsWith)));
    auto* path = w.named<QLineEdit>("file");
    path->setFocus();
    path->selectAll();
    QTest::keyClicks(path, QString::fromStdString(folder.file("all.step")));
    REQUIRE(w.click("Write it"));
    // The window answers meanwhile.
    REQUIRE(w.button("Stop writing"));
    REQUIRE(w.click("Stop writing"));
    REQUIRE(QTest::qWaitFor([&] { return says(w, "Stopped: nothing was written"); }, driver::patience_ms));
    CHECK(QDir(QString::fromStdString(folder.path())).entryList(QDir::Files | QDir::Hidden).isEmpty());
}

TEST_CASE("a new job starts with the unit that was chosen last", "[papers]") {
    {
        Window w;
        w.main.begin_new();
        REQUIRE(w.choose("unit of lengths", static_cast<int>(units::LengthUnit::inch_sixteenths)));
    }
    Window w;
    w.main.begin_new();
    CHECK(w.document.job().unit == units::LengthUnit::inch_sixteenths);
    REQUIRE(w.choose("unit of lengths", 0));
}

TEST_CASE("a second piece of a kind has a number, and a job that is saved has its file's name", "[papers]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    const auto& computed = *w.document.computed();
    job::Job job = w.document.job();
    const auto first = job::starting_piece(job, computed.results, job::StartingKind::half_bulkhead);
    job.pieces.push_back(first);
    job.pieces.push_back(job::starting_piece(job, computed.results, job::StartingKind::half_bulkhead));
    CHECK(job.pieces.back().name == first.name + " 2");
    const jobs::Folder folder;
    w.document.edit("No name", [](job::Job& j) { j.name.clear(); });
    REQUIRE(w.document.save(QString::fromStdString(folder.file("ketch no 4.job.json"))).ok());
    CHECK(w.document.job().name == "ketch no 4");
    CHECK(job::load_job(folder.file("ketch no 4.job.json"))->name == "ketch no 4");
    CHECK_FALSE(w.document.modified());
}

TEST_CASE("what was written is said over the page's foot, moves nothing, and goes by itself", "[papers]") {
    Window w;
    open_cut(w);
    auto* stage = w.step_drawing(StepId::cut);
    const QRect before(stage->mapTo(&w.main, QPoint(0, 0)), stage->size());
    w.main.notice()->say("Written: somewhere");
    QApplication::processEvents();
    CHECK(QRect(stage->mapTo(&w.main, QPoint(0, 0)), stage->size()) == before);
    CHECK(w.main.notice()->words() == "Written: somewhere");
    CHECK(w.button("Close"));
    const QRect strip(w.main.notice()->mapTo(&w.main, QPoint(0, 0)), w.main.notice()->size());
    CHECK(strip.bottom() < w.main.height());
    CHECK(strip.top() > w.main.height() / 2);
    QCursor::setPos(w.main.mapToGlobal(QPoint(5, 5)));
    CHECK(QTest::qWaitFor([&] { return w.main.notice()->words().isEmpty(); }, w.main.notice()->reading_ms() + 5000));
}
