// The stage where the donor finds its place: drawing, jack, what is in the way.
#pragma once

#include "study/study.h"

#include <QWidget>

class QComboBox;
class QStackedWidget;
class QToolButton;

namespace gabarit::app {

class Bay;
class BodiesList;
class FindingsList;
class Lookout;
class NudgeBar;
class PoseFields;
class RoomBlock;
class Session;

class PlaceStage : public QWidget {
    Q_OBJECT
public:
    PlaceStage(Session& session, Lookout& lookout, QWidget* parent = nullptr);
    Bay* bay() const { return bay_; }
    NudgeBar* nudges() const { return nudges_; }
    PoseFields* pose() const { return pose_; }
    FindingsList* findings() const { return findings_; }
    BodiesList* bodies() const { return bodies_; }
    RoomBlock* room() const { return room_; }
    QComboBox* school() const { return school_; }
    /// Leads to a finding's place and marks it.
    void leadTo(const study::Finding& finding);

private:
    Session& session_;
    Lookout& lookout_;
    Bay* bay_;
    NudgeBar* nudges_;
    PoseFields* pose_;
    FindingsList* findings_;
    BodiesList* bodies_;
    RoomBlock* room_;
    QComboBox* school_;
    QStackedWidget* side_;
    QToolButton* way_;
};

} // namespace gabarit::app
