#include "store/project_file.h"

#include "model/tape.h"
#include "store/json_io.h"
#include "store/safe_file.h"

namespace gabarit::store {
namespace {

// Plain values only: meshes and pictures lie beside the file.
constexpr std::size_t largest_file_bytes = 256u << 20;

Error tooLarge(const std::string& file) {
    return Error{"it is larger than " + std::to_string(largest_file_bytes >> 20U) + " MiB", file,
                 "check that it is the right file"};
}

struct Opened {
    Json json;
    bool newer = false;
};

/// Version 1 named a picture from beside the project ("van.files/a.jpg"), version 2 names it from its folder of files.
void picturesFromTheirFolder(Json& json, const std::string& folder) {
    if (json.is_array())
        for (Json& item : json) picturesFromTheirFolder(item, folder);
    if (!json.is_object()) return;
    for (auto& [key, value] : json.items()) {
        if (key == "picture" && value.is_string()) {
            const std::string said = value.get<std::string>();
            if (said.rfind(folder, 0) == 0) value = said.substr(folder.size());
        } else {
            picturesFromTheirFolder(value, folder);
        }
    }
}

/// Brings what an older version wrote to what this one reads, step by step.
void migrate(Json& json, long long from, const std::string& file) {
    const auto slash = file.rfind('/');
    std::string stem = slash == std::string::npos ? file : file.substr(slash + 1);
    stem = stem.substr(0, stem.rfind('.'));
    if (from < 2) picturesFromTheirFolder(json, stem + ".files/");
}

Result<Opened> open(const std::string& text, const std::string& file, const char* format) {
    auto parsed = parseJson(text, file);
    if (!parsed) return parsed.error();
    const Json& json = parsed.value();
    const auto said = json.is_object() ? json.find("format") : json.end();
    if (!json.is_object() || said == json.end() || !said->is_string() || said->get_ref<const std::string&>() != format)
        return Error{std::string("this is not a ") + format + " file", file,
                     std::string("its outermost level needs \"format\": \"") + format + "\""};
    const auto version = json.find("version");
    if (version == json.end() || !version->is_number_integer() || version->get<long long>() < 1)
        return Error{"its version is missing or not a whole number", file + ", version",
                     "write \"version\": " + std::to_string(format_version)};
    const long long written_as = version->get<long long>(); // read before the value moves away
    Opened opened{std::move(parsed).value(), written_as > format_version};
    if (written_as < format_version) migrate(opened.json, written_as, file);
    return opened;
}

template <class T>
std::string textOf(const char* format, const T& value) {
    WriteIo io;
    io.raw("format", format);
    io.raw("version", format_version);
    describe::show(io, value);
    return prettyText(io.take());
}

Result<void> firstOf(const std::vector<Error>& wrong, const std::string& file) {
    if (wrong.empty()) return {};
    Error error = wrong.front();
    error.where = file + ", " + error.where;
    if (wrong.size() > 1) error.mend += " (and " + std::to_string(wrong.size() - 1) + " more)";
    return error;
}

template <class T>
Result<bool> fill(T& value, const std::string& text, const std::string& file, const char* format) {
    auto opened = open(text, file, format);
    if (!opened) return opened.error();
    std::optional<Error> error;
    ReadIo io(opened.value().json, "", error);
    std::string formatWord;
    double version = 0;
    io.text(describe::Member("format").must(), formatWord);
    io.number(describe::Member("version").must(), version);
    describe::visit(io, value);
    if (error) {
        error->where = file + ", " + error->where;
        return *error;
    }
    return opened.value().newer;
}

} // namespace

Result<ReadProject> projectFromText(const std::string& text, const std::string& file, const model::RuleBook& book) {
    if (text.size() > largest_file_bytes) return tooLarge(file); // a bundle's, too
    ReadProject read;
    const auto newer = fill(read.project, text, file, project_format);
    if (!newer) return newer.error();
    read.read_only = newer.value();
    read.project = model::withTapeApplied(read.project); // a reading corrected in the file moves its body
    const auto sound = firstOf(model::validate(read.project, model::applied(book, read.project.rules)), file);
    if (!sound) return sound.error();
    return read;
}

Result<model::Project> projectAsWritten(const std::string& text) {
    model::Project project;
    const auto newer = fill(project, text, "the history", project_format);
    if (!newer) return newer.error();
    return project;
}

Result<ReadProject> readProject(const std::string& path, const model::RuleBook& book) {
    auto text = readWhole(path, largest_file_bytes);
    if (!text) return text.error();
    auto read = projectFromText(text.value(), path, book);
    if (read) read.value().text = std::move(text).value();
    return read;
}

std::string projectText(const model::Project& project) { return textOf(project_format, project); }

Result<void> writeProject(const std::string& path, const model::Project& project) {
    return writeWhole(path, projectText(project));
}

Result<model::Donor> donorFromText(const std::string& text, const std::string& file, const model::RuleBook& book) {
    if (text.size() > largest_file_bytes) return tooLarge(file);
    model::Donor donor;
    const auto newer = fill(donor, text, file, donor_format);
    if (!newer) return newer.error();
    model::Project alone;
    alone.donors.push_back(std::move(donor));
    donor = model::withTapeApplied(alone).donors.front();
    const auto sound = firstOf(model::validate(donor, book), file);
    if (!sound) return sound.error();
    return donor;
}

Result<model::Donor> readDonor(const std::string& path, const model::RuleBook& book) {
    const auto text = readWhole(path, largest_file_bytes);
    if (!text) return text.error();
    return donorFromText(text.value(), path, book);
}

std::string donorText(const model::Donor& donor) { return textOf(donor_format, donor); }

Result<void> writeDonor(const std::string& path, const model::Donor& donor) {
    return writeWhole(path, donorText(donor));
}

} // namespace gabarit::store
