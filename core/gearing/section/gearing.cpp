#include "gearing/section/gearing.h"

#include "model/describe.h"

namespace gabarit::model {

using describe::Member;
using describe::Visitor;

namespace {

constexpr double most_nm = 1e5;
constexpr double fastest_rpm = 200000; // no drive unit turns faster

Member ratio(const char* key, const char* means = "") {
    constexpr double least = 0.05, most = 200;
    return Member(key, means).within(least, most);
}
Member rpm(const char* key, const char* means = "", double least = 0) {
    return Member(key, means).within(least, fastest_rpm);
}

} // namespace

const Gearing* gearingOf(const Project& project) {
    const auto* its = project.sections.get<Gearing>();
    return its && whose(project, its->donor) == Whose::Hangs ? its : nullptr;
}

void describe(Visitor& v, Gear& gear) {
    v.type("gear");
    v.text(Member("name").must(), gear.name);
    v.number(ratio("ratio").must().said("ratio"), gear.ratio);
    v.flag(Member("reverse").said("reverse"), gear.reverse);
    v.extras(gear.extras);
}

void describe(Visitor& v, TorquePoint& p) {
    v.type("torque_point");
    v.number(rpm("rpm").must(), p.rpm);
    v.number(Member("torque_nm").within(0, most_nm).must(), p.torque_nm);
    v.extras(p.extras);
}

void describe(Visitor& v, OriginalVehicle& o) {
    v.type("original");
    v.text(Member("name").said("Name"), o.name);
    v.number(Member("mass_kg").within(1, describe::heaviest_kg).said("Mass"), o.mass_kg);
    v.text(Member("tyre").said("Tyre"), o.tyre);
    v.number(ratio("final_drive").said("Final drive"), o.final_drive);
    v.extras(o.extras);
}

void describe(Visitor& v, Gearing& g) {
    constexpr double most_loss = 0.9, fastest_kmh = 1000;
    v.type("gearing");
    v.text(whoseMember(), g.donor);
    v.list(Member("gears").each("gear").inRows().said("Gears; reverse: 1"), g.gears);
    v.number(ratio("transfer_high", "left out: 1").leftOut(1).said("Transfer, high"), g.transfer_high);
    v.number(ratio("transfer_low").said("Transfer, low"), g.transfer_low);
    v.number(ratio("final_drive").said("Final drive"), g.final_drive);
    v.text(Member("tyre", "as on the sidewall: 245/75R16, 31x10.50-15, 7.50-16").said("Tyre, as on its wall"), g.tyre);
    v.number(rpm("max_rpm", "", 1).said("Highest engine speed"), g.max_rpm);
    v.number(Member("mass_kg", "of the vehicle; left out: the axle loads")
                 .within(1, describe::heaviest_kg)
                 .said("Vehicle's mass")
                 .order(1),
             g.mass_kg);
    v.list(Member("torque", "of the engine").each("torque"), g.torque);
    v.number(Member("loss", "crank to wheel; left out: the book's")
                 .within(0, most_loss)
                 .said("Lost on the way, share")
                 .behind()
                 .order(1),
             g.loss);
    v.number(Member("cruise_kmh").within(1, fastest_kmh).said("Cruise"), g.cruise_kmh);
    v.number(rpm("wanted_cruise_rpm", "", 1).said("Wanted then"), g.wanted_cruise_rpm);
    v.object(Member("original", "the vehicle the unit came from").said("The vehicle the unit came from").always(),
             g.original);
    v.text(Member("speedo_tyre", "what the speedometer's drive was made for")
               .heading("The speedometer was made for")
               .said("Tyre")
               .order(200),
           g.speedo_tyre);
    v.number(ratio("speedo_final_drive").said("Final drive").order(200), g.speedo_final_drive);
    v.extras(g.extras);
}

} // namespace gabarit::model

namespace gabarit::gearing {

model::SectionKind section() { return model::sectionKind<model::Gearing>("gearing", "", 75); }

} // namespace gabarit::gearing
