// The section "relief": where metal is cut to make room, and what is made to close it again.
#pragma once

#include "model/holds.h"
#include "model/sections.h"

namespace gabarit::model {

enum class PocketForm {
    Box,       ///< of bent plate, with cheeks at its sides
    HalfRound, ///< of a tube cut lengthways
    Step,      ///< across the full width of the section
    Recess,    ///< formed into a sheet, with rounded corners
};

/// Room cut out of a body of the vehicle and closed again. Its lengths are those of the free room, its frame is the
/// body's own: it goes where the body goes.
struct Pocket {
    std::string id;
    std::string name;
    BodyId body; ///< of the vehicle
    PocketForm form = PocketForm::Box;
    std::vector<BodyRef> intruders; ///< what it is made for
    Eigen::Vector3d at_mm{0, 0, 0}; ///< middle of its mouth
    Eigen::Vector3d into{0, 0, -1}; ///< into the metal, any length above zero
    Eigen::Vector3d along{0, 1, 0}; ///< its length; made square to `into`
    double length_mm = 0;           ///< at its bottom, between its ends; of a half-round the tube's inside diameter
    double width_mm = 0;            ///< across
    double depth_mm = 0;            ///< from its mouth
    double flank_deg = 0;           ///< how far its ends lean outwards; not of a half-round or a recess
    double corner_mm = 0;           ///< inside radius of its bends; of a recess that of its corners
    double plate_mm = 0;            ///< thickness of what closes it
    double doubler_mm = 0;          ///< thickness of a strap on the far face; 0: none
    double doubler_over_mm = 0;     ///< how far it reaches beyond the mouth at either end
    std::string material;           ///< of the book's sheets; empty: the first
    bool open = false;              ///< planned to stay open: not closed again
    bool set_aside = false;         ///< kept to compare: not counted
    /// As made: what was measured.
    std::optional<double> measured_length_mm, measured_width_mm, measured_depth_mm;
    std::string part; ///< its id in the list of parts
    std::string note;
    std::vector<HoldSigned> holds;
    Extras extras;
};

enum class KeptKind { Drain, Access, Bolt, Seam };
/// A hole or seam of a body that a cut has to mind.
struct KeptHole {
    std::string id;
    std::string name;
    KeptKind kind = KeptKind::Drain;
    BodyId body;                    ///< of the vehicle
    Eigen::Vector3d at_mm{0, 0, 0}; ///< body's own frame
    double diameter_mm = 0;         ///< 0: a seam
    std::string note;
    Extras extras;
};

/// What a tube's end is cut to fit.
enum class EndOnto { Square, Plate, Tube };
struct TubeEnd {
    EndOnto onto = EndOnto::Square;
    double diameter_mm = 0; ///< of the tube it sits on, outside
    double angle_deg = 90;  ///< between the two axes, or between its axis and the plate
    double offset_mm = 0;   ///< its axis passes the other's at that distance, to the right of its mark seen outwards
    double turn_deg = 0;    ///< of its mark about the axis, seen from the first end, from the mark on top
    Extras extras;
};
/// A straight tube cut at both ends.
struct CutTube {
    std::string id;
    std::string name;
    double diameter_mm = 0; ///< outside
    double wall_mm = 0;
    double length_mm = 0; ///< along its axis, from one end's middle to the other's: the axis of the tube it sits on,
                          ///< the face of a plate, a square end
    TubeEnd first, second;
    std::optional<double> count; ///< how many are made
    std::string material;
    std::string note;
    Extras extras;
};

/// A hole of a plate, in its own plane.
struct PlateHole {
    std::string name; ///< "bolt", "bore", "coolant"
    Eigen::Vector2d at_mm{0, 0};
    double diameter_mm = 0;
    bool tapped = false;
    Extras extras;
};
enum class PlateUse { Blanking, Adapter };
/// A flat plate that takes a hole pattern over: from a pad, from a unit that was removed, or from one to another.
struct PatternPlate {
    std::string id;
    std::string name;
    PlateUse use = PlateUse::Blanking;
    std::string from;             ///< "mount/pad" or "mount/stand" whose pattern it takes; empty: only its own holes
    std::string to;               ///< of an adapter: the other one
    double turn_deg = 0;          ///< of the second pattern against the first
    Eigen::Vector2d to_mm{0, 0};  ///< middle of the second pattern from the first's
    std::vector<PlateHole> holes; ///< bore, ports and holes of its own
    std::optional<double> thickness_mm; ///< not given: the book's
    std::optional<double> edge_mm;      ///< metal left round its holes; not given: the book's
    std::optional<double> replaces_mm;  ///< thickness of the flange that it takes the place of
    std::optional<double> seal_mm;      ///< of its gasket, compressed
    std::optional<double> bolt_mm;      ///< length of the bolts that were in it, under the head
    std::string material;
    std::optional<double> count;
    std::string note;
    Extras extras;
};

struct Relief {
    std::vector<Pocket> pockets;
    std::vector<KeptHole> holes;
    std::vector<CutTube> tubes;
    std::vector<PatternPlate> plates;
    Extras extras;
};

/// The pockets of one of the vehicle's bodies that count, in their order.
std::vector<Pocket> pocketsOf(const Relief& relief, const BodyId& body);
/// Equal for pockets that make the same solid.
std::string pocketKey(const Pocket& pocket);

const describe::Words& words(PocketForm);
const describe::Words& words(KeptKind);
const describe::Words& words(EndOnto);
const describe::Words& words(PlateUse);

void describe(describe::Visitor& v, Relief& relief);
/// What is wrong with several of its members together.
void refuse(const Relief& relief, Refusals& found);
void describe(describe::Visitor& v, Pocket& pocket);
void describe(describe::Visitor& v, KeptHole& hole);
void describe(describe::Visitor& v, CutTube& tube);
void describe(describe::Visitor& v, PatternPlate& plate);

} // namespace gabarit::model

namespace gabarit::relief {

model::SectionKind section();

} // namespace gabarit::relief
