#include "stages/place/room_block.h"

#include "fit/fit_report.h"
#include "fit/words.h"
#include "forms/tones.h"
#include "forms/wrapped_label.h"
#include "session/session.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace gabarit::app {

RoomBlock::RoomBlock(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), title_(new QLabel(tr("Room to move"), this)), lines_(new WrappedLabel(this)) {
    QFont bold = font();
    bold.setBold(true);
    title_->setFont(bold);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 6, 8, 8);
    column->setSpacing(2);
    auto* row = new QHBoxLayout;
    auto* stop = new QPushButton(tr("Stop"), this);
    stop->setObjectName(QStringLiteral("stop_search"));
    stop->setToolTip(tr("Gives up the search for room and ways out; the next move begins it anew"));
    row->addWidget(title_, 1);
    row->addWidget(stop);
    column->addLayout(row);
    column->addWidget(lines_);
    // Its place is kept: what is above it stays where it is.
    QSizePolicy kept = stop->sizePolicy();
    kept.setRetainSizeWhenHidden(true);
    stop->setSizePolicy(kept);
    stop->hide();
    connect(stop, &QPushButton::clicked, this, [this] { session_.stopSearch(); });
    connect(&session_, &Session::searchingChanged, this, [this, stop] {
        const auto how = session_.searching();
        stop->setVisible(how.has_value());
        tellSearch();
        refresh();
    });
    connect(&session_, &Session::reportsChanged, this, &RoomBlock::refresh);
    connect(&session_, &Session::projectChanged, this, &RoomBlock::refresh);
    connect(&session_, &Session::projectReplaced, this, &RoomBlock::refresh);
    refresh();
}

void RoomBlock::tellSearch() {
    const auto how = session_.searching();
    title_->setText(how      ? tr("Looking for ways out, %1 of %2").arg(how->first + 1).arg(how->second)
                    : brief_ ? tr("Room to move: in the drawing")
                             : tr("Room to move"));
}

void RoomBlock::setBrief(bool brief) {
    brief_ = brief;
    lines_->setVisible(!brief);
    tellSearch();
}

QString RoomBlock::text() const { return lines_->text(); }

void RoomBlock::refresh() {
    const auto reports = session_.reports();
    setVisible(session_.hasProject() && model::activeDonor(*session_.project()));
    const bool current = reports && reports->with<fit::FitReport>().room && reports->project == session_.project();
    // What stood here a moment ago is shown paler until it is measured anew.
    lines_->setForegroundRole(current ? QPalette::WindowText : QPalette::PlaceholderText);
    if (!current) {
        // Given up, or not asked yet: what stands there belongs to another place.
        if (lines_->text().isEmpty() || !reports) lines_->setText(tr("measuring…"));
        return;
    }
    const model::Project& project = *session_.project();
    const auto words = [&](const fit::Room& room) {
        return QString::fromStdString(fit::roomWords(project, room, session_.shown()));
    };
    QString lines, why;
    const auto& rooms = reports->with<fit::FitReport>().room->rooms;
    for (std::size_t i = 0; i < rooms.size(); ++i) {
        // The two ways of one axis stand on one line, but for the sides, whose words are long.
        const bool joins = i % 2 == 1 && rooms[i].way != fit::Way::Right;
        lines += (i == 0 ? QString() : joins ? QStringLiteral(" · ") : QStringLiteral("\n")) + words(rooms[i]);
        if (!rooms[i].beyond)
            why += tr("%1: then the %2 binds on the %3\n")
                       .arg(words(rooms[i]), QString::fromStdString(rooms[i].name_a).toLower(),
                            QString::fromStdString(rooms[i].name_b).toLower());
    }
    if (reports->with<fit::FitReport>().room->gearbox_up && reports->with<fit::FitReport>().room->gearbox_down)
        lines += tr("\ngearbox %1 · %2")
                     .arg(words(*reports->with<fit::FitReport>().room->gearbox_up),
                          words(*reports->with<fit::FitReport>().room->gearbox_down));
    lines_->setText(lines);
    title_->setToolTip(lines);
    lines_->setToolTip(why + tr("What is no-go already counts only where the move makes it worse."));
    lines_->setAccessibleName(tr("Room to move: %1").arg(lines));
}

} // namespace gabarit::app

#include "moc_room_block.cpp"
