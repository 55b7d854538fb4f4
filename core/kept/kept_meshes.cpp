#include "kept/kept_meshes.h"

#include <algorithm>
#include <chrono>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <fstream>
#include <unistd.h>

namespace gabarit::kept {
namespace {

namespace fs = std::filesystem;

/// What made the mesh: a digest of the sources of solids and their meshes, and the library's version.
const std::string made_by = GABARIT_MESHES_MADE_BY;
const char* const suffix = ".mesh";
constexpr int tidied_every = 256;                    // a long drag of an edge makes a mesh a step
constexpr std::uint64_t most_triangles = 50'000'000; // more is no mesh of ours

/// FNV-1a, 64 bits: bytes that were damaged are told from those that were written.
std::uint64_t sumOf(const char* bytes, std::size_t size) {
    std::uint64_t sum = 14695981039346656037ull;
    for (std::size_t i = 0; i < size; ++i) sum = (sum ^ static_cast<unsigned char>(bytes[i])) * 1099511628211ull;
    return sum;
}

template <class T>
void put(std::string& out, const T& value) {
    out.append(reinterpret_cast<const char*>(&value), sizeof value);
}
void putText(std::string& out, const std::string& text) {
    put(out, static_cast<std::uint64_t>(text.size()));
    out += text;
}

/// Takes values off the front of bytes; says once and for all when they do not suffice.
class Taker {
public:
    Taker(const char* at, std::size_t left) : at_(at), left_(left) {}
    bool good() const { return good_; }
    bool done() const { return good_ && left_ == 0; }
    template <class T>
    T take() {
        T value{};
        if (const char* bytes = span(sizeof value)) std::memcpy(&value, bytes, sizeof value);
        return value;
    }
    std::string text() {
        const auto size = take<std::uint64_t>();
        const char* bytes = span(size);
        return bytes ? std::string(bytes, size) : std::string();
    }

private:
    const char* span(std::uint64_t size) {
        good_ = good_ && size <= left_;
        if (!good_) return nullptr;
        const char* its = at_;
        at_ += size;
        left_ -= size;
        return its;
    }
    const char* at_;
    std::size_t left_;
    bool good_ = true;
};

std::string bytesOf(const std::string& key, const shape::MeshedSolid& solid) {
    std::string out;
    putText(out, made_by);
    putText(out, key);
    put(out, solid.deflection_mm);
    put(out, static_cast<std::uint64_t>(solid.mesh.points.size()));
    for (const Eigen::Vector3d& p : solid.mesh.points)
        for (int i = 0; i < 3; ++i) put(out, p[i]);
    put(out, static_cast<std::uint64_t>(solid.mesh.triangles.size()));
    for (const shape::Triangle& t : solid.mesh.triangles)
        for (const int corner : t.corner) put(out, static_cast<std::int32_t>(corner));
    put(out, sumOf(out.data(), out.size()));
    return out;
}

std::optional<shape::MeshedSolid> solidOf(const std::string& bytes, const std::string& key) {
    const std::size_t sum_size = sizeof(std::uint64_t);
    if (bytes.size() < sum_size) return std::nullopt;
    const std::size_t size = bytes.size() - sum_size;
    if (Taker(bytes.data() + size, sum_size).take<std::uint64_t>() != sumOf(bytes.data(), size)) return std::nullopt;
    Taker from(bytes.data(), size);
    if (from.text() != made_by || from.text() != key) return std::nullopt;
    shape::MeshedSolid out;
    out.deflection_mm = from.take<double>();
    const auto points = from.take<std::uint64_t>();
    if (points > most_triangles) return std::nullopt;
    for (std::uint64_t i = 0; i < points && from.good(); ++i) {
        Eigen::Vector3d p;
        for (int k = 0; k < 3; ++k) p[k] = from.take<double>();
        out.mesh.points.push_back(p);
    }
    const auto triangles = from.take<std::uint64_t>();
    if (triangles > most_triangles) return std::nullopt;
    bool there = true;
    for (std::uint64_t i = 0; i < triangles && from.good(); ++i) {
        shape::Triangle t;
        for (int& corner : t.corner) {
            corner = from.take<std::int32_t>();
            there = there && corner >= 0 && static_cast<std::uint64_t>(corner) < points;
        }
        out.mesh.triangles.push_back(t);
    }
    return from.done() && there ? std::optional(std::move(out)) : std::nullopt;
}

} // namespace

std::string usualFolder() {
    const char* cache = std::getenv("XDG_CACHE_HOME");
    if (cache && *cache == '/') return std::string(cache) + "/gabarit/meshes";
    const char* home = std::getenv("HOME");
    return home && *home == '/' ? std::string(home) + "/.cache/gabarit/meshes" : std::string();
}

std::shared_ptr<proximity::MeshKeeper> usual() { return std::make_shared<KeptMeshes>(usualFolder()); }

KeptMeshes::KeptMeshes(std::string folder, std::uintmax_t largest_bytes)
    : folder_(std::move(folder)), largest_bytes_(largest_bytes) {}

std::string KeptMeshes::fileOf(const std::string& key) const {
    static const char* const digits = "0123456789abcdef";
    const std::string whole = made_by + key;
    const std::uint64_t sum = sumOf(whole.data(), whole.size());
    std::string name;
    for (int shift = 60; shift >= 0; shift -= 4) name += digits[(sum >> shift) & 15];
    return folder_ + "/" + name + suffix;
}

std::optional<shape::MeshedSolid> KeptMeshes::find(const std::string& key) {
    if (folder_.empty()) return std::nullopt;
    const std::string file = fileOf(key);
    std::error_code none;
    const auto size = fs::file_size(file, none);
    if (none || size > largest_bytes_ || !fs::is_regular_file(file, none)) return std::nullopt;
    std::ifstream in(file, std::ios::binary);
    std::string bytes(size, '\0');
    if (!in.read(bytes.data(), static_cast<std::streamsize>(size))) return std::nullopt;
    auto out = solidOf(bytes, key);
    // It was used now; told once a day, for tidy().
    const auto now = fs::file_time_type::clock::now();
    if (out && now - fs::last_write_time(file, none) > std::chrono::hours(24)) fs::last_write_time(file, now, none);
    return out;
}

void KeptMeshes::keep(const std::string& key, const shape::MeshedSolid& mesh) {
    if (folder_.empty()) return;
    std::error_code none;
    fs::create_directories(folder_, none);
    if (kept_++ % tidied_every == 0) tidy();
    static std::atomic<int> parts{0}; // one of this process, whichever keeper writes it
    const std::string file = fileOf(key);
    const std::string part = file + "." + std::to_string(getpid()) + "-" + std::to_string(++parts);
    const std::string bytes = bytesOf(key, mesh);
    {
        std::ofstream out(part, std::ios::binary | std::ios::trunc);
        out.write(bytes.data(), static_cast<std::streamsize>(bytes.size()));
        out.close();
        if (!out) {
            fs::remove(part, none);
            return;
        }
    }
    fs::rename(part, file, none);
    if (none) fs::remove(part, none);
}

void KeptMeshes::tidy() {
    struct Kept {
        fs::file_time_type used;
        std::uintmax_t bytes;
        fs::path path;
    };
    std::vector<Kept> all;
    std::uintmax_t sum = 0;
    std::error_code none;
    for (fs::directory_iterator at(folder_, none), end; !none && at != end; at.increment(none)) {
        std::error_code gone; // another program may be at it too
        // Meshes, and what is left of one whose writing was cut off; nothing else is ours to take.
        const bool ours = at->path().filename().string().find(suffix) != std::string::npos;
        if (!ours || !at->is_regular_file(gone) || gone) continue;
        const auto bytes = at->file_size(gone);
        const auto used = at->last_write_time(gone);
        if (gone) continue;
        all.push_back({used, bytes, at->path()});
        sum += bytes;
    }
    std::sort(all.begin(), all.end(), [](const Kept& a, const Kept& b) { return a.used < b.used; });
    for (const Kept& its : all) {
        if (sum <= largest_bytes_) break;
        fs::remove(its.path, none);
        sum -= its.bytes;
    }
}

} // namespace gabarit::kept
