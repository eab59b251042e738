#include "app/keeping/recent_jobs.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSaveFile>
#include <cmath>

#include "app/keeping/state_folder.h"
#include "job/silhouette.h"

namespace bevelsmith::app {
namespace {

constexpr int most_remembered = 8;

QString list_path() {
    return QDir(state_folder()).filePath("recent.json");
}

QJsonArray read_list() {
    QFile file(list_path());
    if (!file.open(QIODevice::ReadOnly)) return {};
    return QJsonDocument::fromJson(file.readAll()).array();
}

QJsonArray written(const std::vector<std::vector<Vec2>>& strokes) {
    QJsonArray out;
    for (const auto& stroke : strokes) {
        QJsonArray one;
        for (const Vec2& p : stroke) one << std::round(p.x() * 1000) / 1000 << std::round(p.y() * 1000) / 1000;
        out << one;
    }
    return out;
}

std::vector<std::vector<Vec2>> strokes_of(const QJsonArray& list) {
    std::vector<std::vector<Vec2>> out;
    for (const auto& item : list) {
        const QJsonArray one = item.toArray();
        auto& stroke = out.emplace_back();
        for (int k = 0; k + 1 < one.size(); k += 2) stroke.emplace_back(one[k].toDouble(), one[k + 1].toDouble());
    }
    return out;
}

}  // namespace

void remember_job(const QString& path, const job::Job& job) {
    const QString full = QFileInfo(path).absoluteFilePath();
    QJsonArray list;
    list << QJsonObject{{"path", full},
                        {"name", QString::fromStdString(job.name)},
                        {"boat", QString::fromStdString(job.boat.name)},
                        {"silhouette", written(job::silhouette(job))}};
    for (const auto& item : read_list())
        if (item.toObject()["path"].toString() != full && list.size() < most_remembered) list << item;
    QDir().mkpath(state_folder());
    QSaveFile file(list_path());
    if (!file.open(QIODevice::WriteOnly)) return;  // a list less; nobody's work
    file.write(QJsonDocument(list).toJson(QJsonDocument::Compact));
    file.commit();
}

std::vector<RecentJob> recent_jobs() {
    std::vector<RecentJob> out;
    for (const auto& item : read_list()) {
        const QJsonObject o = item.toObject();
        const QFileInfo file(o["path"].toString());
        if (!file.isFile()) continue;
        out.push_back({file.absoluteFilePath(), o["name"].toString(), o["boat"].toString(), file.lastModified(),
                       strokes_of(o["silhouette"].toArray())});
    }
    return out;
}

}  // namespace bevelsmith::app
