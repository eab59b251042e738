// A document against the job's JSON Schema.
#pragma once

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>

namespace bevelsmith::job {

struct SchemaFault {
    std::string pointer;  ///< of the value that is wrong (RFC 6901)
    std::string message;
};

/// The first fault, deepest first; empty when the document keeps to the schema.
std::optional<SchemaFault> schema_fault(const nlohmann::json& document);

}  // namespace bevelsmith::job
