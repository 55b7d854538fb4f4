#include "discipline/board.h"

#include "discipline/sections.h"

#include <algorithm>
#include <set>

namespace gabarit::discipline {
namespace {

Error wrong(const std::string& what, const Discipline& of, const char* mend) { return {what, of.card().id, mend}; }

} // namespace

Result<Board> Board::of(std::vector<const Discipline*> disciplines) {
    Board out;
    out.all_ = std::move(disciplines);
    const auto& all = out.all_;
    std::stable_sort(out.all_.begin(), out.all_.end(),
                     [](const Discipline* a, const Discipline* b) { return a->card().order < b->card().order; });
    std::map<std::type_index, std::size_t> offered;
    std::set<std::string> sections, verbs;
    for (const std::string& section : sectionNames())
        if (!sections.insert(section).second)
            return Error{"two sections of the project are called \"" + section + "\"", "core/sections",
                         "give one another key"};
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Card& card = all[i]->card();
        for (std::size_t k = 0; k < i; ++k)
            if (all[k]->card().id == card.id)
                return wrong("two disciplines are called \"" + card.id + "\"", *all[i], "give one another id");
        for (const Printed& printed : all[i]->prints())
            if (!verbs.insert(printed.name).second)
                return wrong("two reports are called \"" + printed.name + "\"", *all[i], "give one another name");
        for (const Deed& deed : all[i]->deeds())
            if (!verbs.insert(deed.id).second)
                return wrong(std::string("\"") + deed.id + "\" is another report's or deed's name", *all[i],
                             "give it another one");
        for (const std::string& section : card.reads)
            if (sections.count(section) == 0)
                return wrong("it reads a section \"" + section + "\" that there is not", *all[i], "correct its card");
        for (const std::type_index type : card.offers)
            if (!offered.emplace(type, i).second)
                return wrong("it offers what " + all[offered.at(type)]->card().id + " offers", *all[i],
                             "let one of the two offer it");
    }
    out.before_.resize(all.size());
    out.behind_.assign(all.size(), 0);
    for (std::size_t i = 0; i < all.size(); ++i)
        for (const std::type_index type : all[i]->card().needs) {
            const auto from = offered.find(type);
            if (from == offered.end())
                return wrong("it needs what none offers", *all[i], "let one offer it, or do without");
            auto& before = out.before_[i];
            if (std::find(before.begin(), before.end(), from->second) == before.end()) before.push_back(from->second);
        }
    // Rows get longer until they do not; a row longer than all there are goes in a circle.
    for (bool longer = true; longer;) {
        longer = false;
        for (std::size_t i = 0; i < all.size(); ++i)
            for (const std::size_t k : out.before_[i])
                if (out.behind_[k] <= out.behind_[i]) {
                    out.behind_[k] = out.behind_[i] + 1;
                    if (out.behind_[k] > static_cast<int>(all.size()))
                        return wrong("what it needs waits for it", *all[k], "break the circle");
                    longer = true;
                }
    }
    return out;
}

} // namespace gabarit::discipline
