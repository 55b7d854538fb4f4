// The parts of a project that a discipline can say it reads.
#pragma once

#include "model/project.h"

#include <cstdint>
#include <string>
#include <vector>

namespace gabarit::discipline {

/// "vehicle", "donors", "placement" (the active one without where it hangs), "pose" (where it hangs), "joined",
/// "measured", "conditions", "unknown" (what this version does not know); then those that the disciplines bring
/// (core/sections), such as "mounts".
const std::vector<std::string>& sectionNames();

/// A project that holds these sections of another and nothing else; what is chosen of the rules always.
/// A name that is none is a programming error and throws.
model::Project only(const model::Project& project, const std::vector<std::string>& sections);

/// Marks of the content of each section, taken once for a project.
class SectionMarks {
public:
    explicit SectionMarks(const model::Project& project);
    /// Of these sections together, and of the rules chosen. An unknown name throws.
    std::uint64_t of(const std::vector<std::string>& sections) const;

private:
    std::uint64_t rules_;
    std::vector<std::uint64_t> marks_; ///< in the order of sectionNames()
};

/// Two marks as one, order counting.
std::uint64_t mixed(std::uint64_t a, std::uint64_t b);

} // namespace gabarit::discipline
