#include "job/steps.h"

#include <nlohmann/json.hpp>

namespace bevelsmith::job {

std::string patch_between(std::string_view from, std::string_view to) {
    return nlohmann::json::diff(nlohmann::json::parse(from), nlohmann::json::parse(to)).dump();
}

Result<std::string> patched(std::string_view text, std::string_view patch) {
    try {
        return nlohmann::json::parse(text).patch(nlohmann::json::parse(patch)).dump();
    } catch (const nlohmann::json::exception&) {
        return Error{"an earlier step of this work is damaged"};
    }
}

}  // namespace bevelsmith::job
