#include "session/tries.h"

#include "discipline/sections.h"
#include "model/project.h"
#include "session/session.h"

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

constexpr std::size_t most_tries = 500;
constexpr double same_mm = 0.5, same_deg = 0.05; // finer than a jack can be set

bool same(const model::Placement& a, const model::Placement& b) {
    const auto alike = [](double x, double y) { return std::abs(x - y) <= same_deg; };
    return a.donor == b.donor && (a.position_mm - b.position_mm).norm() <= same_mm &&
           alike(a.angles.yaw_deg, b.angles.yaw_deg) && alike(a.angles.pitch_deg, b.angles.pitch_deg) &&
           alike(a.angles.roll_deg, b.angles.roll_deg);
}

std::uint64_t restOf(const model::Project& project) {
    std::vector<std::string> sections = discipline::sectionNames();
    sections.erase(std::remove(sections.begin(), sections.end(), "pose"), sections.end());
    return discipline::SectionMarks(project).of(sections);
}

} // namespace

Tries::Tries(Session& session, QObject* parent) : QObject(parent), session_(session) {
    connect(&session_, &Session::projectReplaced, this, [this] {
        tries_.clear();
        now_ = 0;
        emit changed();
    });
    connect(&session_, &Session::settled, this, &Tries::note);
}

const Try* Tries::now() const {
    for (const Try& each : tries_)
        if (each.id == now_) return &each;
    return nullptr;
}

bool Tries::holds(const Try& which) const { return now() && now()->rest == which.rest; }

void Tries::goTo(int id) {
    const auto known = std::find_if(tries_.begin(), tries_.end(), [&](const Try& t) { return t.id == id; });
    if (known == tries_.end() || id == now_ || !session_.hasProject()) return;
    model::Project changed = *session_.project();
    for (model::Placement& placement : changed.placements) {
        if (placement.id != known->placement.id) continue;
        // Its forms and its notes stay as they are now: only where it hangs goes back.
        placement.position_mm = known->placement.position_mm;
        placement.angles = known->placement.angles;
        changed.active_placement = placement.id;
        return session_.change(tr("back to: %1").arg(known->words), std::move(changed));
    }
    emit session_.notice(tr("That placement was taken out since: there is nothing to go back to."), true);
}

void Tries::note() {
    const auto reports = session_.reports();
    if (!reports || !reports->complete || reports->project != session_.project()) return;
    const model::Placement* placement = model::activePlacement(*reports->project);
    if (!placement) return;
    Try noted{0, {}, *placement, restOf(*reports->project), 0};
    for (const study::Finding& finding : reports->findings)
        noted.no_go += finding.a && finding.b && finding.verdict == model::Verdict::NoGo;
    const auto known = std::find_if(tries_.begin(), tries_.end(), [&](const Try& t) {
        return t.placement.id == noted.placement.id && same(t.placement, noted.placement);
    });
    if (known != tries_.end()) {
        // It hangs there again: its place in the row stays, its figures are new.
        known->rest = noted.rest;
        known->no_go = noted.no_go;
        known->placement = noted.placement;
        now_ = known->id;
        emit changed();
        return;
    }
    noted.words =
        tries_.empty() || session_.history().undoText().isEmpty() || tries_.back().placement.id != noted.placement.id
            ? QString::fromStdString(placement->name)
            : session_.history().undoText();
    noted.id = next_++;
    now_ = noted.id;
    if (tries_.size() >= most_tries) tries_.erase(tries_.begin());
    tries_.push_back(std::move(noted));
    emit changed();
}

std::optional<int> Tries::noGoAt(const model::Placement& placement) const {
    for (const Try& each : tries_)
        if (each.id != now_ && holds(each) && same(each.placement, placement)) return each.no_go;
    return std::nullopt;
}

} // namespace gabarit::app

#include "moc_tries.cpp"
