#include "app/document/file_digest.h"

#include <QCryptographicHash>
#include <QFile>
#include <QFileInfo>

namespace bevelsmith::app {

QString file_digest(const QString& path) {
    QFile file(path);
    if (!QFileInfo(path).isFile() || !file.open(QIODevice::ReadOnly)) return {};
    QCryptographicHash hash(QCryptographicHash::Sha256);
    return hash.addData(&file) ? QString::fromLatin1(hash.result().toHex()) : QString();
}

QString digest_of(const std::string& contents) {
    return QString::fromLatin1(QCryptographicHash::hash({contents.data(), static_cast<qsizetype>(contents.size())},
                                                        QCryptographicHash::Sha256)
                                   .toHex());
}

}  // namespace bevelsmith::app
