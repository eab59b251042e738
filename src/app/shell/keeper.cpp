#include "app/shell/keeper.h"

#include <QFileInfo>
#include <QLocale>

#include "app/document/file_digest.h"
#include "exchange/importers.h"
#include "job/file_io.h"
#include "job/job_file.h"

namespace bevelsmith::app {
namespace {

QString words_of(const Error& why) {
    return QString::fromStdString(why.message);
}

QString when_in_words(const QDateTime& when) {
    return QLocale(QLocale::English).toString(when, "d MMMM, HH:mm");
}

QString file_name(const QString& path) {
    return QFileInfo(path).fileName();
}

QString real_path(const QString& path) {
    return QString::fromStdString(job::true_path(path.toStdString()));
}

}  // namespace

Keeper::Keeper(Document& document, Window window, QObject* parent)
    : QObject(parent), document_(document), window_(std::move(window)), journal_(document) {
    connect(&claim_, &JobClaim::changed_outside, this, &Keeper::changed_outside);
    connect(&journal_, &Journal::failed, this, [this](const QString& why) {
        window_.say("Unsaved work cannot be kept: " + why + ".", elsewhere({}, {}));
    });
    connect(&document_, &Document::refused, this, [this] {
        window_.say("This job is open for reading only, so nothing was changed.",
                    {{"Work on a copy", [this] { work_on_copy(); }}});
    });
}

/// Other places for work that cannot be kept where it should be, and what to go on to from there.
std::vector<Keeper::Choice> Keeper::elsewhere(const Act& again, const QString& without) {
    const auto other_folder = [this, again, without] {
        const QString folder = window_.ask_folder();
        if (folder.isEmpty()) return;
        const auto done = journal_.keep_in(folder);
        if (!done) return cannot_keep(words_of(done.error()), again, without);
        if (again) return again();
        window_.say("Unsaved work is now kept in " + folder + ".", {});
    };
    return {{"Save it as…", window_.save_as}, {"Keep it in another folder…", other_folder}};
}

void Keeper::cannot_keep(const QString& why, const Act& again, const QString& without) {
    auto choices = elsewhere(again, without);
    if (again)
        choices.emplace_back(without, [this, again] {
            let_go_ = true;
            again();
        });
    window_.say("The work that is not saved cannot be kept: " + why + ". Nothing was closed.", choices);
}

bool Keeper::unsaved_is_safe(const Act& again, const QString& without) {
    const bool let_go = std::exchange(let_go_, false);
    if (!document_.modified()) return true;
    if (let_go) {
        journal_.throw_own_away();
        return true;
    }
    const auto kept = journal_.flush();
    if (!kept) cannot_keep(words_of(kept.error()), again, without);
    return kept.ok();
}

bool Keeper::leave(const Act& go_on) {
    if (!unsaved_is_safe([this, go_on] { leave(go_on); }, "Go on without it")) return false;
    go_on();
    return true;
}

bool Keeper::may_close(const Act& close) {
    return unsaved_is_safe(close, "Close without it");
}

void Keeper::put(job::Job job) {
    claim_.give_up();
    const bool unsaved = document_.modified();
    const QString file = journal_.file(), name = job_name(document_.job());
    document_.replace(std::move(job), {});
    window_.show_job();
    if (unsaved && QFileInfo::exists(file))
        window_.say(QString("'%1' was not saved; its work is kept.").arg(name),
                    {{"Go back to it", [this, file] { take_up(read_heading(file)); }}, {"Leave it kept", {}}});
}

bool Keeper::open(const QString& path) {
    const auto text = job::read_file(path.toStdString(), kept_bytes);
    if (!text) return refuse(path, text.error());
    if (is_kept_work(*text)) {
        take_up(read_heading(path));
        return true;
    }
    return open_job(path, *text);
}

bool Keeper::open_job(const QString& path, const std::string& text) {
    const std::string elsewhere = exchange::taken_elsewhere(exchange::FileKind::job, text);
    if (!elsewhere.empty()) return refuse(path, Error{elsewhere});
    auto loaded = job::job_from_text(text);
    if (!loaded) return refuse(path, loaded.error());
    return leave([this, job = std::move(loaded.value()), real = real_path(path), digest = digest_of(text)] {
        begin_on(job, real, digest);
        if (!document_.for_reading()) offer(kept_for(journal_.folder(), real));
    });
}

void Keeper::begin_on(const job::Job& job, const QString& path, const QString& digest) {
    const auto claimed = claim_.take(path);
    if (!claimed) claim_.give_up();
    document_.replace(job, path, digest);
    claim_.watch(path, digest);
    window_.show_job();
    if (claimed) return;
    document_.set_for_reading(true);
    window_.say(
        QString("%1 is open already: %2. It is shown for reading.").arg(file_name(path), words_of(claimed.error())),
        {{"Work on a copy", [this] { work_on_copy(); }},
         {"Try again", [this, path] { open(path); }},
         {"Only read", {}}});
}

/// What cannot be opened may still have kept work or earlier versions.
bool Keeper::refuse(const QString& path, const Error& why) {
    const QString real = real_path(path);
    const QString where = why.line > 0 ? QString(", line %1").arg(why.line) : QString();
    QString words =
        QString("%1%2: %3. The job that was open is as it was.").arg(file_name(path), where, words_of(why));
    std::vector<Choice> choices;
    if (const auto works = kept_for(journal_.folder(), real); !works.empty()) {
        words += QString(" Work on it of %1 is kept, %2 changes.")
                     .arg(when_in_words(works.front().when))
                     .arg(works.front().edits);
        choices.emplace_back("Take it up", [this, work = works.front()] { take_up(work); });
        choices.emplace_back("Look at it", [this, work = works.front()] { look_at(work); });
    }
    if (const auto versions = versions_of(real); !versions.empty()) {
        choices.emplace_back(QString("Earlier version of %1").arg(when_in_words(versions.front().when)),
                             [this, version = versions.front()] { look_at(version); });
    }
    if (!choices.empty()) choices.emplace_back("Leave it", nullptr);
    window_.say(words, choices);
    return false;
}

void Keeper::offer(const std::vector<KeptWork>& works) {
    if (works.empty()) return;
    const KeptWork& work = works.front();
    QString words = work.fault.isEmpty()
                        ? QString("Work of %1 on this job was not saved, but it was kept: %2 change%3.")
                              .arg(when_in_words(work.when))
                              .arg(work.edits)
                              .arg(work.edits == 1 ? "" : "s")
                        : "Work on this job was kept, but " + work.fault + ".";
    if (work.fault.isEmpty() && work.digest != document_.digest())
        words += " The file has been written since: look at both before you choose.";
    if (works.size() > 1) words += QString(" There are %1 more.").arg(works.size() - 1);
    std::vector<Choice> choices;
    if (work.fault.isEmpty()) {
        choices.emplace_back("Take it up", [this, work] { take_up(work); });
        choices.emplace_back("Look at it", [this, work] { look_at(work); });
    }
    choices.emplace_back("Throw it away", [this, work] { throw_kept_away(work); });
    choices.emplace_back("Later", nullptr);
    window_.say(words, choices);
}

void Keeper::throw_kept_away(const KeptWork& work) {
    throw_away(work.file);
    offer(kept_for(journal_.folder(), document_.path()));
}

/// The document shows what was last saved of kept work: its file where that can be read, else its base.
bool Keeper::show_saved_state_of(const KeptWork& work, const KeptJob& kept, const Act& again) {
    if (!work.job_path.isEmpty() && work.job_path == document_.path() && !document_.modified()) return true;
    if (!unsaved_is_safe(again, "Go on without it")) return false;
    if (work.job_path.isEmpty()) {
        claim_.give_up();
        document_.replace(kept.base, {});
        window_.show_job();
        return true;
    }
    const auto text = job::read_file(work.job_path.toStdString());
    const auto saved = text ? job::job_from_text(*text) : Result<job::Job>(text.error());
    // Where the file is gone or damaged the job keeps its path, and saving asks before it writes over what is there.
    begin_on(saved ? *saved : kept.base, work.job_path, saved ? digest_of(*text) : text ? work.digest : QString());
    return true;
}

void Keeper::take_up(const KeptWork& work) {
    const auto kept = read_kept(work);
    if (!kept)
        return window_.say(
            "The kept work cannot be taken up: " + words_of(kept.error()) + ". It lies in " + work.file + ".",
            {{"Throw it away", [work] { throw_away(work.file); }}, {"Leave it there", {}}});
    if (!show_saved_state_of(work, *kept, [this, work] { take_up(work); })) return;
    if (document_.for_reading()) {
        // Its file is open elsewhere: the work is taken up as a copy.
        const job::Job saved = document_.job();
        claim_.give_up();
        document_.replace(saved, {});
    }
    if (const auto adopted = journal_.adopt(work); !adopted)
        return window_.say("The kept work was not taken up: " + words_of(adopted.error()) + ".", {});
    document_.take_up(kept->steps);
    window_.show_job();
    window_.say(QString("The work of %1 is taken up. It is not saved yet; undo goes back through it.")
                    .arg(when_in_words(work.when)),
                {});
}

void Keeper::look_at(const KeptWork& work) {
    const auto kept = read_kept(work);
    if (!kept)
        return window_.say("The kept work cannot be looked at: " + words_of(kept.error()) + ".",
                           {{"Throw it away", [work] { throw_away(work.file); }}, {"Leave it there", {}}});
    if (!show_saved_state_of(work, *kept, [this, work] { look_at(work); })) return;
    const bool in_file = !work.job_path.isEmpty();
    Comparison c;
    c.title = "Kept work beside what is saved";
    c.left = {in_file ? "Saved" : "Where it began", in_file ? file_name(work.job_path) : QString("in no file"),
              document_.job()};
    c.right = {"Kept", kept_in_words(work), kept->now};
    c.choices = {{"Take it up", [this, work] { take_up(work); }},
                 {"Throw it away", [work] { throw_away(work.file); }},
                 {"Later", [] {}}};
    window_.compare(c);
}

void Keeper::look_at(const Version& version) {
    auto loaded = job::load_job(version.file.toStdString());
    if (!loaded) return window_.say("This version cannot be read: " + words_of(loaded.error()) + ".", {});
    Comparison c;
    c.title = "An earlier version";
    c.left = {"Now", document_.modified() ? "not saved yet" : "as it is open", document_.job()};
    c.right = {"Earlier", when_in_words(version.when), loaded.value()};
    c.choices = {{"Go back to it",
                  [this, job = loaded.value()] {
                      document_.edit("Go back to an earlier version", [&](job::Job& now) { now = job; });
                  }},
                 {"Stay", [] {}}};
    window_.compare(c);
}

void Keeper::work_on_copy() {
    job::Job copy = document_.job();
    claim_.give_up();
    document_.replace(copy, {});
    document_.edit("Work on a copy", [](job::Job& job) { job.name = job_name(job).toStdString() + ", copy"; });
    window_.say("This is a copy of its own now, in no file yet.", {});
}

bool Keeper::save_to(const QString& path, bool over_what_is_there) {
    const QString real = real_path(path);
    const bool own = real == document_.path();
    if (own && document_.for_reading()) {
        window_.say(file_name(path) + " is open in another window, so nothing was saved here.",
                    {{"Save a copy as…", window_.save_as}});
        return false;
    }
    if (own && !over_what_is_there && claim_.look() == Outside::changed) {
        changed_outside(Outside::changed);
        return false;
    }
    if (const auto claimed = claim_.take(real); !claimed) {
        window_.say(QString("Not saved: %1 is open already: %2. Choose another name.")
                        .arg(file_name(path), words_of(claimed.error())),
                    {{"Save it as…", window_.save_as}});
        return false;
    }
    const auto version = keep_version(real);
    const auto saved = document_.save(real);
    if (!saved) {
        // The claim goes back to the file that is open, if there is one.
        if (document_.path().isEmpty()) claim_.give_up();
        else if (!own) (void)claim_.take(document_.path());
        window_.say("Not saved: " + words_of(saved.error()) + ". The work is still here.",
                    {{"Save it somewhere else…", window_.save_as}, {"Later", {}}});
        return false;
    }
    document_.set_for_reading(false);
    claim_.watch(real, document_.digest());
    if (!version)
        window_.say("Saved, but the version before could not be kept: " + words_of(version.error()) + ".", {});
    return true;
}

void Keeper::changed_outside(Outside what) {
    const QString name = file_name(document_.path());
    if (what == Outside::gone)
        return window_.say(name + " is gone from its folder. The job is still here.",
                           {{"Save it there again", [this] { save_to(document_.path()); }},
                            {"Save it as…", window_.save_as},
                            {"Later", {}}});
    window_.say(name + " has been changed by another program. Nothing was written over it.",
                {{"Look at what differs", [this] { look_outside(); }},
                 {"Reload", [this] { reload(); }},
                 {"Save it as…", window_.save_as},
                 {"Later", {}}});
}

void Keeper::look_outside() {
    const QString path = document_.path();
    auto there = job::load_job(path.toStdString());
    const auto over = [this, path] { save_to(path, true); };
    if (!there)
        return window_.say(
            QString("What now stands in %1 cannot be read: %2.").arg(file_name(path), words_of(there.error())),
            {{"Save over it; it is kept as a version", over}, {"Save it as…", window_.save_as}, {"Later", {}}});
    Comparison c;
    c.title = "The file and this window";
    c.left = {"In the file", when_in_words(QFileInfo(path).lastModified()), there.value()};
    c.right = {"Here", document_.modified() ? "with changes that are not saved" : "as it was opened",
               document_.job()};
    c.choices = {{"Reload the file", [this] { reload(); }},
                 {"Save over it; it is kept as a version", over},
                 {"Save it as…", window_.save_as},
                 {"Later", [] {}}};
    window_.compare(c);
}

/// What is not saved stays as kept work.
void Keeper::reload() {
    const QString path = document_.path();
    open(path);
}

}  // namespace bevelsmith::app
