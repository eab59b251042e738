// What tells whether a file is still the one that was read.
#pragma once

#include <QString>
#include <string>

namespace bevelsmith::app {

/// SHA-256 of a file's contents, hexadecimal; empty where it cannot be read.
QString file_digest(const QString& path);
/// The same of contents that were read.
QString digest_of(const std::string& contents);

}  // namespace bevelsmith::app
