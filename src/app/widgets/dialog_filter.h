// What a dialog shows of a folder: files of one kind, and at wish all.
#pragma once

#include <QString>

#include "exchange/importers.h"

namespace bevelsmith::app {

inline QString dialog_filter(const QString& words, exchange::FileKind kind) {
    return QString("%1 (%2);;All files (*)").arg(words, QString::fromStdString(exchange::patterns(kind)));
}

}  // namespace bevelsmith::app
