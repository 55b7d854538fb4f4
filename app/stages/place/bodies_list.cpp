#include "stages/place/bodies_list.h"

#include "forms/tones.h"
#include "session/session.h"

#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace gabarit::app {
namespace {
constexpr int owner_role = Qt::UserRole, body_role = Qt::UserRole + 1, name_role = Qt::UserRole + 2;

model::BodyRef refOf(const QListWidgetItem& item) {
    return {item.data(owner_role).toString().toStdString(),
            model::BodyId{item.data(body_role).toString().toStdString()}};
}
} // namespace

BodiesList::BodiesList(Session& session, Lookout& lookout, QWidget* parent)
    : QWidget(parent), session_(session), lookout_(lookout), search_(new QLineEdit(this)), list_(new QListWidget(this)),
      take_(new QPushButton(tr("Take in hand"), this)) {
    search_->setPlaceholderText(tr("find a body"));
    search_->setAccessibleName(tr("Find a body"));
    search_->setClearButtonEnabled(true);
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setAccessibleName(tr("Bodies"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 8, 8, 8);
    column->addWidget(search_);
    column->addWidget(list_, 1);
    auto* row = new QHBoxLayout;
    const std::pair<QString, Sight> sights[] = {
        {tr("Shown"), Sight::Shown}, {tr("See through"), Sight::SeeThrough}, {tr("Hidden"), Sight::Hidden}};
    for (const auto& entry : sights) {
        auto* button = new QPushButton(entry.first, this);
        connect(button, &QPushButton::clicked, this, [this, sight = entry.second] { setSight(sight); });
        row->addWidget(button);
    }
    column->addLayout(row);
    column->addWidget(take_);
    take_->setToolTip(tr("The nudges move this body; only bodies marked as movable can be taken"));
    connect(take_, &QPushButton::clicked, this, [this] {
        const auto refs = chosen();
        if (refs.empty()) return;
        const model::Body* body = session_.hasProject() ? model::findBody(*session_.project(), refs.front()) : nullptr;
        if (body && body->may.be_moved)
            session_.takeInHand(refs.front());
        else if (!refs.front().inVehicle()) // a fixed part of the donor: the donor as a whole
            session_.takeInHand(std::nullopt);
        else if (body)
            emit session_.notice(
                tr("%1 is not marked as one that may be moved.").arg(QString::fromStdString(body->name)), true);
    });
    connect(search_, &QLineEdit::textChanged, this, [this](const QString& text) {
        for (int i = 0; i < list_->count(); ++i)
            list_->item(i)->setHidden(!list_->item(i)->data(name_role).toString().contains(text, Qt::CaseInsensitive));
    });
    connect(&session_, &Session::projectReplaced, this, &BodiesList::refill);
    connect(&session_, &Session::projectChanged, this, &BodiesList::relabel);
    connect(&session_, &Session::inHandChanged, this, &BodiesList::relabel);
    connect(&lookout_, &Lookout::changed, this, &BodiesList::relabel);
}

void BodiesList::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    relabel();
}

void BodiesList::refill() {
    list_->clear();
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    const auto add = [this](const std::string& owner, const std::vector<model::Body>& bodies) {
        for (const model::Body& body : bodies) {
            auto* item = new QListWidgetItem(list_);
            item->setData(owner_role, QString::fromStdString(owner));
            item->setData(body_role, QString::fromStdString(body.id.text));
            item->setData(name_role, QString::fromStdString(body.name));
        }
    };
    if (const model::Donor* donor = model::activeDonor(project)) add(donor->id.text, donor->bodies);
    if (project.vehicle) add(model::vehicle_owner, project.vehicle->bodies);
    relabel();
}

void BodiesList::relabel() {
    if (!session_.hasProject()) return;
    if (!isVisible()) return; // done when it is shown
    // Another placement may have brought another donor's bodies. They stand in the list as in the project.
    std::vector<std::pair<std::string, const model::Body*>> bodies;
    if (const model::Donor* donor = model::activeDonor(*session_.project()))
        for (const model::Body& body : donor->bodies) bodies.emplace_back(donor->id.text, &body);
    if (session_.project()->vehicle)
        for (const model::Body& body : session_.project()->vehicle->bodies)
            bodies.emplace_back(model::vehicle_owner, &body);
    if (bodies.size() != static_cast<std::size_t>(list_->count())) return refill();
    for (int i = 0; i < list_->count(); ++i) {
        QListWidgetItem* item = list_->item(i);
        const model::BodyRef ref = refOf(*item);
        const auto& [owner, body] = bodies[static_cast<std::size_t>(i)];
        if (ref.owner != owner || ref.body != body->id) return refill();
        QString text = QString::fromStdString(body->name);
        if (session_.inHand() && *session_.inHand() == ref) text += tr(" · in hand");
        if (body->moved())
            text += tr(" · moved %1")
                        .arg(session_.moveName(model::rotationVehicleOwner(*session_.project(), ref.owner) *
                                               body->shift_mm));
        if (!body->present()) text += tr(" · removed");
        switch (lookout_.sight(ref)) {
        case Sight::Shown: break;
        case Sight::SeeThrough: text += tr(" · seen through"); break;
        case Sight::Hidden: text += tr(" · hidden"); break;
        }
        const QColor tone = ref.inVehicle() ? tones().ink : tones().donor;
        if (item->text() == text && item->foreground().color() == tone) continue;
        item->setText(text);
        item->setForeground(tone);
    }
}

std::vector<model::BodyRef> BodiesList::chosen() const {
    std::vector<model::BodyRef> out;
    for (const QListWidgetItem* item : list_->selectedItems()) out.push_back(refOf(*item));
    return out;
}

void BodiesList::setSight(Sight sight) {
    for (const model::BodyRef& ref : chosen()) lookout_.setSight(ref, sight);
}

} // namespace gabarit::app

#include "moc_bodies_list.cpp"
