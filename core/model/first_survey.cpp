#include "model/first_survey.h"

#include "model/edit.h"
#include "model/reshape.h"

#include <algorithm>

namespace gabarit::model {
namespace {

constexpr double same_place_mm = 1e-6; // below this a place is where it was assumed

/// The donor that is surveyed: the one that hangs, else the first.
std::string donorOwner(const Project& project) {
    if (const Donor* active = activeDonor(project)) return active->id.text;
    return project.donors.empty() ? std::string() : project.donors.front().id.text;
}
std::string ownerOf(const Project& project, const SurveyThing& thing) {
    return thing.donors ? donorOwner(project) : vehicle_owner;
}

bool isPoint(const SurveyThing& thing) { return thing.way == "point"; }

template <class Items>
auto* byEntry(Items* items, const std::string& entry) {
    using Item = std::remove_reference_t<decltype(items->front())>;
    Item* found = nullptr;
    if (items)
        for (Item& item : *items)
            if (item.tape.entry == entry) found = &item;
    return found;
}

/// The tape of what the survey made of a thing; null while it is not there, or no longer bound.
template <class P>
auto* tapeOf(P& project, const SurveyThing& thing) {
    const std::string owner = ownerOf(project, thing);
    decltype(&project.vehicle->bodies.front().tape) tape = nullptr;
    if (isPoint(thing)) {
        auto* donor = findDonor(project, DonorId{owner});
        auto* points = !thing.donors ? (project.vehicle ? &project.vehicle->hard_points : nullptr)
                       : donor       ? &donor->reference_points
                                     : nullptr;
        if (auto* point = byEntry(points, thing.id)) tape = &point->tape;
    } else if (auto* body = byEntry(bodiesOf(project, owner), thing.id)) {
        tape = &body->tape;
    }
    return tape;
}

/// Assumed from what the other entries stand at.
double assumedValue(const Project& project, const FirstSurvey& survey, const SurveyEntryRule& rule) {
    double out = rule.assumed;
    for (const SurveyTerm& term : rule.of) out += term.times * surveyValue(project, survey, term.entry).value;
    return out;
}

/// The same by the book: from answers and the survey's own figures only, whatever was made of it since. What changes
/// in it when an answer comes is what assumed readings follow; so another datum in between does no harm.
double bookValue(const Project& project, const FirstSurvey& survey, const std::string& entry) {
    const SurveyEntryRule* rule = survey.entry(entry);
    const SurveyValue stands = surveyValue(project, survey, entry);
    if (!rule || stands.answered) return stands.value;
    double out = rule->assumed;
    for (const SurveyTerm& term : rule->of) out += term.times * bookValue(project, survey, term.entry);
    return out;
}

const char* massName(const SurveyEntryRule& rule) { return rule.thing == "@engine_mass" ? "Engine" : "Gearbox"; }
const char* massThing(const SurveyEntryRule& rule) { return rule.thing == "@engine_mass" ? "engine" : "gearbox"; }

const Mass* massOf(const Project& project, const SurveyEntryRule& rule) {
    if (const Donor* donor = findDonor(project, DonorId{donorOwner(project)}))
        for (const Mass& mass : donor->masses)
            if (mass.name == massName(rule)) return &mass;
    return nullptr;
}

/// A reading that is assumed, not read.
Reading assumedReading(const FirstSurvey& survey, const std::string& what, int station, double mm) {
    Reading reading{what, station, mm, survey.assumed_accuracy_mm};
    reading.measured.method = Method::Assumed;
    return reading;
}

double standsAt(const Project& project, const FirstSurvey& survey, const std::string& entry) {
    return surveyValue(project, survey, entry).value;
}

using EntryValue = double (*)(const Project&, const FirstSurvey&, const std::string&);
double summed(const Project& project, const FirstSurvey& survey, const SurveySum& sum, EntryValue value) {
    double mm = sum.plus_mm;
    for (const SurveyTerm& term : sum.of) mm += term.times * value(project, survey, term.entry);
    return mm;
}

/// What a thing's readings are as long as they are not read: of the questions', then of its own. `value` tells what an
/// entry counts as.
std::vector<Reading> assumedReadings(const Project& project, const FirstSurvey& survey, const SurveyThing& thing,
                                     EntryValue value) {
    std::vector<Reading> out;
    for (const SurveyQuestion& question : survey.questions)
        for (const SurveyEntryRule& rule : question.entries)
            if (rule.thing == thing.id)
                out.push_back(
                    assumedReading(survey, rule.what, rule.station, rule.times * value(project, survey, rule.id)));
    for (const SurveyReading& reading : thing.readings) {
        out.push_back(assumedReading(survey, reading.what, reading.station, summed(project, survey, reading, value)));
    }
    return out;
}

/// Makes a thing that is not there yet, and what comes with it.
Result<void> make(Project& project, const FirstSurvey& survey, const SurveyThing& thing) {
    if (tapeOf(project, thing)) return {};
    Tape tape;
    tape.way = thing.way;
    tape.entry = thing.id;
    tape.readings = thing.of.empty() ? assumedReadings(project, survey, thing, standsAt) : std::vector<Reading>{};
    const std::string owner = ownerOf(project, thing);
    if (isPoint(thing)) {
        PointId id;
        auto made = withTapePoint(project, owner, thing.name, Eigen::Vector3d::Zero(), {}, id);
        if (!made) return made.error();
        project = std::move(made).value();
        auto& points =
            thing.donors ? findDonor(project, DonorId{owner})->reference_points : project.vehicle->hard_points;
        points.back().role = thing.role;
        points.back().tape = std::move(tape);
    } else {
        Body body;
        body.name = thing.name;
        body.category = thing.category;
        body.closing = thing.closing;
        if (const SurveyThing* other = thing.of.empty() ? nullptr : survey.thing(thing.of))
            if (const Body* first = byEntry(bodiesOf(project, owner), other->id)) tape.of = first->id;
        body.tape = std::move(tape);
        auto made = withBody(project, owner, body);
        if (!made) return made.error();
        project = std::move(made).value();
    }
    project = withTapeApplied(project);
    for (const SurveyThing& other : survey.things)
        if (other.with == thing.id)
            if (const auto done = make(project, survey, other); !done) return done.error();
    return {};
}

/// Masses that stood in the middle of their body go along with it.
void carryMasses(Project& project, const FirstSurvey& survey, const Project& before) {
    Donor* donor = findDonor(project, DonorId{donorOwner(project)});
    const Donor* was = findDonor(before, DonorId{donorOwner(before)});
    if (!donor || !was) return;
    for (const char* entry : {"engine_kg", "gearbox_kg"}) {
        const SurveyEntryRule* rule = survey.entry(entry);
        if (!rule) continue;
        const Body *now = byEntry(&donor->bodies, massThing(*rule)), *then = byEntry(&was->bodies, massThing(*rule));
        if (!now || !then) continue;
        for (Mass& mass : donor->masses)
            if (mass.name == massName(*rule) && (mass.at_mm - then->position_mm).norm() < same_place_mm)
                mass.at_mm = now->position_mm;
    }
}

/// What was assumed from other answers follows them: by as much as the book's figures changed since `before`.
void follow(Project& project, const FirstSurvey& survey, const Project& before) {
    Project out = project;
    for (const SurveyThing& thing : survey.things) {
        Tape* tape = tapeOf(out, thing);
        if (!tape || !thing.of.empty()) continue;
        const std::vector<Reading> was = assumedReadings(before, survey, thing, bookValue);
        const std::vector<Reading> is = assumedReadings(project, survey, thing, bookValue);
        for (std::size_t i = 0; i < is.size(); ++i) {
            Reading* held = findReading(*tape, is[i].what, is[i].station);
            if (held && held->measured.method == Method::Assumed) held->mm += is[i].mm - was[i].mm;
        }
    }
    project = withTapeApplied(out);
}

Placement* placementOf(Project& project) {
    Placement* active = activePlacement(project);
    return active && active->donor.text == donorOwner(project) ? active : nullptr;
}

void hang(Project& project, const FirstSurvey& survey) {
    Placement* placement = placementOf(project);
    if (!placement) return;
    for (const SurveyQuestion& question : survey.questions)
        for (const SurveyEntryRule& rule : question.entries) {
            if (rule.thing == "@place_x") placement->position_mm.x() = assumedValue(project, survey, rule);
            if (rule.thing == "@place_z") placement->position_mm.z() = assumedValue(project, survey, rule);
        }
}

Result<void> setMass(Project& project, const FirstSurvey& survey, const SurveyEntryRule& rule,
                     std::optional<double> kg) {
    Donor* donor = findDonor(project, DonorId{donorOwner(project)});
    if (kg && *kg <= 0) return Error{"a mass is above zero", rule.label, "weigh it, or leave it open"};
    auto& masses = donor->masses;
    const auto at = std::find_if(masses.begin(), masses.end(), [&](const Mass& m) { return m.name == massName(rule); });
    if (at != masses.end()) {
        at->mass_kg = kg;
        return {};
    }
    Mass mass;
    mass.name = massName(rule);
    mass.mass_kg = kg;
    if (const SurveyThing* thing = survey.thing(massThing(rule)))
        if (const Body* body = byEntry(&donor->bodies, thing->id)) mass.at_mm = body->position_mm;
    masses.push_back(std::move(mass));
    return {};
}

} // namespace

const SurveyEntryRule* FirstSurvey::entry(const std::string& id) const {
    for (const SurveyQuestion& question : questions)
        for (const SurveyEntryRule& rule : question.entries)
            if (rule.id == id) return &rule;
    return nullptr;
}
const SurveyThing* FirstSurvey::thing(const std::string& id) const {
    for (const SurveyThing& each : things)
        if (each.id == id) return &each;
    return nullptr;
}

const SurveyScale* FirstSurvey::drawing(const std::string& id) const {
    for (const SurveyScale& each : drawings)
        if (each.id == id) return &each;
    return nullptr;
}
const SurveyQuestion* FirstSurvey::questionOf(const std::string& entry) const {
    for (const SurveyQuestion& question : questions)
        for (const SurveyEntryRule& rule : question.entries)
            if (rule.id == entry) return &question;
    return nullptr;
}
std::vector<const SurveyEntryRule*> FirstSurvey::oneByOne() const {
    std::vector<const SurveyEntryRule*> out;
    for (const bool needed : {true, false})
        for (const SurveyQuestion& question : questions)
            for (const SurveyEntryRule& rule : question.entries)
                if (rule.needed == needed) out.push_back(&rule);
    return out;
}

Result<Project> withStarter(const Project& project, const FirstSurvey& survey, const StarterShape& starter,
                            const std::string& owner, BodyId& id) {
    const auto sum = [&](const SurveySum& of) { return summed(project, survey, of, standsAt); };
    Body body;
    body.name = starter.name;
    body.category = starter.category;
    body.shape = BoxSpec{starter.size_mm};
    body.position_mm = {sum(starter.x), sum(starter.y), sum(starter.z)};
    // Its place and its size are guesses: what comes of them is not believed before they are measured.
    body.accuracy_mm = survey.assumed_accuracy_mm;
    body.measured.method = Method::Assumed;
    auto made = withBody(project, owner, body);
    id = body.id;
    return made;
}

SurveyProportion::SurveyProportion(const Project& project, const FirstSurvey& survey, const SurveyScale* scale) {
    if (!scale) return;
    const auto reckon = [&](const std::vector<SurveyAnchor>& anchors, std::vector<Known>& known) {
        for (const SurveyAnchor& anchor : anchors)
            known.push_back({anchor.at, summed(project, survey, anchor, standsAt)});
        std::stable_sort(known.begin(), known.end(), [](const Known& a, const Known& b) { return a.at < b.at; });
    };
    reckon(scale->across, across_);
    reckon(scale->down, down_);
}

double SurveyProportion::along(const std::vector<Known>& known, double place) {
    if (known.size() < 2) return place;
    auto after = std::find_if(known.begin(), known.end(), [&](const Known& k) { return k.at >= place; });
    // Beyond the ends it goes on as between the last two.
    if (after == known.begin()) ++after;
    if (after == known.end()) --after;
    const Known &a = *(after - 1), &b = *after;
    return b.at > a.at ? a.mm + (b.mm - a.mm) * (place - a.at) / (b.at - a.at) : b.mm;
}

Eigen::Vector2d SurveyProportion::at_mm(const Eigen::Vector2d& place) const {
    return {along(across_, place.x()), along(down_, place.y())};
}

std::optional<std::pair<double, double>> usual(const Project& project, const FirstSurvey& survey,
                                               const SurveyEntryRule& entry) {
    if (entry.usual_least == 0 && entry.usual_most == 0) return std::nullopt;
    const double floor = entry.from_floor ? -surveyValue(project, survey, "ground_down").value : 0;
    return std::pair(entry.usual_least + floor, entry.usual_most + floor);
}

bool farFromUsual(const Project& project, const FirstSurvey& survey, const SurveyEntryRule& entry, double value) {
    const auto between = usual(project, survey, entry);
    return between && (value < between->first || value > between->second);
}

SurveyValue surveyValue(const Project& project, const FirstSurvey& survey, const std::string& id) {
    const SurveyEntryRule* rule = survey.entry(id);
    if (!rule) return {};
    if (rule->thing == "@wheelbase" && project.vehicle && project.vehicle->wheelbase_mm)
        return {*project.vehicle->wheelbase_mm, true};
    if (rule->thing == "@engine_mass" || rule->thing == "@gearbox_mass") {
        if (const Mass* mass = massOf(project, *rule); mass && mass->mass_kg) return {*mass->mass_kg, true};
    } else if (rule->thing == "@place_x" || rule->thing == "@place_z") {
        if (const Placement* placement = activePlacement(project)) {
            const double mm = rule->thing == "@place_x" ? placement->position_mm.x() : placement->position_mm.z();
            return {mm, std::abs(mm - assumedValue(project, survey, *rule)) > same_place_mm};
        }
    } else if (const SurveyThing* thing = survey.thing(rule->thing)) {
        if (const Tape* tape = tapeOf(project, *thing))
            if (const Reading* reading = findReading(*tape, rule->what, rule->station))
                return {reading->mm / rule->times, reading->measured.method != Method::Assumed};
    }
    return {assumedValue(project, survey, *rule), false};
}

Answered answered(const Project& project, const FirstSurvey& survey, const SurveyQuestion& question) {
    std::size_t count = 0;
    for (const SurveyEntryRule& rule : question.entries) count += surveyValue(project, survey, rule.id).answered;
    return count == 0 ? Answered::None : count < question.entries.size() ? Answered::Some : Answered::All;
}

std::vector<std::string> stillNeeded(const Project& project, const FirstSurvey& survey) {
    std::vector<std::string> out;
    for (const SurveyQuestion& question : survey.questions)
        for (const SurveyEntryRule& rule : question.entries)
            if (rule.needed && !surveyValue(project, survey, rule.id).answered) out.push_back(rule.id);
    return out;
}

Result<Project> withAnswer(const Project& original, const FirstSurvey& survey, const std::string& entry,
                           std::optional<double> value, double accuracy_mm, const Provenance& measured) {
    const SurveyEntryRule* rule = survey.entry(entry);
    if (!rule) return Error{"there is no question \"" + entry + "\"", "first survey", "use one of its entries"};
    Project project = original;
    if (!project.vehicle) {
        project.vehicle.emplace();
        project.vehicle->name = "Vehicle";
    }
    const SurveyThing* thing = survey.thing(rule->thing);
    const bool donors = thing ? thing->donors : rule->thing != "@wheelbase";
    if (donors && donorOwner(project).empty()) {
        Donor donor;
        donor.name = "Donor engine";
        project = withDonor(project, std::move(donor));
        hang(project, survey);
    }
    if (rule->thing == "@wheelbase") {
        const Project before = project;
        project.vehicle->wheelbase_mm = value;
        follow(project, survey, before);
    } else if (rule->thing == "@place_x" || rule->thing == "@place_z") {
        Placement* placement = placementOf(project);
        if (!placement) return Error{"the donor does not hang yet", rule->label, "make a placement for it first"};
        const double mm = value.value_or(assumedValue(project, survey, *rule));
        (rule->thing == "@place_x" ? placement->position_mm.x() : placement->position_mm.z()) = mm;
    } else if (!thing) {
        // Its place is the middle of what it is the mass of: that has to be there.
        if (const SurveyThing* of = survey.thing(massThing(*rule)))
            if (const auto made = make(project, survey, *of); !made) return made.error();
        if (const auto set = setMass(project, survey, *rule, value); !set) return set.error();
    } else {
        if (const auto made = make(project, survey, *thing); !made) return made.error();
        const Project before = project;
        Tape* tape = tapeOf(project, *thing);
        Reading* held = tape ? findReading(*tape, rule->what, rule->station) : nullptr;
        if (!tape || !held) return Error{"it was changed by hand since", thing->name, "change it under Bodies"};
        if (value) {
            held->mm = *value * rule->times;
            held->accuracy_mm = accuracy_mm * std::abs(rule->times);
            held->measured.method = Method::Measured; // its picture and the rest stay
            held->measured.date = measured.date;
            held->measured.who = measured.who;
        } else {
            *held = assumedReading(survey, rule->what, rule->station, 0); // its figure comes below
        }
        follow(project, survey, before);
        if (!value) {
            const double assumed = rule->times * assumedValue(project, survey, *rule);
            findReading(*tapeOf(project, *thing), rule->what, rule->station)->mm = assumed;
            project = withTapeApplied(project);
        }
        carryMasses(project, survey, before);
        // Until the donor is placed by hand, it goes where the survey assumes.
        Project probe = original;
        hang(probe, survey);
        const Placement *stood = activePlacement(original), *assumed = activePlacement(probe);
        if (stood && (stood->position_mm - assumed->position_mm).norm() < same_place_mm) hang(project, survey);
        if (isPoint(*thing)) return project;
        const Body* body = byEntry(bodiesOf(project, ownerOf(project, *thing)), thing->id);
        const auto sound = madeFromTape(project, ownerOf(project, *thing), *body);
        if (!sound) return sound.error();
    }
    return project;
}

} // namespace gabarit::model
