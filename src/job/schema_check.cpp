#include "job/schema_check.h"

#include <fmt/format.h>

#include <nlohmann/json.hpp>
#include <string_view>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

#include "job/job_file.h"

namespace bevelsmith::job {
namespace {

using Adapter = valijson::adapters::NlohmannJsonAdapter;

const valijson::Schema& compiled_schema() {
    static valijson::Schema schema;
    static const bool ready = [] {
        const auto text = nlohmann::json::parse(job_schema());
        valijson::SchemaParser().populateSchema(Adapter(text), schema);
        return true;
    }();
    (void)ready;
    return schema;
}

/// valijson says where as "<root>[pieces][0]".
std::string pointer_of(const std::vector<std::string>& context) {
    std::string out;
    for (const std::string& part : context)
        if (part.size() > 2 && part.front() == '[') out += "/" + part.substr(1, part.size() - 2);
    return out;
}

std::string place_of(const std::string& pointer) {
    return pointer.empty() ? "the job" : "'" + pointer.substr(1) + "'";
}

}  // namespace

std::optional<SchemaFault> schema_fault(const nlohmann::json& document) {
    valijson::Validator validator;
    valijson::ValidationResults results;
    if (validator.validate(compiled_schema(), Adapter(document), &results)) return std::nullopt;
    SchemaFault deepest;
    std::size_t depth = 0;
    for (valijson::ValidationResults::Error error; results.popError(error);) {
        if (!deepest.message.empty() && error.context.size() <= depth) continue;
        depth = error.context.size();
        deepest.pointer = pointer_of(error.context);
        deepest.message = error.description;
    }
    return SchemaFault{deepest.pointer, fmt::format("in {}: {}", place_of(deepest.pointer), deepest.message)};
}

}  // namespace bevelsmith::job
