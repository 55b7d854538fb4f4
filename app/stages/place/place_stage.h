// The stage where the donor finds its place: drawing, jack, what is in the way.
#pragma once

#include "kit/stage.h"

class QComboBox;
class QGridLayout;
class QScrollArea;
class QStackedWidget;
class QToolButton;

namespace gabarit::app {

class Bay;
class BodiesList;
class CompareBlock;
class FindingsList;
class FitsBlock;
class Tries;
class MeasuredBlock;
class MovementBlock;
class NudgeBar;
class PoseFields;
class RoomBlock;
class SetupBlock;
class TriesStrip;

class PlaceStage : public Stage {
    Q_OBJECT
public:
    PlaceStage(Session& session, Lookout& lookout, QWidget* parent = nullptr);
    Bay* bay() const { return bay_; }
    NudgeBar* nudges() const { return nudges_; }
    PoseFields* pose() const { return pose_; }
    const Tries& tries() const { return *tries_; }
    TriesStrip* strip() const { return strip_; }
    FindingsList* findings() const { return findings_; }
    FitsBlock* fits() const { return fits_; }
    BodiesList* bodies() const { return bodies_; }
    RoomBlock* room() const { return room_; }
    QComboBox* school() const { return school_; }
    SetupBlock* setup() const { return setup_; }
    CompareBlock* compare() const { return compare_; }
    MeasuredBlock* measured() const { return measured_; }
    MovementBlock* movement() const { return movement_; }
    /// "way", "fits", "movement", "setup", "bodies", "measured", "compare".
    void showSide(const QString& name);
    /// Leads to a finding's place and marks it.
    bool leadTo(const QString& finding) override;
    NextStep nextStep(const study::Reports& reports) override;
    void setNarrow(bool narrow) override;
    /// One of the above; "all": fits all in the drawing; "sweep": shows what everything sweeps; "place", "forms",
    /// "map": looks for where it fits.
    void turnTo(const QString& what) override;
    bool looking() const override;
    std::vector<StageDeed> deeds() override;
    int wants(const model::Project& project) const override;
    void begin() override;
    QPixmap portrait() override;

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    /// Shows the page of where it fits, and begins to look for a place.
    void lookForAPlace();
    void showRoom();
    void leadToPlaceOf(const study::Finding& finding);

    Session& session_;
    Lookout& lookout_;
    Bay* bay_;
    NudgeBar* nudges_;
    PoseFields* pose_;
    Tries* tries_;
    FindingsList* findings_;
    FitsBlock* fits_;
    BodiesList* bodies_;
    QWidget* room_box_;
    RoomBlock* room_;
    SetupBlock* setup_;
    CompareBlock* compare_;
    MeasuredBlock* measured_;
    MovementBlock* movement_;
    QComboBox* school_;
    QStackedWidget* side_;
    QToolButton* way_;
    QToolButton* where_button_;
    QScrollArea* where_;
    QGridLayout* page_;
    QWidget* right_;
    TriesStrip* strip_;
    Eigen::AlignedBox3d shots_of_; ///< the part of the vehicle that the tries are drawn of
    bool narrow_ = false;
};

} // namespace gabarit::app
