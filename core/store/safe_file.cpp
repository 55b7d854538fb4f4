#include "store/safe_file.h"

#include <algorithm>
#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <ctime>
#include <vector>

#include <dirent.h>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace gabarit::store {
namespace {

const char* const part_suffix = ".part-";
// A save takes well under a minute: what is older was left by one that was killed.
constexpr std::time_t stale_s = 60;

/// What a test makes go wrong; see failWrites.
std::function<int(const char*)>& failing() {
    static std::function<int(const char*)> fail;
    return fail;
}
/// True when the call is to be made; false with errno set when a test lets it fail.
bool may(const char* call) {
    const int code = failing() ? failing()(call) : 0;
    if (code != 0) errno = code;
    return code == 0;
}

class Descriptor {
public:
    explicit Descriptor(int fd) : fd_(fd) {}
    ~Descriptor() { close(); }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    int get() const { return fd_; }
    bool close() {
        const int fd = fd_;
        fd_ = -1;
        return fd < 0 || ::close(fd) == 0;
    }

private:
    int fd_;
};

std::string folderOf(const std::string& path) {
    const auto slash = path.rfind('/');
    if (slash == std::string::npos) return ".";
    return slash == 0 ? "/" : path.substr(0, slash);
}

Error systemError(const std::string& path, const std::string& doing) {
    const int code = errno;
    std::string mend = "check the folder and its permissions";
    if (code == ENOSPC || code == EDQUOT)
        mend = "free some room on the disk, or save elsewhere; nothing was overwritten";
    else if (code == EACCES || code == EROFS || code == EPERM)
        mend = "save into a folder that you may write to; nothing was overwritten";
    else if (code == ENOENT)
        mend = "check the name and the folder";
    return Error{doing + ": " + std::strerror(code), path, mend};
}

/// Takes out what killed saves of this file left beside it.
void sweep(const std::string& path) {
    const auto slash = path.rfind('/');
    const std::string prefix = path.substr(slash == std::string::npos ? 0 : slash + 1) + part_suffix;
    DIR* folder = ::opendir(folderOf(path).c_str());
    if (!folder) return;
    const std::time_t now = std::time(nullptr);
    while (const dirent* entry = ::readdir(folder)) {
        const std::string name = entry->d_name;
        struct stat about {};
        if (name.compare(0, prefix.size(), prefix) == 0 &&
            ::fstatat(::dirfd(folder), name.c_str(), &about, AT_SYMLINK_NOFOLLOW) == 0 && S_ISREG(about.st_mode) &&
            now - about.st_mtime > stale_s)
            ::unlinkat(::dirfd(folder), name.c_str(), 0);
    }
    ::closedir(folder);
}

} // namespace

Result<std::string> readWhole(const std::string& path, std::size_t largest_bytes) {
    Descriptor file(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK)); // a pipe that nobody fills must not hold
    if (file.get() < 0) return systemError(path, "cannot open it");
    struct stat about {};
    if (::fstat(file.get(), &about) != 0) return systemError(path, "cannot look at it");
    if (!S_ISREG(about.st_mode)) return Error{"this is not a file", path, "name a file"};
    if (static_cast<std::size_t>(about.st_size) > largest_bytes)
        return Error{"it is larger than " + std::to_string(largest_bytes >> 20) + " MiB", path,
                     "check that it is the right file"};
    std::string bytes;
    std::vector<char> chunk(1 << 16);
    for (;;) {
        const ssize_t got = ::read(file.get(), chunk.data(), chunk.size());
        if (got < 0 && errno == EINTR) continue;
        if (got < 0) return systemError(path, "cannot read it");
        if (got == 0) return bytes;
        bytes.append(chunk.data(), static_cast<std::size_t>(got));
        if (bytes.size() > largest_bytes) return Error{"it grew while it was read", path, "try again"};
    }
}

void failWrites(std::function<int(const char* call)> fail) { failing() = std::move(fail); }

Result<std::string> writableFile(const std::string& given) {
    struct stat about {};
    if (::lstat(given.c_str(), &about) != 0) return given; // not there yet
    if (S_ISLNK(about.st_mode)) {
        char* resolved = ::realpath(given.c_str(), nullptr);
        if (!resolved) return Error{"it is a link that leads nowhere", given, "take the link away, or name a file"};
        std::string path = resolved;
        std::free(resolved);
        return writableFile(path);
    }
    if (S_ISDIR(about.st_mode)) return Error{"this is a folder", given, "name a file in it"};
    if (!S_ISREG(about.st_mode))
        return Error{"this is a device or a pipe, not a file", given, "name a file: nothing was written"};
    return given;
}

Result<void> writeWhole(const std::string& given, const std::string& bytes, Former former) {
    const auto writable = writableFile(given);
    if (!writable) return writable.error();
    const std::string path = writable.value();
    std::string pattern = path + part_suffix + "XXXXXX";
    Descriptor file(may("create") ? ::mkostemp(pattern.data(), O_CLOEXEC) : -1);
    if (file.get() < 0) return systemError(path, "cannot write into its folder");
    const auto giveUp = [&](const char* doing) -> Result<void> {
        Error error = systemError(path, doing);
        ::unlink(pattern.c_str());
        return error;
    };
    struct stat about {};
    const bool there = ::stat(path.c_str(), &about) == 0;
    mode_t mode = there ? about.st_mode & 07777 : 0;
    if (!there) {
        const mode_t mask = ::umask(0);
        ::umask(mask);
        mode = 0666 & ~mask;
    }
    if (!may("chmod") || ::fchmod(file.get(), mode) != 0) return giveUp("cannot set its permissions");
    for (std::size_t done = 0; done < bytes.size();) {
        constexpr std::size_t piece = 1U << 16U;
        const std::size_t wanted = std::min(piece, bytes.size() - done);
        const ssize_t put = may("write") ? ::write(file.get(), bytes.data() + done, wanted) : -1;
        if (put < 0 && errno == EINTR) continue;
        if (put < 0) return giveUp("cannot write it");
        done += static_cast<std::size_t>(put);
    }
    if (!may("sync") || ::fsync(file.get()) != 0 || !may("close") || !file.close()) return giveUp("cannot write it");
    if (there && former == Former::Kept) {
        const std::string backup = path + ".bak";
        const std::string spare = pattern + ".bak";
        // The link keeps the old content reachable under both names until the rename.
        if (may("link") && ::link(path.c_str(), spare.c_str()) == 0) {
            if (may("backup")) (void)::rename(spare.c_str(), backup.c_str());
            ::unlink(spare.c_str()); // renaming leaves it where both are links to one file already
        }
    }
    if (!may("rename") || ::rename(pattern.c_str(), path.c_str()) != 0)
        return giveUp("cannot put the new file in place");
    sweep(path);
    Descriptor folder(::open(folderOf(path).c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (folder.get() >= 0) ::fsync(folder.get());
    return {};
}

} // namespace gabarit::store
