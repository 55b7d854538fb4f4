// Projects and donors as files: UTF-8 JSON, documented in docs/format.md, checked by data/schema/.
#pragma once

#include "model/project.h"

namespace gabarit::store {

/// The version this program writes. Older ones are migrated, newer ones open read-only.
constexpr int format_version = 2;

struct ReadProject {
    model::Project project;
    std::string text;       ///< as it stood in the file
    bool read_only = false; ///< written by a newer version: saving would lose what that version knows
};

/// Errors name the file, the member ("vehicle.bodies[3].shape.size_mm") and the mend.
Result<ReadProject> readProject(const std::string& path, const model::RuleBook& book);
/// The same from text; `file` is the name that errors use.
Result<ReadProject> projectFromText(const std::string& text, const std::string& file, const model::RuleBook& book);
/// Of text that projectText made: taken as it is, without being judged.
Result<model::Project> projectAsWritten(const std::string& text);

std::string projectText(const model::Project& project);
/// Atomic: see writeWhole.
Result<void> writeProject(const std::string& path, const model::Project& project);

/// A donor in a file of its own, to be hung in any vehicle.
Result<model::Donor> donorFromText(const std::string& text, const std::string& file, const model::RuleBook& book);
Result<model::Donor> readDonor(const std::string& path, const model::RuleBook& book);
std::string donorText(const model::Donor& donor);
Result<void> writeDonor(const std::string& path, const model::Donor& donor);

} // namespace gabarit::store
