// Nothing is lost: the journal of unsaved work, what is offered of it, one file in two windows, changes from outside,
// earlier versions.
#include <catch2/catch.hpp>

#include <QFileDialog>
#include <QMessageBox>
#include <QTimer>

#include "app/document/file_digest.h"
#include "app/keeping/journal.h"
#include "app/keeping/versions.h"
#include "job/differences.h"
#include "job/file_io.h"
#include "window/keeping.h"

using namespace keeping;

namespace {

/// As a crash leaves it: the files of a journal whose window is gone, in the folder where they are looked for.
void leave_kept(const QString& job_path, const char* name, const char* earlier = nullptr) {
    QTemporaryDir away;
    QString file;
    {
        Document document;
        Journal journal(document);
        if (job_path.isEmpty()) document.replace(jobs::ternlight(), {});
        else document.replace(*job::load_job(job_path.toStdString()), job_path, file_digest(job_path));
        if (earlier) {
            rename(document, earlier);
            REQUIRE(journal.flush().ok());
        }
        rename(document, name);
        REQUIRE(journal.flush().ok());
        file = journal.file();
        REQUIRE(QFile::exists(file));
    }
}

/// Answers the next file dialog with a path, and that a file there may be replaced.
void answer_dialog(const QString& path) {
    QTimer::singleShot(600, [] {
        for (QWidget* widget : QApplication::topLevelWidgets())
            if (auto* question = qobject_cast<QMessageBox*>(widget); question && question->isVisible())
                return (void)QTest::mouseClick(question->button(QMessageBox::Yes), Qt::LeftButton);
    });
    QTimer::singleShot(200, [path] {
        for (QWidget* widget : QApplication::topLevelWidgets())
            if (auto* dialog = qobject_cast<QFileDialog*>(widget); dialog && dialog->isVisible()) {
                dialog->selectFile(path);
                auto* name = dialog->findChild<QLineEdit*>("fileNameEdit");
                name->setText(path);
                QTest::keyClick(name, Qt::Key_Return);
                return;  // widgets may have gone since the list was made
            }
    });
}

}  // namespace

TEST_CASE("steady typing does not starve the journal: the first edits are on disk within a second", "[keeping]") {
    const State state;
    Document document;
    Journal journal(document);
    document.replace(jobs::ternlight(), {});
    QElapsedTimer clock;
    clock.start();
    int edits = 0, first_kept = -1, times_kept = 0;
    QObject::connect(&journal, &Journal::kept, &document, [&] {
        if (times_kept++ == 0) first_kept = edits;
    });
    // An edit each 20 ms without a pause, for four seconds.
    while (clock.elapsed() < 4000) {
        document.edit("type", [&](job::Job& job) { job.readings[0].readings[0].values[0] += 0.1; });
        ++edits;
        QTest::qWait(20);
    }
    // A pause is not waited for: more than once while it went on, the first time in its first half.
    CHECK(times_kept >= 2);
    CHECK(first_kept > 0);
    CHECK(first_kept < edits / 2);
    // What is on disk now is of the typing's later half, though it never paused.
    const auto kept = read_kept(read_heading(journal.file()));
    REQUIRE(kept.ok());
    const double typed = document.job().readings[0].readings[0].values[0],
                 on_disk = kept->now.readings[0].readings[0].values[0];
    CHECK(typed - on_disk < 0.1 * edits / 2);
}

TEST_CASE("a single edit, and none after it, is kept within a second", "[keeping]") {
    const State state;
    Window w;
    w.main.begin(jobs::ternlight());
    rename(w.document, "Only once");
    REQUIRE(QTest::qWaitFor([&] { return QFile::exists(w.main.keeper().journal().file()); }, 10000));
    CHECK(read_heading(w.main.keeper().journal().file()).name == "Only once");
    w.document.undo_stack().undo();
    CHECK(QTest::qWaitFor([&] { return !QFile::exists(w.main.keeper().journal().file()); }, 10000));
}

TEST_CASE("a job of some megabytes is kept beside the window: typing waits for no writing", "[keeping]") {
    const State state;
    Document document;
    Journal journal(document);
    job::Job large = jobs::ternlight();
    auto& readings = large.readings[0].readings;
    while (readings.size() < 99'000) readings.push_back(readings[readings.size() % 20]);
    large.pieces.clear();
    document.replace(large, {});
    document.edit("type", [&](job::Job& job) { job.readings[0].readings[0].values[0] += 0.1; });
    document.stop_computing();
    // While it is written the event loop goes on turning: its longest pause is a small part of the writing.
    QElapsedTimer clock, turn;
    clock.start();
    qint64 longest = 0;
    bool kept = false;
    QObject::connect(&journal, &Journal::kept, &document, [&] { kept = true; });
    while (!kept && clock.elapsed() < 20000) {
        turn.start();
        QTest::qWait(1);
        longest = std::max(longest, turn.elapsed());
    }
    REQUIRE(kept);
    CHECK(QFileInfo(journal.file()).size() > 2'000'000);
    CHECK(longest < clock.elapsed() / 3);
}

TEST_CASE("work on a file is offered when it is opened, with what is in it, and taking it up can be undone",
          "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    leave_kept(path, "Second thought", "First thought");
    Window w;
    REQUIRE(w.main.open(path));
    CHECK(w.document.job().name == "Fit-out of Ternlight");
    CHECK(notice(w).contains("was not saved, but it was kept: 2 changes"));
    QTest::qWait(2000);  // the offer stands, and its work with it
    CHECK(kept_for(kept_folder(), path).size() == 1);
    REQUIRE(w.click("Take it up"));
    CHECK(w.document.job().name == "Second thought");
    CHECK(w.document.modified());
    w.document.undo_stack().undo();
    CHECK(w.document.job().name == "First thought");
    w.document.undo_stack().undo();
    CHECK(w.document.job() == jobs::ternlight());
    CHECK_FALSE(w.document.modified());
    w.document.undo_stack().redo();
    w.document.undo_stack().redo();
    w.key(Qt::Key_S, Qt::ControlModifier);
    CHECK(name_in(path) == "Second thought");
    CHECK(QDir(kept_folder()).entryList({"*.kept", "*.base"}, QDir::Files).isEmpty());
    CHECK_FALSE(w.document.modified());
}

TEST_CASE("kept work goes only when it is saved or thrown away", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    leave_kept(path, "Kept");
    {
        Window w;  // opened, not answered, closed
        REQUIRE(w.main.open(path));
        CHECK(w.main.close());
    }
    CHECK(kept_work(kept_folder()).size() == 1);
    {
        Window w;  // work of its own beside it, saved
        REQUIRE(w.main.open(path));
        rename(w.document, "Another way");
        w.key(Qt::Key_S, Qt::ControlModifier);
        CHECK(name_in(path) == "Another way");
    }
    REQUIRE(kept_work(kept_folder()).size() == 1);
    Window w;
    REQUIRE(w.main.open(path));
    CHECK(notice(w).contains("has been written since"));
    REQUIRE(w.click("Throw it away"));
    CHECK(kept_work(kept_folder()).empty());
    CHECK(w.document.job().name == "Another way");
}

TEST_CASE("the first page shows kept work of any job with what is in it, and its base beside it", "[keeping]") {
    const State state;
    leave_kept({}, "Nameless start");
    Window w;
    w.main.offer_kept_work();
    REQUIRE(w.button("Take it up"));
    QString words;
    for (auto* label : w.main.findChildren<QLabel*>())
        if (label->isVisible()) words += label->text() + "\n";
    CHECK(words.contains("Nameless start · Ternlight"));
    CHECK(words.contains("1 change · not in any file"));
    CHECK(w.named("silhouette"));
    REQUIRE(w.click("Look at it"));
    CHECK(w.document.job().name == "Fit-out of Ternlight");
    CHECK(w.panel_words().contains("'Nameless start', was 'Fit-out of Ternlight'"));
    REQUIRE(w.click("Take it up"));
    CHECK(w.document.job().name == "Nameless start");
    CHECK(w.document.modified());
    w.document.undo_stack().undo();
    CHECK(w.document.job().name == "Fit-out of Ternlight");
}

TEST_CASE("kept work is offered when its file is gone, and when it is damaged", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    leave_kept(path, "Still here");
    SECTION("gone") {
        QFile::remove(path);
    }
    SECTION("damaged") {
        jobs::write(path.toStdString(), "{ \"bevelsmith\": 1, ");
    }
    Window w;
    CHECK_FALSE(w.main.open(path));
    CHECK(notice(w).contains("Work on it of"));
    REQUIRE(w.click("Take it up"));
    CHECK(w.document.job().name == "Still here");
    CHECK(w.document.path() == path);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == jobs::ternlight());
}

TEST_CASE("damaged kept work is told of, harms nothing and stays until it is thrown away", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    leave_kept(path, "To be damaged");
    const auto works = kept_work(kept_folder());
    REQUIRE(works.size() == 1);
    std::string text = jobs::read(works[0].file.toStdString());
    text[text.size() / 2] ^= 1;
    jobs::write(works[0].file.toStdString(), text);
    Window w;
    REQUIRE(w.main.open(path));
    REQUIRE(w.click("Take it up"));
    CHECK(notice(w).contains("it is damaged"));
    CHECK(w.document.job() == jobs::ternlight());
    CHECK(QFile::exists(works[0].file));
    REQUIRE(w.click("Throw it away"));
    CHECK_FALSE(QFile::exists(works[0].file));
}

TEST_CASE("new, demo, practice, open and close keep what is unsaved, and say where it went", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString other = saved_demo(folder, "other.job.json");
    Window w;
    const std::function<void()> ways[] = {[&] { w.main.begin_new(); }, [&] { w.main.begin(jobs::ternlight()); },
                                          [&] { w.main.begin_practice(); }, [&] { w.main.open(other); }};
    int kept = 0;
    for (const auto& way : ways) {
        w.main.begin_new();
        rename(w.document, "In the last second");  // newer than any journal
        way();
        CHECK(w.document.job().name != "In the last second");
        CHECK(kept_work(kept_folder()).size() == static_cast<std::size_t>(++kept));
    }
    {
        Window last;
        last.main.begin_new();
        rename(last.document, "In the last second");
        last.main.begin(jobs::ternlight());
        CHECK(notice(last).contains("its work is kept"));
        REQUIRE(last.click("Go back to it"));
        CHECK(last.document.job().name == "In the last second");
        CHECK(last.main.close());
    }
    const auto all = kept_work(kept_folder());
    CHECK(all.size() == 5);
    for (const auto& work : all) CHECK(work.name == "In the last second");
}

TEST_CASE("where work cannot be kept the window stays, says so, and another folder helps", "[keeping]") {
    const State state;
    // A file stands where the folder should be: that stops root as well.
    QFile blocked(state_folder());
    REQUIRE(blocked.open(QIODevice::WriteOnly));
    blocked.close();
    Window w;
    w.main.begin_new();
    rename(w.document, "Nowhere to go");
    CHECK_FALSE(w.main.close());
    CHECK(w.main.isVisible());
    CHECK(notice(w).contains("cannot be kept"));
    CHECK(w.button("Save it as…"));
    CHECK(w.button("Close without it"));
    w.main.begin(jobs::ternlight());
    CHECK(w.document.job().name == "Nowhere to go");
    CHECK(w.button("Go on without it"));
    const jobs::Folder good;
    answer_dialog(QString::fromStdString(good.file("")));
    REQUIRE(w.click("Keep it in another folder…"));
    // It went on to what had been asked for, and the work is there.
    CHECK(w.document.job().name == "Fit-out of Ternlight");
    const auto works = kept_work(QString::fromStdString(good.file("")));
    REQUIRE(works.size() == 1);
    CHECK(works[0].name == "Nowhere to go");
}

TEST_CASE("one file in two windows: the second reads, works on a copy, and disturbs nothing", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    Window first;
    REQUIRE(first.main.open(path));
    rename(first.document, "Of the first");
    REQUIRE(QTest::qWaitFor([&] { return QFile::exists(first.main.keeper().journal().file()); }, 3000));
    {
        Window second;
        REQUIRE(second.main.open(path));
        CHECK(notice(second).contains("is open already"));
        CHECK(second.document.for_reading());
        rename(second.document, "Not allowed");
        CHECK(second.document.job().name == "Fit-out of Ternlight");
        CHECK(notice(second).contains("open for reading only"));
        CHECK_FALSE(second.main.keeper().journal().folder().isEmpty());
        REQUIRE(second.click("Work on a copy"));
        CHECK(second.document.path().isEmpty());
        CHECK(second.document.job().name == "Fit-out of Ternlight, copy");
        rename(second.document, "Own copy");
        // Nor may it save over the first's file.
        answer_dialog(path);
        second.key(Qt::Key_S, Qt::ControlModifier);
        CHECK(notice(second).contains("is open already"));
    }
    CHECK(name_in(path) == "Fit-out of Ternlight");
    // The first's kept work is still there, and its own.
    INFO(notice(first).toStdString() << " " << first.document.modified());
    CHECK(QFile::exists(first.main.keeper().journal().file()));
    for (auto* action : first.main.actions())
        if (action->text() == "Save") action->trigger();
    CHECK(name_in(path) == "Of the first");
    REQUIRE(first.main.close());
}

TEST_CASE("a file changed from outside is noticed while open and before saving, and nothing is written over unasked",
          "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    Window w;
    REQUIRE(w.main.open(path));
    rename(w.document, "Mine");
    job::Job theirs = jobs::ternlight();
    theirs.name = "Theirs";
    REQUIRE(job::save_job(theirs, path.toStdString()).ok());
    SECTION("while open") {
        REQUIRE(QTest::qWaitFor([&] { return notice(w).contains("changed by another program"); }, 5000));
    }
    SECTION("before saving") {
        w.key(Qt::Key_S, Qt::ControlModifier);
        CHECK(notice(w).contains("changed by another program"));
    }
    CHECK(name_in(path) == "Theirs");
    SECTION("and reloaded: the unsaved work stays as kept work") {
        w.key(Qt::Key_S, Qt::ControlModifier);
        REQUIRE(w.click("Reload"));
        CHECK(w.document.job().name == "Theirs");
        REQUIRE(kept_for(kept_folder(), path).size() == 1);
    }
    SECTION("and looked at, and saved over: what was there is a version") {
        w.key(Qt::Key_S, Qt::ControlModifier);
        REQUIRE(w.click("Look at what differs"));
        CHECK(w.panel_words().contains("'Mine', was 'Theirs'"));
        REQUIRE(w.click("Save over it; it is kept as a version"));
        CHECK(name_in(path) == "Mine");
        REQUIRE_FALSE(versions_of(path).empty());
        CHECK(name_in(versions_of(path).front().file) == "Theirs");
    }
}

TEST_CASE("a file deleted outside is noticed, and saving puts it there again", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    Window w;
    REQUIRE(w.main.open(path));
    QFile::remove(path);
    REQUIRE(QTest::qWaitFor([&] { return notice(w).contains("is gone from its folder"); }, 5000));
    REQUIRE(w.click("Save it there again"));
    CHECK(name_in(path) == "Fit-out of Ternlight");
}

TEST_CASE("a link is followed when saving, and mode and owner of the file stay", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder), link = QString::fromStdString(folder.file("link.job.json"));
    REQUIRE(::symlink("t.job.json", link.toUtf8().constData()) == 0);
    REQUIRE(::chmod(path.toUtf8().constData(), 0640) == 0);
    const bool root = ::geteuid() == 0;
    if (root) REQUIRE(::chown(path.toUtf8().constData(), 12345, 12346) == 0);
    Window w;
    REQUIRE(w.main.open(link));
    rename(w.document, "Through the link");
    w.key(Qt::Key_S, Qt::ControlModifier);
    CHECK(QFileInfo(link).isSymLink());
    CHECK(name_in(path) == "Through the link");
    struct stat now {};
    REQUIRE(::stat(path.toUtf8().constData(), &now) == 0);
    CHECK((now.st_mode & 0777) == 0640);
    if (root) {
        CHECK(now.st_uid == 12345);
        CHECK(now.st_gid == 12346);
    }
}

TEST_CASE("each saving keeps the version before, the last ten, and one can go back in the program", "[keeping]") {
    const State state;
    const jobs::Folder folder;
    const QString path = saved_demo(folder);
    Window w;
    REQUIRE(w.main.open(path));
    for (int k = 1; k <= 12; ++k) {
        rename(w.document, ("Version " + std::to_string(k)).c_str());
        w.key(Qt::Key_S, Qt::ControlModifier);
        QTest::qWait(2);  // versions are named by their time
    }
    const auto versions = versions_of(path);
    REQUIRE(versions.size() == versions_kept);
    CHECK(name_in(versions.front().file) == "Version 11");
    CHECK(name_in(versions.back().file) == "Version 2");
    for (auto* action : w.main.actions())
        if (action->text().startsWith("Earlier versions")) action->trigger();
    REQUIRE(w.main.side_panel());
    CHECK(w.panel_words().contains(versions_folder(path)));
    // The third from the top: Version 9.
    int seen = 0;
    QPushButton* third = nullptr;
    for (auto* button : w.main.side_panel()->findChildren<QPushButton*>())
        if (button->text().contains("kB") && ++seen == 3) third = button;
    REQUIRE(third);
    QTest::mouseClick(third, Qt::LeftButton);
    CHECK(w.panel_words().contains("'Version 9', was 'Version 12'"));
    REQUIRE(w.click("Go back to it"));
    CHECK(w.document.job().name == "Version 9");
    w.document.undo_stack().undo();
    CHECK(w.document.job().name == "Version 12");
}

TEST_CASE("kept work opens like a job's file, wherever it was put", "[keeping]") {
    const State state;
    leave_kept({}, "Carried away");
    const auto works = kept_work(kept_folder());
    REQUIRE(works.size() == 1);
    Window w;
    REQUIRE(w.main.open(works[0].file));
    CHECK(w.document.job().name == "Carried away");
}

TEST_CASE("differences are told in words, and there are none exactly between equal jobs", "[keeping]") {
    const job::Job before = jobs::ternlight();
    CHECK(job::differences(before, before).empty());
    job::Job after = before;
    after.readings[0].readings.pop_back();
    after.readings[0].readings[0].values[0] += 1;
    after.pieces[0].openings.clear();
    after.pieces.pop_back();
    after.cutting.spacing_mm += 1;
    const auto all = job::differences(before, after);
    REQUIRE(all.size() == 4);
    CHECK(all[0].detail == "1 reading fewer, 1 changed");
    CHECK(all[1].detail == "openings");
    CHECK(all[2].kind == job::Difference::Kind::removed);
    CHECK(all[3].what == "the rules for cutting");
}
