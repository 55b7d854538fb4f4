#include "stages/place/findings_list.h"

#include "fit/fit_report.h"
#include "fit/words.h"
#include "forms/tones.h"
#include "forms/wrapped_label.h"
#include "session/after_painting.h"
#include "session/lookout.h"
#include "session/session.h"
#include "session/tries.h"
#include "stages/place/ways_panel.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {

// Each is a card with its own buttons; nobody reads further down, and thousands would stop the hand.
constexpr std::size_t most_cards = 60;

} // namespace

FindingCard::FindingCard(QWidget* parent)
    : QFrame(parent), title_(new WrappedLabel(this)), detail_(new WrappedLabel(this)), help_(new WrappedLabel(this)),
      caution_(new WrappedLabel(this)), show_(new QPushButton(tr("Show"), this)),
      try_(new QPushButton(tr("Try it"), this)), why_(new QPushButton(tr("Why?"), this)),
      ways_(new QPushButton(tr("Ways"), this)) {
    QFont bold = font();
    bold.setBold(true);
    title_->setFont(bold);
    detail_->setForegroundRole(QPalette::PlaceholderText); // the second ink
    QFont slanted = font();
    slanted.setItalic(true);
    caution_->setFont(slanted);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(30, 8, 8, 8);
    column->setSpacing(3);
    column->addWidget(title_);
    column->addWidget(detail_);
    column->addWidget(help_);
    column->addWidget(caution_);
    auto* row = new QHBoxLayout;
    row->addWidget(show_);
    row->addWidget(try_);
    row->addWidget(why_);
    row->addWidget(ways_);
    row->addStretch();
    column->addLayout(row);
    try_->setToolTip(tr("Moves the engine that way, as one step that can be undone"));
    connect(show_, &QPushButton::clicked, this, [this] { emit leadTo(finding_); });
    row->setSpacing(4);
    ways_->setToolTip(tr("Moves, other forms and a pocket side by side: what each comes to"));
    connect(ways_, &QPushButton::clicked, this, [this] { emit waysWanted(finding_); });
    why_->setToolTip(tr("The sum behind its figure"));
    connect(try_, &QPushButton::clicked, this, [this] { emit tryIt(finding_); });
    connect(why_, &QPushButton::clicked, this, [this] { emit whyWanted(QString::fromStdString(finding_.id)); });
}

void FindingCard::show(const study::Finding& finding, bool selected, const QString& stood) {
    const bool painted_so =
        selected_ == selected && finding_.verdict == finding.verdict && finding_.number == finding.number;
    finding_ = finding;
    selected_ = selected;
    title_->setText(QString::fromStdString(finding.title));
    detail_->setText(QString::fromStdString(finding.detail));
    setToolTip(finding.rule.empty() ? QString() : tr("Held against: %1").arg(QString::fromStdString(finding.rule)));
    const QString help = QString::fromStdString(finding.help);
    help_->setText(stood.isEmpty() ? help : help + QLatin1Char(' ') + stood);
    help_->setVisible(!finding.help.empty());
    caution_->setText(QString::fromStdString(finding.caution));
    caution_->setVisible(!finding.caution.empty());
    show_->setVisible(finding.place_vehicle_mm.has_value());
    show_->setAccessibleName(tr("Show: %1").arg(title_->text()));
    try_->setVisible(canTry());
    try_->setAccessibleName(tr("Try it: %1").arg(help_->text()));
    ways_->setVisible(hasWays(finding));
    ways_->setAccessibleName(tr("Other ways: %1").arg(title_->text()));
    why_->setAccessibleName(tr("Why this number: %1").arg(title_->text()));
    setAccessibleName(
        tr("%1, %2: %3")
            .arg(QString::number(finding.number), QLatin1String(model::word(finding.verdict)), title_->text()));
    setVisible(true);
    if (!painted_so) update(); // the words are painted by their labels, where they changed
}

bool FindingCard::hasWays(const study::Finding& finding) {
    return finding.verdict == model::Verdict::NoGo && finding.a && finding.b && !finding.a->inVehicle() &&
           finding.b->inVehicle();
}

bool FindingCard::canTry() const {
    return (finding_.move_vehicle_mm || finding_.way_out) && finding_.a && !finding_.a->inVehicle();
}

void FindingCard::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(tones().paper);
    painter.drawRect(rect());
    painter.setBrush(toneOf(finding_.verdict));
    painter.drawRect(0, 0, selected_ ? 8 : 4, height());
    paintMark(painter, QPointF(18, 19), 6, finding_.verdict);
    if (finding_.number == 0) return;
    painter.setPen(tones().second_ink);
    painter.drawText(QRect(8, 30, 20, fontMetrics().height()), Qt::AlignCenter, QString::number(finding_.number));
}

void FindingCard::mousePressEvent(QMouseEvent*) { emit leadTo(finding_); }

FindingsList::FindingsList(Session& session, Lookout& lookout, const Tries& tries, QWidget* parent)
    : QScrollArea(parent), session_(session), lookout_(lookout), tries_(tries), column_(nullptr), empty_(nullptr),
      more_(nullptr), ways_(nullptr), free_(nullptr) {
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inner = new QWidget(this);
    column_ = new QVBoxLayout(inner);
    column_->setContentsMargins(8, 8, 8, 8);
    column_->setSpacing(8);
    empty_ = new WrappedLabel(inner);
    more_ = new WrappedLabel(inner);
    ways_ = new WaysPanel(session_, inner);
    connect(ways_, &WaysPanel::changed, this, &FindingsList::placeWays);
    free_ = new QPushButton(tr("Where does it fit?  F7"), inner);
    free_->setObjectName(QStringLiteral("free_all"));
    free_->setMinimumHeight(target_px);
    free_->setToolTip(tr("Looks for the smallest move after which every gap of the unit is good"));
    connect(free_, &QPushButton::clicked, this, &FindingsList::placeWanted);
    column_->addWidget(free_);
    column_->addWidget(empty_);
    column_->addWidget(more_);
    column_->addStretch();
    setWidget(inner);
    connect(&session_, &Session::reportsChanged, this, &FindingsList::refresh);
    connect(&session_, &Session::projectReplaced, this, &FindingsList::refresh);
    connect(&lookout_, &Lookout::selectedChanged, this, [this] {
        refresh();
        bringIntoSight();
    });
    refresh();
}

FindingCard* FindingsList::pointedAt() const {
    for (FindingCard* card : cards_)
        if (!card->isHidden() && !lookout_.selected().empty() && card->finding().id == lookout_.selected()) return card;
    return nullptr;
}

void FindingsList::bringIntoSight() {
    QTimer::singleShot(0, this, [this] { // once new texts are laid out
        widget()->layout()->activate();
        if (FindingCard* card = pointedAt()) ensureWidgetVisible(card, 0, 8);
    });
}

void FindingsList::refresh() {
    // The card that is pointed at stays in sight when advice makes the ones above it longer.
    const FindingCard* const before = pointedAt();
    if (before && !before->visibleRegion().isEmpty()) bringIntoSight();
    const auto reports = session_.reports();
    std::vector<study::Finding> findings;
    std::size_t all = 0;
    if (reports) {
        all = reports->findings.size();
        findings.assign(reports->findings.begin(),
                        reports->findings.begin() + static_cast<std::ptrdiff_t>(std::min(all, most_cards)));
        // The one that is pointed at is among them, wherever it stands.
        for (std::size_t i = most_cards; i < all; ++i)
            if (reports->findings[i].id == lookout_.selected()) findings.back() = reports->findings[i];
    }
    more_->setVisible(all > most_cards);
    more_->setText(tr("and %1 more: mend these first, or look under Bodies").arg(all - findings.size()));
    while (cards_.size() < findings.size()) {
        auto* card = new FindingCard(widget());
        column_->insertWidget(column_->count() - 2, card);
        connect(card, &FindingCard::leadTo, this, &FindingsList::leadTo);
        connect(card, &FindingCard::tryIt, this, &FindingsList::tryIt);
        connect(card, &FindingCard::whyWanted, this, &FindingsList::whyWanted);
        connect(card, &FindingCard::waysWanted, ways_, &WaysPanel::lookFor);
        cards_.push_back(card);
    }
    findings_ = std::move(findings);
    for (std::size_t i = findings_.size(); i < cards_.size(); ++i) cards_[i]->hide();
    free_->setVisible(reports && reports->with<fit::FitReport>().clearance && model::activeDonor(*reports->project));
    said_ = false;
    // To set their words takes long: callouts and gauges are painted first. What is pointed at may be any of them.
    if (lookout_.selected().empty())
        afterPainting(this, [this] { sayThem(); });
    else
        sayThem();
    empty_->setVisible(findings_.empty());
    if (!session_.hasProject())
        empty_->setText(tr("Open a project to see what is in the way."));
    else if (!reports)
        empty_->setText(tr("Measuring…"));
    else
        empty_->setText(tr("Nothing is in the way, at rest or in the movement that was given. What flexes, heat soak "
                           "and the way in are still to be checked before anything is cut or welded."));
}

void FindingsList::sayThem() {
    if (said_) return;
    said_ = true;
    for (std::size_t i = 0; i < findings_.size(); ++i)
        cards_[i]->show(findings_[i], findings_[i].id == lookout_.selected(), stoodWords(findings_[i]));
    placeWays();
}

QString FindingsList::stoodWords(const study::Finding& finding) const {
    if (!finding.way_out) return {};
    const auto no_go = tries_.noGoAt(finding.way_out->placement);
    return no_go ? tr("It hung there before, with %1 gaps no-go.").arg(*no_go) : QString();
}

/// Below the card that they are the ways of.
void FindingsList::placeWays() {
    column_->removeWidget(ways_);
    const auto its = std::find_if(cards_.begin(), cards_.end(), [this](const FindingCard* card) {
        return !card->isHidden() && !ways_->of().empty() && card->finding().id == ways_->of();
    });
    ways_->setVisible(its != cards_.end());
    if (its == cards_.end()) return;
    column_->insertWidget(column_->indexOf(*its) + 1, ways_);
    QTimer::singleShot(0, this, [this] { // once it is laid out
        widget()->layout()->activate();
        if (ways_->isVisible()) ensureWidgetVisible(ways_, 0, 8);
    });
}

void FindingsList::tryIt(const study::Finding& finding) {
    session_.takeInHand(std::nullopt);
    if (finding.way_out)
        session_.tryPlacement(finding.way_out->placement, QString::fromStdString(finding.way_out->words));
    else if (finding.move_vehicle_mm)
        session_.nudge(*finding.move_vehicle_mm);
}

void FindingsList::step(int by) {
    sayThem();
    const auto shown = cards();
    if (shown.empty()) return;
    const int count = static_cast<int>(shown.size());
    int at = by > 0 ? -1 : count;
    for (int i = 0; i < count; ++i)
        if (shown[static_cast<std::size_t>(i)]->finding().id == lookout_.selected()) at = i;
    emit leadTo(shown[static_cast<std::size_t>((at + by + count) % count)]->finding());
}

void FindingsList::lookForWays(const std::string& finding) {
    const auto its =
        std::find_if(findings_.begin(), findings_.end(), [&](const study::Finding& f) { return f.id == finding; });
    if (its == findings_.end()) return;
    const study::Finding about = *its; // to point at it makes the list anew
    lookout_.select(about.id);
    ways_->lookFor(about);
}

bool FindingsList::tryPointedAt() {
    const FindingCard* card = pointedAt();
    if (!card || !card->canTry()) return false;
    tryIt(card->finding());
    return true;
}

std::vector<const FindingCard*> FindingsList::cards() const {
    std::vector<const FindingCard*> out;
    for (const FindingCard* card : cards_)
        if (!card->isHidden()) out.push_back(card);
    return out;
}

} // namespace gabarit::app

#include "moc_findings_list.cpp"
