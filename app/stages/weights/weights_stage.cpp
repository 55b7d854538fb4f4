#include "stages/weights/weights_stage.h"

#include "fields/part_fields.h"
#include "fields/survey_forms.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "kit/table_files.h"
#include "model/edit.h"
#include "parts/parts.h"
#include "session/session.h"
#include "store/csv.h"
#include "store/rule_book.h"
#include "weights/axle_loads.h"
#include "weights/hoist.h"
#include "weights/section/weights.h"
#include "weights/words.h"

#include <QFileDialog>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

using quantity::Dimension;

/// The vehicle as it stood before anything came off, and what its axles may carry.
std::vector<Field> vehicleFields(Session& session) {
    const model::Project& project = *session.project();
    const auto* its = project.sections.get<model::Weights>();
    const model::Weights weights = its ? *its : model::Weights{};
    const auto set = [&session](auto change) {
        return [&session, change](const auto& value) {
            model::Project changed = *session.project();
            change(changed, value);
            return session.edit(QObject::tr("change the vehicle's weights"), std::move(changed));
        };
    };
    const auto setWeights = [&set](auto change) {
        return set([change](model::Project& p, const auto& v) { change(p.sections.edit<model::Weights>(), v); });
    };
    using Known = std::optional<double>;
    const auto mass = [&](const char* name, const QString& label, const Known& value, auto change) {
        return fields::known(QString::fromLatin1(name), label, Dimension::Mass, value, setWeights(change));
    };
    std::vector<Field> out{fields::heading(QObject::tr("The vehicle as it stood"))};
    out.push_back(mass("bare_front", QObject::tr("Front axle"), weights.bare.front_kg,
                       [](model::Weights& w, const Known& v) { w.bare.front_kg = v; }));
    out.push_back(mass("bare_rear", QObject::tr("Rear axle"), weights.bare.rear_kg,
                       [](model::Weights& w, const Known& v) { w.bare.rear_kg = v; }));
    out.push_back(mass("weighed_to", QObject::tr("Weighed to ±"), weights.accuracy_kg,
                       [](model::Weights& w, const Known& v) { w.accuracy_kg = v; }));
    out.push_back(fields::words(QStringLiteral("basis"), QObject::tr("How known"), weights.basis,
                                setWeights([](model::Weights& w, const std::string& v) { w.basis = v; })));
    out.push_back(fields::known(QStringLiteral("wheelbase"), QObject::tr("Wheelbase"), Dimension::Length,
                                project.vehicle ? project.vehicle->wheelbase_mm : std::nullopt,
                                set([](model::Project& p, const Known& v) {
                                    if (p.vehicle) p.vehicle->wheelbase_mm = v;
                                })));
    const auto track = [&](const char* name, const QString& label, Known model::Vehicle::*member) {
        out.push_back(fields::known(QString::fromLatin1(name), label, Dimension::Length,
                                    project.vehicle ? (*project.vehicle).*member : std::nullopt,
                                    set([member](model::Project& p, const Known& v) {
                                        if (p.vehicle) (*p.vehicle).*member = v;
                                    })));
    };
    out.push_back(fields::heading(QObject::tr("Wheel by wheel, where weighed so")));
    out.back().folded = true;
    const auto wheel = [&](const char* name, const QString& label, Known model::CornerLoads::*member) {
        out.push_back(mass(name, label, weights.corners.*member,
                           [member](model::Weights& w, const Known& v) { w.corners.*member = v; }));
    };
    wheel("front_left", sided(project, model::vehicle_owner, QObject::tr("Front, {left} side")),
          &model::CornerLoads::front_left_kg);
    wheel("front_right", sided(project, model::vehicle_owner, QObject::tr("Front, {right} side")),
          &model::CornerLoads::front_right_kg);
    wheel("rear_left", sided(project, model::vehicle_owner, QObject::tr("Rear, {left} side")),
          &model::CornerLoads::rear_left_kg);
    wheel("rear_right", sided(project, model::vehicle_owner, QObject::tr("Rear, {right} side")),
          &model::CornerLoads::rear_right_kg);
    track("front_track", QObject::tr("Track, front"), &model::Vehicle::front_track_mm);
    track("rear_track", QObject::tr("Track, rear"), &model::Vehicle::rear_track_mm);
    out.push_back(fields::known(QStringLiteral("height"), QObject::tr("Centre of gravity up"), Dimension::Length,
                                weights.height_mm,
                                setWeights([](model::Weights& w, const Known& v) { w.height_mm = v; })));
    out.push_back(fields::heading(QObject::tr("What its axles may carry")));
    out.push_back(mass("limit_front", QObject::tr("Front axle"), weights.limit.front_kg,
                       [](model::Weights& w, const Known& v) { w.limit.front_kg = v; }));
    out.push_back(mass("limit_rear", QObject::tr("Rear axle"), weights.limit.rear_kg,
                       [](model::Weights& w, const Known& v) { w.limit.rear_kg = v; }));
    out.push_back(fields::words(QStringLiteral("limit_source"), QObject::tr("Says who"), weights.limit_source,
                                setWeights([](model::Weights& w, const std::string& v) { w.limit_source = v; })));
    return out;
}

} // namespace

WeightsStage::WeightsStage(Session& session, QWidget* parent)
    : TableStage(session,
                 {tr("Put on (taken off: −)"), tr("Mass"), tr("±"), tr("Behind front axle"), tr("Front axle"),
                  tr("Rear axle")},
                 {0}, parent),
      summary_(new QLabel(this)), hoist_(new QLabel(this)), caution_(new QLabel(this)) {
    for (QLabel* label : {summary_, hoist_, caution_}) {
        label->setWordWrap(true);
        label->setTextFormat(Qt::PlainText);
    }
    caution_->setText(tr("An estimate until the vehicle stands on scales. The axle's and tyre's makers and the "
                         "inspector set what is allowed. Never work under a vehicle or an engine that hangs: stands, "
                         "not jacks. A hoist's rating falls with its reach; slings and eyes must be rated for more "
                         "than hangs on them."));
    above()->addWidget(summary_);
    below()->addWidget(hoist_);
    below()->addWidget(caution_);
    table()->setAccessibleName(tr("Weight sheet"));
    connect(addButton("add", tr("Add a load"), tr("People, fluids, luggage: what it stands on its wheels with")),
            &QPushButton::clicked, this, &WeightsStage::add);
    connect(
        addButton("delete", tr("Delete"), tr("Takes a load out; parts and the donor's masses have their own places")),
        &QPushButton::clicked, this, &WeightsStage::remove);
    connect(addButton("out", tr("Loads to a table…"), tr("As a spreadsheet reads it (CSV)")), &QPushButton::clicked,
            this, [this] {
                const QString path =
                    QFileDialog::getSaveFileName(this, tr("Loads to a table"), {}, tr("Tables (*.csv)"));
                if (!path.isEmpty()) writeTable(path);
            });
    connect(addButton("in", tr("Loads from a table…"), tr("Changes what the table names, adds what is new")),
            &QPushButton::clicked, this, [this] {
                const QString path =
                    QFileDialog::getOpenFileName(this, tr("Loads from a table"), {}, tr("Tables (*.csv)"));
                if (!path.isEmpty()) readTable(path);
            });
    connect(table(), &QTableWidget::itemChanged, this, [this](QTableWidgetItem* cell) {
        if (!filling() && cell->column() == 0)
            toggle(cell->data(Qt::UserRole).toString(), cell->checkState() == Qt::Checked);
    });
}

const StagePlug& weightsStage() {
    static const StagePlug plug{"weights",
                                StageGroup::Account,
                                10,
                                [] { return WeightsStage::tr("Weights"); },
                                {"weights"},
                                [](Session& session, Lookout&, QWidget* parent) -> Stage* { return new WeightsStage(session, parent); }};
    return plug;
}

QString WeightsStage::summary() const { return summary_->text(); }
QString WeightsStage::hoistWords() const { return hoist_->text(); }

/// Everything that can count, whether it does now or not.
std::vector<WeightsStage::Item> WeightsStage::items() const {
    std::vector<Item> out;
    const model::Project& project = *session_.project();
    if (const model::Donor* donor = model::activeDonor(project))
        for (std::size_t i = 0; i < donor->masses.size(); ++i) {
            const model::Mass& mass = donor->masses[i];
            if (!model::isTaken(project, donor->id.text, mass.option)) continue;
            out.push_back(
                {QStringLiteral("mass:%1").arg(i), q(mass.name), q(donor->name), mass.mass_kg, !mass.off, true});
        }
    if (const auto* weights = project.sections.get<model::Weights>())
        for (std::size_t i = 0; i < weights->loads.size(); ++i) {
            const model::Mass& load = weights->loads[i];
            out.push_back({QStringLiteral("load:%1").arg(i), q(load.name), tr("load"), load.mass_kg, !load.off, true});
        }
    if (const auto* parts = project.sections.get<model::Parts>())
        for (const model::Part& part : *parts) {
            if (!model::isTaken(project, part) || (!part.mass_kg && part.on_car == model::OnCar::No)) continue;
            out.push_back({QStringLiteral("part:") + q(part.id.text), q(part.name), tr("part"), part.mass_kg,
                           part.on_car != model::OnCar::No, true});
        }
    return out;
}

void WeightsStage::refresh() {
    if (!session_.hasProject()) return;
    refreshTexts();
    const auto reports = session_.reports();
    const auto shown = session_.shown();
    const auto mass = [shown](double kg) { return q(quantity::massText(kg, shown, 1)); };
    std::vector<Item> all = items();
    const weights::AxleLoadReport* report =
        reports && reports->of<weights::AxleLoadReport>() ? &*reports->of<weights::AxleLoadReport>() : nullptr;
    const auto lineOf = [&](const QString& key) -> const weights::WeightLine* {
        if (!report) return nullptr;
        for (const weights::WeightLine& line : report->lines)
            if (q(line.item) == key) return &line;
        return nullptr;
    };
    if (report)
        for (const weights::WeightLine& line : report->lines) // bodies of the vehicle stand only there
            if (line.item.rfind("body:", 0) == 0 || line.item.rfind("moved:", 0) == 0)
                all.push_back({q(line.item), q(line.name), QString(), line.mass_kg, true, false});
    beginRows(all.size());
    int r = 0;
    for (const Item& entry : all) {
        const weights::WeightLine* line = entry.counts ? lineOf(entry.key) : nullptr;
        const QString own = entry.mass_kg ? mass(line ? line->mass_kg : *entry.mass_kg) : tr("no mass");
        putRow(r, entry.key,
               {entry.name, own, line && line->accuracy_kg > 0 ? mass(line->accuracy_kg) : QString(),
                line           ? q(quantity::lengthText(line->at_vehicle_mm.x(), shown, 0))
                : entry.counts ? tr("left out")
                               : tr("not counted"),
                line && line->front_kg ? mass(*line->front_kg) : QString(),
                line && line->rear_kg ? mass(*line->rear_kg) : QString()});
        QTableWidgetItem* first = table()->item(r, 0);
        first->setToolTip(entry.group);
        if (entry.can_be_off) {
            first->setFlags(first->flags() | Qt::ItemIsUserCheckable);
            first->setCheckState(entry.counts ? Qt::Checked : Qt::Unchecked);
        }
        ++r;
    }
    endRows();
}

void WeightsStage::refreshTexts() {
    const auto reports = session_.reports();
    const auto shown = session_.shown();
    const auto mass = [shown](double kg) { return q(quantity::massText(kg, shown, 1)); };
    const auto length = [shown](double mm) { return q(quantity::lengthText(mm, shown, 0)); };
    if (!reports || !reports->of<weights::AxleLoadReport>()) {
        summary_->setText(reports ? tr("Axle loads are not asked yet. Type what the vehicle stood at, on the right.")
                                  : tr("Adding up…"));
    } else {
        QStringList text;
        for (const std::string& line :
             weights::weightsWords(*session_.project(), *reports->of<weights::AxleLoadReport>(), shown))
            text << q(line);
        summary_->setText(text.join(QLatin1Char('\n')));
    }
    hoist_->setVisible(reports && reports->of<weights::HoistReport>());
    if (!hoist_->isHidden()) {
        const weights::HoistReport& hangs = *reports->of<weights::HoistReport>();
        QString text = tr("On the hoist: ");
        text += hangs.mass_kg ? mass(*hangs.mass_kg) : tr("mass not known");
        if (hangs.centre_donor_mm) {
            const double x = hangs.centre_donor_mm->x();
            text += tr(", balanced %1 %2 the block's rear face")
                        .arg(length(std::abs(x)), x < 0 ? tr("ahead of") : tr("behind"));
        }
        if (hangs.tail_down_deg) {
            const double tail = *hangs.tail_down_deg;
            text += tr("; on its slings it hangs tail %1 %2")
                        .arg(tail < 0 ? tr("up") : tr("down"), q(quantity::angleText(std::abs(tail), 1)));
        }
        if (!hangs.reason.empty()) text += tr(" (%1)").arg(q(hangs.reason));
        hoist_->setText(text + tr(". Without slings, hooks and what swings."));
    }
}

void WeightsStage::refreshForm() {
    std::vector<Field> fields;
    const QString chosen = key();
    if (chosen.startsWith(QLatin1String("part:"))) {
        fields = partFields(session_, {chosen.mid(5).toStdString()});
    } else if (chosen.startsWith(QLatin1String("load:"))) {
        fields = surveyFields(session_, model::vehicle_owner, SurveyKind::Masses, chosen.mid(5));
    } else if (chosen.startsWith(QLatin1String("mass:"))) {
        if (const model::Donor* donor = model::activeDonor(*session_.project()))
            fields = surveyFields(session_, donor->id.text, SurveyKind::Masses, chosen.mid(5));
    } else if (chosen.startsWith(QLatin1String("body:")) || chosen.startsWith(QLatin1String("moved:"))) {
        fields.push_back(fields::remark(
            QStringLiteral("body_remark"),
            tr("A body of the vehicle: its mass stands under Survey; its move, its form, and whether it is there, in "
               "Place.")));
    }
    if (!fields.empty()) fields.insert(fields.begin(), fields::heading(tr("The chosen item")));
    std::vector<Field> vehicle = vehicleFields(session_);
    std::move(vehicle.begin(), vehicle.end(), std::back_inserter(fields));
    form()->show(std::move(fields), session_.shown(), key());
    button(QStringLiteral("delete"))->setEnabled(chosen.startsWith(QLatin1String("load:")));
}

void WeightsStage::toggle(const QString& item, bool on) {
    model::Project changed = *session_.project();
    const std::size_t at = item.mid(5).toULongLong();
    QString name;
    auto* weights = changed.sections.own<model::Weights>();
    if (item.startsWith(QLatin1String("load:")) && weights && at < weights->loads.size()) {
        weights->loads[at].off = !on;
        name = q(weights->loads[at].name);
    } else if (model::Donor* donor = model::activePlacement(changed)
                                         ? model::findDonor(changed, model::activePlacement(changed)->donor)
                                         : nullptr;
               donor && item.startsWith(QLatin1String("mass:")) && at < donor->masses.size()) {
        donor->masses[at].off = !on;
        name = q(donor->masses[at].name);
    } else if (auto* parts = changed.sections.own<model::Parts>()) {
        for (model::Part& part : *parts)
            if (q(part.id.text) == item.mid(5)) {
                // What was sold or goes back was on the vehicle before: it counts as taken off.
                const bool came_off = part.state == model::PartState::Sold;
                part.on_car = !on ? model::OnCar::No : came_off ? model::OnCar::Off : model::OnCar::On;
                name = q(part.name);
            }
    }
    want(item);
    session_.edit(on ? tr("count the %1").arg(name.toLower()) : tr("leave out the %1").arg(name.toLower()),
                  std::move(changed));
}

void WeightsStage::add() {
    QString made;
    const auto changed = withEntry(*session_.project(), model::vehicle_owner, SurveyKind::Masses,
                                   Eigen::Vector3d(1500, 0, 600), made); // about where people sit
    if (!changed) return;
    want(QStringLiteral("load:") + made);
    if (session_.edit(tr("a new load"), changed.value())) form()->begin();
}

void WeightsStage::remove() {
    const QString chosen = key();
    if (!chosen.startsWith(QLatin1String("load:"))) return;
    want({});
    session_.edit(tr("delete a load"),
                  withoutEntry(*session_.project(), model::vehicle_owner, SurveyKind::Masses, chosen.mid(5)));
}

bool WeightsStage::readTable(const QString& path) {
    return readTableFile(session_, path, tr("loads from a table"),
                         [this](const std::string& text, const std::string& file) {
                             return store::withLoadsCsv(*session_.project(), text, file, store::defaultRuleBook());
                         });
}

bool WeightsStage::writeTable(const QString& path) {
    return writeTableFile(session_, path, store::loadsCsv(*session_.project()));
}

} // namespace gabarit::app

#include "moc_weights_stage.cpp"
