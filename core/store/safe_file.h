// Files that are whole or untouched.
#pragma once

#include "quantity/result.h"

#include <functional>
#include <string>

namespace gabarit::store {

/// All bytes of a file. Errors: missing, a folder, no permission, larger than `largest_bytes`.
Result<std::string> readWhole(const std::string& path, std::size_t largest_bytes);

/// Whether what a file held before stays beside it as `path + ".bak"`.
enum class Former { Kept, Dropped };

/// Writes beside the file, syncs, and renames: at every moment `path` holds either the old or the new content, whole. A
/// symbolic link is followed, permissions are kept. Errors: no room, no rights, a folder that is gone; a folder, a
/// device, a pipe, or a link that leads nowhere in its place, which stay as they are.
Result<void> writeWhole(const std::string& path, const std::string& bytes, Former former = Former::Kept);

/// Where writing to a path would end: itself, or what its link leads to. Errors as of writeWhole, before it writes.
Result<std::string> writableFile(const std::string& path);

/// For tests: `fail` is asked before each call that writes ("create", "chmod", "write", "sync", "close", "link",
/// "backup", "rename") and gives the errno that it shall fail with, 0 to let it be. Empty: all are made.
void failWrites(std::function<int(const char* call)> fail);

} // namespace gabarit::store
