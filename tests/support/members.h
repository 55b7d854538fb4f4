// Every kind of member of a project's file, and the file with all of one kind changed.
#pragma once

#include <QFile>
#include <QString>
#include <nlohmann/json.hpp>

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace gabarit::tests {

using Json = nlohmann::ordered_json;
using Path = std::vector<std::string>; ///< members and indices, from the top
/// By kind: its path with * for each index.
using Members = std::map<std::string, std::vector<Path>>;

inline Json jsonOf(const std::string& path) {
    QFile file(QString::fromStdString(GABARIT_SOURCE_DIR + path));
    if (!file.open(QIODevice::ReadOnly)) qFatal("cannot read %s", path.c_str());
    return Json::parse(file.readAll().toStdString());
}
inline Json demoJson(const std::string& name) { return jsonOf("/data/demo/" + name + ".gabarit"); }

inline void collect(const Json& at, const Path& path, const std::string& kind, Members& out) {
    if (at.is_object())
        for (const auto& [key, value] : at.items()) {
            Path its = path;
            its.push_back(key);
            const std::string of = kind.empty() ? key : kind + "/" + key;
            out[of].push_back(its);
            collect(value, its, of, out);
        }
    if (at.is_array())
        for (std::size_t i = 0; i < at.size(); ++i) {
            if (!at[i].is_structured()) continue;
            Path its = path;
            its.push_back(std::to_string(i));
            collect(at[i], its, kind + "/*", out);
        }
}
inline Members membersOf(const Json& json) {
    Members out;
    collect(json, {}, "", out);
    return out;
}

inline Json& parentOf(Json& json, const Path& path) {
    Json* at = &json;
    for (std::size_t i = 0; i + 1 < path.size(); ++i)
        at = at->is_array() ? &(*at)[std::stoul(path[i])] : &(*at)[path[i]];
    return *at;
}

inline bool isNumbers(const Json& value) {
    return value.is_array() && !value.empty() &&
           std::all_of(value.begin(), value.end(), [](const Json& each) { return each.is_number(); });
}

/// "drop" takes the members away, "null" and "zero" set them so, "large" makes numbers larger by ten (diameters by
/// four), accuracies by a thousand (lengths by fifty). Nothing when that does not apply to them.
inline std::optional<Json> changed(const Json& base, const std::string& how, const std::vector<Path>& members) {
    constexpr double larger = 10, much_larger = 1000;
    // Enough to drown a bay in doubt, or to fill it; more only makes the search for gaps long.
    constexpr double much_larger_mm = 50, wider = 4;
    Json out = base;
    bool any = false;
    for (const Path& path : members) {
        Json& parent = parentOf(out, path);
        const std::string& key = path.back();
        Json& value = parent[key];
        if (how == "drop") {
            parent.erase(key);
            any = true;
        } else if (how == "null") {
            value = nullptr;
            any = true;
        } else if (how == "zero" && value.is_number()) {
            value = 0;
            any = true;
        } else if (how == "zero" && isNumbers(value)) {
            for (Json& each : value) each = 0;
            any = true;
        } else if (how == "large" && value.is_number() && value.get<double>() != 0) {
            const bool accuracy = key.rfind("accuracy", 0) == 0 || key.rfind("tolerance", 0) == 0;
            const bool length = key.size() > 3 && key.compare(key.size() - 3, 3, "_mm") == 0;
            value = value.get<double>() * (accuracy && length     ? much_larger_mm
                                           : accuracy             ? much_larger
                                           : key == "diameter_mm" ? wider
                                                                  : larger);
            any = true;
        }
    }
    return any ? std::optional(out) : std::nullopt;
}

} // namespace gabarit::tests
