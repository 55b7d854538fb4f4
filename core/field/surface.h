// How far a point lies from a body's surface, and on which side.
#pragma once

#include "proximity/collider.h"

#include <array>
#include <limits>
#include <optional>

namespace gabarit::field {

/// Read-only once built; shared between threads. Points in the body's frame, mm.
class Surface {
public:
    explicit Surface(std::shared_ptr<const proximity::Collider> body);

    struct Foot {
        double distance_mm = 0;          ///< not below zero
        Eigen::Vector3d point{0, 0, 0};  ///< of the surface
        Eigen::Vector3d normal{0, 0, 0}; ///< outward there, of any length above zero
    };
    /// The nearest point of the surface; nothing when it is farther away than that.
    std::optional<Foot> nearest(const Eigen::Vector3d& point_mm,
                                double range_mm = std::numeric_limits<double>::infinity()) const;
    /// The distance, below zero inside; nothing when the surface is farther away than the range. Of a body that is not
    /// closed there is no inside: it is never below zero.
    ///
    /// The side is that of the surface's normal at the nearest point; at an edge or a corner that of the normals there
    /// weighted by their angles (Bærentzen and Aanæs 2005).
    std::optional<double> distance_mm(const Eigen::Vector3d& point_mm,
                                      double range_mm = std::numeric_limits<double>::infinity()) const;
    /// Whether it has an inside.
    bool closed() const { return closed_; }
    const proximity::Collider& body() const { return *body_; }
    const Eigen::AlignedBox3d& bounds() const { return body_->bounds(); }

private:
    struct Face {
        std::array<Eigen::Vector3d, 3> corner;
        Eigen::Vector3d normal;                                    ///< of length 1; zero of one without an area
        std::array<Eigen::Vector3d, 3> corner_normal, edge_normal; ///< an edge goes from its corner to the next
    };
    struct Node {
        Eigen::AlignedBox3d box;
        int first = 0; ///< of a leaf its first face, else its first child; the other one is the next
        int count = 0; ///< faces of a leaf; 0: not a leaf
    };
    struct Found;
    void build(std::size_t node, int first, int last);
    void search(const Node& node, const Eigen::Vector3d& point, Found& found) const;

    std::shared_ptr<const proximity::Collider> body_;
    bool closed_;
    std::vector<Face> faces_;
    std::vector<Node> nodes_;
};

} // namespace gabarit::field
