// The members of every structure of a project, each described once (describe/visitor.h). docs/format.md's tables and
// data/schema/ are made from it; so are reading, writing, checks of ranges, following of names and moves of the datum.
#pragma once

#include "describe/visitor.h"
#include "model/project.h"

namespace gabarit::model {

/// What a list of bodies may hold: many times what a swap has, and still judged within half a minute.
constexpr std::size_t most_bodies = 2000;

struct FirstSurvey;

void describe(describe::Visitor& v, Project& project);
void describe(describe::Visitor& v, Vehicle& vehicle);
void describe(describe::Visitor& v, Donor& donor);
void describe(describe::Visitor& v, Body& body);
void describe(describe::Visitor& v, HardPoint& point);
void describe(describe::Visitor& v, ServicedBolt& bolt);
void describe(describe::Visitor& v, Choice& choice);
void describe(describe::Visitor& v, MotionSpec& motion);
void describe(describe::Visitor& v, Springs& springs);
void describe(describe::Visitor& v, Stance& stance);
void describe(describe::Visitor& v, Mass& mass);
void describe(describe::Visitor& v, Placement& placement);
void describe(describe::Visitor& v, Rocking& rocking);
void describe(describe::Visitor& v, ShapeSpec& shape);
void describe(describe::Visitor& v, Angles& angles);
void describe(describe::Visitor& v, Provenance& measured);
void describe(describe::Visitor& v, Tape& tape);
void describe(describe::Visitor& v, AreaMark& area);
void describe(describe::Visitor& v, OutgoingDimension& dimension);
void describe(describe::Visitor& v, FreeVolume& volume);
void describe(describe::Visitor& v, Condition& condition);
void describe(describe::Visitor& v, Joined& pair);
void describe(describe::Visitor& v, Isolator& isolator);
void describe(describe::Visitor& v, RuleRow& row);
void describe(describe::Visitor& v, Figure& figure);
void describe(describe::Visitor& v, RuleChoice& rules);
void describe(describe::Visitor& v, RuleBook& book);
void describe(describe::Visitor& v, FirstSurvey& survey);
/// Figures, cautions, tubes, sheets and isolators of a further table, added to the book.
void describeMore(describe::Visitor& v, RuleBook& book);

/// The ± of a measurement in mm.
describe::Member accuracyMember(const char* means = "±; left out: not known");

/// The donor that an entry belongs to.
describe::Member whoseMember();

/// A member that is a body by "owner/body".
void bodyRef(describe::Visitor& v, describe::Member member, BodyRef& ref);
void bodyRefs(describe::Visitor& v, const describe::Member& member, std::vector<BodyRef>& refs);
/// A member that is a list of ids of the owner's bodies.
void bodyIds(describe::Visitor& v, const describe::Member& member, std::vector<BodyId>& ids);

// The words of each choice, in the order of its values.
const describe::Words& words(Standing);
const describe::Words& words(Method);
const describe::Words& words(Suspension);
const describe::Words& words(MassFrom);
const describe::Words& words(Axis);
const describe::Words& words(Orientation);
const describe::Words& words(Pivot);
const describe::Words& words(MotionKind);
const describe::Words& words(End);
const describe::Words& words(DriveSide);
const describe::Words& words(AreaState);
const describe::Words& words(OutgoingMark);
const describe::Words& words(ConditionKind);

} // namespace gabarit::model
