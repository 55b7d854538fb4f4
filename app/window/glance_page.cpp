#include "window/glance_page.h"

#include "forms/text.h"
#include "forms/tones.h"
#include "forms/wrapped_label.h"
#include "session/session.h"
#include "store/rule_book.h"
#include "window/gauge_strip.h"
#include "window/why_picture.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {

constexpr int row_px = 30;
constexpr int mark_column_px = 24;
constexpr int number_column_px = 26;
constexpr int bar_px = 64;
constexpr int value_px = 78; // at least, as what is wanted
constexpr int wanted_px = 106;
constexpr int roomy_px = 900;                                // a page so high shows more of what is go
constexpr std::size_t good_shown = 5, good_shown_roomy = 12; // the tightest of each group: nobody reads a hundred
constexpr int gap_px = 8;
constexpr int wide_px = 900; // two columns beside each other

/// What is wanted, breaking only between two of it.
QString wantedText(const study::Finding& finding) {
    QString out = withSigns(withoutRest(q(finding.held.wanted))).replace(QLatin1Char(' '), QChar::Nbsp);
    return out.replace(QStringLiteral(",") + QChar::Nbsp, QStringLiteral(", "));
}

QString valueText(const study::Finding& finding) { return withoutRest(q(finding.held.value)); }

/// How wide figures are in a row of this width.
struct Figures {
    int value_px, wanted_px;
};
Figures figuresIn(int width) { return {std::max(value_px, width / 7), std::max(wanted_px, width / 5)}; }

QLabel* quiet(QLabel* label) {
    label->setForegroundRole(QPalette::PlaceholderText);
    return label;
}

/// What the marks mean.
class Legend : public QWidget {
public:
    explicit Legend(QWidget* parent) : QWidget(parent) { setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Preferred); }
    QSize sizeHint() const override {
        int width = 0;
        for (const auto& [mark, words] : entries()) width += fontMetrics().horizontalAdvance(words) + apart_px;
        return {width, row_px};
    }
    QSize minimumSizeHint() const override { return {0, row_px}; }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        int x = 0;
        for (const auto& [mark, words] : entries()) {
            paintMark(painter, QPointF(x + 7, height() / 2.0), 5.5, mark);
            painter.setPen(tones().second_ink);
            painter.drawText(QRect(x + 18, 0, width(), height()), Qt::AlignLeft | Qt::AlignVCenter, words);
            x += fontMetrics().horizontalAdvance(words) + apart_px;
        }
    }

private:
    static constexpr int apart_px = 34;
    static std::vector<std::pair<model::Verdict, QString>> entries() {
        std::vector<std::pair<model::Verdict, QString>> out;
        for (const auto verdict :
             {model::Verdict::NoGo, model::Verdict::Close, model::Verdict::Unknown, model::Verdict::Go})
            out.emplace_back(verdict, stateWords(verdict));
        return out;
    }
};

} // namespace

/// Where things stand in a row of this width.
struct GlanceRow::Places {
    int words_left, words_px, bar_left, value_right, value_px, wanted_left, wanted_px;
};

GlanceRow::GlanceRow(QWidget* parent) : QAbstractButton(parent) {
    setCheckable(true);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

QString GlanceRow::words() const { return q(finding_.what.empty() ? finding_.title : finding_.what); }

GlanceRow::Places GlanceRow::places(int width) const {
    Places at{};
    at.words_left = 4 + mark_column_px + number_column_px + 4;
    const Figures figures = figuresIn(width);
    at.wanted_px = figures.wanted_px - 4;
    at.wanted_left = width - figures.wanted_px;
    at.value_px = figures.value_px;
    at.value_right = at.wanted_left - gap_px;
    at.bar_left = at.value_right - at.value_px - gap_px - bar_px;
    at.words_px = std::max(80, at.bar_left - gap_px - at.words_left);
    return at;
}

int GlanceRow::heightForWidth(int width) const {
    const Places at = places(width);
    const QFontMetrics metrics(font());
    const auto high = [&](int room, const QString& text) {
        return metrics.boundingRect(QRect(0, 0, room, 10000), Qt::TextWordWrap, text).height() + 8;
    };
    // A value that is a word ("out of reach") may need two lines, as what is wanted.
    return std::max({row_px, high(at.words_px, words()), high(at.value_px, valueText(finding_)),
                     high(at.wanted_px, wantedText(finding_))});
}

void GlanceRow::show(const study::Finding& finding) {
    finding_ = finding;
    QString said = words() + QStringLiteral(": ") + stateWords(finding.verdict);
    if (finding.number > 0) said.prepend(QStringLiteral("%1. ").arg(finding.number));
    if (!finding.held.value.empty()) said += QStringLiteral(", ") + q(finding.held.value);
    if (!finding.held.wanted.empty()) said += tr(", wanted %1").arg(q(finding.held.wanted));
    setAccessibleName(said);
    setToolTip(finding.title.empty() ? QString() : q(finding.title));
    setVisible(true);
    updateGeometry();
    update();
}

void GlanceRow::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Places at = places(width());
    if (isChecked() || underMouse()) painter.fillRect(rect(), tones().panel);
    if (isChecked()) painter.fillRect(0, 0, 4, height(), tones().in_hand);
    paintMark(painter, QPointF(4 + mark_column_px / 2.0, height() / 2.0), 5.5, finding_.verdict);
    const bool trouble = finding_.verdict == model::Verdict::NoGo;
    painter.setPen(tones().second_ink);
    if (finding_.number > 0)
        painter.drawText(QRect(4 + mark_column_px, 0, number_column_px - 4, height()),
                         Qt::AlignRight | Qt::AlignVCenter, QString::number(finding_.number));
    painter.setPen(tones().ink);
    painter.drawText(QRect(at.words_left, 0, at.words_px, height()),
                     Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, words());

    // The margin: left of the upright line is short, right of it is room; doubt is hatched.
    const double middle = at.bar_left + bar_px / 2.0, y = height() / 2.0;
    painter.setPen(QPen(tones().rule, 1.5, finding_.held.margin ? Qt::SolidLine : Qt::DashLine));
    painter.drawLine(QPointF(at.bar_left, y), QPointF(at.bar_left + bar_px, y));
    if (finding_.held.margin) {
        const auto x = [&](double share) { return middle + std::clamp(share, -1.0, 1.0) * bar_px / 2; };
        painter.setPen(Qt::NoPen);
        painter.setBrush(toneOf(finding_.verdict));
        const double end = x(*finding_.held.margin);
        painter.drawRect(QRectF(QPointF(std::min(middle, end), y - 4), QPointF(std::max(middle, end), y + 4)));
        if (finding_.held.doubt > 0) {
            painter.setBrush(QBrush(tones().ink, Qt::BDiagPattern));
            painter.setPen(QPen(tones().ink, 0.8));
            painter.drawRect(QRectF(QPointF(x(*finding_.held.margin - finding_.held.doubt), y - 4),
                                    QPointF(x(*finding_.held.margin + finding_.held.doubt), y + 4)));
        }
    }
    painter.setPen(QPen(tones().ink, 1.6));
    painter.drawLine(QPointF(middle, 0), QPointF(middle, height()));

    QFont bold = font();
    bold.setBold(true);
    painter.setFont(bold);
    painter.setPen(trouble ? tones().trouble : tones().ink);
    painter.drawText(QRect(at.value_right - at.value_px, 0, at.value_px, height()),
                     Qt::AlignRight | Qt::AlignVCenter | Qt::TextWordWrap, valueText(finding_));
    painter.setFont(font());
    painter.setPen(tones().second_ink);
    painter.drawText(QRect(at.wanted_left, 0, at.wanted_px, height()),
                     Qt::AlignRight | Qt::AlignVCenter | Qt::TextWordWrap, wantedText(finding_));
    paintFocus(painter, *this);
}

WhyPanel::WhyPanel(QWidget* parent)
    : QWidget(parent), picture_(new WhyPicture(this)), so_(new WrappedLabel(this)), most_(new WrappedLabel(this)),
      about_(new WrappedLabel(this)), caution_(new WrappedLabel(this)),
      show_(new QPushButton(tr("Show it there"), this)), try_(new QPushButton(tr("Try it"), this)) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 10, 10);
    column->setSpacing(6);
    auto* head = new QLabel(tr("Why this number?"), this);
    QFont bold = font();
    bold.setBold(true);
    head->setFont(bold);
    so_->setFont(bold);
    QFont slanted = font();
    slanted.setItalic(true);
    caution_->setFont(slanted);
    column->addWidget(head);
    column->addWidget(picture_);
    column->addWidget(so_);
    column->addWidget(most_);
    column->addWidget(quiet(about_));
    column->addWidget(caution_);
    auto* row = new QHBoxLayout;
    row->addWidget(show_);
    row->addWidget(try_);
    row->addStretch();
    column->addLayout(row);
    try_->setToolTip(tr("Moves the engine that way, as one step that can be undone"));
    connect(show_, &QPushButton::clicked, this, &WhyPanel::leadWanted);
    connect(try_, &QPushButton::clicked, this, &WhyPanel::tryWanted);
}

void WhyPanel::show(const study::Finding& finding, const std::optional<discipline::Why>& why) {
    const discipline::Why sum = why.value_or(discipline::Why{});
    picture_->show(sum);
    picture_->setVisible(!sum.lines.empty());
    so_->setText(q(sum.so));
    so_->setVisible(!sum.so.empty());
    most_->setText(sum.most.empty() ? QString() : tr("Changes it most: %1").arg(q(sum.most)));
    most_->setVisible(!sum.most.empty());
    QStringList about;
    // The sum says what title and detail say.
    const std::vector<std::string> words =
        sum.lines.empty() ? std::vector{finding.title, finding.detail, finding.help} : std::vector{finding.help};
    for (const std::string& sentence : words)
        if (!sentence.empty() && sentence != sum.most) about << q(sentence);
    // Where the sum names its rule it is not said again.
    if (!finding.rule.empty() && sum.lines.empty()) about << tr("Held against: %1").arg(q(finding.rule));
    about_->setText(about.join(QLatin1Char('\n')));
    about_->setVisible(!about.isEmpty());
    caution_->setText(q(finding.caution));
    caution_->setVisible(!finding.caution.empty());
    try_->setVisible(finding.way_out && finding.a && !finding.a->inVehicle());
    setVisible(true);
}

QString WhyPanel::words() const {
    QStringList out;
    for (const QLabel* label : {so_, most_, about_, caution_})
        if (!label->isHidden()) out << label->text();
    return out.join(QLatin1Char('\n'));
}

void WhyPanel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), tones().paper.lighter(theme() == Theme::Dark ? 120 : 104));
    painter.fillRect(0, 0, 4, height(), tones().in_hand);
}

GlancePage::GlancePage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new QLabel(tr("Every check, worst first"), this)),
      open_(new QPushButton(this)), all_(new QPushButton(this)), area_(new QScrollArea(this)), columns_(nullptr),
      left_(new QVBoxLayout), right_(new QVBoxLayout), empty_(new WrappedLabel(this)), why_(new WhyPanel(this)) {
    setAutoFillBackground(true);
    setBackgroundRole(QPalette::Base);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 6, 8, 0);
    column->setSpacing(6);
    QFont large = title_->font();
    large.setBold(true);
    large.setPointSizeF(large.pointSizeF() + 2);
    title_->setFont(large);
    title_->setToolTip(
        tr("The bar beside a check: how much is short of what is wanted (left) or beyond it (right), as a "
           "share of what is wanted; hatched: the doubt of the tape"));
    auto* head = new QHBoxLayout;
    head->addWidget(title_);
    head->addStretch();
    head->addWidget(new Legend(this));
    head->addSpacing(16);
    auto* one_of = new QButtonGroup(this);
    for (QPushButton* button : {open_, all_}) {
        button->setCheckable(true);
        one_of->addButton(button);
        head->addWidget(button);
    }
    all_->setChecked(true);
    connect(one_of, &QButtonGroup::buttonClicked, this, [this] { refresh(); });
    column->addLayout(head);
    auto* inner = new QWidget(this);
    inner->setBackgroundRole(QPalette::Base);
    columns_ = new QBoxLayout(QBoxLayout::LeftToRight, inner);
    columns_->setContentsMargins(0, 0, 8, 8);
    columns_->setSpacing(20);
    for (QVBoxLayout* half : {left_, right_}) {
        half->setSpacing(12);
        columns_->addLayout(half, 1);
    }
    left_->addWidget(empty_);
    area_->setWidgetResizable(true);
    area_->setFocusPolicy(Qt::NoFocus);
    area_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area_->setWidget(inner);
    column->addWidget(area_, 1);
    why_->hide();
    connect(why_, &WhyPanel::leadWanted, this, [this] {
        for (const GlanceRow* row : rows())
            if (row->finding().id == opened_) return emit leadTo(row->finding());
    });
    connect(why_, &WhyPanel::tryWanted, this, &GlancePage::tryIt);
    connect(&session_, &Session::reportsChanged, this, &GlancePage::refresh);
    connect(&session_, &Session::projectReplaced, this, [this] {
        opened_.clear();
        refresh();
    });
}

void GlancePage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void GlancePage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    refresh();
}

GlancePage::Section* GlancePage::sectionOf(discipline::Group group) {
    for (Section& section : sections_)
        if (section.group == group) return &section;
    Section made;
    made.group = group;
    made.box = new QWidget(area_->widget());
    made.box->setBackgroundRole(QPalette::Base);
    made.column = new QVBoxLayout(made.box);
    made.column->setContentsMargins(0, 0, 0, 0);
    made.column->setSpacing(0);
    made.head = new QLabel(made.box);
    made.head->setTextFormat(Qt::RichText);
    made.head->setContentsMargins(4, 2, 0, 4);
    auto* headRow = new QHBoxLayout;
    headRow->setSpacing(gap_px);
    headRow->addWidget(made.head, 1);
    for (QLabel** label : {&made.is, &made.wanted}) {
        *label = quiet(new QLabel(label == &made.is ? tr("is") : tr("wanted"), made.box));
        (*label)->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        (*label)->setContentsMargins(0, 0, label == &made.wanted ? 4 : 0, 0);
        headRow->addWidget(*label);
    }
    made.column->addLayout(headRow);
    auto* line = new QFrame(made.box);
    line->setFixedHeight(1);
    line->setAutoFillBackground(true);
    line->setBackgroundRole(QPalette::PlaceholderText);
    made.column->addWidget(line);
    made.more = new QPushButton(made.box);
    made.more->setFlat(true);
    made.column->addWidget(made.more, 0, Qt::AlignLeft);
    connect(made.more, &QPushButton::clicked, this, [this, group] {
        Section* its = sectionOf(group);
        its->unfolded = !its->unfolded;
        refresh();
    });
    sections_.push_back(std::move(made));
    return &sections_.back();
}

void GlancePage::fill(Section& section, const study::GroupState& state, const study::Reports& reports) {
    const QString name = q(discipline::groupName(section.group)).toHtmlEscaped();
    const QString comes_to = !state.verdict             ? tr("not begun")
                             : state.counts.open() == 0 ? stateWords(*state.verdict)
                                                        : q(study::countWords(state.counts));
    section.head->setText(QStringLiteral("<b>%1</b> &nbsp; %2").arg(name, comes_to.toHtmlEscaped()));
    std::vector<const study::Finding*> shown;
    for (const study::Finding& finding : reports.findings)
        if (finding.group == section.group) shown.push_back(&finding);
    std::vector<const study::Finding*> good;
    if (all_->isChecked())
        for (const study::Finding& finding : reports.good)
            if (finding.group == section.group) good.push_back(&finding);
    const std::size_t most = height() > roomy_px ? good_shown_roomy : good_shown;
    section.more->setVisible(good.size() > most);
    section.more->setText(section.unfolded ? tr("Only the tightest that are go")
                                           : tr("%1 more are go").arg(static_cast<int>(good.size() - most)));
    if (good.size() > most && !section.unfolded) good.resize(most);
    shown.insert(shown.end(), good.begin(), good.end());
    while (section.rows.size() < shown.size()) {
        auto* row = new GlanceRow(section.box);
        section.column->insertWidget(section.column->indexOf(section.more), row);
        connect(row, &QAbstractButton::clicked, this, [this, row] {
            opened_ = opened_ == row->finding().id ? std::string() : row->finding().id;
            placeWhy();
        });
        section.rows.push_back(row);
    }
    for (std::size_t i = 0; i < section.rows.size(); ++i) {
        if (i < shown.size())
            section.rows[i]->show(*shown[i]);
        else
            section.rows[i]->hide();
    }
    section.shown = static_cast<int>(shown.size());
}

void GlancePage::refresh() {
    if (!isVisible()) return;
    const auto reports = session_.reports();
    empty_->setVisible(!reports || !reports->asked);
    empty_->setText(!session_.hasProject() ? tr("Open a project to see its checks.")
                    : !reports             ? tr("Looking…")
                                           : tr("Nothing is judged yet. Begin under Survey: what you measure there is "
                                                            "held against its limits here."));
    for (Section& section : sections_) section.shown = -1;
    if (reports) {
        const int open = static_cast<int>(reports->findings.size());
        open_->setText(tr("Open %1").arg(open));
        all_->setText(tr("All %1").arg(open + static_cast<int>(reports->good.size())));
        for (const study::GroupState& state : study::groupsOf(*reports)) fill(*sectionOf(state.group), state, *reports);
    }
    for (Section& section : sections_) section.box->setVisible(section.shown >= 0);
    placeWhy();
    arrange();
}

/// The groups in their order, from the left column over into the right one where the halves are most alike.
void GlancePage::arrange() {
    arranged_wide_ = width() >= wide_px;
    columns_->setDirection(arranged_wide_ ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
    const int scroll_px = 20; // and what stands between the halves
    const Figures figures = figuresIn(arranged_wide_ ? (area_->viewport()->width() - 2 * scroll_px) / 2
                                                     : area_->viewport()->width() - scroll_px);
    for (Section& section : sections_) {
        section.is->setFixedWidth(figures.value_px);
        section.wanted->setFixedWidth(figures.wanted_px);
    }
    for (QVBoxLayout* half : {left_, right_})
        while (half->count() > 0) delete half->takeAt(0);
    left_->addWidget(empty_);
    int all = 0;
    std::vector<Section*> shown;
    for (Section& section : sections_)
        if (section.shown >= 0) {
            shown.push_back(&section);
            all += section.shown + 2;
        }
    std::sort(shown.begin(), shown.end(), [](const Section* x, const Section* y) { return x->group < y->group; });
    int before = 0;
    bool over = false;
    for (const Section* section : shown) {
        const int its = section->shown + 2;
        // Over once more than half of it would stand past the middle.
        over = over || (arranged_wide_ && before > 0 && 2 * (before + its) - its > all);
        (over ? right_ : left_)->addWidget(section->box);
        before += its;
    }
    left_->addStretch();
    right_->addStretch();
}

void GlancePage::placeWhy() {
    why_->hide();
    const auto reports = session_.reports();
    for (Section& section : sections_)
        for (GlanceRow* row : section.rows) {
            const bool here = !row->isHidden() && section.shown >= 0 && row->finding().id == opened_;
            row->setChecked(here);
            if (!here || !reports) continue;
            section.column->removeWidget(why_);
            section.column->insertWidget(section.column->indexOf(row) + 1, why_);
            why_->show(row->finding(),
                       study::whyOf(*reports, row->finding(), store::defaultRuleBook(), session_.shown()));
        }
}

void GlancePage::openRow(const std::string& finding) {
    opened_ = finding;
    refresh();
    QTimer::singleShot(0, this, [this] { // once it is laid out
        for (const GlanceRow* row : rows())
            if (row->finding().id == opened_) {
                area_->widget()->layout()->activate();
                area_->ensureWidgetVisible(why_, 0, 8);
                area_->ensureWidgetVisible(const_cast<GlanceRow*>(row), 0, 8);
                const_cast<GlanceRow*>(row)->setFocus();
            }
    });
}

void GlancePage::showGroup(discipline::Group group) {
    refresh();
    QTimer::singleShot(0, this, [this, group] {
        const Section* section = sectionOf(group);
        area_->widget()->layout()->activate();
        if (section->rows.empty() || section->rows.front()->isHidden()) return;
        area_->ensureWidgetVisible(section->rows.back(), 0, 8);
        area_->ensureWidgetVisible(section->head, 0, 8);
        section->rows.front()->setFocus();
    });
}

void GlancePage::showAll(bool all) {
    (all ? all_ : open_)->setChecked(true);
    refresh();
}

void GlancePage::tryIt() {
    const auto reports = session_.reports();
    if (!reports) return;
    for (const study::Finding& finding : reports->findings)
        if (finding.id == opened_ && finding.way_out) {
            const auto way = *finding.way_out;
            session_.takeInHand(std::nullopt);
            return session_.tryPlacement(way.placement, q(way.words));
        }
}

const WhyPanel* GlancePage::why() const { return why_->isHidden() ? nullptr : why_; }

std::vector<const GlanceRow*> GlancePage::rows() const {
    std::vector<const GlanceRow*> out;
    for (const Section& section : sections_)
        for (const GlanceRow* row : section.rows)
            if (section.shown >= 0 && !row->isHidden()) out.push_back(row);
    return out;
}

} // namespace gabarit::app

#include "moc_glance_page.cpp"
