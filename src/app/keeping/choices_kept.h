// Small choices that are a person's and not a job's: which paper, which folder. Remembered in the state folder.
#pragma once

#include <QJsonObject>
#include <QString>

namespace bevelsmith::app {

/// What was remembered under a name; empty where nothing is, or it cannot be read.
QJsonObject kept_choices(const QString& name);
/// Nothing is said where it cannot be kept: it is nobody's work.
void keep_choices(const QString& name, const QJsonObject& choices);

}  // namespace bevelsmith::app
