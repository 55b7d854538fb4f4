// Bodies and points that follow the tape: made from readings, and made anew when one of them is read again.
#pragma once

#include "model/project.h"

namespace gabarit::model {

/// One reading that a way of taking asks for.
struct TapeSlot {
    const char* what;               ///< Reading::what
    const char* words;              ///< "front face", "face on the {left} side", for sided()
    int axis;                       ///< 0, 1, 2: a place along the owner's x, y or z; −1: a size
    bool at_station;                ///< read again at each station
    std::optional<double> usual_mm; ///< taken when it is not read
};

/// A way of taking something with a tape.
struct TapeWay {
    const char* id; ///< Tape::way
    const char* name;
    const char* text; ///< what is read
    std::vector<TapeSlot> asks;
    int fewest_stations; ///< 0: it has none
};

/// "box" (six faces), "block" (two ends, width, top and bottom of something that stands astride the owner's middle),
/// "rail" (section, and inner face and top at stations), "tunnel", "firewall", "arch" (sheets by stations), "mirror"
/// (the other side's image), "point".
const std::vector<TapeWay>& tapeWays();
const TapeWay* tapeWay(const std::string& id);
const TapeSlot* tapeSlot(const Tape& tape, const Reading& reading);
/// "Front crossmember: top", "Left rail: inner face, station 2".
std::string readingWords(const Project& project, const std::string& owner, const std::string& name, const Tape& tape,
                         const Reading& reading);

/// The points of an owner (the vehicle's hard points, a donor's reference points); null when there is no such owner.
std::vector<HardPoint>* pointsOf(Project& project, const std::string& owner);
const std::vector<HardPoint>* pointsOf(const Project& project, const std::string& owner);
/// The tape of a point or body by its id, and the name of what it belongs to; null when it is not there.
Tape* findTape(Project& project, const std::string& owner, const std::string& id, bool point,
               std::string* name = nullptr);

Reading* findReading(Tape& tape, const std::string& what, int station = 0);
const Reading* findReading(const Tape& tape, const std::string& what, int station = 0);
/// Where the tape's places are read from, owner's frame; zero without a hook. Error when the hook is not there.
Result<Eigen::Vector3d> hook_mm(const Project& project, const std::string& owner, const Tape& tape);

/// The body as its readings give it: shape, place, accuracy (the worst reading's; not known when one is not) and
/// whether something of it is assumed. A rail of two stations is a box section; one of more is filled, with its outer
/// faces true; the others are as their names say. What was moved by hand (`shift_mm`) stays moved. Error when a reading
/// is missing, or two contradict each other ("rear is not behind front").
Result<Body> madeFromTape(const Project& project, const std::string& owner, const Body& body);
Result<HardPoint> madeFromTape(const Project& project, const std::string& owner, const HardPoint& point);

/// All that is bound to readings made anew; what cannot be made stays as it was.
Project withTapeApplied(const Project& project);

/// What a change leaves bound: where readings or hooks changed, bodies and points follow; where a body or point was
/// moved or shaped by hand, its readings are written to what then holds (box, block, point) or it is unbound (the
/// others, which a hand cannot say in readings). `unbound` receives the names of those.
Project withTapeKept(const Project& before, const Project& after, std::vector<std::string>* unbound = nullptr);

/// The project with a reading set (made when it is not there), and what hangs on it made anew. Error when there is
/// neither such a body nor such a point, or the reading makes the shape impossible.
Result<Project> withReading(const Project& project, const std::string& owner, const std::string& id, bool point,
                            const Reading& reading);

/// The project with another point of the owner at a run's coordinate, bound to its readings; `id` receives its id.
Result<Project> withTapePoint(const Project& project, const std::string& owner, const std::string& name,
                              const Eigen::Vector3d& at_mm, const PointId& hook, PointId& id);

/// The project with a body bound to readings of another way, which fill the box round what it was; an empty way unbinds
/// it and leaves it where it is. What it was measured to goes to every reading. Error when there is no such way or
/// body.
Result<Project> withTapeWay(const Project& project, const BodyRef& ref, const std::string& way);

} // namespace gabarit::model
