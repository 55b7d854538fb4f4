// Runs the disciplines over a project in the order of what they need of each other, keeps what is still true from the
// last run, and collects what they say. It names none of them.
#pragma once

#include "discipline/board.h"
#include "discipline/sections.h"
#include "disciplines/all.h"
#include "study/kept.h"

namespace gabarit::study {

using discipline::Finding;
using discipline::Gauge;

/// A discipline that could not be reckoned because something threw: a library, or the end of the memory.
struct Failed {
    std::string discipline; ///< as Finding::discipline
    std::string words;      ///< what it threw
};

struct Reports {
    std::shared_ptr<const model::Project> project;
    std::vector<Failed> failed; ///< their reports are missing and they count as unknown
    /// The same with the engine's movement as its mounts allow it, where none was given by hand: what gaps are held by.
    std::shared_ptr<const model::Project> moving;
    std::shared_ptr<const placed::Scene> scene; ///< never null
    discipline::Offers offers;                  ///< of all of them
    std::vector<Kept> all;                      ///< in the order of what they say; a failed one's is null
    std::vector<std::string> judged;            ///< those that were judged anew in this run
    bool advised = false;                       ///< a closer look was taken where one is
    std::vector<Finding> findings;              ///< what holds up the build most comes first
    std::vector<Finding> good;                  ///< what was held against something and is go, tightest first
    std::vector<Gauge> gauges;
    model::Verdict verdict = model::Verdict::Go; ///< the worst of what was asked and of all findings
    bool do_not_cut = false;                     ///< a finding holds up cutting
    /// The book's limits that the project's own ask less than: told beside the verdict.
    std::vector<std::string> own_limits_below;
    /// Figures of the project's own that are not the book's, with both.
    std::vector<std::string> own_figures;
    bool asked = false;    ///< false: the file holds nothing to judge
    bool complete = false; ///< false: stopped half-way

    /// A discipline's, by its id; null when there is none, or it failed.
    const discipline::Report* report(const std::string& discipline) const;
    /// The part of that type in whichever report holds one; null when there is none: a discipline whose section the
    /// file lacks is not asked.
    template <class T>
    const T* of() const {
        for (const Kept& kept : all)
            if (kept.report)
                if (const T* part = kept.report->parts.template get<T>()) return part;
        return nullptr;
    }
    /// The same; an empty one when there is none.
    template <class T>
    const T& with() const {
        static const T empty{};
        const T* part = of<T>();
        return part ? *part : empty;
    }
};

struct RunOptions {
    quantity::Shown shown = quantity::Shown::Millimetres; ///< units in sentences
    discipline::Depth depth = discipline::Depth::Searched;
    discipline::Effort effort = discipline::Effort::Full; ///< with which the movement is looked at
    int threads = 2;
    std::vector<std::string> only; ///< disciplines that are asked, and those whose offers they need; empty: all
    bool tidy = true; ///< what was not used goes at the end; false: when tidy() is called, by one who is in a hurry
    StopToken stop;
    std::function<void(int done, int all)> progress; ///< of advised(); called on its thread; may be empty
};

/// Keeps solids, reports and what disciplines remember between runs. One run at a time.
class Study {
public:
    explicit Study(const model::RuleBook& book, const discipline::Board& board = disciplines::all());

    /// Judges what reads something that changed since it was last judged, independent ones side by side; what a
    /// discipline throws makes it unknown, with its words, and stops none of the others.
    Reports run(std::shared_ptr<const model::Project> project, const RunOptions& options);
    /// The same reports after a closer look by those that take one: room to move, and for each no-go gap the best
    /// single way out and what it brings with it. Takes about a second: for a project at rest. A stopped one comes back
    /// as it was.
    Reports advised(Reports reports, const RunOptions& options);
    /// Drops what the last run, unless it was stopped, did not use.
    void tidy();

    /// Where every body stands; kept from the last time while nothing it depends on changed. A stopped one is empty.
    std::shared_ptr<const placed::Scene> scene(const model::Project& project, const placed::SceneOptions& options);
    proximity::ColliderCache& colliders() { return colliders_; }
    /// What a discipline remembers; null when it remembers nothing.
    discipline::Memory* memory(const std::string& discipline);

private:
    std::shared_ptr<const placed::Scene> scene(const model::Project& project, const discipline::SectionMarks& marks,
                                               const placed::SceneOptions& options);
    void judge(std::size_t i, Reports& reports, const class Asked& asked);
    void collect(Reports& reports, const model::RuleBook& book, const RunOptions& options) const;

    const model::RuleBook& book_;
    const discipline::Board& board_;
    proximity::ColliderCache colliders_;
    std::vector<std::unique_ptr<discipline::Memory>> memories_; ///< by the board's order
    std::vector<KeptReports> kept_;                             ///< the same
    std::uint64_t scene_mark_ = 0;
    std::vector<std::string> untidy_; ///< disciplines that were judged since tidy()
    bool scene_is_new_ = false;       ///< it was made since a run was complete
    std::shared_ptr<const placed::Scene> scene_;
};

/// Reports in which nothing is known, because a run was given up: they take the place of older figures.
Reports givenUp(std::shared_ptr<const model::Project> project, const std::string& words);

/// For tests: from now on the named discipline throws as it begins; empty: none does.
void throwIn(const std::string& discipline);

/// How many findings there are of each kind.
struct Counts {
    int no_go = 0;
    int close = 0;
    int unknown = 0;
    int before_cutting = 0; ///< those that hold up cutting only
    int open() const { return no_go + close + unknown + before_cutting; }
    void take(const Finding& finding);
};
Counts countsOf(const Reports& reports);
/// "10 no-go, 3 close, 2 to measure"; empty when there is none.
std::string countWords(const Counts& counts);

/// One gauge of the strip: what a group of disciplines comes to.
struct GroupState {
    discipline::Group group = discipline::Group::Gaps;
    std::optional<model::Verdict> verdict; ///< nothing: none of it was asked
    Counts counts;
    const Finding* worst = nullptr; ///< of the reports' findings or of what is good; null when there is neither
};
/// Of the groups that the board has disciplines of.
std::vector<GroupState> groupsOf(const Reports& reports, const discipline::Board& board = disciplines::all());

/// How a finding's figure came about; nothing when it is of no figure.
std::optional<discipline::Why> whyOf(const Reports& reports, const Finding& finding, const model::RuleBook& book,
                                     const quantity::Shown& shown, const discipline::Board& board = disciplines::all());

/// The total in a few words: "Not yet", "Not sure yet", "Not known yet", "Go", "Go; do not cut yet".
std::string inShort(const Reports& reports);
/// The total as it is shown: "go", "no-go", "go; do not cut yet"; "not asked" when there is nothing to judge.
std::string totalWords(const Reports& reports);
/// The worst of a discipline's own verdict and of its findings that do not only hold up cutting; nothing when it was
/// not asked and has none. Names as in Finding::discipline.
std::optional<model::Verdict> verdictOf(const Reports& reports, const std::string& discipline);
/// The book that a run's gaps were held by: the project's own rules and what welding may pull worked in.
model::RuleBook bookOf(const Reports& reports, const model::RuleBook& book);

} // namespace gabarit::study
