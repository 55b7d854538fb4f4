#include "store/bundle.h"

#include "quantity/plain_text.h"
#include "store/project_file.h"
#include "store/safe_file.h"

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <memory>
#include <set>

#include <sha2.h>
#include <zip.h>

namespace gabarit::store {
namespace {

namespace fs = std::filesystem;

const std::string project_suffix = ".gabarit";
const std::string files_suffix = ".files";
// What a phone's pictures of one swap come to many times over; a bomb is beyond it at once.
constexpr std::uint64_t largest_unpacked_bytes = 1ULL << 30U;
constexpr std::size_t largest_bundle_bytes = 1U << 30U;
constexpr std::size_t largest_picture_bytes = 64U << 20U;
constexpr zip_int64_t most_entries = 4096;
// The same project gives the same bytes: every entry carries the zip format's first day.
constexpr zip_uint16_t fixed_dos_time = 0, fixed_dos_date = (1U << 5U) | 1U;

bool endsWith(const std::string& text, const std::string& tail) {
    return text.size() > tail.size() && text.compare(text.size() - tail.size(), tail.size(), tail) == 0;
}

/// A relative path that stays below where it starts, in plain names.
bool staysInside(const std::string& path) {
    if (path.empty() || path.front() == '/' || path.find('\\') != std::string::npos ||
        path.find('\0') != std::string::npos || path.size() > 1024)
        return false;
    std::size_t from = 0;
    while (from <= path.size()) {
        const std::size_t to = std::min(path.find('/', from), path.size());
        const std::string piece = path.substr(from, to - from);
        if (piece.empty() || piece == "." || piece == "..") return false;
        from = to + 1;
    }
    return true;
}

Error zipError(zip_error_t& error, const std::string& file, const char* doing) {
    Error out{std::string(doing) + " (" + zip_error_strerror(&error) + ")", file,
              "check that it is a whole .gabaritz bundle"};
    zip_error_fini(&error);
    return out;
}

struct Discard {
    void operator()(zip_t* archive) const { zip_discard(archive); }
    void operator()(zip_source_t* source) const { zip_source_free(source); }
    void operator()(zip_file_t* file) const { zip_fclose(file); }
};
using Archive = std::unique_ptr<zip_t, Discard>;
using Source = std::unique_ptr<zip_source_t, Discard>;
using Entry = std::unique_ptr<zip_file_t, Discard>;

Result<std::string> readEntry(zip_t* archive, zip_uint64_t index, const std::string& name, const std::string& file,
                              std::uint64_t& room) {
    const Entry entry(zip_fopen_index(archive, index, 0));
    if (!entry)
        return Error{"its entry \"" + name + "\" cannot be read (" + zip_strerror(archive) + ")", file,
                     "pack it again without a password"};
    std::string bytes;
    std::vector<char> chunk(1U << 16U);
    for (;;) {
        const zip_int64_t got = zip_fread(entry.get(), chunk.data(), chunk.size());
        if (got < 0) return Error{"its entry \"" + name + "\" is damaged", file, "fetch the bundle again"};
        if (got == 0) return bytes;
        // Counted as it comes: the size that an entry states may be a lie.
        if (static_cast<std::uint64_t>(got) > room)
            return Error{"it unpacks to more than " + std::to_string(largest_unpacked_bytes >> 20U) + " MiB", file,
                         "check where it comes from"};
        room -= static_cast<std::uint64_t>(got);
        bytes.append(chunk.data(), static_cast<std::size_t>(got));
    }
}

Result<std::map<std::string, std::string>> entriesOf(const std::string& bytes, const std::string& file) {
    zip_error_t error;
    zip_error_init(&error);
    Source source(zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error));
    if (!source) return zipError(error, file, "it cannot be read");
    const Archive archive(zip_open_from_source(source.get(), ZIP_RDONLY | ZIP_CHECKCONS, &error));
    if (!archive) return zipError(error, file, "it is not a bundle");
    (void)source.release(); // the archive holds it now
    zip_error_fini(&error);
    const zip_int64_t count = zip_get_num_entries(archive.get(), 0);
    if (count > most_entries)
        return Error{"it holds more than " + std::to_string(most_entries) + " entries", file,
                     "check where it comes from"};
    std::map<std::string, std::string> out;
    std::uint64_t room = largest_unpacked_bytes;
    for (zip_int64_t i = 0; i < count; ++i) {
        const auto index = static_cast<zip_uint64_t>(i);
        const char* said = zip_get_name(archive.get(), index, ZIP_FL_ENC_GUESS);
        std::string name = said ? said : "";
        const bool folder = !name.empty() && name.back() == '/';
        if (folder) name.pop_back();
        if (!staysInside(name))
            return Error{"its entry \"" + name + "\" leads out of the bundle's folder", file,
                         "check where it comes from; nothing was unpacked"};
        if (folder) continue;
        auto content = readEntry(archive.get(), index, name, file, room);
        if (!content) return content.error();
        if (!out.emplace(name, std::move(content).value()).second)
            return Error{"its entry \"" + name + "\" is there twice", file, "pack it again"};
    }
    return out;
}

void note(BundleNotes& notes, const model::Project& project, const std::map<std::string, std::string>& files) {
    for (const auto& [name, wanted] : picturesOf(project)) {
        const auto held = files.find(name);
        if (held == files.end())
            notes.missing.push_back(name);
        else if (!wanted.empty() && sha256(held->second) != wanted)
            notes.changed.push_back(name);
    }
    notes.pictures = static_cast<int>(files.size());
}

Result<void> addEntry(zip_t* archive, const std::string& name, const std::string& bytes, const std::string& file) {
    zip_source_t* source = zip_source_buffer(archive, bytes.data(), bytes.size(), 0);
    if (!source) return Error{"there is not enough memory to pack it", file, "close other programs"};
    const zip_int64_t index = zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8);
    if (index < 0) {
        zip_source_free(source);
        return Error{"\"" + name + "\" cannot be packed (" + zip_strerror(archive) + ")", file, "rename it"};
    }
    zip_file_set_dostime(archive, static_cast<zip_uint64_t>(index), fixed_dos_time, fixed_dos_date, 0);
    return {};
}

Result<std::string> packed(const std::map<std::string, std::string>& entries, const std::string& file) {
    zip_error_t error;
    zip_error_init(&error);
    const Source source(zip_source_buffer_create(nullptr, 0, 0, &error));
    if (!source) return zipError(error, file, "it cannot be packed");
    Archive archive(zip_open_from_source(source.get(), ZIP_TRUNCATE, &error));
    if (!archive) return zipError(error, file, "it cannot be packed");
    zip_error_fini(&error);
    zip_source_keep(source.get());
    for (const auto& [name, bytes] : entries)
        if (const auto added = addEntry(archive.get(), name, bytes, file); !added) return added.error();
    if (zip_close(archive.get()) != 0)
        return Error{std::string("it cannot be packed (") + zip_strerror(archive.get()) + ")", file, "try again"};
    (void)archive.release();
    std::string out;
    if (zip_source_open(source.get()) != 0) return Error{"it cannot be packed", file, "try again"};
    std::vector<char> chunk(1U << 16U);
    for (zip_int64_t got = 0; (got = zip_source_read(source.get(), chunk.data(), chunk.size())) > 0;)
        out.append(chunk.data(), static_cast<std::size_t>(got));
    zip_source_close(source.get());
    return out;
}

Result<void> makeFolders(const fs::path& folder) {
    std::error_code code;
    fs::create_directories(folder, code);
    if (code)
        return Error{"the folder cannot be made (" + code.message() + ")", folder.string(),
                     "choose one that you may write to"};
    return {};
}

/// A link below the folder that was named leads somewhere that was not: nothing is written through it.
Result<void> noLinks(const fs::path& below, const fs::path& folder) {
    std::error_code code;
    for (fs::path at = below; at != folder && at.has_relative_path(); at = at.parent_path())
        if (fs::is_symlink(fs::symlink_status(at, code)))
            return Error{"it is a link there", at.string(), "take it away, or choose another folder"};
    return {};
}

/// Writes a file that is not there yet. One that is and holds something else is an error.
Result<void> writeNew(const fs::path& path, const std::string& bytes) {
    std::error_code code;
    if (fs::exists(path, code)) {
        const auto held = readWhole(path.string(), largest_bundle_bytes);
        if (held && held.value() == bytes) return {};
        return Error{"it is there already and holds something else", path.string(),
                     "move the bundle into another folder and open it there"};
    }
    if (const auto made = makeFolders(path.parent_path()); !made) return made.error();
    return writeWhole(path.string(), bytes);
}

} // namespace

std::string filesFolder(const std::string& project_path) {
    return (endsWith(project_path, project_suffix) ? project_path.substr(0, project_path.size() - project_suffix.size())
                                                   : project_path) +
           files_suffix;
}

std::string picturePath(const std::string& project_path, const std::string& picture) {
    if (project_path.empty() || !staysInside(picture)) return {};
    std::error_code code;
    for (const fs::path& folder : {fs::path(filesFolder(project_path)), fs::path(project_path).parent_path()}) {
        const fs::path path = folder / picture;
        if (!fs::is_regular_file(path, code)) continue;
        // A link that leads elsewhere is not the project's own.
        const std::string real = fs::canonical(path, code).string();
        const std::string root = fs::canonical(folder.empty() ? fs::path(".") : folder, code).string() + "/";
        if (real.compare(0, root.size(), root) == 0) return path.string();
    }
    return {};
}

std::map<std::string, std::string> picturesOf(const model::Project& project) {
    std::map<std::string, std::string> out;
    const auto add = [&out](const model::Provenance& measured) {
        if (!measured.picture.empty()) out.emplace(measured.picture, measured.picture_sha256);
    };
    const auto addAll = [&](const auto& items) {
        for (const auto& item : items) {
            add(item.measured);
            for (const model::Reading& reading : item.tape.readings) add(reading.measured);
        }
    };
    if (project.vehicle) {
        addAll(project.vehicle->bodies);
        addAll(project.vehicle->hard_points);
        for (const auto& dimension : project.vehicle->outgoing) add(dimension.measured);
        for (const auto& volume : project.vehicle->free_volumes) add(volume.measured);
    }
    for (const model::Donor& donor : project.donors) {
        addAll(donor.bodies);
        addAll(donor.reference_points);
    }
    for (const model::Condition& condition : project.conditions) add(condition.measured);
    return out;
}

std::string sha256(const std::string& bytes) {
    char text[SHA256_DIGEST_STRING_LENGTH] = {};
    SHA256Data(reinterpret_cast<const uint8_t*>(bytes.data()), bytes.size(), text);
    return text;
}

Result<void> copyPictures(const model::Project& project, const std::string& from, const std::string& to) {
    for (const auto& [name, unused] : picturesOf(project)) {
        const std::string path = picturePath(from, name);
        std::error_code code;
        const fs::path target = fs::path(filesFolder(to)) / name;
        if (path.empty() || fs::exists(target, code)) continue;
        const auto bytes = readWhole(path, largest_picture_bytes);
        if (!bytes) return bytes.error();
        if (const auto written = writeNew(target, bytes.value()); !written) return written.error();
    }
    return {};
}

Result<TakenPicture> takePicture(const std::string& project_path, const std::string& picture_path) {
    if (project_path.empty())
        return Error{"the project has no file yet", picture_path, "save it first: pictures lie beside it"};
    const auto bytes = readWhole(picture_path, largest_picture_bytes);
    if (!bytes) return bytes.error();
    const fs::path source(picture_path);
    const fs::path folder(filesFolder(project_path));
    std::string name = source.filename().string();
    std::error_code code;
    for (int n = 2; fs::exists(folder / name, code); ++n) {
        const auto held = readWhole((folder / name).string(), largest_picture_bytes);
        if (held && held.value() == bytes.value()) break; // the same picture again
        name = source.stem().string() + " " + std::to_string(n) + source.extension().string();
    }
    if (!staysInside(name) || quantity::notUtf8At(name) || quantity::controlIn(name))
        return Error{"its name cannot be used", picture_path, "rename it"};
    if (const auto written = writeNew(folder / name, bytes.value()); !written) return written.error();
    return TakenPicture{name, sha256(bytes.value())};
}

Result<BundleNotes> writeBundle(const std::string& bundle_path, const model::Project& project,
                                const std::string& project_path) {
    const std::string stem = fs::path(project_path.empty() ? bundle_path : project_path).stem().string();
    std::map<std::string, std::string> files;
    std::uint64_t room = largest_unpacked_bytes;
    for (const auto& [name, unused] : picturesOf(project)) {
        const std::string path = picturePath(project_path, name);
        if (path.empty()) continue; // said among the missing
        auto bytes = readWhole(path, largest_picture_bytes);
        if (!bytes) return bytes.error();
        if (bytes.value().size() > room)
            return Error{"its pictures come to more than a bundle holds", bundle_path, "make them smaller"};
        room -= bytes.value().size();
        files.emplace(name, std::move(bytes).value());
    }
    BundleNotes notes;
    note(notes, project, files);
    std::map<std::string, std::string> entries;
    entries.emplace(stem + project_suffix, projectText(project));
    for (auto& [name, bytes] : files) entries.emplace(stem + files_suffix + "/" + name, std::move(bytes));
    const auto bytes = packed(entries, bundle_path);
    if (!bytes) return bytes.error();
    if (const auto written = writeWhole(bundle_path, bytes.value()); !written) return written.error();
    return notes;
}

Result<OpenedBundle> bundleFromBytes(const std::string& bytes, const std::string& file, const model::RuleBook& book) {
    auto entries = entriesOf(bytes, file);
    if (!entries) return entries.error();
    OpenedBundle out;
    for (auto& [name, content] : entries.value())
        if (name.find('/') == std::string::npos && endsWith(name, project_suffix)) {
            if (!out.name.empty())
                return Error{"it holds two projects, \"" + out.name + "\" and \"" + name + "\"", file,
                             "pack each by itself"};
            out.name = name;
            out.text = std::move(content);
        }
    if (out.name.empty()) return Error{"it holds no .gabarit project", file, "check that it is the right file"};
    const std::string folder = filesFolder(out.name) + "/";
    for (auto& [name, content] : entries.value()) {
        if (name == out.name) continue;
        if (name.compare(0, folder.size(), folder) != 0)
            return Error{"its entry \"" + name + "\" does not lie in " + folder, file,
                         "a bundle holds one project and its folder of files"};
        out.files.emplace(name.substr(folder.size()), std::move(content));
    }
    const auto read = projectFromText(out.text, file + ", " + out.name, book);
    if (!read) return read.error();
    note(out.notes, read.value().project, out.files);
    return out;
}

Result<OpenedBundle> readBundle(const std::string& bundle_path, const model::RuleBook& book) {
    const auto bytes = readWhole(bundle_path, largest_bundle_bytes);
    if (!bytes) return bytes.error();
    return bundleFromBytes(bytes.value(), bundle_path, book);
}

Result<UnpackedBundle> unpackBundle(const std::string& bundle_path, const std::string& folder,
                                    const model::RuleBook& book) {
    const auto opened = readBundle(bundle_path, book);
    if (!opened) return opened.error();
    fs::path target(folder.empty() ? std::string(".") : folder);
    if (!target.has_filename()) target = target.parent_path(); // "there/"
    const fs::path project = target / opened.value().name;
    const fs::path files(filesFolder(project.string()));
    if (const auto free = noLinks(project, target); !free) return free.error();
    for (const auto& [name, unused] : opened.value().files)
        if (const auto free = noLinks(files / name, target); !free) return free.error();
    // The pictures first: a project never stands there without what it names.
    for (const auto& [name, bytes] : opened.value().files)
        if (const auto written = writeNew(files / name, bytes); !written) return written.error();
    if (const auto written = writeNew(project, opened.value().text); !written) return written.error();
    return UnpackedBundle{project.string(), opened.value().notes};
}

} // namespace gabarit::store
