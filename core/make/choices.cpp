#include "make/choices.h"

#include "fit/fit_report.h"
#include "ledger/parts.h"
#include "model/edit.h"
#include "quantity/on_threads.h"
#include "relief/section/relief.h"

#include <algorithm>
#include <chrono>
#include <limits>
#include <map>
#include <set>

namespace gabarit::make {
namespace {

using Clock = std::chrono::steady_clock;

/// One option of one choice: "owner/choice", "option".
using Literal = std::pair<std::string, std::string>;

std::string ownerOf(const std::string& choice) { return choice.substr(0, choice.find('/')); }

/// A donor as it hangs, and what of it can be had in another form.
struct Base {
    struct Of {
        std::string choice; ///< "owner/choice"
        std::string name;
        std::vector<model::Option> options;
        std::size_t now = 0;
    };
    std::string donor; ///< its name when it is another one than hangs now
    std::shared_ptr<const model::Project> project;
    study::Reports reports;
    std::optional<fit::Sieves> sieves;
    std::vector<Of> shapes; ///< choices that change a body
    /// Options with which something fouls that no move parts: of the unit and the unit, of the vehicle and the vehicle.
    std::vector<std::set<Literal>> fouls;
    std::vector<Of> others; ///< and those that do not
};

/// A combination.
struct Trial {
    enum class State { Untried, Sieved, Measured };
    std::size_t base = 0;
    std::vector<std::size_t> taken; ///< of the base's shapes
    int changes = 0;
    int cuts = 0;
    int fouls = 0; ///< of its base's
    State state = State::Untried;
    fit::FreePlace rough;
    bool fits = false; ///< by the sieve; once measured, measured
};

class Choices {
public:
    Choices(study::Study& study, const study::Reports& reports, const model::RuleBook& book,
            const ChoicesOptions& options)
        : study_(study), reports_(reports), book_(book), options_(options), begun_(Clock::now()) {}

    ChoicesReport run() {
        findBases();
        if (bases_.empty()) {
            report_.reason = "nothing hangs in the bay";
            return std::move(report_);
        }
        list();
        report_.all = static_cast<int>(trials_.size());
        buys();
        while (!over() && step()) tell();
        if (report_.places.empty() && !options_.stop.stopped()) {
            measureLeastBad();
            pockets();
        }
        finish();
        return std::move(report_);
    }

private:
    double gone_s() const { return std::chrono::duration<double>(Clock::now() - begun_).count(); }
    bool over() const { return options_.stop.stopped() || gone_s() > options_.most_s; }
    void tell() const {
        if (options_.progress) options_.progress(std::min(report_.all, report_.tried), report_.all);
    }

    void findBases() {
        cuts_now_ = cutsOf(*reports_.project);
        addBase(*reports_.project, reports_, {});
        const model::Donor* hangs = model::activeDonor(*reports_.project);
        for (const model::Donor& donor : reports_.project->donors) {
            if (!hangs || donor.id == hangs->id || over()) continue;
            model::Project project = *reports_.project;
            const auto its = std::find_if(project.placements.begin(), project.placements.end(),
                                          [&](const model::Placement& p) { return p.donor == donor.id; });
            if (its != project.placements.end()) {
                project.active_placement = its->id;
            } else {
                model::Placement placement = *model::activePlacement(project);
                placement.id.text = "where-" + donor.id.text + "-fits";
                placement.name = donor.name;
                placement.donor = donor.id;
                placement.orientation.reset();
                placement.taken.erase(std::remove_if(placement.taken.begin(), placement.taken.end(),
                                                     [](const model::Taken& taken) {
                                                         return ownerOf(taken.choice) != model::vehicle_owner;
                                                     }),
                                      placement.taken.end());
                project.placements.push_back(placement);
                project.active_placement = placement.id;
            }
            addBase(project, judged(project), donor.name);
        }
    }
    study::Reports judged(const model::Project& project) {
        study::RunOptions run;
        run.shown = options_.shown;
        run.stop = options_.stop;
        run.threads = options_.threads;
        return study_.run(std::make_shared<const model::Project>(project), run);
    }
    void addBase(const model::Project& project, const study::Reports& reports, const std::string& donor) {
        const fit::FitReport& fitted = reports.with<fit::FitReport>();
        const model::Placement* placement = model::activePlacement(project);
        const model::Donor* hangs = model::activeDonor(project);
        if (!fitted.clearance || !reports.moving || !placement || !hangs) return;
        Base base;
        base.donor = donor;
        base.project = std::make_shared<const model::Project>(project);
        base.reports = reports;
        for (const std::string& owner : {std::string(model::vehicle_owner), hangs->id.text})
            for (const model::Choice& choice : *model::choicesOf(project, owner)) {
                if (choice.options.size() < 2) continue;
                Base::Of of{owner + "/" + choice.id, choice.name, choice.options, 0};
                const std::string taken = model::takenOption(project, placement, owner, choice.id);
                for (std::size_t i = 0; i < of.options.size(); ++i)
                    if (of.options[i].id == taken) of.now = i;
                const auto& bodies = owner == model::vehicle_owner ? project.vehicle->bodies : hangs->bodies;
                const bool shapes = std::any_of(bodies.begin(), bodies.end(), [&](const model::Body& body) {
                    return body.present() && body.option.rfind(choice.id + "/", 0) == 0;
                });
                (shapes ? base.shapes : base.others).push_back(std::move(of));
            }
        placed::SceneOptions all;
        all.every_option = true;
        all.threads = options_.threads;
        all.stop = options_.stop;
        const placed::Scene scene = placed::makeScene(*reports.moving, study_.colliders(), all);
        fit::SieveOptions ask;
        ask.by_option = true;
        ask.farthest_mm = fit::farthest_mm(options_.limits);
        base.sieves = fit::Sieves::of(*reports.moving, scene, *fitted.clearance, study::bookOf(reports, book_), ask);
        findFouls(base, scene);
        bases_.push_back(std::move(base));
    }
    void findFouls(Base& base, const placed::Scene& all) {
        fit::ClearanceOptions ask;
        ask.depth = discipline::Depth::Skipped;
        ask.effort = discipline::Effort::None;
        ask.threads = options_.threads;
        ask.stop = options_.stop;
        const model::Project& project = *base.reports.moving;
        const fit::ClearanceReport report =
            fit::clearance(project, all, study::bookOf(base.reports, book_), nullptr, ask);
        for (const fit::PairGap& pair : report.pairs) {
            if (pair.a.inVehicle() != pair.b.inVehicle() || pair.verdict != model::Verdict::NoGo) continue;
            std::map<std::string, std::string> options;
            bool together = true;
            for (const model::BodyRef& ref : {pair.a, pair.b})
                for (const Literal& l : optionOf(project, ref))
                    together = together && options.emplace(l.first, l.second).first->second == l.second;
            if (together) base.fouls.emplace_back(options.begin(), options.end());
        }
    }
    /// By which a body stands; none: always.
    static std::vector<Literal> optionOf(const model::Project& project, const model::BodyRef& ref) {
        const model::Body* body = model::findBody(project, ref);
        if (!body || body->option.empty()) return {};
        const std::size_t slash = body->option.find('/');
        return {{ref.owner + "/" + body->option.substr(0, slash), body->option.substr(slash + 1)}};
    }

    /// All combinations, fewest changes first.
    void list() {
        constexpr std::size_t most = 2000; // what is beyond is told as not tried
        for (std::size_t b = 0; b < bases_.size(); ++b) {
            const Base& base = bases_[b];
            double all = 1;
            for (const Base::Of& of : base.shapes) all *= static_cast<double>(of.options.size());
            std::vector<Trial> its{Trial{}};
            its.front().base = b;
            for (const Base::Of& of : base.shapes) {
                std::vector<Trial> next;
                for (const Trial& trial : its)
                    for (std::size_t i = 0; i < of.options.size() && next.size() < most; ++i) {
                        next.push_back(trial);
                        next.back().taken.push_back(i);
                        next.back().changes += i != of.now;
                    }
                its = std::move(next);
            }
            beyond_ += std::max(0.0, all - static_cast<double>(its.size()));
            trials_.insert(trials_.end(), its.begin(), its.end());
        }
        std::map<std::pair<std::size_t, std::vector<Literal>>, int> cuts; // by what is taken of the vehicle
        for (Trial& trial : trials_) {
            std::vector<Literal> of_vehicle;
            for (const ChoiceMade& made : madeOf(trial))
                if (ownerOf(made.choice) == model::vehicle_owner) of_vehicle.emplace_back(made.choice, made.option);
            const auto its = cuts.try_emplace({trial.base, of_vehicle}, 0);
            if (its.second) its.first->second = cutsOf(projectOf(trial));
            trial.cuts = its.first->second;
            for (const std::set<Literal>& options : bases_[trial.base].fouls) trial.fouls += holdsAll(trial, options);
        }
        int fewest = trials_.empty() ? 0 : trials_.front().fouls;
        for (const Trial& trial : trials_) fewest = std::min(fewest, trial.fouls);
        for (Trial& trial : trials_) trial.fouls -= fewest; // what fouls in any form tells nothing
        std::stable_sort(trials_.begin(), trials_.end(), [](const Trial& a, const Trial& b) {
            return std::tie(a.changes, a.cuts) < std::tie(b.changes, b.cuts);
        });
    }
    model::Project projectOf(const Trial& trial) const {
        const Base& base = bases_[trial.base];
        model::Project out = *base.project;
        for (const ChoiceMade& made : madeOf(trial)) out = model::withOption(out, made.choice, made.option);
        return out;
    }
    std::vector<ChoiceMade> madeOf(const Trial& trial) const {
        std::vector<ChoiceMade> out;
        for (std::size_t k = 0; k < trial.taken.size(); ++k) {
            const Base::Of& of = bases_[trial.base].shapes[k];
            if (trial.taken[k] != of.now) out.push_back(madeBy(of, trial.taken[k]));
        }
        return out;
    }
    static ChoiceMade madeBy(const Base::Of& of, std::size_t i) {
        return {of.choice, of.options[i].id, of.name + ": " + of.options[i].name};
    }
    bool holds(const Trial& trial, const Literal& literal) const {
        const auto& shapes = bases_[trial.base].shapes;
        for (std::size_t k = 0; k < shapes.size(); ++k)
            if (shapes[k].choice == literal.first) return shapes[k].options[trial.taken[k]].id == literal.second;
        return false;
    }

    /// What stands in a combination, of the sieve's.
    fit::Sieves sievesOf(const Trial& trial) const {
        const fit::Sieves& all = *bases_[trial.base].sieves;
        std::set<model::BodyRef> out;
        for (const auto* members : {&all.fine.bodies(), &all.fine.others()})
            for (const fit::Sieve::Member& member : *members) {
                const std::size_t slash = member.option.rfind('/');
                if (!member.option.empty() &&
                    !holds(trial, {member.option.substr(0, slash), member.option.substr(slash + 1)}))
                    out.insert(member.ref);
            }
        return all.with([&out](const model::BodyRef& ref) { return out.count(ref) == 0; });
    }
    void sift(Trial& trial, std::vector<fit::Shift> first) {
        const Base& base = bases_[trial.base];
        const model::Project project = projectOf(trial);
        const fit::Sieves sieves = sievesOf(trial);
        fit::FreeOptions ask;
        ask.limits = options_.limits;
        ask.starts = trial.changes <= 1 ? 8 : 3; // what single changes buy is told
        ask.first = std::move(first);
        ask.sieves = &sieves;
        ask.measure = false;
        ask.most_places = 1;
        ask.threads = 1;
        ask.stop = options_.stop;
        const fit::FreeReport found =
            fit::freeAll(project, *base.reports.scene, *base.reports.with<fit::FitReport>().clearance,
                         study::bookOf(base.reports, book_), study_.colliders(), ask);
        trial.state = Trial::State::Sieved;
        trial.fits = !found.places.empty();
        if (trial.fits)
            trial.rough = found.places.front();
        else if (found.least_bad)
            trial.rough = *found.least_bad;
        else
            trial.rough.short_mm = 1e9;
    }
    /// Where those that differ least from it hang best.
    std::vector<fit::Shift> nearest(const Trial& trial) const {
        constexpr std::size_t most = 2;
        std::vector<const Trial*> like;
        const auto apart = [&trial](const Trial& other) {
            std::size_t out = 0;
            for (std::size_t k = 0; k < trial.taken.size(); ++k) out += trial.taken[k] != other.taken[k];
            return out;
        };
        for (const Trial& other : trials_)
            if (other.base == trial.base && other.state != Trial::State::Untried) like.push_back(&other);
        std::stable_sort(like.begin(), like.end(), [&](const Trial* a, const Trial* b) {
            return std::make_pair(apart(*a), a->rough.short_mm) < std::make_pair(apart(*b), b->rough.short_mm);
        });
        std::vector<fit::Shift> out;
        for (std::size_t i = 0; i < like.size() && i < most; ++i) out.push_back(like[i]->rough.by);
        return out;
    }
    /// What binds where nothing fits will bind again where it stands together: as much as it does where it binds least.
    void learn(const Trial& trial) {
        for (Together& its : together_)
            if (its.base == trial.base && holdsAll(trial, its.options))
                its.lacks_mm = std::min(its.lacks_mm, trial.rough.short_mm);
        if (trial.fits || trial.rough.binds.empty()) return;
        std::set<Literal> options;
        for (const fit::Binding& its : trial.rough.binds)
            for (const model::BodyRef& ref : {its.a, its.b})
                for (const Literal& l : optionOf(*bases_[trial.base].project, ref)) options.insert(l);
        Together made{trial.base, std::move(options), trial.rough.short_mm};
        for (const Trial& other : trials_)
            if (other.state != Trial::State::Untried && other.base == trial.base && holdsAll(other, made.options))
                made.lacks_mm = std::min(made.lacks_mm, other.rough.short_mm);
        together_.push_back(std::move(made));
    }
    bool holdsAll(const Trial& trial, const std::set<Literal>& options) const {
        return std::all_of(options.begin(), options.end(), [&](const Literal& l) { return holds(trial, l); });
    }
    /// What a combination will lack, by what was learned; 0: nothing speaks against it.
    double expected_mm(const Trial& trial) const {
        double out = 0;
        for (const Together& its : together_)
            if (its.base == trial.base && its.lacks_mm > out && holdsAll(trial, its.options)) out = its.lacks_mm;
        return out;
    }
    /// Whether one that fits does with less: it has all its changes from how that hangs now, and others.
    bool isFolded(const Trial& trial) const {
        const std::vector<ChoiceMade> made = madeOf(trial);
        return std::any_of(fitting_.begin(), fitting_.end(), [&](const Trial* fits) {
            if (fits->base != trial.base || fits == &trial || fits->fouls > trial.fouls) return false;
            const std::vector<ChoiceMade> less = madeOf(*fits);
            return less.size() < made.size() && std::all_of(less.begin(), less.end(), [&](const ChoiceMade& m) {
                       return std::find(made.begin(), made.end(), m) != made.end();
                   });
        });
    }

    /// The present one, and each single change of it.
    void buys() {
        std::vector<Trial*> single;
        for (Trial& trial : trials_)
            if (trial.base == 0 && trial.changes <= 1) single.push_back(&trial);
        if (single.empty()) return;
        siftAll({single.front()});
        siftAll({single.begin() + 1, single.end()});
        for (const Trial* trial : single) {
            if (trial->changes == 0 || trial->state == Trial::State::Untried) continue;
            ChoiceBuys buys;
            buys.made = madeOf(*trial).front();
            buys.before_mm = single.front()->rough.short_mm;
            buys.after_mm = trial->rough.short_mm;
            moreRoom(buys);
            report_.buys.push_back(std::move(buys));
        }
    }
    void siftAll(const std::vector<Trial*>& trials) {
        std::vector<std::vector<fit::Shift>> first; // before any of them changes
        for (const Trial* trial : trials) first.push_back(nearest(*trial));
        onThreads(options_.threads, trials.size(), options_.stop, [&](std::size_t i) {
            if (!over()) sift(*trials[i], std::move(first[i]));
        });
        for (const Trial* trial : trials) {
            if (trial->state == Trial::State::Untried) continue;
            ++report_.tried;
            learn(*trial);
        }
        tell();
    }
    /// How much farther what is changed lets the unit go each way, from where it hangs now.
    void moreRoom(ChoiceBuys& buys) const {
        const Base& base = bases_.front();
        const Base::Of* of = nullptr;
        for (const Base::Of& its : base.shapes)
            if (its.choice == buys.made.choice) of = &its;
        const fit::Sieve& all = base.sieves->fine;
        const auto reach = [&](const std::string& option) {
            const bool of_vehicle = ownerOf(of->choice) == model::vehicle_owner;
            std::set<model::BodyRef> own, standing;
            const auto sort = [&](const std::vector<fit::Sieve::Member>& members) {
                for (const fit::Sieve::Member& member : members) {
                    if (member.option == of->choice + "/" + option)
                        own.insert(member.ref);
                    else if (member.option.empty() || taken(member.option))
                        standing.insert(member.ref);
                }
            };
            sort(all.bodies());
            sort(all.others());
            const fit::Sieve sieve = all.with([&](const model::BodyRef& ref) {
                return own.count(ref) > 0 || (ref.inVehicle() != of_vehicle && standing.count(ref) > 0);
            });
            std::array<double, fit::all_ways.size()> out{};
            out.fill(0);
            for (std::size_t w = 0; w < fit::all_ways.size(); ++w)
                if (!fit::isTurn(fit::all_ways[w])) out[w] = reachOf(sieve, fit::direction(fit::all_ways[w]));
            return out;
        };
        const auto before = reach(of->options[of->now].id), after = reach(buys.made.option);
        constexpr double worth_mm = 1;
        for (std::size_t w = 0; w < before.size(); ++w)
            if (before[w] > -reach_mm && after[w] - before[w] > std::max(worth_mm, buys.farther_mm)) {
                buys.farther_mm = after[w] - before[w];
                buys.way = fit::all_ways[w];
            }
    }
    bool taken(const std::string& option) const { return model::isTaken(*bases_.front().project, option); }
    static constexpr double reach_mm = 80;
    /// How far that way nothing is short, beginning far on the other side; between ± the range.
    double reachOf(const fit::Sieve& sieve, const Eigen::Vector3d& way) const {
        constexpr double range_mm = reach_mm, step_mm = 4;
        if (!sieve.any()) return range_mm;
        const model::Project& project = *bases_.front().project;
        const Eigen::Isometry3d pose =
            model::poseVehicleDonor(*model::activePlacement(project), *model::hangingDonor(project));
        const auto isFree = [&](double mm) {
            Eigen::Isometry3d there = pose;
            there.translation() += mm * way;
            return sieve.mostShort_mm(there, 1) <= 0;
        };
        // From here on if it is free here, else back until it is.
        double free_mm = 0;
        if (!isFree(0)) {
            for (free_mm = -step_mm; free_mm >= -range_mm && !isFree(free_mm); free_mm -= step_mm) {}
            if (free_mm < -range_mm) return -range_mm;
        } else {
            while (free_mm < range_mm && isFree(free_mm + step_mm)) free_mm += step_mm;
            if (free_mm >= range_mm) return range_mm;
        }
        double low = free_mm, high = free_mm + step_mm;
        constexpr double fine_mm = 0.25;
        while (high - low > fine_mm) (isFree((low + high) / 2) ? low : high) = (low + high) / 2;
        return low;
    }

    /// The next thing to do; false when there is none.
    bool step() {
        const bool most_is_gone = gone_s() > 0.7 * options_.most_s;
        constexpr double hopeful_mm = 3; // the sieve may be off by that
        Trial* fits = nullptr;
        Trial* hopeful = nullptr;
        std::vector<Trial*> untried;
        for (Trial& trial : trials_) {
            if (trial.state == Trial::State::Measured || isFolded(trial)) continue;
            if (trial.state == Trial::State::Untried) {
                untried.push_back(&trial);
            } else if (trial.fits) {
                if (!fits || trial.fouls < fits->fouls) fits = &trial; // fewest changes come first
            } else if (trial.rough.short_mm < hopeful_mm &&
                       (!hopeful || trial.rough.short_mm < hopeful->rough.short_mm)) {
                hopeful = &trial;
            }
        }
        const auto clean =
            std::count_if(fitting_.begin(), fitting_.end(), [](const Trial* t) { return t->fouls == 0; });
        if (static_cast<std::size_t>(clean) >= options_.most_places + 1) return false; // enough to choose from
        const bool clean_left =
            std::any_of(untried.begin(), untried.end(), [](const Trial* t) { return t->fouls == 0; });
        if (fits && (fits->fouls == 0 || !clean_left)) {
            measure(*fits);
        } else if (hopeful && (untried.empty() || most_is_gone)) {
            measure(*hopeful);
        } else if (!untried.empty()) {
            std::vector<std::pair<double, Trial*>>
                next; // that foul nothing by themselves, the most promising, of them those with fewest changes
            for (Trial* trial : untried) next.emplace_back(expected_mm(*trial), trial);
            std::stable_sort(next.begin(), next.end(), [](const auto& a, const auto& b) {
                return std::make_pair(a.second->fouls, a.first) < std::make_pair(b.second->fouls, b.first);
            });
            next.resize(std::min(next.size(), static_cast<std::size_t>(options_.threads)));
            std::vector<Trial*> trials;
            for (const auto& its : next) trials.push_back(its.second);
            siftAll(trials);
        } else {
            return false;
        }
        return true;
    }
    void measure(Trial& trial) {
        trial.state = Trial::State::Measured;
        trial.fits = false;
        const model::Project project = projectOf(trial);
        const study::Reports reports = judged(project);
        const fit::FitReport& fitted = reports.with<fit::FitReport>();
        if (!fitted.clearance || !reports.moving || !reports.scene) return;
        const fit::Sieves sieves = sievesOf(trial);
        fit::FreeOptions ask;
        ask.limits = options_.limits;
        ask.starts = 4;
        ask.first = {trial.rough.by};
        ask.sieves = &sieves;
        ask.most_places = 1;
        ask.threads = options_.threads;
        ask.stop = options_.stop;
        ask.besides = besidesOf(study_, project, options_.first);
        const fit::FreeReport found = fit::freeAll(*reports.moving, *reports.scene, *fitted.clearance,
                                                   study::bookOf(reports, book_), study_.colliders(), ask);
        if (!found.complete) return;
        trial.fits = !found.places.empty();
        if (trial.fits) {
            fitting_.push_back(&trial);
            if (auto place = placeOf(trial, project, found.places.front())) report_.places.push_back(std::move(*place));
        } else if (found.least_bad && (!least_bad_trial_ || found.least_bad->short_mm < least_bad_.short_mm)) {
            least_bad_trial_ = &trial;
            least_bad_ = *found.least_bad;
        }
    }
    /// Where the sieve let nothing through, what it has for the best is measured all the same.
    void measureLeastBad() {
        Trial* best = nullptr;
        for (Trial& trial : trials_)
            if (trial.state == Trial::State::Sieved && (!best || trial.rough.short_mm < best->rough.short_mm))
                best = &trial;
        if (best && (!least_bad_trial_ || best->rough.short_mm < least_bad_.short_mm)) measure(*best);
    }
    /// Nothing when it was stopped.
    std::optional<ChoicePlace> placeOf(const Trial& trial, model::Project project, const fit::FreePlace& place) {
        ChoicePlace out;
        out.donor = bases_[trial.base].donor;
        out.made = madeOf(trial);
        out.place = place;
        model::Placement* placement = model::activePlacement(project);
        placement->position_mm = place.placement.position_mm;
        placement->angles = place.placement.angles;
        if (const study::Reports then = judged(project); isWhole(then))
            takeThere(out, project, then);
        else
            return std::nullopt;
        // What changes no body may still be better otherwise: a shaft made new.
        for (const Base::Of& of : bases_[trial.base].others)
            for (std::size_t i = 0; i < of.options.size() && !options_.stop.stopped(); ++i) {
                if (i == of.now) continue;
                model::Project other = model::withOption(*out.project, of.choice, of.options[i].id);
                const study::Reports then = judged(other);
                if (!isWhole(then) || study::countsOf(then).no_go >= study::countsOf(*out.then).no_go) continue;
                takeThere(out, std::move(other), then);
                out.made.push_back(madeBy(of, i));
            }
        return out;
    }
    /// A stopped run has no gaps.
    static bool isWhole(const study::Reports& reports) {
        return reports.complete && reports.with<fit::FitReport>().clearance;
    }
    void takeThere(ChoicePlace& place, model::Project project, const study::Reports& then) const {
        place.cuts = cutsOf(project) - cuts_now_;
        place.cost = standing(then).cost;
        if (const auto* parts = then.of<ledger::PartsReport>())
            place.unpriced = static_cast<int>(parts->unpriced.size());
        place.fouls = 0;
        for (const fit::PairGap& pair : then.with<fit::FitReport>().clearance->pairs)
            place.fouls += pair.a.inVehicle() == pair.b.inVehicle() && pair.verdict == model::Verdict::NoGo;
        place.project = std::make_shared<const model::Project>(std::move(project));
        place.then = std::make_shared<const study::Reports>(then);
    }

    /// For the best that does not fit: cut what binds there, if that may be cut.
    void pockets() {
        std::vector<Trial*> best;
        for (Trial& trial : trials_)
            if (trial.state != Trial::State::Untried) best.push_back(&trial);
        std::stable_sort(best.begin(), best.end(),
                         [](const Trial* a, const Trial* b) { return a->rough.short_mm < b->rough.short_mm; });
        constexpr std::size_t most = 2;
        for (std::size_t i = 0; i < best.size() && i < most && report_.places.empty() && !over(); ++i) {
            const Trial& trial = *best[i];
            const bool measured = &trial == least_bad_trial_;
            const fit::FreePlace& place = measured ? least_bad_ : trial.rough;
            model::Project project = projectOf(trial);
            model::Placement* placement = model::activePlacement(project);
            placement->position_mm = place.placement.position_mm;
            placement->angles = place.placement.angles;
            study::Reports there = judged(project);
            std::string names;
            bool cut = true;
            constexpr int most_pockets = 3;
            for (int n = 0; n < most_pockets && cut && isWhole(there) && shortOf(there); ++n) {
                cut = false;
                for (const model::BodyId& body : cuttable(there)) {
                    fit::GapMemo memo;
                    const auto made = proposedPocket(there, book_, body, intrudersOf(there, body), study_.colliders(),
                                                     memo, options_.stop);
                    if (!made) continue;
                    names += (names.empty() ? "" : ", ") + made.value().pocket.name;
                    there = judged(made.value().project);
                    cut = true;
                    break;
                }
            }
            if (names.empty() || !isWhole(there) || shortOf(there) || lacksWhatMustBe(project)) continue;
            auto out = placeOf(trial, *there.project, place);
            if (!out) continue;
            out->pocket = names;
            out->place.short_mm = 0;
            out->place.binds.clear();
            report_.places.push_back(std::move(*out));
        }
    }
    bool lacksWhatMustBe(const model::Project& project) {
        const auto besides = besidesOf(study_, project, options_.first)(*model::activePlacement(project));
        return std::any_of(besides.begin(), besides.end(), [](const fit::Beside& b) { return b.must && b.lacks > 0; });
    }
    /// Whether a gap of the unit is not good.
    static bool shortOf(const study::Reports& reports) {
        const auto& clearance = reports.with<fit::FitReport>().clearance;
        return !clearance || std::any_of(clearance->pairs.begin(), clearance->pairs.end(), [](const fit::PairGap& p) {
            return p.a.inVehicle() != p.b.inVehicle() && p.verdict != model::Verdict::Go;
        });
    }
    /// Of the vehicle, what is in the way and may be cut.
    static std::vector<model::BodyId> cuttable(const study::Reports& reports) {
        std::vector<model::BodyId> out;
        for (const fit::PairGap& pair : reports.with<fit::FitReport>().clearance->pairs) {
            const model::BodyRef& its = pair.a.inVehicle() ? pair.a : pair.b;
            if (pair.a.inVehicle() == pair.b.inVehicle() || pair.verdict == model::Verdict::Go) continue;
            const model::Body* body = model::findBody(*reports.project, its);
            if (body && body->may.be_cut && !body->may.never &&
                std::find(out.begin(), out.end(), its.body) == out.end())
                out.push_back(its.body);
        }
        return out;
    }

    void finish() {
        // What has no price may cost anything: it comes after what has one, and folds nothing away.
        const auto cost = [](const ChoicePlace& place) {
            return place.cost && place.unpriced == 0 ? *place.cost : std::numeric_limits<double>::infinity();
        };
        std::stable_sort(report_.places.begin(), report_.places.end(), [&](const ChoicePlace& a, const ChoicePlace& b) {
            const auto key = [&](const ChoicePlace& p) {
                return std::make_tuple(p.fouls, p.cuts, p.place.unknown > 0, cost(p), p.place.farthest_mm);
            };
            return key(a) < key(b);
        });
        // What is no better than another in anything is folded away.
        std::vector<ChoicePlace> kept;
        for (ChoicePlace& its : report_.places) {
            const auto noGo = [](const ChoicePlace& p) { return study::countsOf(*p.then).no_go; };
            const bool no_better = std::any_of(kept.begin(), kept.end(), [&](const ChoicePlace& other) {
                return other.fouls <= its.fouls && other.cuts <= its.cuts &&
                       (cost(other) <= cost(its) && (other.unpriced <= its.unpriced)) && noGo(other) <= noGo(its) &&
                       other.place.farthest_mm <= its.place.farthest_mm;
            });
            if (no_better || kept.size() == options_.most_places)
                ++report_.folded;
            else
                kept.push_back(std::move(its));
        }
        report_.places = std::move(kept);
        if (report_.places.empty() && least_bad_trial_)
            report_.least_bad = placeOf(*least_bad_trial_, projectOf(*least_bad_trial_), least_bad_);
        constexpr std::size_t most_named = 12;
        for (const Trial& trial : trials_) {
            if (trial.state != Trial::State::Untried) continue;
            if (isFolded(trial)) {
                ++report_.folded;
            } else {
                ++report_.not_tried_count;
                if (report_.not_tried.size() < most_named) report_.not_tried.push_back(wordsOf(trial));
            }
        }
        report_.not_tried_count += static_cast<int>(std::min(beyond_, 1e9));
        report_.complete = !options_.stop.stopped();
    }
    std::string wordsOf(const Trial& trial) const {
        std::string out = bases_[trial.base].donor;
        for (const ChoiceMade& made : madeOf(trial)) out += (out.empty() ? "" : ", ") + made.words;
        return out.empty() ? "as it hangs" : out;
    }

    study::Study& study_;
    const study::Reports& reports_;
    const model::RuleBook& book_;
    const ChoicesOptions& options_;
    const Clock::time_point begun_;
    ChoicesReport report_;
    std::vector<Base> bases_;
    std::vector<Trial> trials_; ///< stays where it is once it is listed
    std::vector<const Trial*> fitting_;
    struct Together {
        std::size_t base;
        std::set<Literal> options;
        double lacks_mm;
    };
    std::vector<Together> together_;
    const Trial* least_bad_trial_ = nullptr;
    fit::FreePlace least_bad_;
    int cuts_now_ = 0;
    double beyond_ = 0; ///< combinations that are too many to be listed
};

} // namespace

int cutsOf(const model::Project& project) {
    int out = 0;
    if (!project.vehicle) return out;
    for (const model::Body& body : project.vehicle->bodies) {
        const bool came = !body.option.empty() && !model::isAlternative(project, model::vehicle_owner, body);
        const bool only_cut = body.may.be_cut && !body.may.be_moved && !body.may.be_removed;
        out += came && only_cut && !model::isTaken(project, model::vehicle_owner, body.option);
    }
    if (const auto* relief = project.sections.get<model::Relief>()) out += static_cast<int>(relief->pockets.size());
    return out;
}

ChoicesReport everyChoice(study::Study& study, const study::Reports& reports, const model::RuleBook& book,
                          const ChoicesOptions& options) {
    return Choices(study, reports, book, options).run();
}

} // namespace gabarit::make
