// Meshes of solids, kept between runs in files beside the user's cache.
#pragma once

#include "proximity/collider_cache.h"

#include <atomic>
#include <cstdint>

namespace gabarit::kept {

/// `$XDG_CACHE_HOME/gabarit/meshes`, else `~/.cache/gabarit/meshes` (XDG Base Directory); empty when neither is known.
std::string usualFolder();

/// One file a mesh, named by what it was made from and by the sources that made it, which it also holds in full: a mesh
/// of other sources, another shape or other bytes than were written is none. Nothing here is an error: a cache that
/// cannot be read or written only saves no time. Thread-safe, and for several programs at once.
class KeptMeshes : public proximity::MeshKeeper {
public:
    /// `folder`: made when the first is kept; empty: nothing is kept. Beyond `largest_bytes` those go that were longest
    /// unused, looked for at the first that is kept and now and then.
    explicit KeptMeshes(std::string folder, std::uintmax_t largest_bytes = 64u << 20);

    std::optional<shape::MeshedSolid> find(const std::string& key) override;
    void keep(const std::string& key, const shape::MeshedSolid& mesh) override;

private:
    std::string fileOf(const std::string& key) const;
    void tidy();

    std::string folder_;
    std::uintmax_t largest_bytes_;
    std::atomic<int> kept_{0};
};

/// In the usual folder.
std::shared_ptr<proximity::MeshKeeper> usual();

} // namespace gabarit::kept
