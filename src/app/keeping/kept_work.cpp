#include "app/keeping/kept_work.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLockFile>
#include <algorithm>

#include "app/document/file_digest.h"
#include "app/keeping/state_folder.h"
#include "job/file_io.h"
#include "job/job_file.h"
#include "job/steps.h"

namespace bevelsmith::app {
namespace {

constexpr const char* suffix = ".kept";
constexpr int format = 1;
/// A heading is some kilobytes: its silhouette is the most of it.
constexpr qint64 longest_heading = 1 << 20;

QJsonArray strokes_to_json(const std::vector<std::vector<Vec2>>& strokes) {
    QJsonArray out;
    for (const auto& stroke : strokes) {
        QJsonArray line;
        for (const Vec2& p : stroke) line << qRound(p.x() * 1000) << qRound(p.y() * 1000);
        out << line;
    }
    return out;
}

std::vector<std::vector<Vec2>> strokes_from_json(const QJsonArray& json) {
    std::vector<std::vector<Vec2>> out;
    for (const auto& line : json) {
        auto& stroke = out.emplace_back();
        const QJsonArray at = line.toArray();
        for (qsizetype k = 0; k + 1 < at.size(); k += 2)
            stroke.emplace_back(std::clamp(at[k].toDouble(), 0.0, 1000.0) / 1000,
                                std::clamp(at[k + 1].toDouble(), 0.0, 1000.0) / 1000);
    }
    return out;
}

QByteArray heading_line(const KeptText& text, const std::string& steps) {
    const KeptWork& w = text.heading;
    const QJsonObject json{{"bevelsmith_kept", format},
                           {"id", w.id},
                           {"job_path", w.job_path},
                           {"digest", w.digest},
                           {"name", w.name},
                           {"boat", w.boat},
                           {"when", w.when.toUTC().toString(Qt::ISODateWithMs)},
                           {"edits", w.edits},
                           {"silhouette", strokes_to_json(w.silhouette)},
                           {"job_bytes", static_cast<qint64>(text.job.size())},
                           {"steps_bytes", static_cast<qint64>(steps.size())},
                           {"sha256", digest_of(text.job)}};
    return QJsonDocument(json).toJson(QJsonDocument::Compact) + "\n";
}

std::string steps_text(const std::vector<KeptStep>& steps) {
    QJsonArray out;
    for (const KeptStep& step : steps)
        out << QJsonObject{{"what", step.what}, {"back", QString::fromStdString(step.back)}};
    return QJsonDocument(out).toJson(QJsonDocument::Compact).toStdString();
}

KeptWork heading_from(const QJsonObject& json, const QString& file) {
    KeptWork w;
    w.file = file;
    w.id = QFileInfo(file).completeBaseName();
    w.when = QFileInfo(file).lastModified();
    if (json["bevelsmith_kept"].toInt() != format) {
        w.fault = json.contains("bevelsmith_kept") ? "it was kept by a newer Bevelsmith" : "it is damaged";
        return w;
    }
    w.job_path = json["job_path"].toString();
    w.digest = json["digest"].toString();
    w.name = json["name"].toString();
    w.boat = json["boat"].toString();
    if (const auto when = QDateTime::fromString(json["when"].toString(), Qt::ISODateWithMs); when.isValid())
        w.when = when.toLocalTime();
    w.edits = json["edits"].toInt();
    w.silhouette = strokes_from_json(json["silhouette"].toArray());
    return w;
}

/// The states that the steps lead back to, newest first; as far as they can be read.
void read_steps(const std::string& steps, const std::string& newest, KeptJob& out) {
    const auto list = QJsonDocument::fromJson(QByteArray::fromStdString(steps)).array();
    std::string text = newest;
    std::vector<std::pair<QString, job::Job>> states{{QString(), out.now}};
    for (qsizetype k = list.size(); k-- > 0;) {
        const auto step = list[k].toObject();
        auto before = job::patched(text, step["back"].toString().toStdString());
        if (!before) break;
        auto state = job::job_from_text(*before);
        if (!state) break;
        states.back().first = step["what"].toString();
        text = std::move(before.value());
        states.emplace_back(QString(), std::move(state.value()));
    }
    // The oldest state that is known follows from the base, unless it is the base.
    states.back().first = "Earlier work that was not saved";
    if (states.size() > 1 && states.back().second == out.base) states.pop_back();
    if (states.size() == 1) states.front().first = "Work that was not saved";
    out.steps.assign(states.rbegin(), states.rend());
}

}  // namespace

QString kept_folder() {
    return QDir(state_folder()).filePath("unsaved");
}

QString base_of(const QString& kept_file) {
    return kept_file.chopped(QString(suffix).size()) + ".base";
}

QString lock_of(const QString& kept_file) {
    return kept_file.chopped(QString(suffix).size()) + ".lock";
}

void throw_away(const QString& kept_file) {
    QFile::remove(kept_file);
    QFile::remove(base_of(kept_file));
}

bool is_kept_work(const std::string& contents) {
    return contents.starts_with("{") &&
           contents.substr(0, contents.find('\n')).find("\"bevelsmith_kept\"") != std::string::npos;
}

KeptWork read_heading(const QString& file) {
    QFile in(file);
    if (!in.open(QIODevice::ReadOnly)) {
        KeptWork out = heading_from({}, file);
        out.fault = "it cannot be read: " + in.errorString();
        return out;
    }
    return heading_from(QJsonDocument::fromJson(in.readLine(longest_heading)).object(), file);
}

std::vector<KeptWork> kept_work(const QString& folder) {
    std::vector<KeptWork> out;
    if (folder.isEmpty()) return out;
    for (const QFileInfo& info : QDir(folder).entryInfoList({QString("*") + suffix}, QDir::Files)) {
        QLockFile lock(lock_of(info.filePath()));
        lock.setStaleLockTime(0);
        // Held by a window that lives: it looks after its work itself.
        if (!lock.tryLock(0) && lock.error() == QLockFile::LockFailedError) continue;
        out.push_back(read_heading(info.filePath()));
    }
    std::sort(out.begin(), out.end(), [](const KeptWork& a, const KeptWork& b) { return a.when > b.when; });
    return out;
}

std::vector<KeptWork> kept_for(const QString& folder, const QString& job_path) {
    auto out = kept_work(folder);
    std::erase_if(out, [&](const KeptWork& w) { return job_path.isEmpty() || w.job_path != job_path; });
    return out;
}

Result<KeptJob> read_kept(const KeptWork& work) {
    const auto contents = job::read_file(work.file.toStdString(), kept_bytes);
    if (!contents) return contents.error();
    const std::size_t line = contents->find('\n');
    if (line == std::string::npos) return Error{"it is damaged: it ends within its heading", 1};
    const auto heading = QJsonDocument::fromJson(QByteArray(contents->data(), static_cast<qsizetype>(line))).object();
    const auto size = [&](const char* name) {
        return static_cast<std::size_t>(std::max(0.0, heading[name].toDouble()));
    };
    const std::size_t job_bytes = size("job_bytes");
    if (heading["bevelsmith_kept"].toInt() != format || line + 1 + job_bytes > contents->size())
        return Error{"it is damaged: its heading and its size do not agree", 1};
    const std::string text = contents->substr(line + 1, job_bytes);
    if (heading["sha256"].toString() != digest_of(text)) return Error{"it is damaged: its check does not agree"};
    auto now = job::job_from_text(text);
    if (!now) return now.error();
    KeptJob out{job::empty_job(), std::move(now.value()), {}};
    if (auto base = job::load_job(base_of(work.file).toStdString())) out.base = std::move(base.value());
    read_steps(contents->substr(std::min(contents->size(), line + 1 + job_bytes), size("steps_bytes")), text, out);
    return out;
}

Result<bool> write_kept(const QString& file, const KeptText& text) {
    const std::string steps = steps_text(text.steps);
    std::string all = heading_line(text, steps).toStdString();
    all += text.job;
    all += steps;
    return job::write_file_atomically(file.toStdString(), all);
}

}  // namespace bevelsmith::app
