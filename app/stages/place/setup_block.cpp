#include "stages/place/setup_block.h"

#include "fields/editing.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "model/edit.h"
#include "mounts/mounts.h"
#include "session/session.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {
constexpr int setup_label_width_px = 76;
} // namespace

SetupBlock::SetupBlock(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), form_(new EntryForm(this)) {
    auto* another = new QPushButton(tr("Try another"), this);
    another->setObjectName(QStringLiteral("another"));
    another->setToolTip(tr("A copy of this placement under a name of its own; this one stays as it is"));
    auto* drop = new QPushButton(tr("Drop this one"), this);
    drop->setObjectName(QStringLiteral("drop"));
    drop->setToolTip(tr("Takes this placement out of the project; undo brings it back"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(form_, 1);
    auto* row = new QHBoxLayout;
    row->setContentsMargins(8, 0, 8, 6);
    for (QPushButton* button : {another, drop}) {
        button->setMinimumHeight(target_px);
        row->addWidget(button);
    }
    column->addLayout(row);
    connect(another, &QPushButton::clicked, this, &SetupBlock::another);
    connect(drop, &QPushButton::clicked, this, &SetupBlock::drop);
    form_->setLabelWidth(setup_label_width_px);
    joinForm(*form_, session_);
    connect(&session_, &Session::projectChanged, this, &SetupBlock::refresh);
    connect(&session_, &Session::reportsChanged, this, &SetupBlock::refresh); // its mounts say how it moves
}

QPushButton* SetupBlock::button(const QString& name) const { return findChild<QPushButton*>(name); }

void SetupBlock::refresh() {
    const model::Project& project = *session_.project();
    const model::Placement* placement = model::activePlacement(project);
    button(QStringLiteral("another"))->setEnabled(placement);
    button(QStringLiteral("drop"))->setEnabled(project.placements.size() > 1);
    std::vector<Field> out;
    if (!placement) {
        out.push_back(fields::remark(QStringLiteral("nothing"),
                                     tr("No donor hangs yet. Make one under Survey, or hang one from a file.")));
        return form_->show(std::move(out), session_.shown());
    }
    const auto set = [this](const QString& undo, auto change) {
        return [this, undo, change](const std::string& value) {
            model::Project changed = *session_.project();
            change(*model::activePlacement(changed), value);
            return session_.edit(undo, std::move(changed));
        };
    };
    using P = model::Placement;
    out.push_back(fields::heading(tr("This placement")));
    out.push_back(fields::words(QStringLiteral("placement_name"), tr("Name"), placement->name,
                                set(tr("rename the placement"), [](P& p, const std::string& v) { p.name = v; })));
    std::vector<std::pair<QString, QString>> donors;
    for (const model::Donor& donor : project.donors) donors.emplace_back(q(donor.id.text), q(donor.name));
    out.push_back(fields::choice(QStringLiteral("donor"), tr("What hangs"), donors, placement->donor.text,
                                 set(tr("hang another donor"), [](P& p, const std::string& v) { p.donor.text = v; })));
    out.push_back(fields::choice(
        QStringLiteral("orientation"), tr("It lies"),
        {{QString(), tr("as the donor came")},
         {QStringLiteral("0"), tr("lengthways")},
         {QStringLiteral("1"), tr("turned round")},
         {QStringLiteral("2"), sided(project, model::vehicle_owner, tr("across, rear {to_left}"))},
         {QStringLiteral("3"), sided(project, model::vehicle_owner, tr("across, rear {to_right}"))}},
        placement->orientation ? std::to_string(static_cast<int>(*placement->orientation)) : std::string(),
        set(tr("turn the engine round"), [](P& p, const std::string& v) {
            p.orientation.reset();
            if (!v.empty()) p.orientation = static_cast<model::Orientation>(std::stoi(v));
        })));
    out.push_back(fields::words(QStringLiteral("placement_note"), tr("Note"), placement->note,
                                set(tr("the placement's note"), [](P& p, const std::string& v) { p.note = v; })));

    out.push_back(fields::heading(tr("On its mounts it moves")));
    using R = model::Rocking;
    const auto rock = [&](const char* name, const QString& label, quantity::Dimension dimension, double now,
                          double R::*member, const QString& tip) {
        out.push_back(fields::quantity(QString::fromLatin1(name), label, dimension, now, [this, member](double v) {
            model::Project changed = *session_.project();
            model::activePlacement(changed)->rocking.*member = v;
            return session_.edit(tr("how the engine rocks"), std::move(changed));
        }));
        out.back().tip = tip;
    };
    const R& rocking = placement->rocking;
    const auto reports = session_.reports();
    QString counts = tr("By hand: this counts.");
    if (!rocking.any())
        counts = reports && reports->of<mounts::MountsReport>() && reports->of<mounts::MountsReport>()->rocking
                     ? tr("From its mounts: rolls %1, up %2, down %3, fore and aft %4.")
                           .arg(QString::fromStdString(
                                    quantity::angleText(reports->of<mounts::MountsReport>()->rocking->roll_deg, 2)),
                                QString::fromStdString(quantity::lengthText(
                                    reports->of<mounts::MountsReport>()->rocking->up_mm, session_.shown())),
                                QString::fromStdString(quantity::lengthText(
                                    reports->of<mounts::MountsReport>()->rocking->down_mm, session_.shown())),
                                QString::fromStdString(quantity::lengthText(
                                    reports->of<mounts::MountsReport>()->rocking->along_mm, session_.shown())))
                     : tr("Nothing is given: it stands still.");
    out.push_back(fields::remark(QStringLiteral("rock_counts"), counts));
    out.push_back(fields::remark(QStringLiteral("rock_instead"), tr("What is typed counts instead of them.")));
    rock("rock_roll", tr("Rolls"), quantity::Dimension::Angle, rocking.roll_deg, &R::roll_deg,
         tr("Under torque, to each side, about the line from its front mounts to its gearbox mount"));
    rock("rock_up", tr("Up"), quantity::Dimension::Length, rocking.up_mm, &R::up_mm,
         tr("The whole unit, over a crest"));
    rock("rock_down", tr("Down"), quantity::Dimension::Length, rocking.down_mm, &R::down_mm,
         tr("The whole unit, into a dip"));
    rock("rock_along", tr("Fore and aft"), quantity::Dimension::Length, rocking.along_mm, &R::along_mm,
         tr("Forward when braking, as far rearward"));
    out.push_back(fields::known(QStringLiteral("rock_stop"), tr("Stops at"), quantity::Dimension::Length,
                                rocking.stop_mm, [this](std::optional<double> v) {
                                    model::Project changed = *session_.project();
                                    model::activePlacement(changed)->rocking.stop_mm = v;
                                    return session_.edit(tr("the stops of the mounts"), std::move(changed));
                                }));
    out.back().tip = tr("No front mount goes farther up or down than this; left empty, nothing stops them");
    out.push_back(
        fields::words(QStringLiteral("rock_source"), tr("Known by"), rocking.source,
                      set(tr("how the rocking is known"), [](P& p, const std::string& v) { p.rocking.source = v; })));

    std::vector<Field> choices;
    const auto offer = [&](const std::string& owner) {
        const auto* offered = model::choicesOf(project, owner);
        if (!offered) return;
        for (const model::Choice& choice : *offered) {
            std::vector<std::pair<QString, QString>> options;
            for (const model::Option& option : choice.options) options.emplace_back(q(option.id), q(option.name));
            const std::string path = owner + "/" + choice.id;
            const std::string taken = model::takenOption(project, placement, owner, choice.id);
            choices.push_back(
                fields::choice(QStringLiteral("choice:") + q(path), q(choice.name), std::move(options), taken,
                               [this, path, name = q(choice.name).toLower()](const std::string& option) {
                                   return session_.edit(tr("another form of the %1").arg(name),
                                                        model::withOption(*session_.project(), path, option));
                               }));
            const auto note = std::find_if(choice.options.begin(), choice.options.end(),
                                           [&](const model::Option& o) { return o.id == taken; });
            if (note != choice.options.end()) choices.back().tip = q(note->note);
        }
    };
    offer(placement->donor.text);
    offer(model::vehicle_owner);
    if (!choices.empty()) out.push_back(fields::heading(tr("Which form of")));
    std::move(choices.begin(), choices.end(), std::back_inserter(out));

    std::vector<Field> panels;
    const auto panelsOf = [&](const std::string& owner, const std::vector<model::Body>& bodies) {
        for (const model::Body& body : bodies) {
            if (!body.closing && !body.off) continue;
            const model::BodyRef ref{owner, body.id};
            panels.push_back(fields::flag(QStringLiteral("panel:") + q(body.id.text), tr("%1 is on").arg(q(body.name)),
                                          !body.off, [this, ref, name = q(body.name).toLower()](bool on) {
                                              model::Project changed = *session_.project();
                                              model::Body* panel = model::findBody(changed, ref);
                                              if (!panel) return false;
                                              panel->off = !on;
                                              return session_.edit(on ? tr("put on the %1").arg(name)
                                                                      : tr("take off the %1").arg(name),
                                                                   std::move(changed));
                                          }));
        }
    };
    if (project.vehicle) panelsOf(model::vehicle_owner, project.vehicle->bodies);
    if (const model::Donor* donor = model::activeDonor(project)) panelsOf(donor->id.text, donor->bodies);
    if (!panels.empty()) out.push_back(fields::heading(tr("Panels and what is off")));
    std::move(panels.begin(), panels.end(), std::back_inserter(out));
    if (std::any_of(out.begin(), out.end(), [](const Field& f) { return f.kind == Field::Kind::Flag; }))
        out.push_back(fields::remark(QStringLiteral("panels_remark"),
                                     tr("While a panel that closes the bay is off, no gap is believed.")));
    form_->show(std::move(out), session_.shown(), q(placement->id.text));
}

void SetupBlock::another() {
    const model::Placement* placement = model::activePlacement(*session_.project());
    if (!placement) return;
    std::string name;
    const auto taken = [&](const model::Placement& p) { return p.name == name; };
    int n = static_cast<int>(session_.project()->placements.size()) + 1;
    const auto& all = session_.project()->placements;
    do name = tr("Try %1").arg(n++).toStdString();
    while (std::any_of(all.begin(), all.end(), taken));
    auto changed = model::withPlacementCopied(*session_.project(), name);
    if (changed) session_.edit(tr("another placement"), std::move(changed).value());
}

void SetupBlock::drop() {
    const model::Placement* placement = model::activePlacement(*session_.project());
    if (!placement) return;
    const QString name = q(placement->name);
    session_.edit(tr("drop the placement \"%1\"").arg(name),
                  model::withoutPlacement(*session_.project(), placement->id));
}

} // namespace gabarit::app

#include "moc_setup_block.cpp"
