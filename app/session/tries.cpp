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
    connect(&session_, &Session::projectReplaced, this, [this] { tries_.clear(); });
    connect(&session_, &Session::settled, this, &Tries::note);
}

void Tries::note() {
    const auto reports = session_.reports();
    if (!reports || !reports->complete || reports->project != session_.project()) return;
    const model::Placement* placement = model::activePlacement(*reports->project);
    if (!placement) return;
    Try now{*placement, restOf(*reports->project), 0};
    for (const study::Finding& finding : reports->findings)
        now.no_go += finding.a && finding.b && finding.verdict == model::Verdict::NoGo;
    tries_.erase(std::remove_if(tries_.begin(), tries_.end(),
                                [&](const Try& t) { return t.rest == now.rest && same(t.placement, now.placement); }),
                 tries_.end());
    if (tries_.size() >= most_tries) tries_.erase(tries_.begin());
    tries_.push_back(std::move(now));
}

std::optional<int> Tries::noGoAt(const model::Placement& placement) const {
    if (tries_.empty()) return std::nullopt;
    for (std::size_t i = 0; i + 1 < tries_.size(); ++i)
        if (tries_[i].rest == tries_.back().rest && same(tries_[i].placement, placement)) return tries_[i].no_go;
    return std::nullopt;
}

} // namespace gabarit::app

#include "moc_tries.cpp"
