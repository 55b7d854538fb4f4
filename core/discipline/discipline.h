// What a discipline is: what it reads and needs, how it judges, and what it then says. All of them are told of by
// `discipline(…)` of their own and run by core/study, which names none.
#pragma once

#include "discipline/finding.h"
#include "discipline/search.h"
#include "discipline/why.h"
#include "placed/scene.h"

#include <nlohmann/json_fwd.hpp>

namespace gabarit::discipline {

/// How closely the movement is looked at.
enum class Effort {
    None,    ///< at rest only
    Verdict, ///< until the verdict is certain: nothing more of what is no-go at rest; what is go is a bound
    Bounds,  ///< ends of the movement and what bounds tell: for a moving hand. What may hide is said
    Full,    ///< to a quarter of a millimetre where that decides
};

/// How far the depth of an overlap is searched.
enum class Depth {
    Searched, ///< in all directions
    Nearby,   ///< around the last known way out where there is one: for a moving hand
    Skipped,  ///< overlap is said, its depth is 0 and not found
};

/// What a discipline keeps from run to run to be quick. It changes no figure.
class Memory {
public:
    virtual ~Memory() = default;
    /// What the last run did not ask for may go.
    virtual void forgetUnused() = 0;
};

/// What a discipline says of itself.
struct Card {
    explicit Card(std::string its_id) : id(std::move(its_id)) {}

    std::string id;                      ///< "clearance": of findings, and of its report on the command line
    std::string what;                    ///< its report on the command line, in a line; empty: it prints none by itself
    int order = 0;                       ///< of what it says among the others'
    Group group = Group::Gaps;           ///< the gauge of the strip that its checks stand in
    std::vector<std::string> reads;      ///< sections of the project (discipline/sections.h): it is given no others
    std::vector<std::type_index> needs;  ///< of what others offer
    std::vector<std::type_index> offers; ///< may offer
    bool scene = false;                  ///< is given the scene
    bool effort = false;                 ///< how closely movement is looked at changes its figures

    Card& prints(const char* its_what) { return what = its_what, *this; }
    Card& at(int its_order) { return order = its_order, *this; }
    Card& in(Group its_group) { return group = its_group, *this; }
    Card& reading(std::vector<std::string> sections) { return reads = std::move(sections), *this; }
    Card& needing(std::vector<std::type_index> types) { return needs = std::move(types), *this; }
    Card& offering(std::vector<std::type_index> types) { return offers = std::move(types), *this; }
    /// It asks where bodies stand: without the donor's bodies when it does not read the pose.
    Card& inScene() { return scene = true, *this; }
    Card& byEffort() { return effort = true, *this; }
};

/// What a discipline is given.
struct Given {
    std::shared_ptr<const model::Project> project; ///< only what it reads
    const model::RuleBook& book;                   ///< with the project's own rules worked in
    const placed::Scene* scene = nullptr;          ///< when its card asks for it
    const Offers& offers;                          ///< only what it needs
    proximity::ColliderCache& colliders;
    Memory* memory = nullptr; ///< its own
    Depth depth = Depth::Searched;
    Effort effort = Effort::Full;
    int threads = 1;
    StopToken stop{};
    std::function<void(int done, int all)> progress{}; ///< of a closer look; may be empty
};

/// A figure for the strip, made of the worst of some checks.
struct Dial {
    std::string id;
    std::string name;
    std::optional<std::size_t> check; ///< of the report's; nothing: there is nothing to measure yet
    std::string subject;
};

/// What a discipline found.
struct Report {
    /// The worst of all that it held against something; nothing: it was not asked.
    std::optional<model::Verdict> verdict;
    std::vector<model::Check> checks; ///< figures that findings are made of as they are
    std::vector<Dial> dials;
    Bag parts; ///< of its own types, for its pictures and tables
    Offers offers;
    std::shared_ptr<const model::Project> project; ///< what it was given
    bool closer = false;                           ///< closerLook() was taken

    void take(model::Verdict its) { verdict = verdict ? model::worse(*verdict, its) : its; }
    /// Adds a check and counts it.
    void hold(model::Check check) {
        take(check.verdict);
        checks.push_back(std::move(check));
    }
};

/// What sentences are made by.
struct Telling {
    const model::RuleBook& book;
    quantity::Shown shown = quantity::Shown::Millimetres;
};

/// A report on the command line: `gabarit-cli NAME FILE`, documented in docs/reports.md.
struct Printed {
    std::string name;
    std::string what; ///< in a line
    /// Under its name; it is null before, and stays so when it was not asked.
    void (*write)(const Report& report, const Telling& telling, nlohmann::ordered_json& into);
    /// As a table for a terminal; empty when it was not asked.
    std::string (*text)(const Report& report, const Telling& telling);
};

/// What a deed is done with.
struct DeedGiven {
    const model::Project& project; ///< whole
    const model::RuleBook& book;   ///< with the project's own rules worked in
    std::string item;              ///< the id of the thing it is done with; empty when its deed is of none
};

/// Something that can be done to a project: a button of the discipline's stage, and a subcommand of the command line.
struct Deed {
    const char* id;    ///< of the subcommand: "bolt-there"
    const char* kind;  ///< of the thing it is done with ("crossmember"), as the stage's keys have it
    bool one;          ///< it is done with one of several of that kind: its id is asked
    const char* words; ///< on the button
    const char* step;  ///< for undo: "bolt the crossmember"
    const char* what;  ///< on the command line, in a line
    Result<model::Project> (*act)(const DeedGiven& given);
};

class Discipline {
public:
    explicit Discipline(Card card) : card_(std::move(card)) {}
    virtual ~Discipline() = default;
    Discipline(const Discipline&) = delete;
    Discipline& operator=(const Discipline&) = delete;
    const Card& card() const { return card_; }
    virtual std::unique_ptr<Memory> memory() const { return nullptr; }

    /// Pure but for the memory. When it is stopped, what it returns is not looked at.
    virtual Report judge(const Given& given) const = 0;
    /// Takes a second look that may take a second, for a project at rest (room to move, ways out).
    virtual bool looksCloser(const Report&) const { return false; }
    /// A stopped one comes back as it was.
    virtual Report closerLook(Report report, const Given&) const { return report; }

    /// Adds what holds up the build: here, of each check that is not go.
    virtual void tell(const Report& report, const Telling& telling, std::vector<Finding>& out) const;
    /// Adds what is good, as far as a person wants to see it: here, each check that is go.
    virtual void list(const Report& report, const Telling& telling, std::vector<Finding>& out) const;
    /// How the figure of a finding came about: here, of a check. Nothing when it is of no figure, or not its own.
    virtual std::optional<Why> why(const Report& report, const Telling& telling, const Finding& of) const;
    /// Adds its key figures, for comparing and for the head of sheets: here, of each dial.
    virtual void show(const Report& report, const Telling& telling, std::vector<Gauge>& out) const;
    /// What it prints: here its verdict and checks under its id, when its card says what that is.
    virtual std::vector<Printed> prints() const;
    virtual std::vector<Deed> deeds() const { return {}; }
    virtual std::vector<Search> searches() const { return {}; }

private:
    const Card card_;
};

/// The worst check of those that `takes`: by verdict, then by how much of its room is used; nothing when it takes none.
std::optional<std::size_t> worstOf(const std::vector<model::Check>& checks,
                                   const std::function<bool(const model::Check&)>& takes);

} // namespace gabarit::discipline
