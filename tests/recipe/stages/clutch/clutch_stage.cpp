#include "stages/clutch/clutch_stage.h"

#include "fields/described.h"
#include "forms/tones.h"

#include <QPainter>

#include <algorithm>

namespace gabarit::app {

LiningView::LiningView(QWidget* parent) : QWidget(parent) { setMinimumHeight(230); }

void LiningView::show(const clutch::Clutch* clutch) {
    its_ = clutch ? *clutch : clutch::Clutch{};
    update();
}

void LiningView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), tones().paper);
    if (!its_.outer_mm || !its_.inner_mm) {
        painter.setPen(tones().second_ink);
        painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap, tr("Its lining is drawn when it is known."));
        return;
    }
    constexpr double filled = 0.8;
    const double px_per_mm = filled * std::min(width(), height()) / *its_.outer_mm;
    const QPointF centre = QRectF(rect()).center();
    painter.setPen(tones().ink);
    for (const auto& [across_mm, tone] :
         {std::pair(*its_.outer_mm, tones().donor), std::pair(*its_.inner_mm, tones().paper)}) {
        painter.setBrush(tone);
        painter.drawEllipse(centre, across_mm * px_per_mm / 2, across_mm * px_per_mm / 2);
    }
}

ClutchStage::ClutchStage(Session& session, QWidget* parent)
    : DisciplineStage(session, {tr("The clutch"), tr("add the clutch"), 170, 322, 232, {"clutch"}}, parent),
      view_(new LiningView(this)) {
    setDrawing(view_);
    addKind("clutch", tr("Clutch"));
}

const StagePlug& clutchStage() {
    static const StagePlug plug{
        "clutch",
        StageGroup::HoldAndDrive,
        25,
        [] { return ClutchStage::tr("Clutch"); },
        {"clutch"},
        [](Session& session, Lookout&, QWidget* parent) -> Stage* { return new ClutchStage(session, parent); }};
    return plug;
}

std::vector<StageItem> ClutchStage::items(const model::Project& project, const study::Reports* reports) const {
    if (!project.sections.get<clutch::Clutch>()) return {};
    const auto* report = reports ? reports->report("clutch") : nullptr;
    return {{QStringLiteral("clutch"), tr("Clutch"), report ? report->verdict : std::nullopt}};
}

std::vector<Field> ClutchStage::fieldsOf(const QString& key) {
    std::vector<Field> out;
    if (!key.isEmpty()) sectionFields<clutch::Clutch>(out, session_, tr("the clutch"));
    return out;
}

void ClutchStage::draw(const QString&) { view_->show(session_.project()->sections.get<clutch::Clutch>()); }

void ClutchStage::tell(const QString&, const study::Reports& reports) {
    const auto* report = reports.report("clutch");
    if (!report) return;
    for (const model::Check& check : report->checks) put(check);
    mind(caution("clutch/slip"));
}

QString ClutchStage::add(const QString& kind, model::Project& project) {
    project.sections.edit<clutch::Clutch>();
    return kind;
}

Result<model::Project> ClutchStage::without(const QString&, model::Project project) const {
    project.sections.drop<clutch::Clutch>();
    return project;
}

} // namespace gabarit::app

#include "moc_clutch_stage.cpp"
