#include "study/study.h"

namespace gabarit::study {

Reports Study::run(std::shared_ptr<const model::Project> project, const RunOptions& options) {
    Reports reports;
    reports.project = project;
    const model::RuleBook book = model::applied(book_, project->rules);
    reports.scene = fit::makeScene(*project, colliders_, {options.threads, options.stop});
    const auto ask = [&reports](model::Verdict verdict) {
        reports.asked = true;
        reports.verdict = model::worse(reports.verdict, verdict);
    };
    if (fit::isAsked(*project)) {
        fit::ClearanceOptions clearance;
        clearance.depth = options.depth;
        clearance.threads = options.threads;
        clearance.stop = options.stop;
        reports.clearance = fit::clearance(*project, reports.scene, book, &memo_, clearance);
        ask(reports.clearance->verdict);
    }
    if (project->weights) {
        reports.weights = weights::axleLoads(*project);
        ask(reports.weights->verdict);
    }
    if (project->parts) {
        reports.parts = ledger::parts(*project);
        if (reports.parts->verdict) ask(*reports.parts->verdict);
    }
    reports.complete = !options.stop.stopped();
    if (reports.complete) {
        // Two generations: what this run did not ask for goes with the next.
        memo_.gaps.forgetUnused();
        colliders_.forgetUnused();
    }
    reports.findings = collectFindings(reports, book, options.shown);
    reports.gauges = collectGauges(reports, options.shown);
    return reports;
}

} // namespace gabarit::study
