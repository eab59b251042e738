#include "app/keeping/hand_kept.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSaveFile>

#include "app/keeping/state_folder.h"
#include "job/offering_up.h"
#include "survey/instruments.h"

namespace bevelsmith::app {
namespace {

/// More jobs are not remembered: the oldest goes.
constexpr int most_jobs = 200;

QString hand_path() {
    return QDir(state_folder()).filePath("hand.json");
}

QString key_of(const QString& path) {
    const QString real = QFileInfo(path).canonicalFilePath();
    return real.isEmpty() ? QFileInfo(path).absoluteFilePath() : real;
}

QJsonArray read_all() {
    QFile file(hand_path());
    if (!file.open(QIODevice::ReadOnly)) return {};
    return QJsonDocument::fromJson(file.readAll()).object()["jobs"].toArray();
}

QJsonObject json_of(const QString& key, const job::HandRecord& record) {
    QJsonArray schools;
    for (const auto& s : record.schools)
        schools.append(QJsonObject{
            {"school", survey::school_id(s.school)}, {"readings", s.readings}, {"squares_mm2", s.squares_mm2}});
    return {{"file", key}, {"schools", schools}, {"offered", record.offered}, {"kept", record.kept}};
}

/// What is no number of readings is nobody's record.
job::HandRecord record_in(const QJsonObject& json) {
    job::HandRecord out;
    out.offered = std::max(0, json["offered"].toInt()), out.kept = std::clamp(json["kept"].toInt(), 0, out.offered);
    for (const auto& one : json["schools"].toArray()) {
        const auto school = survey::school_with_id(one.toObject()["school"].toString().toStdString());
        const int readings = one.toObject()["readings"].toInt();
        const double squares = one.toObject()["squares_mm2"].toDouble(-1);
        if (school && readings > 0 && squares >= 0) out.schools.push_back({*school, readings, squares});
    }
    return out;
}

}  // namespace

QString kept_words(const Document& document) {
    const auto here = job::kept_to_forecast(document.computed()->job);
    const auto other = hand_over_other_jobs(document.path());
    const int pieces = here.pieces + other.record.offered, kept = here.kept + other.record.kept;
    if (pieces == 0) return {};
    return QString("Of your last %1 offered up%2, %3 kept to the forecast.")
        .arg(pieces == 1 ? QString("piece that was") : QString("%1 pieces that were").arg(pieces),
             other.record.offered == 0 ? QString() : QString(", in all jobs"))
        .arg(kept);
}

void keep_hand(const QString& path, const job::HandRecord& record) {
    if (path.isEmpty() || (record.schools.empty() && record.offered == 0)) return;
    const QString key = key_of(path);
    QJsonArray kept;
    for (const auto& one : read_all())
        if (one.toObject()["file"].toString() != key) kept.append(one);
    kept.append(json_of(key, record));
    while (kept.size() > most_jobs) kept.removeFirst();
    QDir().mkpath(state_folder());
    QSaveFile file(hand_path());
    if (!file.open(QIODevice::WriteOnly)) return;
    file.write(QJsonDocument(QJsonObject{{"jobs", kept}}).toJson());
    file.commit();
}

HandOverJobs hand_over_other_jobs(const QString& path) {
    const QString key = path.isEmpty() ? QString() : key_of(path);
    HandOverJobs out;
    for (const auto& one : read_all()) {
        if (one.toObject()["file"].toString() == key) continue;
        out.record.add(record_in(one.toObject()));
        ++out.jobs;
    }
    return out;
}

}  // namespace bevelsmith::app
