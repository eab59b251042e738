#include "app/cut/catalogue.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QStandardPaths>
#include <algorithm>

#include "job/job_file.h"

namespace bevelsmith::app {
namespace {

job::Job what_ships() {
    QFile file(":/demo/catalogue.json");
    if (!file.open(QIODevice::ReadOnly)) return {};
    const auto job = job::job_from_text(file.readAll().toStdString());
    return job ? *job : job::Job{};
}

}  // namespace

QString own_catalogue_path() {
    return QDir(QStandardPaths::writableLocation(QStandardPaths::GenericConfigLocation))
        .filePath("bevelsmith/catalogue.json");
}

Result<job::Job> catalogue() {
    const QString path = own_catalogue_path();
    if (!QFileInfo::exists(path)) return what_ships();
    auto own = job::load_job(path.toStdString());
    if (!own)
        return Error{path.toStdString() + ":" + std::to_string(std::max(1, own.error().line)) + ": " +
                     own.error().message};
    return own;
}

Result<bool> keep_in_catalogue(const job::JobMaterial& material) {
    const auto read = catalogue();
    if (!read) return read.error();
    job::Job own = *read;
    const auto known = std::find_if(own.materials.begin(), own.materials.end(),
                                    [&](const auto& m) { return m.name == material.name; });
    std::vector<std::string> ids;
    for (const auto& m : own.materials) ids.push_back(m.id);
    job::JobMaterial kept = material;
    kept.sheets_in_stock = -1;
    kept.id = known != own.materials.end() ? known->id : job::free_id("own-", ids);
    if (known != own.materials.end()) *known = kept;
    else own.materials.push_back(kept);
    if (!QDir().mkpath(QFileInfo(own_catalogue_path()).absolutePath()))
        return Error{"the folder for it cannot be made"};
    return job::save_job(own, own_catalogue_path().toStdString());
}

}  // namespace bevelsmith::app
