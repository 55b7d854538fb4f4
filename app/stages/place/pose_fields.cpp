#include "stages/place/pose_fields.h"

#include "forms/elided_combo.h"
#include "forms/tones.h"
#include "session/session.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>

namespace gabarit::app {
namespace {
const QString rounded_mark = QStringLiteral("≈");
}

SidedField::SidedField(quantity::Dimension dimension, QWidget* parent) : FieldLine(parent), dimension_(dimension) {
    connect(this, &QLineEdit::editingFinished, this, [this] {
        if (text() != last_) emit entered();
    });
}

void SidedField::setWords(const QString& positive, const QString& negative) {
    positive_ = positive;
    negative_ = negative;
}

void SidedField::setValue(double value, const quantity::Shown& shown) {
    const double size = std::abs(value);
    QString number = QString::fromStdString(
        quantity::text(dimension_, size, shown, dimension_ == quantity::Dimension::Angle ? 2 : 1));
    // The rounding of a fraction is long: the field says that there is one, its tip how much.
    const qsizetype remark = number.indexOf(QLatin1String(" ("));
    setToolTip(remark < 0 ? QString() : tr("exactly %1").arg(number.mid(0, remark) + number.mid(remark)));
    if (remark >= 0) number = rounded_mark + QLatin1Char(' ') + number.left(remark);
    last_ = number + QLatin1Char(' ') + (value < 0 ? negative_ : positive_);
    if (text() == last_) return; // no need to paint it again
    setText(last_);
    setCursorPosition(0);
}

Result<double> SidedField::read(const quantity::Shown& shown) const {
    QString text = this->text().trimmed();
    if (text.startsWith(rounded_mark)) text = text.mid(rounded_mark.size()).trimmed();
    double sign = 1;
    // The last word, if it begins one of the two words, is the side.
    const qsizetype space = text.indexOf(QRegularExpression(QStringLiteral("[A-Za-z']+( the)?( [A-Za-z']+)*$")));
    if (space >= 0) {
        const QString word = text.mid(space).trimmed();
        const auto begins = [&word](const QString& whole) { return whole.startsWith(word, Qt::CaseInsensitive); };
        const bool unit = word == QLatin1String("mm") || word == QLatin1String("in") || word == QLatin1String("cm") ||
                          word == QLatin1String("deg");
        if (!unit) {
            QString number = text.left(space).trimmed();
            if (begins(negative_) && !begins(positive_))
                sign = -1, text = number;
            else if (begins(positive_))
                text = number;
            else {
                // A unit and a side may stand together: "12 mm passenger".
                const QStringList words = word.split(QLatin1Char(' '));
                const QString rest = word.mid(words.front().size()).trimmed();
                if (!rest.isEmpty() && negative_.startsWith(rest, Qt::CaseInsensitive))
                    sign = -1, text = number + QLatin1Char(' ') + words.front();
                else if (!rest.isEmpty() && positive_.startsWith(rest, Qt::CaseInsensitive))
                    text = number + QLatin1Char(' ') + words.front();
            }
        }
    }
    auto value = quantity::parse(dimension_, text.toStdString(), shown);
    if (!value) return value.error();
    return sign * value.value();
}

PoseFields::PoseFields(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), placement_(new ElidedCombo(this)), pivot_(new ElidedCombo(this)),
      x_(new SidedField(quantity::Dimension::Length, this)), y_(new SidedField(quantity::Dimension::Length, this)),
      z_(new SidedField(quantity::Dimension::Length, this)), tail_(new SidedField(quantity::Dimension::Angle, this)),
      swing_(new SidedField(quantity::Dimension::Angle, this)),
      lean_(new SidedField(quantity::Dimension::Angle, this)) {
    setAutoFillBackground(true);
    auto* form = new QFormLayout(this);
    form->setContentsMargins(10, 6, 10, 6);
    form->setVerticalSpacing(3);
    form->setLabelAlignment(Qt::AlignLeft);
    const auto add = [&](const QString& label, QWidget* field, const char* name) {
        field->setObjectName(QString::fromLatin1(name));
        field->setAccessibleName(label);
        auto* words = new QLabel(label, this);
        words->setBuddy(field);
        words->setMinimumHeight(target_px); // in line with its field
        form->addRow(words, field);
        field->setMinimumWidth(0);
    };
    add(tr("Placement"), placement_, "placement");
    add(tr("Behind axle"), x_, "x");
    add(tr("Off centre"), y_, "y");
    add(tr("Height"), z_, "z");
    add(tr("Tail"), tail_, "tail");
    add(tr("Swing"), swing_, "swing");
    add(tr("Lean"), lean_, "lean");
    add(tr("Pivot"), pivot_, "pivot");
    x_->setWords(tr("back"), tr("ahead"));
    z_->setWords(tr("up"), tr("down"));
    tail_->setWords(tr("down"), tr("up"));
    pivot_->addItem(tr("front mounts"), static_cast<int>(model::Pivot::FrontMounts));
    pivot_->addItem(tr("gearbox mount"), static_cast<int>(model::Pivot::GearboxMount));
    pivot_->addItem(tr("block face"), static_cast<int>(model::Pivot::BlockFace));
    pivot_->addItem(tr("centre of gravity"), static_cast<int>(model::Pivot::CentreOfGravity));
    for (SidedField* field : {x_, y_, z_, tail_, swing_, lean_})
        connect(field, &SidedField::entered, this, &PoseFields::apply);
    connect(pivot_, &QComboBox::activated, this,
            [this] { session_.setPivot(static_cast<model::Pivot>(pivot_->currentData().toInt())); });
    connect(placement_, &QComboBox::activated, this,
            [this] { session_.usePlacement(model::PlacementId{placement_->currentData().toString().toStdString()}); });
    connect(&session_, &Session::projectChanged, this, &PoseFields::refresh);
    refresh();
}

void PoseFields::refresh() {
    const model::Placement* placement = session_.hasProject() ? model::activePlacement(*session_.project()) : nullptr;
    setEnabled(placement != nullptr);
    if (!placement) return;
    const model::Project& project = *session_.project();
    const bool driverRight = project.vehicle && project.vehicle->drive_side == model::DriveSide::Right;
    const QString driver = tr("driver's"), passenger = tr("passenger's");
    y_->setWords(driverRight ? driver : passenger, driverRight ? passenger : driver);
    swing_->setWords(driverRight ? driver : passenger, driverRight ? passenger : driver);
    lean_->setWords(driverRight ? passenger : driver, driverRight ? driver : passenger);
    x_->setValue(placement->position_mm.x(), session_.shown());
    y_->setValue(placement->position_mm.y(), session_.shown());
    z_->setValue(placement->position_mm.z(), session_.shown());
    tail_->setValue(placement->angles.pitch_deg, session_.shown());
    swing_->setValue(placement->angles.yaw_deg, session_.shown());
    lean_->setValue(placement->angles.roll_deg, session_.shown());
    pivot_->setCurrentIndex(pivot_->findData(static_cast<int>(placement->pivot)));
    if (placement_->count() != static_cast<int>(project.placements.size())) { placement_->clear(); }
    for (std::size_t i = 0; i < project.placements.size(); ++i) {
        const QString name = QString::fromStdString(project.placements[i].name),
                      id = QString::fromStdString(project.placements[i].id.text);
        const int row = static_cast<int>(i);
        if (row >= placement_->count()) placement_->addItem(name, id);
        placement_->setItemText(row, name);
        placement_->setItemData(row, id);
        if (project.placements[i].id == placement->id) placement_->setCurrentIndex(row);
    }
}

void PoseFields::apply() {
    const model::Placement* placement = session_.hasProject() ? model::activePlacement(*session_.project()) : nullptr;
    if (!placement) return;
    auto* field = qobject_cast<SidedField*>(sender());
    const auto value = field->read(session_.shown());
    if (!value) {
        emit session_.notice(tr("%1: %2").arg(field->accessibleName(), QString::fromStdString(value.error().line())),
                             true);
        return;
    }
    Eigen::Vector3d position = placement->position_mm;
    model::Angles angles = placement->angles;
    if (field == x_)
        position.x() = value.value();
    else if (field == y_)
        position.y() = value.value();
    else if (field == z_)
        position.z() = value.value();
    else if (field == tail_)
        angles.pitch_deg = value.value();
    else if (field == swing_)
        angles.yaw_deg = value.value();
    else
        angles.roll_deg = value.value();
    if (field == x_ || field == y_ || field == z_)
        session_.setPose(position);
    else
        session_.setAngles(angles);
}

} // namespace gabarit::app

#include "moc_pose_fields.cpp"
