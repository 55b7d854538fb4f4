// Gaps measured on the real thing, held against the planned ones: what the difference says about the plan.
#pragma once

#include "fit/clearance.h"
#include "model/rules.h"
#include "placed/scene.h"

namespace gabarit::fit {

enum class Agreement {
    Agrees,    ///< within what both were measured to
    Differs,   ///< by more than that
    Unknown,   ///< an accuracy is missing, or the planned gap cannot be told
    Elsewhere, ///< measured at another placement
    OutOfDate  ///< a body or the placement has changed since
};

struct MeasuredLine {
    std::size_t index = 0; ///< in project.measured
    std::string name_a;
    std::string name_b;
    double measured_mm = 0;
    std::optional<double> planned_mm;    ///< negative: they overlap in the plan
    std::optional<double> difference_mm; ///< measured − planned
    std::optional<double> accuracy_mm;   ///< of the measurement, both bodies and their meshes, added
    Agreement agreement = Agreement::Unknown;
    std::string reason;
    /// Either body or the placement has changed since: it is told, and judges nothing.
    bool out_of_date = false;
    /// Held against what the planned gap is held against; nothing where the pair is held against no rule, or the gap
    /// was measured elsewhere, or is out of date.
    std::optional<double> limit_mm{};
    std::string rule{};                      ///< of the limit, with its source
    std::optional<double> margin_mm{};       ///< measured − limit
    std::optional<model::Verdict> verdict{}; ///< by its own accuracy; unknown without one
};

/// A body, or the donor as a whole, that would explain the differences if it stood elsewhere than the plan says.
struct Suspect {
    std::optional<model::BodyRef> body; ///< nothing: the donor's whole place
    std::string name;
    Eigen::Vector3d off_vehicle_mm{0, 0, 0}; ///< where it seems to be, less where the plan has it
    double misfit = 0;                       ///< left over, in units of the accuracies squared; smaller explains more
    int explains = 0;                        ///< of the differing lines: how many then agree
    /// How accurately its place was known: the body's accuracy, or the book's for a hanging donor.
    double accuracy_mm = 0;
};

/// Misfits that differ by less than this, one accuracy squared, do not tell two candidates apart.
constexpr double as_likely_misfit = 1;

struct MeasuredReport {
    std::vector<MeasuredLine> lines;
    int differing = 0;
    /// Best explanation first, among equals what was measured worst; empty while everything agrees. One measurement
    /// cannot tell its two bodies apart: then both stand there with the same misfit.
    std::vector<Suspect> suspects;
};

/// Tells how two bodies stand to one another: their shapes, what is cut out of them, and the place of one in the frame
/// of the other, to a thousandth of a millimetre. The same wherever both stand together. Empty when one of them is not
/// there, or its donor does not hang.
std::string gapMark(const model::Project& project, const model::BodyRef& a, const model::BodyRef& b);

/// The donor's hanging accuracy is the book's figure hanging_accuracy_mm; it stands for bodies of unknown accuracy too.
///
/// Each candidate in turn is taken to stand wrong by any amount (a slip of the tape), everything else only as far as it
/// was measured: the displacement d minimises Σ((r − g·d)/σ)² over the lines, with r the difference, g the direction in
/// which the candidate opens the gap, and σ the accuracies of the measurement, the other body and the donor's hanging.
/// Weighted least squares, the smallest d where the lines leave one free. What is left over ranks the candidates.
MeasuredReport measuredAgainstPlanned(const model::Project& project, const placed::Scene& scene,
                                      const model::RuleBook& book);

/// What was measured counts: each pair takes the worse of its planned verdict and that of its measured gap, the report
/// the worst of all.
void hold(ClearanceReport& report, const model::Project& project, const MeasuredReport& measured);

} // namespace gabarit::fit
