#include "job/schema_check.h"

#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>
#include <string_view>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validation_results.hpp>
#include <valijson/validator.hpp>

#include "job/job_file.h"
#include "units/ranges.h"

namespace bevelsmith::job {
namespace {

using Adapter = valijson::adapters::NlohmannJsonAdapter;

const nlohmann::json& schema_text() {
    static const auto text = nlohmann::json::parse(job_schema());
    return text;
}

const valijson::Schema& compiled_schema() {
    static valijson::Schema schema;
    static const bool ready = [] {
        valijson::SchemaParser().populateSchema(Adapter(schema_text()), schema);
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

/// A node of the schema without its references; `range` is the name of the last one.
const nlohmann::json& resolved(const nlohmann::json& node, std::string& range) {
    const auto it = node.find("$ref");
    if (it == node.end()) return node;
    const std::string pointer = it->get<std::string>().substr(1);
    range = pointer.substr(pointer.rfind('/') + 1);
    return resolved(schema_text().at(nlohmann::json::json_pointer(pointer)), range);
}

/// What the schema says of the value at `pointer`.
const nlohmann::json& rule_for(const nlohmann::json::json_pointer& pointer, const nlohmann::json& document,
                               std::string& range) {
    if (pointer.empty()) return resolved(schema_text(), range);
    const auto parent = pointer.parent_pointer();
    const nlohmann::json* rule = &rule_for(parent, document, range);
    if (const auto any = rule->find("anyOf"); any != rule->end())
        rule = &resolved((*any)[document.at(parent).is_array() ? 0 : 1], range);
    range.clear();
    if (document.at(parent).is_array()) return resolved(rule->at("items"), range);
    return resolved(rule->at("properties").at(pointer.back()), range);
}

std::string list_of(const nlohmann::json& words) {
    std::string out;
    for (const auto& word : words) out += (out.empty() ? "" : ", ") + word.dump();
    return out;
}

/// What is wrong with a value by its own rule, in our words; empty when nothing is.
std::string broken_rule(const nlohmann::json& value, const nlohmann::json& rule, const std::string& range) {
    const std::string type = rule.value("type", std::string());
    if (rule.contains("enum")) return fmt::format("this must be one of {}", list_of(rule["enum"]));
    if (type == "object" && !value.is_object()) return "an object with named fields belongs here";
    if (type == "array" && !value.is_array()) return "a list belongs here";
    if (type == "string" && !value.is_string()) return "text belongs here";
    if (type == "boolean" && !value.is_boolean()) return "true or false belongs here";
    if ((type == "number" || type == "integer") && !value.is_number()) return "a number belongs here";
    if (type == "integer" && value.get<double>() != std::floor(value.get<double>()))
        return "a whole number belongs here";
    if (value.is_number()) {
        for (const auto& known : units::range::all)
            if (known.name == range) return units::out_of_range(known, value.get<double>());
        return fmt::format("{:.10g} is out of range", value.get<double>());
    }
    if (value.is_object() && rule.contains("required"))
        for (const auto& name : rule["required"])
            if (!value.contains(name.get<std::string>())) return fmt::format("{} is missing", name.dump());
    if (value.is_array() && rule.contains("maxItems") && value.size() > rule["maxItems"].get<std::size_t>())
        return fmt::format("{} entries are too many: at most {}", value.size(), rule["maxItems"].dump());
    if (value.is_array() && rule.contains("minItems") && value.size() < rule["minItems"].get<std::size_t>())
        return fmt::format("{} entries are too few: at least {}", value.size(), rule["minItems"].dump());
    if (value.is_string() && value.get_ref<const std::string&>().empty()) return "this must not be empty";
    if (value.is_string() && rule.contains("maxLength"))
        return fmt::format("this text is too long: at most {} characters", rule["maxLength"].dump());
    return "this does not belong here";
}

}  // namespace

std::optional<SchemaFault> schema_fault(const nlohmann::json& document) {
    valijson::Validator validator;
    valijson::ValidationResults results;
    if (validator.validate(compiled_schema(), Adapter(document), &results)) return std::nullopt;
    std::vector<std::string> deepest;
    for (valijson::ValidationResults::Error error; results.popError(error);)
        if (deepest.empty() || error.context.size() > deepest.size()) deepest = error.context;
    const std::string pointer = pointer_of(deepest);
    const nlohmann::json::json_pointer at(pointer);
    std::string range;
    const nlohmann::json& rule = rule_for(at, document, range);
    const nlohmann::json& value = document.at(at);
    const auto any = rule.find("anyOf");
    const std::string message = any == rule.end()   ? broken_rule(value, rule, range)
                                : value.is_object() ? broken_rule(value, (*any)[1], range)
                                                    : broken_rule(value, resolved((*any)[0], range), range);
    return SchemaFault{pointer, fmt::format("in {}: {}", place_of(pointer), message)};
}

}  // namespace bevelsmith::job
