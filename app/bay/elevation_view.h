// One elevation: true outlines, callouts, hatched overlaps, the tape, and the hand.
#pragma once

#include "bay/callouts.h"
#include "bay/edge_handles.h"
#include "fit/fit_report.h"
#include "session/lookout.h"
#include "session/picture.h"

#include <QPixmap>
#include <QWidget>

#include <functional>
#include <map>
#include <set>

class QLabel;
class QSlider;
class QToolButton;

namespace gabarit::app {

class Session;

class ElevationView : public QWidget {
    Q_OBJECT
public:
    ElevationView(Elevation elevation, Session& session, Lookout& lookout, QWidget* parent = nullptr,
                  bool survey = false);

    QPointF toScreen(const Eigen::Vector3d& point_vehicle_mm) const;
    /// In the plane of the drawing through the lookout's centre.
    Eigen::Vector3d toVehicle(const QPointF& point_px) const;
    /// The body whose outline lies under the point, what is nearest to the hand first: donor, then the vehicle's.
    const PictureBody* bodyAt(const QPointF& point_px) const;
    /// The tape's reading in words; empty while fewer than two points are set.
    QString tapeText() const;
    /// The findings that have a callout in what was painted last.
    std::vector<std::string> calledOut() const;
    QSize minimumSizeHint() const override { return {120, 90}; }

    /// A survey drawing: the handle of the edited body under the point.
    std::optional<EdgeHandle> handleAt(const QPointF& point_px) const;
    /// Where it is drawn, px.
    QPointF handlePoint(const EdgeHandle& handle) const;

    /// The drawing alone, without words, marks and buttons.
    void setBare(bool bare);

signals:
    void bodyPicked(const gabarit::model::BodyRef& ref);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    /// Ground, bodies and sweeps, which change less often than what is written over them.
    void paintSheet();
    /// What the part of the sheet below the donor depends on; empty when it is not kept.
    QByteArray chassisKey() const;
    /// All of it is painted anew.
    void redraw();
    /// The vehicle's bodies, or all others and what is pointed at, which stand over them.
    void paintBodies(QPainter& painter, bool chassis);
    void paintBody(QPainter& painter, const PictureBody& body);
    /// The donor's bodies but for what is pointed at, from their layer: shifted where all of them were, anew otherwise.
    void paintUnit(QPainter& painter);
    struct ThinOutline {
        QPainterPath path; ///< px, about the body's origin
        QRectF box;
    };
    const ThinOutline& thinOutline(const PictureBody& body, const QTransform& to);
    void paintOverlaps(QPainter& painter);
    void paintSweeps(QPainter& painter, bool over);
    void paintGround(QPainter& painter);
    void paintPivot(QPainter& painter);
    void paintRoom(QPainter& painter);
    void paintCallouts(QPainter& painter);
    void paintTape(QPainter& painter);
    void paintHandles(QPainter& painter);
    void paintNotes(QPainter& painter);
    void paintPinned(QPainter& painter);
    void paintTool(QPainter& painter);
    const PictureBody* surveyedAt(const QPointF& point_px) const;
    void pressSurvey();
    void pointAt(const QPointF& point_px);
    /// The vehicle's hard points and those of what hangs, each with where it stands in the vehicle.
    void forEachPoint(const std::function<void(const std::string& owner, const model::HardPoint&,
                                               const Eigen::Vector3d&)>& visit) const;
    void dragSurvey(const QPointF& point_px);
    void paintTitle(QPainter& painter);
    struct Title {
        QString line, below;
        QRectF box; ///< px
    };
    Title title() const;
    void sliceChanged();
    bool isSelected(const model::BodyRef& ref) const;
    bool standsOver(const model::BodyRef& ref) const;
    bool belongsHere(const study::Finding& finding, const fit::PairGap* pair) const;
    QPointF snapped(const QPointF& point_px) const;
    std::shared_ptr<const Picture> drawn() const;
    QTransform drawing() const;
    std::size_t index() const { return static_cast<std::size_t>(elevation_); }

    Elevation elevation_;
    bool survey_;
    bool bare_ = false;
    Session& session_;
    Lookout& lookout_;
    shape::Viewpoint view_;
    QToolButton* slice_;
    QSlider* slice_level_;
    QLabel* slice_text_;

    enum class Hold { Nothing, Pan, Drag, Edge, Body };
    Hold hold_ = Hold::Nothing;
    QPointF press_px_;
    Eigen::Vector3d press_vehicle_mm_{0, 0, 0};
    Eigen::Vector3d dragged_mm_{0, 0, 0};
    int drag_count_ = 0;
    EdgeHandle handle_;
    model::Body reshaped_; ///< as it was when the drag began
    Eigen::Isometry3d pose_reshaped_ = Eigen::Isometry3d::Identity();
    QString hovered_;
    std::vector<Eigen::Vector3d> tape_mm_; ///< at most two
    std::vector<std::pair<QRectF, std::string>> callout_boxes_;
    std::vector<QRectF> room_boxes_;
    QRectF ground_box_; ///< of its name
    std::shared_ptr<const model::Project> pivot_of_;
    std::optional<Eigen::Vector3d> pivot_vehicle_mm_; ///< of that project
    QPixmap sheet_;
    using ThinKey = std::pair<std::size_t, double>; ///< form and scale
    std::map<ThinKey, ThinOutline> thin_;           ///< outlines as they are drawn
    std::set<ThinKey> thin_used_;
    struct UnitLayer {
        QByteArray key; ///< of all that it shows but for where; empty: to be painted anew
        QImage image;
        QPointF corner_px; ///< of the image, where it was painted
        QRectF whole_px;   ///< there: the whole unit, also what lies beyond the image
        QPointF first_px;  ///< there: origin of the first body
        QPointF shift_px;  ///< it stands so far from there, whole pixels
        bool off = false;  ///< which is not quite where it should
        bool paintedAt(const QPointF& at_px) const;
    } unit_;
    struct LaidOut { ///< callouts, as long as nothing that their places follow from changes
        std::vector<Callout> asked, laid;
        std::vector<QRectF> keep_clear;
        QRectF area;
        QFont font;
        std::shared_ptr<const Picture> picture;
    } laid_out_;
    QPixmap chassis_; ///< of the sheet: what stays while the donor moves
    QByteArray chassis_key_;
    bool stale_ = true; ///< the sheet is
};

} // namespace gabarit::app
