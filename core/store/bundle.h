// Bundles (.gabaritz): a project and its pictures in one zip, to be sent or put away.
#pragma once

#include "model/project.h"

#include <map>

namespace gabarit::store {

/// "van.files" beside "van.gabarit": where a project's pictures lie.
std::string filesFolder(const std::string& project_path);
/// A picture's path: in the project's folder of files, or, as older projects have it, beside the project. Empty when it
/// is in neither, or its name leads out of them.
std::string picturePath(const std::string& project_path, const std::string& picture);
/// All pictures that a project names, each once, with the SHA-256 it should have (empty: not known).
std::map<std::string, std::string> picturesOf(const model::Project& project);
/// Copies the pictures that a project names to the folder of files of another path, as when it is saved under another
/// name. What is there already stays; what cannot be found is left out.
Result<void> copyPictures(const model::Project& project, const std::string& from_path, const std::string& to_path);

struct TakenPicture {
    std::string name; ///< for Provenance::picture
    std::string sha256;
};
/// Copies a picture into the project's folder of files, under a name that is free there.
Result<TakenPicture> takePicture(const std::string& project_path, const std::string& picture_path);

/// Hexadecimal, lower case.
std::string sha256(const std::string& bytes);

struct BundleNotes {
    int pictures = 0;                 ///< packed or unpacked
    std::vector<std::string> missing; ///< named by the project, but not there
    std::vector<std::string> changed; ///< their content is not what was taken in
};

/// Packs the project (as given) with the pictures that lie beside `project_path` (empty: it has none). The same project
/// gives the same bytes. Atomic.
Result<BundleNotes> writeBundle(const std::string& bundle_path, const model::Project& project,
                                const std::string& project_path);

struct OpenedBundle {
    std::string name;                         ///< "van.gabarit"
    std::string text;                         ///< the project's
    std::map<std::string, std::string> files; ///< by their path in the folder of files
    BundleNotes notes;
};
/// Reads a bundle into memory and checks it: one project, files only in its folder, no name that leads out of it, not
/// more than 4096 entries and 1 GiB unpacked. The project is read and checked as from a file.
Result<OpenedBundle> readBundle(const std::string& bundle_path, const model::RuleBook& book);
/// The same from bytes; `file` is the name that errors use.
Result<OpenedBundle> bundleFromBytes(const std::string& bytes, const std::string& file, const model::RuleBook& book);

struct UnpackedBundle {
    std::string project_path;
    BundleNotes notes;
};
/// Unpacks a bundle into a folder. A project of its name that is there already is only taken when it holds the same;
/// nothing is written over.
Result<UnpackedBundle> unpackBundle(const std::string& bundle_path, const std::string& folder,
                                    const model::RuleBook& book);

} // namespace gabarit::store
