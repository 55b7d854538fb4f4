#include "stages/survey/tape_pad.h"

#include "fields/editing.h"
#include "forms/elided_combo.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "model/edit.h"
#include "model/tape.h"
#include "session/session.h"
#include "store/first_survey.h"

#include <QComboBox>
#include <QDate>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {

enum Column { To, Now, Read };

} // namespace

TapePad::TapePad(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), hook_(new ElidedCombo(this)), direction_(new ElidedCombo(this)),
      table_(new QTableWidget(0, 3, this)) {
    hook_->setObjectName(QStringLiteral("pad_hook"));
    hook_->setAccessibleName(tr("The tape hooks on"));
    direction_->setObjectName(QStringLiteral("pad_direction"));
    direction_->setAccessibleName(tr("and runs"));
    direction_->addItems({tr("rearward"), tr("forward"), QString(), QString(), tr("up"), tr("down")});
    table_->setObjectName(QStringLiteral("pad_table"));
    table_->setAccessibleName(tr("What the tape reads"));
    table_->setHorizontalHeaderLabels({tr("To"), tr("Now"), tr("Reads")});
    table_->horizontalHeader()->setSectionResizeMode(To, QHeaderView::Stretch);
    for (const int column : {Now, Read}) {
        table_->horizontalHeader()->setSectionResizeMode(column, QHeaderView::Fixed);
        table_->setColumnWidth(column, column == Now ? 92 : 80);
    }
    table_->verticalHeader()->hide();
    table_->verticalHeader()->setDefaultSectionSize(target_px);
    table_->setEditTriggers(QAbstractItemView::AllEditTriggers);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 8, 8, 4);
    column->setSpacing(4);
    auto* heading = new QLabel(tr("A run of readings"), this);
    QFont bold = heading->font();
    bold.setBold(true);
    heading->setFont(bold);
    column->addWidget(heading);
    auto* row = new QHBoxLayout;
    for (QComboBox* box : {hook_, direction_}) {
        box->setMinimumHeight(target_px);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(8);
        row->addWidget(box, 1);
        connect(box, &QComboBox::activated, this, [this] { fill(true); });
    }
    column->addLayout(row);
    column->addWidget(table_, 1);
    connect(table_, &QTableWidget::cellChanged, this, [this](int r, int c) {
        if (!filling_) entered(r, c);
    });
}

void TapePad::setOwner(const std::string& owner) {
    if (owner == owner_) return refresh();
    owner_ = owner;
    hook_->setCurrentIndex(0);
    refresh();
    fill(true);
}

void TapePad::refresh() {
    if (!session_.hasProject()) return;
    const QString stood = hook_->currentData().toString();
    hook_->clear();
    hook_->addItem(owner_ == model::vehicle_owner ? tr("axle and datum") : tr("block face"), QString());
    if (const auto* points = pointsOf(*session_.project(), owner_))
        for (const model::HardPoint& point : *points) hook_->addItem(q(point.name), q(point.id.text));
    hook_->setCurrentIndex(std::max(0, hook_->findData(stood)));
    for (const int right : {1, 0}) // the item of the one is before that of the other
        direction_->setItemText(3 - right,
                                sided(*session_.project(), owner_, right ? tr("{to_right}") : tr("{to_left}")));
    fill(false);
}

double TapePad::hookAt_mm(int axis) const {
    if (const auto* points = pointsOf(*session_.project(), owner_))
        for (const model::HardPoint& point : *points)
            if (q(point.id.text) == hook_->currentData().toString()) return point.at_mm[axis];
    return 0;
}

std::vector<TapePad::Row> TapePad::rowsAlong(int axis) const {
    std::vector<Row> out;
    const model::Project& project = *session_.project();
    const auto add = [&](const std::string& id, const std::string& name, const model::Tape& tape, bool point) {
        const auto hooked = model::hook_mm(project, owner_, tape);
        if (!hooked) return;
        for (const model::Reading& reading : tape.readings) {
            const model::TapeSlot* slot = model::tapeSlot(tape, reading);
            if (!slot || slot->axis != axis) continue;
            const double from = hooked.value()[axis];
            out.push_back({{id, point, reading.what, reading.station},
                           q(model::readingWords(project, owner_, name, tape, reading)),
                           from + reading.mm,
                           from});
        }
    };
    if (const auto* bodies = model::bodiesOf(project, owner_))
        for (const model::Body& body : *bodies) add(body.id.text, body.name, body.tape, false);
    if (const auto* points = pointsOf(project, owner_))
        for (const model::HardPoint& point : *points) add(point.id.text, point.name, point.tape, true);
    return out;
}

void TapePad::fill(bool anew) {
    if (!session_.hasProject()) return;
    filling_ = true;
    const int axis = direction_->currentIndex() / 2;
    const double sign = direction_->currentIndex() % 2 == 0 ? 1 : -1, from = hookAt_mm(axis);
    std::vector<Row> found = rowsAlong(axis);
    std::stable_sort(found.begin(), found.end(),
                     [&](const Row& a, const Row& b) { return sign * a.at_mm < sign * b.at_mm; });
    if (!anew) {
        // In the middle of a run nothing changes places: what is known keeps its row, what is new comes last.
        const auto rank = [this](const Row& row) {
            return std::find_if(rows_.begin(), rows_.end(),
                                [&](const Row& r) { return readingKey(r.place) == readingKey(row.place); }) -
                   rows_.begin();
        };
        std::stable_sort(found.begin(), found.end(), [&](const Row& a, const Row& b) { return rank(a) < rank(b); });
    }
    rows_ = std::move(found);
    const int count = static_cast<int>(rows_.size());
    table_->setRowCount(count + 1);
    for (int r = 0; r <= count; ++r) {
        const Row* row = r < count ? &rows_[static_cast<std::size_t>(r)] : nullptr;
        const QString texts[] = {row ? row->words : QString(),
                                 row ? q(quantity::lengthText(sign * (row->at_mm - from), session_.shown(), 1))
                                     : tr("new point"),
                                 QString()};
        for (int c = 0; c < 3; ++c) {
            QTableWidgetItem* item = table_->item(r, c);
            if (!item) table_->setItem(r, c, item = new QTableWidgetItem);
            item->setText(texts[c]);
            item->setToolTip(texts[c]);
            const bool typed = c == Read || (c == To && !row);
            item->setFlags(typed ? Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsEditable
                                 : Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        }
    }
    filling_ = false;
}

void TapePad::entered(int r, int column) {
    const QString text = table_->item(r, Read) ? table_->item(r, Read)->text().trimmed() : QString();
    const bool fresh = r == static_cast<int>(rows_.size());
    const QString name = fresh && table_->item(r, To) ? table_->item(r, To)->text().trimmed() : QString();
    if (text.isEmpty() || (fresh && name.isEmpty()) || (!fresh && column != Read)) return;
    const auto read = quantity::parse(quantity::Dimension::Length, text.toStdString(), session_.shown());
    if (!read) {
        emit session_.notice(q(read.error().line()), true);
        return;
    }
    const int axis = direction_->currentIndex() / 2;
    const double sign = direction_->currentIndex() % 2 == 0 ? 1 : -1;
    const double at = hookAt_mm(axis) + sign * read.value();
    Result<model::Project> changed = *session_.project();
    QString undo;
    if (fresh) {
        Eigen::Vector3d place = Eigen::Vector3d::Zero();
        place[axis] = at;
        model::PointId id;
        changed = model::withTapePoint(*session_.project(), owner_, typedWords(name), place, {}, id);
        undo = tr("a new point, %1").arg(name.toLower());
    } else {
        const Row row = rows_[static_cast<std::size_t>(r)];
        // Read again: its note, picture and the rest stay.
        model::Project held = *session_.project();
        model::Tape* tape = model::findTape(held, owner_, row.place.id, row.place.point);
        const model::Reading* before = tape ? model::findReading(*tape, row.place.what, row.place.station) : nullptr;
        if (!before) return;
        model::Reading reading = *before;
        reading.mm = at - row.hooked_mm;
        reading.accuracy_mm = store::firstSurvey().tape_accuracy_mm;
        reading.measured.method = model::Method::Measured;
        reading.measured.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
        changed = model::withReading(*session_.project(), owner_, row.place.id, row.place.point, reading);
        undo = tr("read: %1").arg(row.words.toLower());
    }
    if (!changed) {
        emit session_.notice(q(changed.error().line()), true);
        return;
    }
    if (session_.edit(undo, changed.value())) QTimer::singleShot(0, this, [this, r] { goOn(r + 1); });
}

void TapePad::goOn(int row) {
    if (row >= table_->rowCount()) return;
    table_->setCurrentCell(row, row == static_cast<int>(rows_.size()) ? To : Read);
    table_->editItem(table_->currentItem());
}

} // namespace gabarit::app

#include "moc_tape_pad.cpp"
