// Files that are whole or untouched.
#pragma once

#include "quantity/result.h"

#include <string>

namespace gabarit::store {

/// All bytes of a file. Errors: missing, a folder, no permission, larger than `largest_bytes`.
Result<std::string> readWhole(const std::string& path, std::size_t largest_bytes);

/// Writes beside the file, syncs, keeps the former content as `path + ".bak"`, and renames: at every moment `path`
/// holds either the old or the new content, whole. A symbolic link is followed, permissions are kept.
Result<void> writeWhole(const std::string& path, const std::string& bytes);

} // namespace gabarit::store
