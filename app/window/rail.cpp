#include "window/rail.h"

#include "forms/tones.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {

constexpr int rail_px = 200;
constexpr int tab_px = 23;
constexpr int narrow_tab_px = target_px;
constexpr int line_px = 28; // 22 of them and their groups are to stand in a window 800 high
constexpr int rail_edge_px = 8;

} // namespace

RailEntry::RailEntry(const QString& name, QWidget* parent) : QAbstractButton(parent) {
    setText(name);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize RailEntry::sizeHint() const { return {rail_px - tab_px - rail_edge_px, line_px}; }

void RailEntry::tell(const QString& state, std::optional<model::Verdict> mark) {
    if (state_ == state && mark_ == mark && !accessibleName().isEmpty()) return;
    state_ = state;
    mark_ = mark;
    setAccessibleName(QStringLiteral("%1: %2").arg(text(), state) +
                      (mark ? QStringLiteral(", ") + stateWords(*mark) : QString()));
    update();
}

void RailEntry::enterEvent(QEnterEvent* event) {
    QAbstractButton::enterEvent(event);
    update();
}

void RailEntry::leaveEvent(QEvent* event) {
    QAbstractButton::leaveEvent(event);
    update();
}

void RailEntry::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const bool shown = isChecked();
    if (shown || underMouse()) painter.fillRect(rect(), tones().paper);
    if (shown) painter.fillRect(0, 0, 4, height(), tones().in_hand);
    QFont font = this->font();
    font.setBold(shown);
    painter.setFont(font);
    painter.setPen(tones().ink);
    constexpr int mark_px = 5, gap_px = 6;
    const int right = width() - rail_edge_px;
    int from_right = right;
    if (mark_) {
        paintMark(painter, QPointF(right - mark_px, height() / 2.0), mark_px, *mark_);
        from_right -= 2 * mark_px + gap_px;
    }
    const int name_width = QFontMetrics(font).horizontalAdvance(text());
    painter.drawText(QRect(10, 0, name_width + 4, height()), Qt::AlignLeft | Qt::AlignVCenter, text());
    painter.setFont(this->font());
    painter.setPen(shown ? tones().ink : tones().second_ink);
    painter.drawText(QRect(10 + name_width, 0, from_right - 10 - name_width, height()),
                     Qt::AlignRight | Qt::AlignVCenter, state_);
    paintFocus(painter, *this);
}

RailTab::RailTab(const QString& name, QWidget* parent) : QAbstractButton(parent) {
    setText(name);
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Preferred);
}

QSize RailTab::sizeHint() const {
    constexpr int beside_words_px = 12;
    return {tab_px, QFontMetrics(font()).horizontalAdvance(text()) + beside_words_px};
}

void RailTab::setActive(bool active) {
    if (active_ == active) return;
    active_ = active;
    update();
}

void RailTab::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), active_ ? tones().ink : underMouse() ? tones().paper : tones().chassis);
    painter.setPen(active_ ? tones().paper : tones().ink);
    painter.save();
    painter.translate(0, height());
    painter.rotate(-90);
    painter.drawText(QRect(0, 0, height(), width()), Qt::AlignCenter, text());
    painter.restore();
    paintFocus(painter, *this);
}

Rail::Rail(const std::vector<Line>& lines, QWidget* parent)
    : QWidget(parent), lines_(lines), one_of_(new QButtonGroup(this)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(3, 6, 0, 6);
    column->setSpacing(8);
    for (const Line& line : lines_) {
        if (groups_.empty() || groups_.back().group != line.group) {
            groups_.emplace_back();
            groups_.back().group = line.group;
        }
        auto* entry = new RailEntry(line.name, this);
        entry->setCheckable(true);
        one_of_->addButton(entry, static_cast<int>(entries_.size()));
        entries_.push_back(entry);
        groups_.back().entries.push_back(entry);
    }
    for (Group& group : groups_) {
        // One that is its group stands at the foot by itself.
        group.alone = group.entries.size() == 1 && group.entries.front()->text() == stageGroupWords(group.group);
        if (group.alone) column->addStretch(1);
        auto* row = new QHBoxLayout;
        row->setSpacing(0);
        auto* inner = new QVBoxLayout;
        inner->setSpacing(0);
        const QString name = stageGroupWords(group.group);
        group.tab = new RailTab(name, this);
        row->addWidget(group.tab);
        group.line = new RailEntry(name, this);
        inner->addStretch();
        inner->addWidget(group.line);
        for (RailEntry* entry : group.entries) inner->addWidget(entry);
        inner->addStretch();
        row->addLayout(inner, 1);
        column->addLayout(row);
        const auto turn = [this, its = group.group] {
            Group& here = groupOf(its);
            if (narrow_) return openMenu(here);
            here.folded = !here.folded;
            refresh(here);
        };
        connect(group.tab, &QAbstractButton::clicked, this, turn);
        connect(group.line, &QAbstractButton::clicked, this, turn);
        refresh(group);
    }
    if (groups_.empty() || !groups_.back().alone) column->addStretch(1);
    setFixedWidth(rail_px);
    connect(one_of_, &QButtonGroup::idClicked, this,
            [this](int i) { emit picked(lines_[static_cast<std::size_t>(i)].id); });
}

Rail::Group& Rail::groupOf(StageGroup group) {
    return *std::find_if(groups_.begin(), groups_.end(), [group](const Group& g) { return g.group == group; });
}

RailEntry* Rail::entry(const QString& id) const {
    for (std::size_t i = 0; i < lines_.size(); ++i)
        if (lines_[i].id == id) return entries_[i];
    return nullptr;
}

RailTab* Rail::tab(StageGroup group) const {
    for (const Group& its : groups_)
        if (its.group == group) return its.tab;
    return nullptr;
}

void Rail::setCurrent(const QString& id) {
    one_of_->setExclusive(false); // none may be checked
    for (std::size_t i = 0; i < lines_.size(); ++i) entries_[i]->setChecked(lines_[i].id == id);
    one_of_->setExclusive(true);
    for (Group& group : groups_) {
        group.tab->setActive(std::any_of(group.entries.begin(), group.entries.end(),
                                         [](const RailEntry* entry) { return entry->isChecked(); }));
        refresh(group);
    }
}

void Rail::tell(const QString& id, const QString& state, std::optional<model::Verdict> mark) {
    entry(id)->tell(state, mark);
    for (std::size_t i = 0; i < lines_.size(); ++i)
        if (lines_[i].id == id) refresh(groupOf(lines_[i].group));
}

void Rail::refresh(Group& group) {
    for (RailEntry* entry : group.entries) entry->setVisible(!narrow_ && !group.folded);
    group.line->setVisible(!narrow_ && group.folded);
    group.tab->setVisible(narrow_ || !group.alone);
    const bool small = group.folded && !narrow_;
    group.tab->setFixedWidth(narrow_ ? narrow_tab_px : small ? 8 : tab_px);
    if (small)
        group.tab->setFixedHeight(line_px);
    else
        group.tab->setMinimumHeight(0), group.tab->setMaximumHeight(QWIDGETSIZE_MAX);
    group.tab->setFocusPolicy(small ? Qt::NoFocus : Qt::TabFocus); // its line has it
    // What the whole group comes to: its worst mark, its open points together.
    std::optional<model::Verdict> worst;
    int open = 0;
    for (const RailEntry* entry : group.entries) {
        if (entry->mark()) worst = worst ? model::worse(*worst, *entry->mark()) : entry->mark();
        open += entry->state().toInt();
    }
    group.line->tell(open > 0 ? QString::number(open) : worst ? tr("go") : QString(), worst);
    const QString deed = narrow_ ? tr("its stages") : group.folded ? tr("unfold") : tr("fold");
    for (QAbstractButton* button :
         {static_cast<QAbstractButton*>(group.tab), static_cast<QAbstractButton*>(group.line)})
        button->setToolTip(QStringLiteral("%1: %2").arg(group.tab->text(), deed));
    group.tab->setAccessibleName(group.tab->toolTip());
}

void Rail::openMenu(const Group& group) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (std::size_t i = 0; i < lines_.size(); ++i) {
        if (lines_[i].group != group.group) continue;
        const QString& state = entries_[i]->state();
        menu->addAction(state.isEmpty() ? lines_[i].name : QStringLiteral("%1 · %2").arg(lines_[i].name, state), this,
                        [this, id = lines_[i].id] { emit picked(id); });
    }
    menu->popup(group.tab->mapToGlobal(QPoint(group.tab->width(), 0)));
}

void Rail::setNarrow(bool narrow) {
    if (narrow_ == narrow) return;
    narrow_ = narrow;
    setFixedWidth(narrow ? narrow_tab_px + 6 : rail_px);
    for (Group& group : groups_) refresh(group);
}

QStringList Rail::folded() const {
    QStringList out;
    for (const Group& group : groups_)
        if (group.folded) out << QString::number(static_cast<int>(group.group));
    return out;
}

void Rail::fold(const QStringList& groups) {
    for (Group& group : groups_) {
        group.folded = groups.contains(QString::number(static_cast<int>(group.group)));
        refresh(group);
    }
}

} // namespace gabarit::app

#include "moc_rail.cpp"
