#include "make/search.h"

#include "discipline/wording.h"
#include "fit/fit_report.h"
#include "make/bracket_route.h"
#include "make/choices_search.h"
#include "make/fit_map_search.h"
#include "make/free_search.h"
#include "make/ways_written.h"
#include "mounts/apply.h"
#include "mounts/section/mounts.h"
#include "relief/apply.h"
#include "relief/section/relief.h"

#include <algorithm>
#include <set>
#include <stdexcept>

namespace gabarit::make {
namespace {

using discipline::Answer;
using discipline::Found;
using discipline::SearchCard;
using discipline::SearchGiven;

model::BodyRef refOf(const std::string& text) {
    const auto slash = text.find('/');
    if (slash == std::string::npos) return {model::vehicle_owner, {text}};
    return {text.substr(0, slash), {text.substr(slash + 1)}};
}

/// A body by its name; by its id when it is not there.
std::string nameOf(const model::Project& project, const model::BodyRef& ref) {
    const model::Body* body = model::findBody(project, ref);
    return body ? body->name : ref.text();
}

/// Each bracket that is asked for, round what is in its way.
class BracketMaker {
public:
    BracketMaker(const Searching& with, const SearchGiven& given)
        : with_(with), given_(given), made_(*given.project), book_(study::bookOf(with.reports, given.book)) {}

    Result<Found> make() {
        const std::string &mount = given_.about[0], &which = given_.about[1];
        const auto* given = made_.sections.get<model::Mounts>();
        if (!given) return Error{"there are no mounts", "mounts", "add them first"};
        const std::vector<model::Mount> mounts = given->mounts;
        if (!mount.empty() && std::none_of(mounts.begin(), mounts.end(), [&](const auto& m) { return m.id == mount; }))
            return Error{"there is no mount \"" + mount + "\"", "mounts", "name one of them"};
        for (const model::Mount& its : mounts)
            for (const mounts::Which side : {mounts::Which::Bracket, mounts::Which::Tower})
                if ((mount.empty() || its.id == mount) && (which.empty() || which == mounts::word(side)))
                    one(its, side, !mount.empty() && !which.empty());
        Found out;
        out.none = troubles_.empty() ? "No mount has a bracket to make." : "No bracket could be made.";
        out.troubles = std::move(troubles_);
        if (count_ == 0) return out;
        Answer answer;
        answer.words = std::to_string(count_) + (count_ == 1 ? " bracket" : " brackets") + " made";
        answer.step = "make the " + (count_ == 1 ? (which.empty() ? "bracket" : which) : std::string("brackets"));
        answer.project = std::make_shared<const model::Project>(std::move(made_));
        out.answers.push_back(std::move(answer));
        return out;
    }

private:
    /// `asked`: it is made even if there is none yet.
    void one(const model::Mount& mount, mounts::Which side, bool asked) {
        const model::Bracket* its = mounts::bracketOf(mount, side);
        if (!its && !asked) return;
        auto next = withBracketRouted(made_, *with_.reports.scene, book_, mount.id, side, its ? *its : model::Bracket{},
                                      with_.study.colliders(), given_.stop);
        if (!next) return troubles_.push_back(next.error());
        made_ = std::move(next).value();
        ++count_;
        if (given_.progress)
            given_.progress(count_, static_cast<int>(2 * made_.sections.get<model::Mounts>()->mounts.size()));
    }

    const Searching& with_;
    const SearchGiven& given_;
    model::Project made_;
    model::RuleBook book_;
    std::vector<Error> troubles_;
    int count_ = 0;
};

Result<Found> pocket(const Searching& with, const SearchGiven& given) {
    const model::BodyId body{given.about[0]};
    fit::GapMemo memo;
    // With limits as the gaps are held by: the book is applied in there.
    const auto made = proposedPocket(with.reports, given.book, body, intrudersOf(with.reports, body),
                                     with.study.colliders(), memo, given.stop);
    if (!made) return made.error();
    const model::Pocket& its = made.value().pocket;
    const auto length = [&given](double mm) { return quantity::lengthText(mm, given.shown); };
    Answer answer;
    answer.words = its.name + ": " + length(its.length_mm) + " × " + length(its.width_mm) + ", " +
                   length(its.depth_mm) + " deep, plate " + length(its.plate_mm) +
                   (its.doubler_mm > 0 ? ", strap " + length(its.doubler_mm) : "");
    answer.step = "cut a pocket";
    answer.made = "pocket:" + its.id;
    answer.project = std::make_shared<const model::Project>(relief::withPocket(*given.project, given.book, its));
    Found out;
    out.text = model::cautionAbout(given.book, "relief/cut") + "\n";
    out.answers.push_back(std::move(answer));
    return out;
}

Result<Found> ways(const Searching& with, const SearchGiven& given) {
    study::RunOptions options;
    options.shown = given.shown;
    options.stop = given.stop;
    const model::BodyRef a = refOf(given.about[0]), b = refOf(given.about[1]);
    const auto out = waysOut(with.study, with.reports, given.book, a, b, options);
    if (!out) return out.error();
    return found(out.value(), nameOf(*given.project, a) + " and " + discipline::inSentence(nameOf(*given.project, b)));
}

std::vector<Search> all() {
    std::vector<Search> out;
    const discipline::Board& board = disciplines::all();
    for (std::size_t i = 0; i < board.size(); ++i)
        for (discipline::Search& own : board[i].searches()) {
            const auto look = [own_look = own.look](const Searching&, const SearchGiven& given) {
                return own_look(given);
            };
            out.push_back({own.card, board[i].card().id, look});
        }
    SearchCard brackets{"make-brackets", "Make the brackets",
                        "make the mounts' brackets and towers as bodies and parts, round what is in the way", ""};
    brackets.asks = {{"mount", "of this mount alone", false}, {"which", "bracket or tower", false}};
    brackets.takes = true;
    out.push_back({brackets, "mounts",
                   [](const Searching& with, const SearchGiven& given) { return BracketMaker(with, given).make(); }});
    SearchCard cut{"propose-pocket", "Cut a pocket",
                   "cut a pocket into a body of the vehicle for what stands too near to it, and close it", ""};
    cut.asks = {{"body", "the body's id"}};
    cut.takes = true;
    out.push_back({cut, "relief", pocket});
    SearchCard side{"ways", "Ways out side by side",
                    "move, variant and pocket for a gap that is too small, side by side: what each costs elsewhere",
                    ""};
    side.asks = {{"a", "a body of the unit: donor-id/body-id"}, {"b", "a body of the vehicle: vehicle/body-id"}};
    out.push_back({side, "relief", ways});
    SearchCard free{"free-all", "Where does it fit?",
                    "the smallest move after which every gap of the unit is good; where there is none the least bad "
                    "place, and what binds there",
                    ""};
    free.asks = {{"hold", "what stays as it is: along, across, up, swing, tail, lean, with commas between", false},
                 {"first",
                  "what comes before the smallest move: shaft (the one that is there is kept), angles (equal "
                  "joint angles)",
                  false}};
    free.pick = "take";
    free.picks = {"1", "2", "3"};
    out.push_back({free, fit::discipline().card().id, freePlaces});
    SearchCard forms{"free-choices", "Try every form",
                     "every form that the file offers (sump, manifold, gearbox, another donor, a pocket), each freed: "
                     "least cut first, and what each change buys",
                     ""};
    forms.asks = {free.asks[0], free.asks[1], {"seconds", "nothing is begun after that", false}};
    forms.pick = free.pick;
    forms.picks = free.picks;
    out.push_back({forms, fit::discipline().card().id, choicesTried});
    SearchCard map{"fit-map", "Map of where it fits",
                   "over two freedoms: where every gap is good, by how much, and what binds elsewhere", ""};
    map.asks = {{"x", "the freedom across: along (if none is named), across, up, swing, tail, lean", false},
                {"z", "the freedom upwards: up if none is named", false},
                {"others", "held (as they are, if nothing is said) or freed within the book's limits", false},
                {"size", "points each way, 2 to 80; 21 if nothing is said", false}};
    out.push_back({map, fit::discipline().card().id, fitMapped});
    std::set<std::string> ids;
    for (const Search& search : out)
        if (!ids.insert(search.card.id).second)
            throw std::logic_error("two searches are called \"" + search.card.id + "\"");
    return out;
}

} // namespace

const std::vector<Search>& searches() {
    static const std::vector<Search> list = all();
    return list;
}

const Search& searchOf(const std::string& id) {
    for (const Search& search : searches())
        if (search.card.id == id) return search;
    throw std::logic_error("there is no search \"" + id + "\"");
}

Result<Found> lookFor(const Search& search, const Searching& with, const model::RuleBook& book,
                      std::vector<std::string> about, quantity::Shown shown, const StopToken& stop,
                      const std::function<void(int, int)>& progress) {
    const model::RuleBook its = model::applied(book, with.reports.project->rules);
    about.resize(search.card.asks.size());
    return search.look(with, {with.reports.project, its, with.reports.offers, std::move(about), shown, stop, progress});
}

} // namespace gabarit::make
