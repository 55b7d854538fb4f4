#include "bay/elevation_view.h"

#include "bay/callouts.h"
#include "bay/thinned.h"
#include "fit/fit_report.h"
#include "forms/tones.h"
#include "session/session.h"

#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QSlider>
#include <QToolButton>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

using Eigen::Vector3d;

constexpr int most_callouts = 5; // more than that hides the drawing; the list has them all

QString titleOf(Elevation elevation, const model::Project* project) {
    switch (elevation) {
    case Elevation::Side: {
        const bool fromDriver = project && project->vehicle && project->vehicle->drive_side == model::DriveSide::Left;
        return fromDriver ? QObject::tr("From the driver's side") : QObject::tr("From the passenger's side");
    }
    case Elevation::Plan: return QObject::tr("From above");
    case Elevation::Front: return QObject::tr("From the front");
    }
    return {};
}

QString shortTitleOf(Elevation elevation) {
    return elevation == Elevation::Side   ? QObject::tr("Side")
           : elevation == Elevation::Plan ? QObject::tr("Above")
                                          : QObject::tr("Front");
}

/// Ground and wheels are landmarks, drawn as lines: filled they would hide the bay.
bool isLandmark(const PictureBody& body) { return model::drawnQuietly(body.category); }

} // namespace

ElevationView::ElevationView(Elevation elevation, Session& session, Lookout& lookout, QWidget* parent, bool survey)
    : QWidget(parent), elevation_(elevation), survey_(survey), session_(session), lookout_(lookout),
      view_(viewpoint(elevation)), slice_(new QToolButton(this)), slice_level_(new QSlider(Qt::Horizontal, this)),
      slice_text_(new QLabel(this)) {
    setMouseTracking(true);
    setAttribute(Qt::WA_OpaquePaintEvent); // the sheet covers it
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(titleOf(elevation, nullptr));
    setAccessibleDescription(survey ? tr("Drawing of what was surveyed. Edges of the chosen body can be dragged.")
                                    : tr("Drawing of the bay. Arrow keys nudge what is in hand."));
    slice_->setText(tr("Slice"));
    slice_->setCheckable(true);
    slice_->setFocusPolicy(Qt::TabFocus);
    slice_->setToolTip(tr("Cut away what stands nearer than a level, to look inside"));
    slice_level_->setAccessibleName(tr("Slice level"));
    slice_level_->hide();
    slice_text_->hide();
    connect(slice_, &QToolButton::toggled, this, [this](bool on) {
        if (on && session_.picture()) {
            Eigen::AlignedBox3d box;
            for (const PictureBody& body : session_.picture()->bodies)
                if (body.category != "ground") box.extend(body.bounds_vehicle_mm);
            const Vector3d towards = view_.towards_viewer();
            const double half = box.sizes().dot(towards.cwiseAbs()) / 2, middle = box.center().dot(towards);
            slice_level_->setRange(static_cast<int>(std::floor(middle - half)),
                                   static_cast<int>(std::ceil(middle + half)));
            slice_level_->setValue(
                static_cast<int>(std::lround(session_.picture()->donor_bounds_vehicle_mm.isEmpty()
                                                 ? middle
                                                 : session_.picture()->donor_bounds_vehicle_mm.center().dot(towards))));
        }
        slice_level_->setVisible(on);
        slice_text_->setVisible(on);
        sliceChanged();
    });
    connect(slice_level_, &QSlider::valueChanged, this, &ElevationView::sliceChanged);
    connect(&lookout_, &Lookout::changed, this, &ElevationView::redraw);
    connect(&session_, &Session::pictureChanged, this, &ElevationView::redraw);
    connect(&session_, &Session::movedToChanged, this, &ElevationView::redraw);
    connect(&session_, &Session::inHandChanged, this, &ElevationView::redraw);
    connect(&session_, &Session::reportsChanged, this, [this] {
        if (!lookout_.selected().empty()) stale_ = true; // which bodies that is, the reports say
        update();
    });
    connect(&session_, &Session::settled, this, [this] {
        if (!unit_.off) return;
        unit_.key.clear();
        redraw();
    });
    connect(&session_, &Session::overlapsChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::pinChanged, this, qOverload<>(&QWidget::update));
    connect(&session_, &Session::projectReplaced, this, [this] {
        redraw();
        tape_mm_.clear();
        slice_->setChecked(false);
    });
}

void ElevationView::sliceChanged() {
    if (!slice_->isChecked()) {
        lookout_.setSlice(elevation_, std::nullopt);
        return;
    }
    const double level = slice_level_->value();
    const Vector3d at = view_.towards_viewer() * level;
    const auto length = [this](double mm) {
        return QString::fromStdString(quantity::lengthText(mm, session_.shown(), 0));
    };
    if (elevation_ == Elevation::Side)
        slice_text_->setText(tr("%1 off centre").arg(length(std::abs(at.y()))));
    else if (elevation_ == Elevation::Plan)
        slice_text_->setText(tr("%1 above datum").arg(length(at.z())));
    else
        slice_text_->setText(tr("%1 behind axle").arg(length(at.x())));
    slice_text_->adjustSize();
    resizeEvent(nullptr);
    lookout_.setSlice(elevation_, level);
}

void ElevationView::resizeEvent(QResizeEvent*) {
    const QSize size = slice_->sizeHint();
    slice_->setGeometry(width() - size.width() - 8, 6, size.width(), std::max(size.height(), target_px));
    const int sliderWidth = std::min(140, width() / 3);
    slice_level_->setGeometry(width() - sliderWidth - 8, 44, sliderWidth, 26);
    slice_text_->adjustSize();
    slice_text_->move(width() - slice_text_->width() - 10, 70);
}

QTransform ElevationView::drawing() const {
    const Vector3d c = lookout_.centre_mm();
    QTransform t;
    t.translate(width() / 2.0, height() / 2.0);
    t.scale(lookout_.scale(), -lookout_.scale());
    t.translate(-c.dot(view_.right), -c.dot(view_.up));
    return t;
}

QPointF ElevationView::toScreen(const Vector3d& p) const {
    return drawing().map(QPointF(p.dot(view_.right), p.dot(view_.up)));
}

Vector3d ElevationView::toVehicle(const QPointF& point_px) const {
    const QPointF at = drawing().inverted().map(point_px);
    return view_.right * at.x() + view_.up * at.y() +
           view_.towards_viewer() * lookout_.centre_mm().dot(view_.towards_viewer());
}

const PictureBody* ElevationView::bodyAt(const QPointF& point_px) const {
    const auto picture = drawn();
    if (!picture) return nullptr;
    const QPointF at = drawing().inverted().map(point_px);
    const auto& order = picture->order[index()];
    for (const bool donor : {true, false})
        for (auto it = order.rbegin(); it != order.rend(); ++it) {
            const PictureBody& body = picture->bodies[*it];
            if (body.in_donor != donor || body.category == "ground" || lookout_.sight(body.ref) != Sight::Shown)
                continue;
            if (!donor && isLandmark(body)) continue;
            if (body.outline[index()].contains(at)) return &body;
        }
    return nullptr;
}

bool ElevationView::isSelected(const model::BodyRef& ref) const {
    const auto reports = session_.reports();
    if (!reports || lookout_.selected().empty()) return false;
    for (const study::Finding& finding : reports->findings)
        if (finding.id == lookout_.selected())
            return (finding.a && *finding.a == ref) || (finding.b && *finding.b == ref);
    return false;
}

void ElevationView::setBare(bool bare) {
    bare_ = bare;
    slice_->setVisible(!bare);
}

void ElevationView::redraw() {
    stale_ = true;
    update();
}

void ElevationView::changeEvent(QEvent* event) {
    QWidget::changeEvent(event);
    stale_ = true; // font, colours
    chassis_key_.clear();
    unit_.key.clear();
}

QByteArray ElevationView::chassisKey() const {
    const auto picture = drawn();
    if (!picture || (!survey_ && !session_.sweeps().empty())) return {};
    QByteArray key;
    const auto add = [&key](const auto& value) {
        key.append(reinterpret_cast<const char*>(&value), static_cast<qsizetype>(sizeof value));
    };
    const QTransform to = drawing();
    for (const double value : {to.m11(), to.m22(), to.dx(), to.dy()}) add(value);
    add(theme());
    for (const std::size_t i : picture->order[index()]) {
        const PictureBody& body = picture->bodies[i];
        if (body.in_donor) continue;
        add(body.mark[index()]);
        add(lookout_.sight(body.ref));
        add(standsOver(body.ref));
        add(session_.inHand() && *session_.inHand() == body.ref);
    }
    return key;
}

void ElevationView::paintSheet() {
    const QSize pixels = size() * devicePixelRatioF();
    if (!stale_ && sheet_.size() == pixels) return;
    stale_ = false;
    const QByteArray key = chassisKey();
    if (key.isEmpty() || key != chassis_key_ || chassis_.size() != pixels) {
        chassis_key_ = key;
        chassis_ = QPixmap(pixels);
        chassis_.setDevicePixelRatio(devicePixelRatioF());
        chassis_.fill(tones().paper);
        QPainter painter(&chassis_);
        painter.setRenderHint(QPainter::Antialiasing);
        paintGround(painter);
        if (!survey_) paintSweeps(painter, false);
        paintBodies(painter, true);
    }
    sheet_ = chassis_;
    thin_used_.clear();
    QPainter painter(&sheet_);
    painter.setRenderHint(QPainter::Antialiasing);
    paintUnit(painter);
    paintBodies(painter, false);
    if (!survey_) paintSweeps(painter, true);
    for (auto outline = thin_.begin(); outline != thin_.end();)
        outline = thin_used_.count(outline->first) > 0 ? std::next(outline) : thin_.erase(outline);
}

void ElevationView::paintEvent(QPaintEvent*) {
    paintSheet();
    QPainter painter(this);
    painter.drawPixmap(0, 0, sheet_);
    painter.setRenderHint(QPainter::Antialiasing);
    if (bare_) return paintOverlaps(painter);
    if (survey_) {
        paintHandles(painter);
    } else {
        paintPinned(painter);
        paintOverlaps(painter);
        paintPivot(painter);
        paintTool(painter);
        paintRoom(painter);
        paintCallouts(painter);
    }
    paintTape(painter);
    paintTitle(painter);
    if (hasFocus()) {
        painter.setPen(QPen(tones().in_hand, 2));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(rect().adjusted(1, 1, -1, -1));
    }
}

void ElevationView::paintGround(QPainter& painter) {
    const auto picture = drawn();
    ground_box_ = QRectF();
    if (!picture || elevation_ == Elevation::Plan) return;
    for (const PictureBody& body : picture->bodies) {
        if (body.category != "ground" || lookout_.sight(body.ref) == Sight::Hidden) continue;
        // Its upper edge from end to end: it leans when one axle is farther in than the other.
        const QPolygonF drawn = body.outline[index()].toFillPolygon(drawing());
        const double middle = drawn.boundingRect().center().x();
        QPointF left(0, height()), right(width(), height());
        for (const QPointF& p : drawn) {
            QPointF& end = p.x() < middle ? left : right;
            if (p.y() < end.y()) end = p;
        }
        const double slope = right.x() > left.x() ? (right.y() - left.y()) / (right.x() - left.x()) : 0;
        const auto at = [&](double x) { return QPointF(x, left.y() + (x - left.x()) * slope); };
        const double y = at(10).y();
        painter.setPen(QPen(tones().chassis_edge, 1.4));
        painter.drawLine(at(0), at(width()));
        if (elevation_ != Elevation::Side || bare_) continue; // said once
        const QString name = QString::fromStdString(body.name);
        painter.setPen(tones().second_ink);
        painter.setFont(font());
        painter.drawText(QPointF(10, y - 5), name);
        const QFontMetricsF metrics(font(), this);
        ground_box_ = QRectF(10, y - 5 - metrics.ascent(), metrics.horizontalAdvance(name), metrics.height());
    }
}

void ElevationView::paintBody(QPainter& painter, const PictureBody& body) {
    const Sight sight = lookout_.sight(body.ref);
    if (sight == Sight::Hidden || body.category == "ground") return;
    const bool bodyInHand = session_.inHand() && *session_.inHand() == body.ref;
    const bool through = sight == Sight::SeeThrough || (isLandmark(body) && !body.in_donor);
    QColor fill = body.in_donor ? tones().donor : tones().chassis;
    QColor edge = body.in_donor ? tones().donor_edge : tones().chassis_edge;
    const bool edited = survey_ && lookout_.edited() && *lookout_.edited() == body.ref;
    const bool somethingSelected = !survey_ && !lookout_.selected().empty();
    if (body.in_donor && !survey_ && !isSelected(body.ref))
        fill.setAlpha(somethingSelected ? 70 : session_.inHand() ? 130 : 225);
    if (bodyInHand || edited) fill = tones().in_hand.lighter(150), edge = tones().in_hand;
    if (edited) fill.setAlpha(110);
    if (!survey_ && isSelected(body.ref)) edge = tones().trouble;
    QPen pen(edge, isSelected(body.ref) ? 2.6 : body.in_donor ? 1.2 : 1.0);
    if (through && body.category != "outline") pen.setStyle(Qt::DashLine);
    if (body.category == "outline" && !isSelected(body.ref) && !edited) pen.setColor(tones().rule);
    painter.setPen(pen);
    painter.setBrush(through ? QBrush(Qt::NoBrush) : QBrush(fill));
    const QTransform to = drawing();
    const QPointF at = to.map(body.at[index()]);
    painter.translate(at);
    painter.drawPath(thinOutline(body, to).path);
    painter.translate(-at);
    if (!body.cut[index()].isEmpty()) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(QBrush(edge, Qt::FDiagPattern));
        painter.drawPath(thinned(body.cut[index()], to));
    }
}

const ElevationView::ThinOutline& ElevationView::thinOutline(const PictureBody& body, const QTransform& to) {
    // At one scale the same points stay, wherever it is drawn.
    const auto key = std::pair(body.form[index()], to.m11());
    auto found = thin_.find(key);
    if (found == thin_.end()) {
        const QPointF at = to.map(body.at[index()]);
        QPainterPath path = thinned(body.outline[index()], to * QTransform::fromTranslate(-at.x(), -at.y()));
        const QRectF box = path.controlPointRect();
        found = thin_.emplace(key, ThinOutline{std::move(path), box}).first;
    }
    thin_used_.insert(key);
    return found->second;
}

bool ElevationView::UnitLayer::paintedAt(const QPointF& at_px) const {
    const QPoint pixel = ((at_px - corner_px - shift_px) * image.devicePixelRatio()).toPoint();
    return image.valid(pixel) && qAlpha(image.pixel(pixel)) > 0;
}

void ElevationView::paintUnit(QPainter& painter) {
    constexpr double pen_px = 2;  // how far edges stand out over outlines
    constexpr int around_px = 64; // painted beyond the view, so that it can be shifted
    constexpr double same_px = 1.0 / 32;
    const auto picture = drawn();
    const QTransform to = drawing();
    std::vector<const PictureBody*> bodies;
    for (std::size_t place = 0; picture && place < picture->order[index()].size(); ++place) {
        const PictureBody& body = picture->bodies[picture->order[index()][place]];
        if (body.in_donor && body.category != "ground" && !standsOver(body.ref) &&
            lookout_.sight(body.ref) != Sight::Hidden)
            bodies.push_back(&body);
    }
    if (bodies.empty()) {
        unit_ = UnitLayer();
        return;
    }
    const QPointF first = to.map(bodies.front()->at[index()]);
    QByteArray key;
    const auto add = [&key](const auto& value) {
        key.append(reinterpret_cast<const char*>(&value), static_cast<qsizetype>(sizeof value));
    };
    add(to.m11());
    add(theme());
    add(survey_);
    add(!survey_ && !lookout_.selected().empty());
    add(session_.inHand().has_value());
    bool cut = false;
    for (const PictureBody* body : bodies) {
        const QPointF from_first = to.map(body->at[index()]) - first;
        add(body->form[index()]);
        add(lookout_.sight(body->ref));
        add(session_.inHand() && *session_.inHand() == body->ref);
        add(std::llround(from_first.x() / same_px));
        add(std::llround(from_first.y() / same_px));
        cut = cut || !body->cut[index()].isEmpty();
        thin_used_.insert({body->form[index()], to.m11()});
    }
    const double ratio = devicePixelRatioF();
    const QRectF view = rect();
    const QPointF way = first - unit_.first_px;
    const QPointF shift(std::round(way.x() * ratio) / ratio, std::round(way.y() * ratio) / ratio);
    const QSizeF size = QSizeF(unit_.image.size()) / ratio;
    const bool off = QPointF(way - shift).manhattanLength() > same_px;
    // A little off only until what follows a move has come: then it is painted where it is.
    if (key == unit_.key && (!off || session_.runner().busy()) &&
        QRectF(unit_.corner_px + shift, size).contains(unit_.whole_px.translated(shift).intersected(view))) {
        unit_.shift_px = shift;
        unit_.off = off;
        painter.drawImage(unit_.corner_px + shift, unit_.image);
        return;
    }
    QRectF whole;
    for (const PictureBody* body : bodies) whole |= thinOutline(*body, to).box.translated(to.map(body->at[index()]));
    whole.adjust(-pen_px, -pen_px, pen_px, pen_px);
    // On whole pixels of the screen, of which a scaled one has more than the drawing.
    const QRectF painted = whole.intersected(view.adjusted(-around_px, -around_px, around_px, around_px));
    const QRect pixels = QRectF(painted.topLeft() * ratio, painted.size() * ratio).toAlignedRect();
    unit_ = UnitLayer{
        cut ? QByteArray() : key, QImage(), QPointF(pixels.topLeft()) / ratio, whole, first, QPointF(), false};
    if (painted.isEmpty()) return;
    unit_.image = QImage(pixels.size(), QImage::Format_ARGB32_Premultiplied);
    unit_.image.setDevicePixelRatio(ratio);
    unit_.image.fill(Qt::transparent);
    QPainter layer(&unit_.image);
    layer.setRenderHint(QPainter::Antialiasing);
    layer.translate(-unit_.corner_px);
    for (const PictureBody* body : bodies) paintBody(layer, *body);
    layer.end();
    painter.drawImage(unit_.corner_px, unit_.image);
}

bool ElevationView::standsOver(const model::BodyRef& ref) const {
    return survey_ ? lookout_.edited() && *lookout_.edited() == ref : isSelected(ref);
}

void ElevationView::paintBodies(QPainter& painter, bool chassis) {
    const auto picture = drawn();
    if (!picture) return;
    // The donor is the thing in hand: it is drawn over the chassis, whatever stands nearer; and what is pointed at, or
    // reshaped, is drawn over everything.
    for (const bool over : {false, true})
        for (const bool donor : {false, true}) {
            if ((!over && !donor) != chassis || (!over && donor)) continue; // the unit has its own layer
            for (const std::size_t i : picture->order[index()])
                if (picture->bodies[i].in_donor == donor && standsOver(picture->bodies[i].ref) == over)
                    paintBody(painter, picture->bodies[i]);
        }
}

void ElevationView::paintSweeps(QPainter& painter, bool over) {
    const QTransform to = drawing();
    for (const Sweep& sweep : session_.sweeps()) {
        if (lookout_.sight(sweep.ref) == Sight::Hidden) continue;
        QColor edge = sweep.in_donor ? tones().donor_edge : tones().chassis_edge;
        QColor fill = edge;
        fill.setAlpha(26);
        painter.setBrush(over ? QBrush(Qt::NoBrush) : QBrush(fill));
        painter.setPen(over ? QPen(edge, 1.5, Qt::DotLine) : QPen(Qt::NoPen));
        painter.drawPath(to.map(sweep.outline[index()]));
    }
}

void ElevationView::paintOverlaps(QPainter& painter) {
    constexpr double hatch_px = 6;
    const auto reports = session_.reports();
    if (!reports || session_.movedTo()) return; // they are cut where everything is at rest
    const QTransform to = drawing();
    for (const PictureOverlap& overlap : session_.overlaps()) {
        // Only while the pair still overlaps: the outlines come a moment after the figures.
        if (std::none_of(reports->findings.begin(), reports->findings.end(),
                         [&](const study::Finding& f) { return f.id == overlap.finding; }))
            continue;
        const QPainterPath path = to.map(overlap.outline[index()]);
        const QRectF box = path.boundingRect().intersected(QRectF(rect()));
        if (box.isEmpty()) continue;
        painter.save();
        painter.setClipPath(path, Qt::IntersectClip);
        QColor ground = tones().paper;
        ground.setAlpha(190);
        painter.fillRect(box, ground);
        painter.setPen(QPen(tones().trouble, 1.5));
        // Lines at 45° on one grid for the whole sheet, so that neighbours join.
        const double first = std::floor((box.left() + box.top()) / hatch_px) * hatch_px;
        for (double c = first; c <= box.right() + box.bottom(); c += hatch_px)
            painter.drawLine(QPointF(c - box.bottom(), box.bottom()), QPointF(c - box.top(), box.top()));
        painter.restore();
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(tones().trouble, 1.6));
        painter.drawPath(path);
    }
}

void ElevationView::paintPivot(QPainter& painter) {
    if (!session_.hasProject() || session_.inHand()) return;
    if (pivot_of_ != session_.project()) { // a donor is copied for it
        pivot_of_ = session_.project();
        pivot_vehicle_mm_.reset();
        const model::Placement* placement = model::activePlacement(*pivot_of_);
        const auto donor = model::hangingDonor(*pivot_of_);
        if (placement && donor)
            if (const auto pivot = model::pivotVehicle_mm(*placement, *donor)) pivot_vehicle_mm_ = pivot.value();
    }
    if (!pivot_vehicle_mm_) return;
    const QPointF at = toScreen(*pivot_vehicle_mm_);
    painter.setPen(QPen(tones().paper, 5));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(at, 8, 8);
    painter.setPen(QPen(tones().in_hand, 2.2));
    painter.drawEllipse(at, 8, 8);
    painter.drawLine(at - QPointF(13, 0), at + QPointF(13, 0));
    painter.drawLine(at - QPointF(0, 13), at + QPointF(0, 13));
}

void ElevationView::paintRoom(QPainter& painter) {
    room_boxes_.clear();
    const auto reports = session_.reports();
    const auto picture = drawn();
    // While a gap is pointed at, or the figures are those of another place, the drawing stays free of them.
    if (!reports || !reports->with<fit::FitReport>().room || reports->project != session_.project() || !picture ||
        !lookout_.selected().empty() || session_.inHand() || picture->donor_bounds_vehicle_mm.isEmpty())
        return;
    const Eigen::AlignedBox3d& box = picture->donor_bounds_vehicle_mm;
    const Vector3d centre = box.center(), half = box.sizes() / 2;
    painter.setFont(font());
    const QFontMetricsF metrics(font(), this);
    for (const fit::Room& room : reports->with<fit::FitReport>().room->rooms) {
        if (fit::isTurn(room.way)) continue;
        const Vector3d along = fit::direction(room.way);
        const QPointF towards(along.dot(view_.right), -along.dot(view_.up));
        if (std::hypot(towards.x(), towards.y()) < 0.5) continue; // it goes into the paper
        QString text =
            QString::fromStdString(quantity::lengthTextDown(room.amount, session_.shown(), room.beyond ? 0 : 1));
        text.truncate(text.lastIndexOf(QLatin1Char(' '))); // the unit is the drawing's
        if (room.beyond) text = QStringLiteral("> ") + text;
        constexpr double off_px = 10, arrow_px = 16;
        QPointF from = toScreen(centre + half.cwiseProduct(along)) + towards * off_px;
        QPointF tip = from + towards * arrow_px;
        const QSizeF size(metrics.horizontalAdvance(text) + 8, metrics.height());
        QRectF words(QPointF(0, 0), size);
        words.moveCenter(tip + QPointF(towards.x() * (size.width() / 2 + 3), towards.y() * (size.height() / 2 + 1)));
        QRectF whole = words.united(QRectF(from, tip).normalized());
        // Where the donor reaches to the edge of the sheet the mark stands over it.
        const QRectF sheet = QRectF(rect()).adjusted(4, 4, -4, -4);
        QPointF in(0, 0);
        if (towards.x() < -0.5) in.setX(std::max(0.0, sheet.left() - whole.left()));
        if (towards.x() > 0.5) in.setX(std::min(0.0, sheet.right() - whole.right()));
        if (towards.y() < -0.5) in.setY(std::max(0.0, sheet.top() - whole.top()));
        if (towards.y() > 0.5) in.setY(std::min(0.0, sheet.bottom() - whole.bottom()));
        for (QPointF* point : {&from, &tip}) *point += in;
        words.translate(in);
        whole.translate(in);
        if (!sheet.contains(whole) || whole.intersects(title().box) || whole.intersects(QRectF(slice_->geometry())))
            continue;
        const QColor tone = room.amount > 0 ? tones().ink : tones().trouble;
        QColor ground = tones().paper;
        ground.setAlpha(200);
        painter.setPen(Qt::NoPen);
        painter.setBrush(ground);
        painter.drawRect(words);
        painter.setPen(QPen(tone, 2));
        painter.drawLine(from, tip);
        const QPointF square(-towards.y(), towards.x());
        if (room.amount > 0) { // an arrow; a bar where the way is closed
            painter.drawLine(tip, tip - towards * 6 + square * 4);
            painter.drawLine(tip, tip - towards * 6 - square * 4);
        } else {
            painter.drawLine(tip - square * 6, tip + square * 6);
        }
        painter.setPen(tone);
        painter.drawText(words, Qt::AlignCenter, text);
        room_boxes_.push_back(whole);
    }
}

bool ElevationView::belongsHere(const study::Finding& finding, const fit::PairGap* pair) const {
    if (finding.id == lookout_.selected()) return true;
    if (!pair) return elevation_ == Elevation::Side; // a place is seen in each: told once
    // Where the gap, or the way out of the overlap, is seen at its full length; the side view wins ties.
    const Vector3d along = pair->moment() ? pair->moment()->gap.away : pair->gap.away;
    Elevation best = Elevation::Side;
    double seen = -1;
    for (const Elevation elevation : elevations) {
        const shape::Viewpoint view = viewpoint(elevation);
        const double length = std::hypot(along.dot(view.right), along.dot(view.up));
        if (length > seen + 0.02) seen = length, best = elevation;
    }
    return best == elevation_;
}

std::vector<std::string> ElevationView::calledOut() const {
    std::vector<std::string> out;
    for (const auto& [box, finding] : callout_boxes_) out.push_back(finding);
    return out;
}

void ElevationView::paintCallouts(QPainter& painter) {
    callout_boxes_.clear();
    const auto reports = session_.reports();
    if (!reports) return;
    struct Drawn {
        const study::Finding* finding;
        const fit::PairGap* pair; ///< whose gap it is about; null: it is about a place
    };
    std::vector<Drawn> drawn;
    std::vector<Callout> callouts;
    const QRectF area = QRectF(rect()).adjusted(4, 4, -4, -4);
    static const std::vector<fit::PairGap> none;
    const auto& clearance = reports->with<fit::FitReport>().clearance;
    const auto& pairs = clearance ? clearance->pairs : none;
    auto found = pairs.begin();
    for (const study::Finding& finding : reports->findings) {
        if (!finding.place_vehicle_mm || finding.label.empty()) continue;
        const fit::PairGap* pair = nullptr;
        if (finding.a && finding.b) {
            // Findings come in the order of their pairs: the next one is seldom far from the last.
            const auto is = [&](const fit::PairGap& p) { return p.a == *finding.a && p.b == *finding.b; };
            found = std::find_if(found, pairs.end(), is);
            if (found == pairs.end()) found = std::find_if(pairs.begin(), pairs.end(), is);
            if (found != pairs.end()) pair = &*found;
        }
        if (!belongsHere(finding, pair)) continue;
        const QPointF anchor = toScreen(*finding.place_vehicle_mm);
        if (!area.contains(anchor)) continue;
        drawn.push_back({&finding, pair});
        callouts.push_back({QStringLiteral("%1  %2").arg(finding.number).arg(QString::fromStdString(finding.label)),
                            anchor,
                            {},
                            QString::number(finding.number)});
        if (static_cast<int>(drawn.size()) == most_callouts) break;
    }
    QFont bold = font();
    bold.setBold(true);
    painter.setFont(bold);
    const QTransform toDrawing = drawing().inverted();
    const auto picture = this->drawn();
    std::vector<const QPainterPath*> over; // of the unit, but not on its layer
    if (picture)
        for (const PictureBody& body : picture->bodies)
            if (body.in_donor && standsOver(body.ref)) over.push_back(&body.outline[index()]);
    const auto covered = [&](const QRectF& box) {
        // Nine points of the box tell how much of the unit it would hide.
        int hits = 0;
        for (const double fx : {0.05, 0.5, 0.95})
            for (const double fy : {0.1, 0.5, 0.9}) {
                const QPointF at(box.left() + fx * box.width(), box.top() + fy * box.height());
                hits += unit_.paintedAt(at) || std::any_of(over.begin(), over.end(), [&](const QPainterPath* outline) {
                            return outline->contains(toDrawing.map(at));
                        });
            }
        return hits / 9.0;
    };
    std::vector<QRectF> keepClear = room_boxes_;
    keepClear.insert(keepClear.end(), {title().box, QRectF(slice_->geometry()), QRectF(slice_level_->geometry())});
    if (!ground_box_.isEmpty()) keepClear.push_back(ground_box_);
    // While the reports are of the place before, they stay where they were laid out.
    const bool of_before = picture && picture->project != reports->project;
    if (!(callouts == laid_out_.asked) || area != laid_out_.area || bold != laid_out_.font ||
        (!of_before && (picture != laid_out_.picture || keepClear != laid_out_.keep_clear))) {
        laid_out_ = {callouts, {}, keepClear, area, bold, picture};
        layOut(callouts, area, keepClear, QFontMetricsF(bold, this), width() * 0.42, covered);
        laid_out_.laid = callouts;
    } else {
        callouts = laid_out_.laid;
    }
    for (std::size_t i = 0; i < callouts.size(); ++i) {
        const QColor tone = toneOf(drawn[i].finding->verdict);
        const fit::PairGap* pair = drawn[i].pair;
        const proximity::Gap gap = !pair ? proximity::Gap{} : pair->moment() ? pair->moment()->gap : pair->gap;
        if (pair && gap.contact == proximity::Contact::Apart) { // the gap itself, as a dimension
            const QPointF a = toScreen(gap.point_a), b = toScreen(gap.point_b);
            painter.setPen(QPen(tone, 2));
            painter.drawLine(a, b);
            const QPointF along = b - a;
            const double length = std::hypot(along.x(), along.y());
            if (length > 3) {
                const QPointF tick = QPointF(-along.y(), along.x()) / length * 5;
                painter.drawLine(a - tick, a + tick);
                painter.drawLine(b - tick, b + tick);
            }
        }
        if (callouts[i].box.isEmpty()) continue;
        painter.setPen(QPen(tone, 1.3));
        painter.drawLine(leaderStart(callouts[i]), callouts[i].anchor);
        painter.setBrush(tone);
        painter.drawEllipse(callouts[i].anchor, 2.5, 2.5);
        painter.setBrush(tones().paper);
        painter.setPen(QPen(tone, drawn[i].finding->id == lookout_.selected() ? 2.6 : 1.3));
        painter.drawRoundedRect(callouts[i].box, 4, 4);
        painter.setPen(drawn[i].finding->verdict == model::Verdict::NoGo ? tones().trouble : tones().ink);
        painter.drawText(callouts[i].box, Qt::AlignCenter, callouts[i].text);
        callout_boxes_.emplace_back(callouts[i].box, drawn[i].finding->id);
    }
}

QString ElevationView::tapeText() const {
    if (tape_mm_.size() < 2) return {};
    const Vector3d d = tape_mm_[1] - tape_mm_[0];
    const auto length = [this](double mm) {
        return QString::fromStdString(quantity::lengthText(std::abs(mm), session_.shown(), 1));
    };
    const double along = d.dot(view_.right), up = d.dot(view_.up);
    const QString upWord = elevation_ == Elevation::Plan ? tr("across") : tr("up");
    const QString alongWord = elevation_ == Elevation::Front ? tr("across") : tr("along");
    return tr("%1   (%2 %3, %4 %5)").arg(length(std::hypot(along, up)), length(along), alongWord, length(up), upWord);
}

void ElevationView::paintTape(QPainter& painter) {
    if (tape_mm_.empty()) return;
    const QPointF a = toScreen(tape_mm_[0]);
    painter.setPen(QPen(tones().in_hand, 2));
    painter.setBrush(tones().paper);
    painter.drawEllipse(a, 4, 4);
    if (tape_mm_.size() < 2) return;
    const QPointF b = toScreen(tape_mm_[1]);
    painter.drawLine(a, b);
    painter.drawEllipse(b, 4, 4);
    QFont bold = font();
    bold.setBold(true);
    painter.setFont(bold);
    const QString text = tapeText();
    QRectF box(QPointF(0, 0), QSizeF(QFontMetricsF(bold, this).horizontalAdvance(text) + 16, 26));
    box.moveCenter((a + b) / 2 - QPointF(0, 24));
    box.moveLeft(std::clamp(box.left(), 4.0, std::max(4.0, width() - box.width() - 4)));
    painter.setPen(QPen(tones().in_hand, 1.3));
    painter.drawRoundedRect(box, 4, 4);
    painter.setPen(tones().ink);
    painter.drawText(box, Qt::AlignCenter, text);
}

std::shared_ptr<const Picture> ElevationView::drawn() const {
    return survey_ ? session_.picture() : session_.shownPicture(); // a survey is made at rest
}

ElevationView::Title ElevationView::title() const {
    Title title;
    title.line = titleOf(elevation_, session_.project().get());
    title.below = hovered_;
    if (title.below.isEmpty() && elevation_ != Elevation::Front)
        title.line = tr("%1, front to the left").arg(title.line);
    if (!survey_ && session_.movedTo() && session_.reports() && session_.reports()->with<fit::FitReport>().clearance) {
        const std::string state =
            fit::stateWords(*session_.project(), *session_.reports()->with<fit::FitReport>().clearance->movement,
                            *session_.movedTo(), session_.shown());
        title.below = tr("moved: %1").arg(QString::fromStdString(state));
    }
    if (lookout_.taping())
        title.below = tape_mm_.size() == 1 ? tr("tape: pick the second point") : tr("tape: pick two points, Esc ends");
    // Beside the button, or in fewer words.
    const QFontMetricsF metrics(font(), this);
    const QStringList shorter{titleOf(elevation_, session_.project().get()), shortTitleOf(elevation_)};
    for (const QString& words : shorter)
        if (metrics.horizontalAdvance(title.line) + 20 > slice_->x()) title.line = words;
    constexpr double least_px = 60, beside_px = 20;
    title.below = metrics.elidedText(title.below, Qt::ElideRight, std::max(least_px, slice_->x() - beside_px));
    const double wide = std::max(metrics.horizontalAdvance(title.line), metrics.horizontalAdvance(title.below));
    title.box = QRectF(4, 3, wide + 12, title.below.isEmpty() ? 24 : 44);
    return title;
}

void ElevationView::paintTitle(QPainter& painter) {
    const Title words = title();
    QColor ground = tones().paper;
    ground.setAlpha(215);
    painter.setPen(Qt::NoPen);
    painter.setBrush(ground);
    painter.drawRect(words.box);
    painter.setPen(tones().second_ink);
    painter.setFont(font());
    painter.drawText(QPointF(10, 20), words.line);
    painter.drawText(QPointF(10, 40), words.below);
}

} // namespace gabarit::app

#include "moc_elevation_view.cpp"
