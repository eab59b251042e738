#include "app/keeping/choices_kept.h"

#include <QDir>
#include <QFile>
#include <QJsonDocument>
#include <QSaveFile>

#include "app/keeping/state_folder.h"

namespace bevelsmith::app {
namespace {

QString choices_path() {
    return QDir(state_folder()).filePath("choices.json");
}

QJsonObject read_all() {
    QFile file(choices_path());
    if (!file.open(QIODevice::ReadOnly)) return {};
    return QJsonDocument::fromJson(file.readAll()).object();
}

}  // namespace

QJsonObject kept_choices(const QString& name) {
    return read_all()[name].toObject();
}

void keep_choices(const QString& name, const QJsonObject& choices) {
    QJsonObject all = read_all();
    if (all[name].toObject() == choices) return;
    all[name] = choices;
    QDir().mkpath(state_folder());
    QSaveFile file(choices_path());
    if (!file.open(QIODevice::WriteOnly)) return;
    file.write(QJsonDocument(all).toJson());
    file.commit();
}

}  // namespace bevelsmith::app
