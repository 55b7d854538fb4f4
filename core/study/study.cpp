#include "study/study.h"

#include "discipline/wording.h"
#include "study/in_order.h"

#include <new>
#include <stdexcept>

namespace gabarit::study {

using discipline::Card;
using discipline::Effort;
using discipline::Given;
using discipline::mixed;
using discipline::Report;
using discipline::SectionMarks;

/// What a run is asked, the same for every discipline.
class Asked {
public:
    Asked(const model::Project& its_project, const model::RuleBook& its_book, const RunOptions& its_options,
          const discipline::Board& board)
        : project(its_project), book(its_book), options(its_options), marks(its_project),
          wanted(board.size(), its_options.only.empty()) {
        const auto want = [&](std::size_t i, const auto& again) -> void {
            wanted[i] = true;
            for (const std::size_t before : board.before(i)) again(before, again);
        };
        for (std::size_t i = 0; i < board.size(); ++i)
            if (std::count(options.only.begin(), options.only.end(), board[i].card().id) > 0) want(i, want);
        for (std::size_t i = 0; i < board.size(); ++i)
            in_scene = in_scene || options.only.empty() || (wanted[i] && board[i].card().scene);
    }

    const model::Project& project;
    const model::RuleBook& book;
    const RunOptions& options;
    const SectionMarks marks;
    std::vector<bool> wanted;                   ///< by the board's order
    bool in_scene = false;                      ///< one of them asks where bodies stand
    std::shared_ptr<const placed::Scene> scene; ///< null: it could not be made
    std::string no_scene;                       ///< why
    mutable std::mutex mutex;                   ///< of the reports that are filled in
};

namespace {

/// What bodies stand and are made of.
const std::vector<std::string> scene_reads{"vehicle", "donors", "placement", "pose", "relief"};

/// Nothing that is listed stands beside a better total.
void takeWorst(Reports& reports) {
    const auto ask = [&reports](model::Verdict verdict) {
        reports.asked = true;
        reports.verdict = model::worse(reports.verdict, verdict);
    };
    for (const Kept& kept : reports.all)
        if (kept.report && kept.report->verdict) ask(*kept.report->verdict);
    for (const Finding& finding : reports.findings) {
        if (finding.holds_cutting)
            reports.do_not_cut = true;
        else
            ask(finding.verdict);
    }
}

std::string& throwing() {
    static std::string discipline;
    return discipline;
}

/// Runs what may throw; its words when it did.
template <class Run>
std::optional<std::string> guarded(Run run) {
    try {
        run();
        return std::nullopt;
    } catch (const std::bad_alloc&) { return "there is not enough memory"; } catch (const std::exception& e) {
        return e.what();
    } catch (...) { // a library's own kind: let through, it would end the program
        return "an error that does not say what it is";
    }
}

const discipline::Discipline* disciplineOf(const discipline::Board& board, const Finding& finding) {
    for (std::size_t i = 0; i < board.size(); ++i)
        if (board[i].card().id == finding.discipline) return &board[i];
    return nullptr;
}

discipline::Group groupOf(const discipline::Board& board, const Finding& finding) {
    const discipline::Discipline* its = disciplineOf(board, finding);
    return its ? its->card().group : discipline::Group::Gaps;
}

std::vector<Finding> failedFindings(const Reports& reports) {
    std::vector<Finding> out;
    for (const Failed& failed : reports.failed) {
        Finding f;
        f.id = failed.discipline + ":failed";
        f.discipline = failed.discipline;
        f.verdict = model::Verdict::Unknown;
        f.title = discipline::upperFirst(failed.discipline) + " could not be reckoned";
        f.detail = "It ended with \"" + failed.words + "\": nothing of it is known.";
        f.help = "Please report it with the file. The other figures stand.";
        out.push_back(std::move(f));
    }
    return out;
}

std::uint64_t markOf(const Card& card, const Asked& asked, const discipline::Offers& offers) {
    std::uint64_t mark = asked.marks.of(card.reads);
    for (const std::type_index type : card.needs) mark = mixed(mark, offers.mark(type));
    if (card.scene) mark = mixed(mark, asked.marks.of({"vehicle", "donors", "placement", "relief"}));
    return mark;
}

std::uint64_t withEffort(std::uint64_t mark, discipline::Depth depth, Effort effort) {
    return mixed(mixed(mark, static_cast<std::uint64_t>(depth) + 1), static_cast<std::uint64_t>(effort) + 1);
}

bool readsPose(const Card& card) { return std::find(card.reads.begin(), card.reads.end(), "pose") != card.reads.end(); }

/// The scene as a discipline may see it.
std::shared_ptr<const placed::Scene> seen(const std::shared_ptr<const placed::Scene>& scene, const Card& card) {
    if (readsPose(card)) return scene;
    auto out = std::make_shared<placed::Scene>();
    for (const placed::PlacedBody& body : scene->bodies)
        if (!body.in_donor) out->bodies.push_back(body);
    return out;
}

} // namespace

const Report* Reports::report(const std::string& discipline) const {
    for (const Kept& kept : all)
        if (kept.of == discipline) return kept.report.get();
    return nullptr;
}

void throwIn(const std::string& discipline) { throwing() = discipline; }

Reports givenUp(std::shared_ptr<const model::Project> project, const std::string& words) {
    Reports out;
    out.project = out.moving = std::move(project);
    out.scene = std::make_shared<placed::Scene>();
    out.failed.push_back({"check", words});
    out.complete = true;
    out.findings = failedFindings(out);
    takeWorst(out);
    return out;
}

void Counts::take(const Finding& finding) {
    int& its = finding.holds_cutting                      ? before_cutting
               : finding.verdict == model::Verdict::NoGo  ? no_go
               : finding.verdict == model::Verdict::Close ? close
                                                          : unknown;
    ++its;
}

Counts countsOf(const Reports& reports) {
    Counts out;
    for (const Finding& finding : reports.findings) out.take(finding);
    return out;
}

std::string countWords(const Counts& counts) {
    std::string out;
    const auto say = [&out](int count, const char* words) {
        if (count > 0) out += (out.empty() ? "" : ", ") + std::to_string(count) + words;
    };
    say(counts.no_go, " no-go");
    say(counts.close, " close");
    say(counts.unknown, " to measure");
    say(counts.before_cutting, " before cutting");
    return out;
}

std::vector<GroupState> groupsOf(const Reports& reports, const discipline::Board& board) {
    std::vector<GroupState> out;
    for (const discipline::Group group : discipline::all_groups) {
        GroupState state;
        state.group = group;
        bool any = false;
        for (std::size_t i = 0; i < board.size(); ++i) {
            if (board[i].card().group != group) continue;
            any = true;
            if (const auto verdict = verdictOf(reports, board[i].card().id))
                state.verdict = state.verdict ? model::worse(*state.verdict, *verdict) : verdict;
        }
        if (!any) continue;
        // What is nobody's (a run that was given up) counts in the group that it is listed in.
        for (const Finding& finding : reports.findings)
            if (finding.group == group && !finding.holds_cutting)
                state.verdict = state.verdict ? model::worse(*state.verdict, finding.verdict) : finding.verdict;
        const auto look = [&](const Finding& finding) {
            if (finding.group != group || finding.holds_cutting || finding.verdict != state.verdict) return;
            if (!state.worst || finding.held.margin.value_or(1) < state.worst->held.margin.value_or(1))
                state.worst = &finding;
        };
        for (const Finding& finding : reports.findings) {
            if (finding.group == group) state.counts.take(finding);
            look(finding);
        }
        for (const Finding& finding : reports.good) look(finding);
        out.push_back(state);
    }
    return out;
}

std::optional<discipline::Why> whyOf(const Reports& reports, const Finding& finding, const model::RuleBook& book,
                                     const quantity::Shown& shown, const discipline::Board& board) {
    const discipline::Discipline* its = disciplineOf(board, finding);
    const Report* report = its ? reports.report(finding.discipline) : nullptr;
    if (!report) return std::nullopt;
    const model::RuleBook in_use = model::applied(book, reports.project->rules);
    return its->why(*report, {in_use, shown}, finding);
}

std::string inShort(const Reports& reports) {
    if (!reports.asked) return "Nothing to judge yet";
    switch (reports.verdict) {
    case model::Verdict::NoGo: return "Not yet";
    case model::Verdict::Close: return "Not sure yet";
    case model::Verdict::Unknown: return "Not known yet";
    case model::Verdict::Go: break;
    }
    return reports.do_not_cut ? "Go; do not cut yet" : "Go";
}

std::string totalWords(const Reports& reports) {
    if (!reports.asked) return "not asked";
    std::string out = model::word(reports.verdict);
    if (reports.do_not_cut) out += "; do not cut yet";
    for (std::size_t i = 0; i < reports.own_limits_below.size(); ++i)
        out += (i == 0 ? "; by limits of one's own, below the book's: " : ", ") + reports.own_limits_below[i];
    for (std::size_t i = 0; i < reports.own_figures.size(); ++i)
        out += (i == 0 ? "; by figures of one's own: " : ", ") + reports.own_figures[i];
    return out;
}

std::optional<model::Verdict> verdictOf(const Reports& reports, const std::string& discipline) {
    std::optional<model::Verdict> out;
    const auto take = [&out](model::Verdict verdict) { out = out ? model::worse(*out, verdict) : verdict; };
    for (const Kept& kept : reports.all)
        if (kept.report && kept.of == discipline && kept.report->verdict) take(*kept.report->verdict);
    for (const Finding& finding : reports.findings)
        if (finding.discipline == discipline && !finding.holds_cutting) take(finding.verdict);
    return out;
}

model::RuleBook bookOf(const Reports& reports, const model::RuleBook& book) {
    return discipline::pulled(model::applied(book, reports.project->rules), reports.offers.get<discipline::WeldPull>());
}

Study::Study(const model::RuleBook& book, const discipline::Board& board)
    : book_(book), board_(board), kept_(board.size()) {
    for (std::size_t i = 0; i < board.size(); ++i) memories_.push_back(board[i].memory());
}

discipline::Memory* Study::memory(const std::string& discipline) {
    for (std::size_t i = 0; i < board_.size(); ++i)
        if (board_[i].card().id == discipline) return memories_[i].get();
    return nullptr;
}

std::shared_ptr<const placed::Scene> Study::scene(const model::Project& project, const placed::SceneOptions& options) {
    return scene(project, SectionMarks(project), options);
}

std::shared_ptr<const placed::Scene> Study::scene(const model::Project& project, const SectionMarks& marks,
                                                  const placed::SceneOptions& options) {
    const std::uint64_t mark = marks.of(scene_reads);
    if (scene_ && scene_mark_ == mark) return scene_;
    auto made = std::make_shared<const placed::Scene>(placed::makeScene(project, colliders_, options));
    if (options.stop.stopped()) return made;
    scene_mark_ = mark;
    scene_is_new_ = true;
    return scene_ = std::move(made);
}

void Study::judge(std::size_t i, Reports& reports, const Asked& asked) {
    const Card& card = board_[i].card();
    const RunOptions& options = asked.options;
    Kept& its = reports.all[i];
    if (!asked.wanted[i]) return;
    const auto failed = guarded([&] {
        if (throwing() == card.id) throw std::runtime_error("a test threw this");
        if (options.stop.stopped()) return; // not complete: nobody looks at it
        discipline::Offers offers;
        for (const std::size_t k : board_.before(i))
            if (reports.all[k].report)
                for (const std::type_index type : card.needs) offers.take(type, reports.all[k].report->offers);
        its.mark = markOf(card, asked, offers);
        if (card.effort) {
            // A whole one is better than one for a moving hand.
            if (options.effort == Effort::Bounds)
                its.report = kept_[i].find(withEffort(its.mark, discipline::Depth::Searched, Effort::Full));
            its.mark = its.report ? withEffort(its.mark, discipline::Depth::Searched, Effort::Full)
                                  : withEffort(its.mark, options.depth, options.effort);
        }
        if (!its.report) its.report = kept_[i].find(its.mark);
        if (its.report) return;
        if (card.scene && !asked.scene) throw std::runtime_error(asked.no_scene);
        const auto scene = card.scene ? seen(asked.scene, card) : nullptr;
        Given given{std::make_shared<const model::Project>(discipline::only(asked.project, card.reads)),
                    asked.book,
                    scene.get(),
                    offers,
                    colliders_,
                    memories_[i].get(),
                    options.depth,
                    options.effort,
                    options.threads,
                    options.stop};
        auto report = std::make_shared<Report>(board_[i].judge(given));
        report->project = given.project;
        if (options.stop.stopped()) return;
        its.report = std::move(report);
        kept_[i].keep(its);
        const std::lock_guard<std::mutex> lock(asked.mutex);
        reports.judged.push_back(card.id);
    });
    if (!failed) return;
    its.report = nullptr;
    const std::lock_guard<std::mutex> lock(asked.mutex);
    reports.failed.push_back({card.id, *failed});
}

void Study::collect(Reports& reports, const model::RuleBook& book, const RunOptions& options) const {
    reports.findings = failedFindings(reports);
    reports.good.clear();
    reports.gauges.clear();
    const discipline::Telling telling{book, options.shown};
    for (std::size_t i = 0; i < board_.size(); ++i) {
        const auto& report = reports.all[i].report;
        if (!report) continue;
        const std::size_t before = reports.gauges.size();
        const auto failed = guarded([&] {
            board_[i].tell(*report, telling, reports.findings);
            board_[i].list(*report, telling, reports.good);
            board_[i].show(*report, telling, reports.gauges);
        });
        for (std::size_t g = before; g < reports.gauges.size(); ++g) reports.gauges[g].discipline = board_[i].card().id;
        if (!failed) continue;
        reports.failed.push_back({board_[i].card().id, *failed});
        reports.findings.push_back(failedFindings(reports).back());
    }
    std::stable_sort(reports.findings.begin(), reports.findings.end(),
                     [](const Finding& x, const Finding& y) { return x.verdict > y.verdict; });
    std::stable_sort(reports.good.begin(), reports.good.end(), [](const Finding& x, const Finding& y) {
        return x.held.margin.value_or(1) < y.held.margin.value_or(1);
    });
    int number = 0;
    for (Finding& finding : reports.findings) {
        finding.group = groupOf(board_, finding);
        finding.number = ++number;
    }
    for (Finding& finding : reports.good) finding.group = groupOf(board_, finding);
    takeWorst(reports);
}

Reports Study::run(std::shared_ptr<const model::Project> project, const RunOptions& options) {
    Reports reports;
    reports.project = reports.moving = std::move(project);
    const model::RuleBook book = model::applied(book_, reports.project->rules);
    reports.own_limits_below = model::weakerThanTheBook(book_, reports.project->rules);
    reports.own_figures = model::ownFigures(book_, reports.project->rules);
    reports.all.resize(board_.size());
    for (std::size_t i = 0; i < board_.size(); ++i) reports.all[i].of = board_[i].card().id;
    Asked asked(*reports.project, book, options, board_);
    if (const auto failed = guarded([&] {
            if (asked.in_scene) asked.scene = scene(*reports.project, asked.marks, {options.threads, options.stop});
        }))
        asked.no_scene = *failed;
    reports.scene = asked.scene ? asked.scene : std::make_shared<const placed::Scene>();
    inOrder(board_, options.threads, [&](std::size_t i) { judge(i, reports, asked); });
    for (const Kept& kept : reports.all)
        if (kept.report) reports.offers.takeAll(kept.report->offers);
    reports.moving = discipline::moving(reports.project, reports.offers.get<discipline::UnitRocking>());
    reports.complete = !options.stop.stopped();
    if (reports.complete) {
        untidy_ = reports.judged;
        if (options.tidy) tidy();
    }
    collect(reports, book, options);
    reports.advised = reports.complete && std::any_of(reports.all.begin(), reports.all.end(), [](const Kept& kept) {
                          return kept.report && kept.report->closer;
                      });
    return reports;
}

void Study::tidy() {
    // Two generations: what was not asked for goes with the next.
    for (std::size_t i = 0; i < board_.size(); ++i)
        if (memories_[i] && std::find(untidy_.begin(), untidy_.end(), board_[i].card().id) != untidy_.end())
            memories_[i]->forgetUnused();
    for (KeptReports& kept : kept_) kept.tidy();
    untidy_.clear();
    // A scene that is kept asks for no solid: only one that was made says which are still wanted.
    if (scene_is_new_) colliders_.forgetUnused();
    scene_is_new_ = false;
}

Reports Study::advised(Reports reports, const RunOptions& options) {
    if (!reports.complete) return reports;
    const model::RuleBook book = model::applied(book_, reports.project->rules);
    Reports out = reports;
    bool looked = false;
    for (std::size_t i = 0; i < board_.size(); ++i) {
        Kept& its = out.all[i];
        if (!its.report || !board_[i].looksCloser(*its.report)) continue;
        const auto scene = seen(out.scene, board_[i].card());
        Given given{its.report->project, book,          scene.get(),    out.offers,      colliders_,
                    memories_[i].get(),  options.depth, options.effort, options.threads, options.stop,
                    options.progress};
        its.report = std::make_shared<const Report>(board_[i].closerLook(*its.report, given));
        if (options.stop.stopped() || !its.report->closer) return reports;
        kept_[i].keep(its);
        looked = true;
    }
    if (!looked) return reports;
    out.advised = true;
    collect(out, book, options);
    return out;
}

} // namespace gabarit::study
