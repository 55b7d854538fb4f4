#include "describe/outline.h"

namespace gabarit::describe {

Line& Outliner::add(Kind kind, const Member& m) {
    lines_.push_back(Line{kind, m, false, nullptr, {}, {}});
    return lines_.back();
}

std::string Outliner::keep(Outliner& inner) {
    if (!outline_.types.count(inner.name_)) {
        outline_.order.push_back(inner.name_);
        outline_.types[inner.name_] = inner.take();
    }
    return inner.name_;
}

void Outliner::onObject(const Member& m, Object& value) {
    value.make();
    Outliner inner(outline_, m.key);
    const Owned as_here(inner, owner());
    value.describe(inner);
    Line& line = add(Kind::Object, m);
    line.optional = value.optional();
    line.of = keep(inner);
}

void Outliner::onList(const Member& m, List& value) {
    Outliner inner(outline_, m.key);
    const Owned as_here(inner, owner());
    value.describeNew(inner);
    add(Kind::List, m).of = keep(inner);
}

void Outliner::onForms(const Member& m, const Words& words, Forms& value) {
    std::vector<Form> forms;
    for (std::size_t i = 0; i < words.size(); ++i) {
        value.become(i);
        Outliner inner(outline_, name_);
        const Owned as_here(inner, owner());
        value.describe(inner);
        forms.push_back({words[i].file, inner.take()});
    }
    add(Kind::Forms, m).forms = std::move(forms);
}

} // namespace gabarit::describe
