// The window is killed at seeded random moments while it is driven, and started again: every edit that was older than
// two seconds is there. BEVELSMITH_KILL_ROUNDS says how often; scripts/kill runs all forty.
#include <catch2/catch.hpp>

#include <signal.h>

#include <QDateTime>
#include <QDir>
#include <QProcess>
#include <QTemporaryDir>
#include <algorithm>
#include <map>
#include <random>

#include "app/document/file_digest.h"
#include "app/keeping/kept_work.h"
#include "job/job_file.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

constexpr int rounds_of_a_sample = 6;
/// Promised is one second; two leave room for a machine that does other things as well.
constexpr qint64 promised_ms = 2000;

const char* const modes[] = {"typing", "pausing", "dragging", "unanswered", "two windows", "typing a file"};

int rounds() {
    const int asked = qEnvironmentVariableIntValue("BEVELSMITH_KILL_ROUNDS");
    return asked > 0 ? asked : rounds_of_a_sample;
}

class Driven {
  public:
    Driven(const QTemporaryDir& home, const QString& mode, unsigned seed, const QString& name,
           const QString& job = {})
        : log_(home.filePath(name + ".log")) {
        QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
        environment.insert("XDG_STATE_HOME", home.path());
        environment.insert("BEVELSMITH_DRIVEN", "1");
        process_.setProcessEnvironment(environment);
        process_.setProcessChannelMode(QProcess::ForwardedErrorChannel);
        QStringList arguments{mode, QString::number(seed), log_};
        if (!job.isEmpty()) arguments << job;
        process_.start(BEVELSMITH_DRIVEN_PROGRAM, arguments);
        REQUIRE(process_.waitForStarted());
        QByteArray said;
        while (!said.contains("ready") && process_.waitForReadyRead(20000)) said += process_.readAllStandardOutput();
        REQUIRE(said.contains("ready"));
    }
    void kill() {
        killed_at_ = QDateTime::currentMSecsSinceEpoch();
        ::kill(static_cast<pid_t>(process_.processId()), SIGKILL);
        REQUIRE(process_.waitForFinished());
        CHECK(process_.exitStatus() == QProcess::CrashExit);
    }
    /// How long the program goes on after it was asked to end (ms); -1 where it does not end in ten seconds.
    qint64 ends_after_ms() {
        QElapsedTimer clock;
        clock.start();
        process_.terminate();
        return process_.waitForFinished(10'000) && process_.exitStatus() == QProcess::NormalExit ? clock.elapsed()
                                                                                                 : -1;
    }
    ~Driven() { process_.kill(), process_.waitForFinished(); }

    struct Edits {
        std::map<QString, qint64> when;  ///< by the digest of the job's text: the last time it was so
        qint64 last = 0;
        qint64 covered = 0;  ///< the newest edit that the promise covers
    };
    Edits edits() const {
        Edits out;
        QFile file(log_);
        REQUIRE(file.open(QIODevice::ReadOnly));
        while (!file.atEnd()) {
            const auto words = file.readLine().simplified().split(' ');
            if (words.size() != 2) continue;
            const qint64 when = words[0].toLongLong();
            out.when[words[1]] = out.last = when;
            if (when < killed_at_ - promised_ms) out.covered = when;
        }
        return out;
    }
    qint64 killed_at() const { return killed_at_; }

  private:
    QString log_;
    QProcess process_;
    qint64 killed_at_ = 0;
};

/// Starts anew in the same home and takes up all that is offered; gives back the digests of what was found.
std::vector<QString> found_after(const QTemporaryDir& home) {
    const QByteArray before = qgetenv("XDG_STATE_HOME");
    qputenv("XDG_STATE_HOME", home.path().toUtf8());
    std::vector<QString> out;
    const auto works = kept_work(kept_folder());
    for (const auto& work : works) {
        Window w;
        w.main.offer_kept_work();
        REQUIRE(w.button("Take it up"));
        REQUIRE(w.main.open(work.file));
        out.push_back(digest_of(job::job_to_text(w.document.job())));
        // Undo goes back through it to what was saved.
        CHECK(w.document.modified());
        while (w.document.undo_stack().canUndo()) w.document.undo_stack().undo();
        CHECK_FALSE(w.document.modified());
        while (w.document.undo_stack().canRedo()) w.document.undo_stack().redo();
        CHECK(digest_of(job::job_to_text(w.document.job())) == out.back());
    }
    qputenv("XDG_STATE_HOME", before);
    return out;
}

/// What the rounds came to.
struct Tally {
    int kills = 0;
    std::size_t edits = 0;
    qint64 most_lost_ms = 0;  ///< from the newest state that was found to the last edit before a kill
};

/// Every edit older than promised is in one of the states that were found.
void check_kept(const Driven& driven, const std::vector<QString>& found, Tally& tally) {
    const auto edits = driven.edits();
    ++tally.kills;
    tally.edits += edits.when.size() - 1;
    CHECK(edits.when.size() > 1);  // it was driven indeed
    INFO("edits: " << edits.when.size() << ", states found: " << found.size());
    if (edits.covered == 0) return;  // killed before anything was two seconds old
    qint64 best = -1;
    for (const QString& digest : found)
        if (const auto it = edits.when.find(digest); it != edits.when.end()) best = std::max(best, it->second);
    INFO("the newest state found is " << driven.killed_at() - best << " ms older than the kill");
    CHECK(best >= edits.covered);
    if (best > 0) tally.most_lost_ms = std::max(tally.most_lost_ms, edits.last - best);
}

}  // namespace

TEST_CASE("killed at any moment in any mode, every edit older than two seconds is found again", "[kill]") {
    driver::application();
    std::mt19937 random(20261125);
    Tally tally;
    for (int round = 0; round < rounds(); ++round) {
        const QString mode = modes[static_cast<std::size_t>(round) % std::size(modes)];
        const unsigned seed = static_cast<unsigned>(random());
        const int life_ms = 2600 + static_cast<int>(random() % 3500);
        INFO("round " << round << ": " << mode.toStdString() << ", seed " << seed << ", killed after " << life_ms);
        QTemporaryDir home;
        const QString job = home.filePath("t.job.json");
        REQUIRE(job::save_job(jobs::ternlight(), job.toStdString()).ok());
        if (mode == "two windows") {
            Driven first(home, "typing", seed, "first", job), second(home, "reader", seed + 1, "second", job);
            QTest::qWait(life_ms);
            first.kill();
            second.kill();
            const auto found = found_after(home);
            check_kept(first, found, tally);
            check_kept(second, found, tally);
            continue;
        }
        if (mode == "unanswered") {
            // A first life leaves work; the second leaves its offer standing and types on.
            Driven earlier(home, "typing", seed, "earlier", job);
            QTest::qWait(2600);
            earlier.kill();
            Driven later(home, "unanswered", seed + 1, "later", job);
            QTest::qWait(life_ms);
            later.kill();
            const auto found = found_after(home);
            check_kept(earlier, found, tally);
            check_kept(later, found, tally);
            continue;
        }
        Driven driven(home, mode.section(' ', 0, 0), seed, "only", mode == "typing a file" ? job : QString());
        QTest::qWait(life_ms);
        driven.kill();
        check_kept(driven, found_after(home), tally);
        // The file that was open is whole and as it was.
        CHECK(*job::load_job(job.toStdString()) == jobs::ternlight());
    }
    WARN(rounds() << " rounds: " << tally.kills << " kills, " << tally.edits << " edits; at most the last "
                  << tally.most_lost_ms << " ms of edits were not on disk yet");
}

TEST_CASE("asked to end it ends within two seconds, also where its window is busy", "[kill]") {
    driver::application();
    for (const char* mode : {"idle", "busy"}) {
        QTemporaryDir home;
        Driven one(home, mode, 7, mode);
        QTest::qWait(300);
        const qint64 after = one.ends_after_ms();
        INFO(mode);
        CHECK(after >= 0);
        CHECK(after < 2000);
    }
}
