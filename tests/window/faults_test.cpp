// What goes wrong outside of the job: full and vanished disks, exceptions, computations that take long.
#include <catch2/catch.hpp>

#include <QTimer>
#include <algorithm>
#include <new>

#include "app/keeping/journal.h"
#include "paper/pdf.h"
#include "window/keeping.h"

using namespace keeping;

TEST_CASE("on a full disk nothing is closed, nothing is torn, and room helps", "[faults]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    const FullDisk disk;
    qputenv("XDG_STATE_HOME", disk.path().toUtf8());
    Window w;
    REQUIRE(w.main.open(path));
    rename(w.document, "No room for this");
    disk.fill();
    CHECK_FALSE(w.main.close());
    CHECK(w.main.isVisible());
    CHECK(notice(w).contains("cannot be kept"));
    // A failed saving leaves the file as it was, and the work in the window.
    const QString on_full = disk.path() + "/t.job.json";
    CHECK_FALSE(w.main.keeper().save_to(on_full));
    CHECK(notice(w).contains("Not saved"));
    CHECK_FALSE(QFile::exists(on_full));
    CHECK(w.document.job().name == "No room for this");
    CHECK(w.document.modified());
    disk.make_room();
    CHECK(w.main.close());
    const auto works = kept_for(kept_folder(), path);
    CHECK(name_in(path) == "Fit-out of Ternlight");
    // This window still holds it; as a file it is there.
    CHECK(QFile::exists(w.main.keeper().journal().file()));
}

TEST_CASE("a saving that failed leaves no claim on the file that never came to be", "[faults]") {
    const State state;
    const FullDisk disk;
    const QString path = disk.path() + "/new.job.json";
    Window w;
    w.main.begin(jobs::ternlight());
    disk.fill();
    CHECK_FALSE(w.main.keeper().save_to(path));
    CHECK(notice(w).contains("Not saved"));
    disk.make_room();
    Window second;
    second.main.begin(jobs::ternlight());
    CHECK(second.main.keeper().save_to(path));
    CHECK(name_in(path) == "Fit-out of Ternlight");
}

TEST_CASE("in a folder that may not be written saving fails with words, and a lock is still found", "[faults]") {
    const State state;
    const jobs::Folder folder;
    const ReadOnly place(QString::fromStdString(folder.file("place")));
    if (!place.works()) return;  // root without mounts: nothing is read-only here
    const QString path = place.path() + "/t.job.json";
    Window w;
    REQUIRE(w.main.open(path));
    CHECK_FALSE(w.document.for_reading());
    rename(w.document, "Not here");
    w.key(Qt::Key_S, Qt::ControlModifier);
    CHECK(notice(w).contains("Not saved"));
    CHECK(w.button("Save it somewhere else…"));
    CHECK(name_in(path) == "Fit-out of Ternlight");
    CHECK(w.main.close());  // but it is kept
    Window second;
    REQUIRE(second.main.open(path));
    CHECK(second.document.for_reading());  // the first window's lock is in the state folder
}

TEST_CASE("a state folder that vanishes while one works is made again", "[faults]") {
    const State state;
    Window w;
    w.main.begin(jobs::ternlight());
    rename(w.document, "Before");
    REQUIRE(QTest::qWaitFor([&] { return QFile::exists(w.main.keeper().journal().file()); }, 2000));
    QDir(state_folder()).removeRecursively();
    rename(w.document, "After");
    REQUIRE(QTest::qWaitFor([&] { return QFile::exists(w.main.keeper().journal().file()); }, 2000));
    const auto kept = read_kept(read_heading(w.main.keeper().journal().file()));
    REQUIRE(kept.ok());
    CHECK(kept->now.name == "After");
    CHECK(kept->base == jobs::ternlight());
}

TEST_CASE("an exception in the window becomes a finding, and the job stays", "[faults]") {
    const State state;
    Window w;
    auto& application = static_cast<Application&>(driver::application());
    application.on_fault = [&](const QString& what, const QString& why) { w.document.add_fault(what, why); };
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    QTimer::singleShot(0, &w.main, [] { throw std::bad_alloc(); });
    QTest::qWait(50);
    application.on_fault = nullptr;
    const auto& findings = w.document.computed()->findings;
    const auto told = std::find_if(findings.begin(), findings.end(),
                                   [](const auto& f) { return f.check == review::CheckId::not_computed; });
    REQUIRE(told != findings.end());
    CHECK(told->evidence == "there is not enough memory for it");
    rename(w.document, "Goes on");
    REQUIRE(w.settle());
    CHECK(w.document.job().name == "Goes on");
    // It stands until another job is open.
    CHECK(std::any_of(w.document.computed()->findings.begin(), w.document.computed()->findings.end(),
                      [](const auto& f) { return f.check == review::CheckId::not_computed; }));
}

TEST_CASE("a computation that takes long can be stopped: the last results stay, and it can be begun again",
          "[faults]") {
    const State state;
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    const auto before = w.document.computed();
    w.document.edit("Many more pieces", [](job::Job& job) {
        for (int k = 0; k < 300; ++k) {
            job.pieces.push_back(job.pieces[1]);
            job.pieces.back().id = "X" + std::to_string(k);
            job.pieces.back().plane.d_mm = 1900 + 5 * k;
        }
    });
    REQUIRE(QTest::qWaitFor([&] { return w.button("Stop") != nullptr; }, 10000));
    REQUIRE(w.click("Stop"));
    REQUIRE(QTest::qWaitFor([&] { return w.document.stopped(); }, 5000));
    // The thread says so first and comes to its end right after.
    CHECK(QTest::qWaitFor([&] { return !w.document.computing(); }, 5000));
    CHECK(w.document.computed()->results.sheets.size() == before->results.sheets.size());
    CHECK(w.button("Compute"));
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK_FALSE(w.document.stopped());
    CHECK(w.document.computed()->job == w.document.job());
}

TEST_CASE("a drawing that would take thousands of pages is refused before a page is made", "[faults]") {
    exchange::Drawing drawing;
    drawing.id = drawing.title = "long";
    drawing.face_a.outer = geometry::rectangle({{0, 0}, {90'000, 60'000}});
    drawing.face_b = drawing.face_a;
    drawing.box = {{0, 0}, {90'000, 60'000}};
    const jobs::Folder folder;
    const auto written = paper::write_pdf(drawing, {}, folder.file("long.pdf"));
    REQUIRE_FALSE(written.ok());
    CHECK(written.error().message.find("and 500 are the most") != std::string::npos);
    CHECK_FALSE(QFile::exists(QString::fromStdString(folder.file("long.pdf"))));
}
