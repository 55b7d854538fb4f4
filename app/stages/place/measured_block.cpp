#include "stages/place/measured_block.h"

#include "fields/editing.h"
#include "fields/survey_forms.h"
#include "fit/fit_report.h"
#include "fit/words.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "session/lookout.h"
#include "session/session.h"

#include <QDate>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace gabarit::app {
namespace {
constexpr int label_width_px = 76;
} // namespace

MeasuredBlock::MeasuredBlock(Session& session, Lookout& lookout, QWidget* parent)
    : QWidget(parent), session_(session), lookout_(lookout), form_(new EntryForm(this)), list_(new QListWidget(this)),
      suspect_(new QLabel(this)) {
    entry_.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    list_->setAccessibleName(tr("Gaps measured"));
    list_->setWordWrap(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    suspect_->setWordWrap(true);
    suspect_->setTextFormat(Qt::PlainText);
    auto* write = new QPushButton(tr("Write it down"), this);
    write->setObjectName(QStringLiteral("write"));
    auto* strike = new QPushButton(tr("Strike out"), this);
    strike->setObjectName(QStringLiteral("strike"));
    strike->setToolTip(tr("Takes the chosen reading out; undo brings it back"));
    for (QPushButton* button : {write, strike}) button->setMinimumHeight(target_px);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 6);
    column->addWidget(form_, 5);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(8, 0, 8, 0);
    row->addWidget(write);
    row->addWidget(strike);
    column->addLayout(row);
    column->addWidget(list_, 2);
    suspect_->setContentsMargins(10, 0, 8, 0);
    column->addWidget(suspect_);
    connect(write, &QPushButton::clicked, this, &MeasuredBlock::write);
    connect(strike, &QPushButton::clicked, this, &MeasuredBlock::strike);
    form_->setLabelWidth(label_width_px);
    joinForm(*form_, session_);
    connect(&lookout_, &Lookout::selectedChanged, this, &MeasuredBlock::take);
    connect(&session_, &Session::reportsChanged, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&session_, &Session::projectReplaced, this, [this] {
        entry_.a = entry_.b = {};
        gap_mm_.reset();
    });
    connect(&session_, &Session::projectChanged, this, [this] {
        if (isVisible()) refreshForm();
    });
}

void MeasuredBlock::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

QPushButton* MeasuredBlock::button(const QString& name) const { return findChild<QPushButton*>(name); }
QString MeasuredBlock::suspect() const { return suspect_->text(); }

/// The pair that is pointed at is the one that is measured.
void MeasuredBlock::take() {
    const auto reports = session_.reports();
    if (!reports) return;
    for (const study::Finding& finding : reports->findings)
        if (finding.id == lookout_.selected() && finding.a && finding.b) {
            entry_.a = *finding.a;
            entry_.b = *finding.b;
            gap_mm_.reset();
            refreshForm();
        }
}

void MeasuredBlock::refreshForm() {
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    const auto reports = session_.reports();
    auto bodies = bodyChoices(project);
    bodies.insert(bodies.begin(), {QString(), tr("choose")});
    QString planned = tr("Choose two bodies, or point at a gap in the list.");
    if (!entry_.a.owner.empty() && !entry_.b.owner.empty()) {
        planned = tr("Planned: not measured between these two.");
        if (reports && reports->with<fit::FitReport>().clearance)
            for (const fit::PairGap& pair : reports->with<fit::FitReport>().clearance->pairs)
                if ((pair.a == entry_.a && pair.b == entry_.b) || (pair.a == entry_.b && pair.b == entry_.a)) {
                    planned = tr("Planned: %1").arg(q(fit::gapWords(pair, session_.shown())));
                    if (gap_mm_ && !pair.beyond())
                        planned +=
                            tr(". Measured is %1 %2.")
                                .arg(q(quantity::lengthText(std::abs(*gap_mm_ - pair.gap.gap_mm), session_.shown(), 1)),
                                     *gap_mm_ < pair.gap.gap_mm ? tr("less") : tr("more"));
                }
    }
    const auto side = [&](const char* name, const QString& label, model::BodyRef model::MeasuredGap::*member) {
        const model::BodyRef& ref = entry_.*member;
        return fields::choice(QString::fromLatin1(name), label, bodies, ref.owner.empty() ? std::string() : ref.text(),
                              [this, member](const std::string& text) {
                                  const std::size_t slash = text.find('/');
                                  entry_.*member =
                                      slash == std::string::npos
                                          ? model::BodyRef{}
                                          : model::BodyRef{text.substr(0, slash), {text.substr(slash + 1)}};
                                  refreshForm();
                                  return true;
                              });
    };
    using quantity::Dimension;
    form_->show({side("a", tr("Between"), &model::MeasuredGap::a), side("b", tr("and"), &model::MeasuredGap::b),
                 fields::remark(QStringLiteral("planned"), planned),
                 fields::known(QStringLiteral("gap"), tr("Measured"), Dimension::Length, gap_mm_,
                               [this](std::optional<double> mm) {
                                   gap_mm_ = mm;
                                   refreshForm();
                                   return true;
                               }),
                 fields::known(QStringLiteral("accuracy"), tr("to ±"), Dimension::Length, entry_.accuracy_mm,
                               [this](std::optional<double> mm) {
                                   entry_.accuracy_mm = mm;
                                   return true;
                               }),
                 fields::words(QStringLiteral("date"), tr("On"), entry_.date,
                               [this](const std::string& text) {
                                   entry_.date = text;
                                   return true;
                               }),
                 fields::words(QStringLiteral("who"), tr("By"), entry_.who,
                               [this](const std::string& text) {
                                   entry_.who = text;
                                   return true;
                               }),
                 fields::words(QStringLiteral("note"), tr("Note"), entry_.note,
                               [this](const std::string& text) {
                                   entry_.note = text;
                                   return true;
                               })},
                session_.shown(), q(entry_.a.text() + entry_.b.text()));
}

void MeasuredBlock::refresh() {
    refreshForm();
    const auto reports = session_.reports();
    const int stood = list_->currentRow();
    list_->clear();
    suspect_->clear();
    if (!reports) return;
    const auto length = [this](double mm) { return q(quantity::lengthText(mm, session_.shown(), 1)); };
    for (const fit::MeasuredLine& line : reports->with<fit::FitReport>().measured.lines) {
        if (line.index >= reports->project->measured.size()) continue;
        QString words = tr("%1 – %2: %3").arg(q(line.name_a), q(line.name_b).toLower(), length(line.measured_mm));
        if (line.planned_mm) words += tr(", planned %1").arg(length(*line.planned_mm));
        switch (line.agreement) {
        case fit::Agreement::Agrees: words += tr(": agrees"); break;
        case fit::Agreement::Differs:
            words += tr(": %1 %2").arg(length(std::abs(*line.difference_mm)),
                                       *line.difference_mm < 0 ? tr("less") : tr("more"));
            break;
        default: words += tr(": %1").arg(q(line.reason)); break;
        }
        if (line.verdict && *line.verdict != model::Verdict::Go)
            words += tr(" – %1, wanted %2").arg(QLatin1String(model::word(*line.verdict)), length(*line.limit_mm));
        const model::MeasuredGap& gap = reports->project->measured[line.index];
        auto* item = new QListWidgetItem(words, list_);
        item->setToolTip(tr("%1 %2\n%3").arg(q(gap.date), q(gap.who), q(gap.note)).trimmed());
        if (line.agreement == fit::Agreement::Differs || line.verdict == model::Verdict::NoGo)
            item->setForeground(tones().trouble);
    }
    list_->setCurrentRow(std::min(stood, list_->count() - 1));
    suspect_->setText(
        q(fit::suspectWords(*reports->project, reports->with<fit::FitReport>().measured, session_.shown())));
    suspect_->setVisible(!suspect_->text().isEmpty());
}

void MeasuredBlock::write() {
    const model::Placement* placement = session_.hasProject() ? model::activePlacement(*session_.project()) : nullptr;
    if (entry_.a.owner.empty() || entry_.b.owner.empty() || !gap_mm_) {
        emit session_.notice(tr("Choose the two bodies and type the gap first."), true);
        return;
    }
    model::Project changed = *session_.project();
    model::MeasuredGap gap = entry_;
    gap.gap_mm = *gap_mm_;
    if (placement) gap.placement = placement->id;
    gap.mark = fit::gapMark(changed, gap.a, gap.b);
    changed.measured.push_back(std::move(gap));
    if (!session_.edit(tr("write down a measured gap"), std::move(changed))) return;
    gap_mm_.reset();
    entry_.note.clear();
    refreshForm();
}

void MeasuredBlock::strike() {
    const int row = list_->currentRow();
    if (row < 0 || !session_.hasProject() || static_cast<std::size_t>(row) >= session_.project()->measured.size()) {
        emit session_.notice(tr("Choose a reading in the list first."), true);
        return;
    }
    model::Project changed = *session_.project();
    changed.measured.erase(changed.measured.begin() + row);
    session_.edit(tr("strike out a measured gap"), std::move(changed));
}

} // namespace gabarit::app

#include "moc_measured_block.cpp"
