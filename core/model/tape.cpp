#include "model/tape.h"

#include "model/edit.h"
#include "model/reshape.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace gabarit::model {
namespace {

using Eigen::Vector2d;
using Eigen::Vector3d;

constexpr double usual_wall_mm = 3;
constexpr double usual_sheet_mm = 1.2;
constexpr double same_mm = 1e-6; // below this two places are one
constexpr int x = 0, y = 1, z = 2, size = -1;

std::vector<std::string> ownersOf(const Project& project) {
    std::vector<std::string> out;
    if (project.vehicle) out.emplace_back(vehicle_owner);
    for (const Donor& donor : project.donors) out.push_back(donor.id.text);
    return out;
}

/// Takes readings out of a tape by their slots; the first thing wrong is kept.
class Reader {
public:
    Reader(const Project& project, std::string owner, const Tape& tape, const TapeWay& way, const Vector3d& hook,
           std::string name)
        : project_(project), owner_(std::move(owner)), tape_(tape), way_(way), hook_(hook), name_(std::move(name)) {}

    double operator()(const char* what, int station = 0) {
        const auto slot = std::find_if(way_.asks.begin(), way_.asks.end(),
                                       [&](const TapeSlot& s) { return std::string(s.what) == what; });
        const Reading* reading = findReading(tape_, what, station);
        if (!reading) {
            if (!slot->usual_mm)
                refuse("its reading \"" + words(what) + "\"" + atStation(station) + " is missing",
                       "read it, or enter what you assume");
            return slot->usual_mm.value_or(0);
        }
        return reading->mm + (slot->axis >= 0 ? hook_[slot->axis] : 0);
    }
    /// The difference of two, which must be above zero.
    double span(const char* low, const char* high, int station = 0) {
        const double from = (*this)(low, station), to = (*this)(high, station);
        if (!error_ && to - from < same_mm)
            refuse("its reading \"" + words(high) + "\"" + atStation(station) + " is not beyond \"" + words(low) + "\"",
                   "check both and their signs: rearward, " + sided(project_, "{to_right}", owner_) +
                       " and up are positive");
        return to - from;
    }
    double positive(const char* what, int station = 0) {
        const double mm = (*this)(what, station);
        if (!error_ && mm < same_mm)
            refuse("its reading \"" + words(what) + "\"" + atStation(station) + " is not above zero", "read it again");
        return mm;
    }
    /// Stations in the order of their places.
    std::vector<int> stations() {
        std::set<int> numbers;
        for (const Reading& reading : tape_.readings)
            if (reading.station > 0) numbers.insert(reading.station);
        std::vector<int> out(numbers.begin(), numbers.end());
        if (static_cast<int>(out.size()) < way_.fewest_stations)
            refuse("it has fewer than " + std::to_string(way_.fewest_stations) + " stations", "read another one");
        std::stable_sort(out.begin(), out.end(), [this](int a, int b) { return (*this)("at", a) < (*this)("at", b); });
        for (std::size_t i = 1; i < out.size(); ++i)
            if (!error_ && (*this)("at", out[i]) - (*this)("at", out[i - 1]) < 1)
                refuse("two of its stations are at one place", "set them at least 1 mm apart");
        return out;
    }
    void refuse(std::string what, std::string mend) {
        if (!error_) error_ = Error{std::move(what), name_, std::move(mend)};
    }
    const std::optional<Error>& error() const { return error_; }

private:
    std::string words(const char* what) const {
        for (const TapeSlot& slot : way_.asks)
            if (std::string(slot.what) == what) return sided(project_, slot.words, owner_);
        return what;
    }
    static std::string atStation(int station) { return station == 0 ? "" : " at station " + std::to_string(station); }
    const Project& project_;
    std::string owner_;
    const Tape& tape_;
    const TapeWay& way_;
    Vector3d hook_;
    std::string name_;
    std::optional<Error> error_;
};

void makeBox(Reader& read, Body& out) {
    const Vector3d sides(read.span("front", "rear"), read.span("left", "right"), read.span("bottom", "top"));
    out.position_mm = Vector3d(read("front"), read("left"), read("bottom")) + sides / 2;
    out.shape = BoxSpec{sides};
}

void makeBlock(Reader& read, Body& out) {
    const Vector3d sides(read.span("front", "rear"), read.positive("width"), read.span("bottom", "top"));
    out.position_mm = Vector3d(read("front") + sides.x() / 2, read("off"), read("bottom") + sides.z() / 2);
    out.shape = BoxSpec{sides};
}

void makeRail(Reader& read, Body& out) {
    const double width = read.positive("width"), height = read.positive("height"), wall = read.positive("wall");
    if (2 * wall >= std::min(width, height))
        read.refuse("its wall leaves no section", "check it against its width and height");
    const std::vector<int> stations = read.stations();
    if (read.error()) return;
    const double side = read("inner", stations.front()) < 0 ? -1 : 1; // the section lies outward of its inner face
    const auto inner = [&](int s) { return read("inner", s); };
    if (stations.size() == 2) {
        const auto middle = [&](int s) {
            return Vector3d(read("at", s), inner(s) + side * width / 2, read("top", s) - height / 2);
        };
        out.shape = ProfileSpec{RectTubeSection{width, height, wall}, middle(stations[0]), middle(stations[1]), 0};
        return;
    }
    SheetSpec spec{Axis::X, {}, height};
    for (const int s : stations) {
        const double a = std::min(inner(s), inner(s) + side * width), bottom = read("top", s) - height;
        spec.stations.push_back({read("at", s), {{a, bottom}, {a + width, bottom}}});
    }
    out.shape = std::move(spec);
}

void makeTunnel(Reader& read, Body& out) {
    SheetSpec spec{Axis::X, {}, read.positive("thickness")};
    for (const int s : read.stations()) {
        const double half = read.positive("width", s) / 2, middle = read("off", s);
        read.span("bottom", "top", s);
        const double low = read("bottom", s), high = read("top", s);
        spec.stations.push_back(
            {read("at", s),
             {{middle - half, low}, {middle - half, high}, {middle + half, high}, {middle + half, low}}});
    }
    out.shape = std::move(spec);
}

void makeFirewall(Reader& read, Body& out) {
    SheetSpec spec{Axis::Z, {}, read.positive("thickness")};
    const double half = read.positive("width") / 2;
    // Walked from right to left, so that the metal lies behind the face that was read.
    for (const int s : read.stations())
        spec.stations.push_back(
            {read("at", s), {{read("right", s), half}, {read("centre", s), 0}, {read("left", s), -half}}});
    out.shape = std::move(spec);
}

void makeArch(Reader& read, Body& out) {
    SheetSpec spec{Axis::X, {}, read.positive("thickness")};
    for (const int s : read.stations()) {
        read.span("bottom", "top", s);
        const double inner = read("inner", s), outer = read("outer", s), low = read("bottom", s), high = read("top", s);
        if (std::abs(outer) - std::abs(inner) < same_mm || inner * outer < 0)
            read.refuse("its outer edge is not outside of its inner face", "read both from the centreline");
        std::vector<Vector2d> line{{inner, low}, {inner, high}, {outer, high}};
        if (inner > 0) std::reverse(line.begin(), line.end()); // the metal lies away from the bay
        spec.stations.push_back({read("at", s), std::move(line)});
    }
    out.shape = std::move(spec);
}

/// What a body's readings say of it as a whole.
template <class Item>
void takeOver(Item& item) {
    std::optional<double> worst = 0;
    bool assumed = false, said = false;
    for (const Reading& reading : item.tape.readings) {
        worst = worst && reading.accuracy_mm ? std::optional(std::max(*worst, *reading.accuracy_mm)) : std::nullopt;
        assumed = assumed || reading.measured.method == Method::Assumed;
        said = said || reading.measured.method != Method::NotSaid;
    }
    item.accuracy_mm = worst;
    if (assumed)
        item.measured.method = Method::Assumed;
    else if (said && item.measured.method == Method::Assumed)
        item.measured.method = Method::Measured;
    else if (said && item.measured.method == Method::NotSaid)
        item.measured.method = Method::Measured;
}

bool sameGeometry(const Body& a, const Body& b) {
    return shapeKey(a.shape) == shapeKey(b.shape) && a.position_mm == b.position_mm &&
           a.angles.yaw_deg == b.angles.yaw_deg && a.angles.pitch_deg == b.angles.pitch_deg &&
           a.angles.roll_deg == b.angles.roll_deg;
}

/// The same to within the rounding of a file.
bool alike(const Body& a, const Body& b) {
    if (a.shape.index() != b.shape.index() || (a.position_mm - b.position_mm).norm() > same_mm) return false;
    if (a.angles.yaw_deg != b.angles.yaw_deg || a.angles.pitch_deg != b.angles.pitch_deg ||
        a.angles.roll_deg != b.angles.roll_deg)
        return false;
    if (const auto* box = std::get_if<BoxSpec>(&a.shape))
        return (box->size_mm - std::get<BoxSpec>(b.shape).size_mm).norm() < same_mm;
    return sameGeometry(a, b);
}

void adopt(Body& body, const Body& made) {
    body.shape = made.shape;
    body.position_mm = made.position_mm;
    body.angles = made.angles;
    body.accuracy_mm = made.accuracy_mm;
    body.measured.method = made.measured.method;
}

void put(Tape& tape, const std::string& what, double mm, const std::optional<double>& accuracy_mm) {
    if (Reading* reading = findReading(tape, what)) {
        if (std::abs(reading->mm - mm) < same_mm) return;
        reading->mm = mm;
        reading->measured.method = Method::NotSaid; // a hand is no tape
    } else if (std::abs(mm) >= same_mm) {
        tape.readings.push_back({what, 0, mm, accuracy_mm}); // it was at its usual place, as true as the rest
    }
}

/// Readings of a box or block written from what a hand made of it. False when they cannot say it.
bool readBack(Body& body, const Vector3d& hook) {
    const auto* box = std::get_if<BoxSpec>(&body.shape);
    const Angles& a = body.angles;
    if (!box || a.yaw_deg != 0 || a.pitch_deg != 0 || a.roll_deg != 0) return false;
    const Vector3d low = body.position_mm - box->size_mm / 2 - hook, high = low + box->size_mm;
    Tape& tape = body.tape;
    put(tape, "front", low.x(), body.accuracy_mm);
    put(tape, "rear", high.x(), body.accuracy_mm);
    put(tape, "bottom", low.z(), body.accuracy_mm);
    put(tape, "top", high.z(), body.accuracy_mm);
    if (tape.way == "box") {
        put(tape, "left", low.y(), body.accuracy_mm);
        put(tape, "right", high.y(), body.accuracy_mm);
    } else {
        put(tape, "width", box->size_mm.y(), body.accuracy_mm);
        put(tape, "off", (low.y() + high.y()) / 2, body.accuracy_mm);
    }
    return true;
}

} // namespace

std::vector<HardPoint>* pointsOf(Project& project, const std::string& owner) {
    if (owner == vehicle_owner) return project.vehicle ? &project.vehicle->hard_points : nullptr;
    Donor* donor = findDonor(project, DonorId{owner});
    return donor ? &donor->reference_points : nullptr;
}
const std::vector<HardPoint>* pointsOf(const Project& project, const std::string& owner) {
    if (owner == vehicle_owner) return project.vehicle ? &project.vehicle->hard_points : nullptr;
    const Donor* donor = findDonor(project, DonorId{owner});
    return donor ? &donor->reference_points : nullptr;
}

Tape* findTape(Project& project, const std::string& owner, const std::string& id, bool point, std::string* name) {
    const auto found = [&](auto& item) {
        if (name) *name = item.name;
        return &item.tape;
    };
    if (!point) {
        Body* body = findBody(project, {owner, {id}});
        return body ? found(*body) : nullptr;
    }
    if (std::vector<HardPoint>* points = pointsOf(project, owner))
        for (HardPoint& each : *points)
            if (each.id.text == id) return found(each);
    return nullptr;
}

const std::vector<TapeWay>& tapeWays() {
    static const std::vector<TapeWay> ways{
        {"box",
         "box from six readings",
         "all six faces",
         {{"front", "front face", x, false, {}},
          {"rear", "rear face", x, false, {}},
          {"left", "face on the {left} side", y, false, {}},
          {"right", "face on the {right} side", y, false, {}},
          {"bottom", "bottom", z, false, {}},
          {"top", "top", z, false, {}}},
         0},
        {"block",
         "block astride the middle",
         "both ends, width, bottom and top",
         {{"front", "front end", x, false, {}},
          {"rear", "rear end", x, false, {}},
          {"width", "width across", size, false, {}},
          {"off", "middle off the centreline", y, false, 0},
          {"bottom", "bottom", z, false, {}},
          {"top", "top", z, false, {}}},
         0},
        {"rail",
         "rail from its section and stations",
         "section, and at each station its inner face and its top",
         {{"width", "width of the section", size, false, {}},
          {"height", "height of the section", size, false, {}},
          {"wall", "wall", size, false, usual_wall_mm},
          {"at", "station", x, true, {}},
          {"inner", "inner face", y, true, {}},
          {"top", "top", z, true, {}}},
         2},
        {"tunnel",
         "tunnel from stations",
         "width inside, top and bottom edge at each station",
         {{"thickness", "sheet", size, false, usual_sheet_mm},
          {"at", "station", x, true, {}},
          {"width", "width inside", size, true, {}},
          {"off", "middle off the centreline", y, true, 0},
          {"bottom", "bottom edge", z, true, {}},
          {"top", "top inside", z, true, {}}},
         2},
        {"firewall",
         "firewall from heights",
         "at each height how far back both ends and the middle are",
         {{"thickness", "sheet", size, false, usual_sheet_mm},
          {"width", "width", size, false, {}},
          {"at", "height", z, true, {}},
          {"left", "end on the {left} side", x, true, {}},
          {"centre", "middle", x, true, {}},
          {"right", "end on the {right} side", x, true, {}}},
         2},
        {"arch",
         "wheel arch from stations",
         "inner face, outer edge, bottom and top at each station",
         {{"thickness", "sheet", size, false, usual_sheet_mm},
          {"at", "station", x, true, {}},
          {"inner", "inner face", y, true, {}},
          {"outer", "outer edge", y, true, {}},
          {"bottom", "bottom edge", z, true, {}},
          {"top", "top", z, true, {}}},
         2},
        {"mirror", "the other side's mirror image", "nothing: it follows the other side", {}, 0},
        {"point",
         "point",
         "how far back, aside and up",
         {{"x", "rearward", x, false, {}}, {"y", "{to_right}", y, false, {}}, {"z", "up", z, false, {}}},
         0}};
    return ways;
}

const TapeWay* tapeWay(const std::string& id) {
    for (const TapeWay& way : tapeWays())
        if (id == way.id) return &way;
    return nullptr;
}

const TapeSlot* tapeSlot(const Tape& tape, const Reading& reading) {
    const TapeWay* way = tapeWay(tape.way);
    if (!way) return nullptr;
    for (const TapeSlot& slot : way->asks)
        if (reading.what == slot.what && slot.at_station == (reading.station > 0)) return &slot;
    return nullptr;
}

std::string readingWords(const Project& project, const std::string& owner, const std::string& name, const Tape& tape,
                         const Reading& reading) {
    const TapeSlot* slot = tapeSlot(tape, reading);
    std::string out = name + ": " + sided(project, slot ? slot->words : reading.what, owner);
    if (reading.station > 0) out += ", station " + std::to_string(reading.station);
    return out;
}

Reading* findReading(Tape& tape, const std::string& what, int station) {
    for (Reading& reading : tape.readings)
        if (reading.what == what && reading.station == station) return &reading;
    return nullptr;
}
const Reading* findReading(const Tape& tape, const std::string& what, int station) {
    for (const Reading& reading : tape.readings)
        if (reading.what == what && reading.station == station) return &reading;
    return nullptr;
}

Result<Vector3d> hook_mm(const Project& project, const std::string& owner, const Tape& tape) {
    if (tape.hook.empty()) return Vector3d(0, 0, 0);
    if (const auto* points = pointsOf(project, owner))
        for (const HardPoint& point : *points)
            if (point.id == tape.hook) {
                if (!point.tape.hook.empty())
                    return Error{"the tape hook \"" + point.name + "\" hangs on another hook", owner,
                                 "measure it from the axes and the datum"};
                return point.at_mm;
            }
    return Error{"there is no point \"" + tape.hook.text + "\" to hook the tape on", owner,
                 "name one of the same owner's points or leave it out"};
}

Result<Body> madeFromTape(const Project& project, const std::string& owner, const Body& body) {
    const TapeWay* way = tapeWay(body.tape.way);
    if (!way || body.tape.way == "point")
        return Error{"there is no way of taking a body called \"" + body.tape.way + "\"", body.name,
                     "use one of docs/format.md's list"};
    Body out = body;
    out.angles = {};
    if (body.tape.way == "mirror") {
        const Body* other = findBody(project, {owner, body.tape.of});
        if (!other || other->tape.way == "mirror")
            return Error{"the body that it mirrors is not there, or is itself a mirror image", body.name,
                         "name one of the same owner's bodies"};
        const Body image = mirrored(*other);
        out.shape = image.shape;
        out.position_mm = image.position_mm;
        out.angles = image.angles;
        out.accuracy_mm = image.accuracy_mm;
        out.measured.method = image.measured.method;
        return out;
    }
    const auto hook = hook_mm(project, owner, body.tape);
    if (!hook) return hook.error();
    for (const Reading& reading : body.tape.readings)
        if (!tapeSlot(body.tape, reading))
            return Error{"it has a reading \"" + reading.what + "\" that a " + way->name + " does not ask for",
                         body.name, "correct its name or its station, or take it out"};
    Reader read(project, owner, body.tape, *way, hook.value(), body.name);
    out.position_mm = Vector3d::Zero();
    const std::string id = way->id;
    if (id == "box")
        makeBox(read, out);
    else if (id == "block")
        makeBlock(read, out);
    else if (id == "rail")
        makeRail(read, out);
    else if (id == "tunnel")
        makeTunnel(read, out);
    else if (id == "firewall")
        makeFirewall(read, out);
    else
        makeArch(read, out);
    if (read.error()) return *read.error();
    takeOver(out);
    return out;
}

Result<HardPoint> madeFromTape(const Project& project, const std::string& owner, const HardPoint& point) {
    const TapeWay* way = tapeWay(point.tape.way);
    if (!way || std::string(way->id) != "point")
        return Error{"a point is taken in the way \"point\"", point.name, "correct its way or take it out"};
    const auto hook = hook_mm(project, owner, point.tape);
    if (!hook) return hook.error();
    Reader read(project, owner, point.tape, *way, hook.value(), point.name);
    HardPoint out = point;
    out.at_mm = {read("x"), read("y"), read("z")};
    if (read.error()) return *read.error();
    takeOver(out);
    return out;
}

Project withTapeApplied(const Project& project) {
    Project out = project;
    for (const std::string& owner : ownersOf(project)) {
        for (HardPoint& point : *pointsOf(out, owner))
            if (point.tape.bound())
                if (auto made = madeFromTape(out, owner, point)) point = std::move(made).value();
        for (const bool mirrors : {false, true}) // an image after what it mirrors
            for (Body& body : *bodiesOf(out, owner))
                if (body.tape.bound() && (body.tape.way == "mirror") == mirrors)
                    if (const auto made = madeFromTape(out, owner, body)) adopt(body, made.value());
    }
    return out;
}

Project withTapeKept(const Project& before, const Project& after, std::vector<std::string>* unbound) {
    Project out = after;
    const auto unbind = [&](auto& item) {
        item.tape = {};
        if (unbound) unbound->push_back(item.name);
    };
    for (const std::string& owner : ownersOf(after)) {
        const auto* pointsBefore = pointsOf(before, owner);
        for (HardPoint& point : *pointsOf(out, owner)) {
            if (!point.tape.bound()) continue;
            auto made = madeFromTape(out, owner, point);
            if (!made) continue;
            const HardPoint* was = nullptr;
            if (pointsBefore)
                for (const HardPoint& p : *pointsBefore)
                    if (p.id == point.id) was = &p;
            if (!was || was->at_mm == point.at_mm || (made.value().at_mm - point.at_mm).norm() < same_mm) {
                point = std::move(made).value();
                continue;
            }
            const Vector3d hook = hook_mm(out, owner, point.tape).value();
            for (int axis = 0; axis < 3; ++axis)
                put(point.tape, std::string(1, "xyz"[axis]), point.at_mm[axis] - hook[axis], point.accuracy_mm);
        }
        for (const bool mirrors : {false, true})
            for (Body& body : *bodiesOf(out, owner)) {
                if (!body.tape.bound() || (body.tape.way == "mirror") != mirrors) continue;
                const auto made = madeFromTape(out, owner, body);
                const Body* was = findBody(before, {owner, body.id});
                if (!made) {
                    if (mirrors && !findBody(out, {owner, body.tape.of})) unbind(body); // its other side went
                    continue;
                }
                if (!was || alike(made.value(), body) || sameGeometry(*was, body)) {
                    adopt(body, made.value());
                    continue;
                }
                const bool boxed = body.tape.way == "box" || body.tape.way == "block";
                if (!boxed || !readBack(body, hook_mm(out, owner, body.tape).value())) unbind(body);
            }
    }
    return out;
}

Result<Project> withReading(const Project& project, const std::string& owner, const std::string& id, bool point,
                            const Reading& reading) {
    Project out = project;
    Tape* tape = findTape(out, owner, id, point);
    const Body* body = point ? nullptr : findBody(out, {owner, {id}});
    if (!tape || !tape->bound())
        return Error{"there is nothing bound to readings called \"" + id + "\"", owner, "choose another one"};
    if (Reading* held = findReading(*tape, reading.what, reading.station))
        *held = reading;
    else
        tape->readings.push_back(reading);
    if (body) {
        const auto made = madeFromTape(out, owner, *body);
        if (!made) return made.error();
    }
    return withTapeApplied(out);
}

Result<Project> withTapePoint(const Project& project, const std::string& owner, const std::string& name,
                              const Vector3d& at_mm, const PointId& hook, PointId& id) {
    Project out = project;
    std::vector<HardPoint>* points = pointsOf(out, owner);
    if (!points) return Error{"there is no such owner", owner, "make the vehicle or the donor first"};
    std::vector<std::string> taken;
    for (const HardPoint& p : *points) taken.push_back(p.id.text);
    HardPoint point;
    point.name = name;
    id.text = point.id.text = freshId(name, taken);
    point.at_mm = at_mm;
    point.tape.way = "point";
    point.tape.hook = hook;
    const auto from = hook_mm(out, owner, point.tape);
    if (!from) return from.error();
    for (int axis = 0; axis < 3; ++axis)
        point.tape.readings.push_back({std::string(1, "xyz"[axis]), 0, at_mm[axis] - from.value()[axis], std::nullopt});
    points->push_back(std::move(point));
    return withTapeApplied(out);
}

Result<Project> withTapeWay(const Project& project, const BodyRef& ref, const std::string& wayId) {
    Project out = project;
    Body* body = findBody(out, ref);
    if (!body) return Error{"there is no body \"" + ref.text() + "\"", project.name, "choose one in the list"};
    if (wayId.empty()) {
        body->tape = {};
        return out;
    }
    const TapeWay* way = tapeWay(wayId);
    if (!way || way->asks.empty() || wayId == "point")
        return Error{"there is no way of taking a body called \"" + wayId + "\"", body->name, "use box, block, rail…"};
    Eigen::AlignedBox3d box;
    const Eigen::AlignedBox3d own = extents_mm(body->shape);
    for (int corner = 0; corner < 8; ++corner) {
        const auto which = static_cast<Eigen::AlignedBox3d::CornerType>(corner);
        box.extend(Vector3d(body->poseOwnerBody() * own.corner(which) - body->shift_mm));
    }
    const Vector3d low = box.min(), high = box.max(), extent = box.sizes(), middle = box.center();
    const bool leftward = middle.y() < 0, upright = wayId == "firewall";
    const auto value = [&](const std::string& what, int station) {
        if (what == "front") return low.x();
        if (what == "rear") return high.x();
        if (what == "left") return upright ? low.x() : low.y();
        if (what == "right") return upright ? low.x() : high.y();
        if (what == "centre") return low.x();
        if (what == "bottom") return low.z();
        if (what == "top") return high.z();
        if (what == "width") return extent.y();
        if (what == "height") return extent.z();
        if (what == "inner") return leftward ? high.y() : low.y();
        if (what == "outer") return leftward ? low.y() : high.y();
        if (what == "at" && upright) return station == 1 ? low.z() : high.z();
        if (what == "at") return station == 1 ? low.x() : high.x();
        return middle.y(); // off
    };
    Tape tape;
    tape.way = wayId;
    for (const TapeSlot& slot : way->asks) {
        if (slot.usual_mm && std::string(slot.what) != "off") continue;
        for (int station = slot.at_station ? 1 : 0; station <= (slot.at_station ? way->fewest_stations : 0);
             ++station) {
            Reading reading{slot.what, station, value(slot.what, station), body->accuracy_mm};
            reading.measured = body->measured;
            tape.readings.push_back(std::move(reading));
        }
    }
    body->tape = std::move(tape);
    if (const auto made = madeFromTape(out, ref.owner, *body); !made) return made.error();
    return withTapeApplied(out);
}

} // namespace gabarit::model
