#include "print/jig_sheet.h"

#include "mounts/jig.h"
#include "mounts/mounts.h"
#include "print/mount_pictures.h"
#include "print/paper_sheet.h"

#include <algorithm>
#include <cmath>

namespace gabarit::print {
namespace {

using Eigen::Vector3d;
using mounts::JigLine;
using mounts::JigSide;

constexpr double picture_high = 300, drawing_air_mm = 130;

class JigSheets : private PaperSheet {
public:
    JigSheets(QPdfWriter& writer, const study::Reports& reports, const JigSheetOptions& options, mounts::JigSheet sheet)
        : PaperSheet(writer, reports, options.shown, options.date), sheet_(std::move(sheet)) {}

    void all(const model::RuleBook& book) {
        for (const JigSide side : {JigSide::Left, JigSide::Middle, JigSide::Right}) page(side);
        y_ += 6;
        font(9);
        for (const std::string& what : sheet_.left_out)
            say(QObject::tr("Left out: %1.").arg(words(what)), paper.trouble);
        say(sides(QObject::tr("x rearward from the front axle's centreline, y {to_right} from its centreline, z "
                              "up from %1. Level: above level; swing: in plan, from rearward {to_right}."))
                .arg(words(reports_.project->vehicle && !reports_.project->vehicle->datum.name.empty()
                               ? reports_.project->vehicle->datum.name
                               : std::string("the datum"))),
            paper.second_ink);
        for (const std::string& pair : handed()) say(words(pair), paper.ink);
        caution(words(model::cautionAbout(book, "mounts/weld")));
        caution(words(model::cautionAbout(book, "mounts/hang")));
    }

private:
    QString sides(const QString& marked) const { return words(model::sided(*reports_.project, marked.toStdString())); }
    QString length(double mm) const { return words(quantity::lengthText(mm, shown_)); }

    void page(JigSide side) {
        std::vector<std::pair<int, const JigLine*>> lines;
        int number = 0;
        for (const JigLine& line : sheet_.lines) {
            ++number;
            if (line.side == side) lines.emplace_back(number, &line);
        }
        if (lines.empty()) return;
        const QString where = side == JigSide::Left    ? QObject::tr("{left} side")
                              : side == JigSide::Right ? QObject::tr("{right} side")
                                                       : QObject::tr("middle");
        begin(sides(QObject::tr("Jig sheet, %1").arg(where)), reports_.of<mounts::MountsReport>()->verdict);
        drawing(side, lines);
        font(8);
        const QFontMetricsF metrics(painter_.font(), painter_.device());
        for (const auto& [at, line] : lines) {
            std::string mount;
            for (const mounts::MountReport& m : reports_.of<mounts::MountsReport>()->mounts)
                if (m.id == line->mount) mount = m.name + ", ";
            QString text = QStringLiteral("%1  %2%3: x %4, y %5, z %6")
                               .arg(at)
                               .arg(words(mount), words(line->what), length(line->at_mm.x()), length(line->at_mm.y()),
                                    length(line->at_mm.z()));
            if (line->level_deg) {
                text += QObject::tr("; level %1").arg(words(quantity::angleText(*line->level_deg, 1)));
                if (line->swing_deg)
                    text += QObject::tr(", swing %1").arg(words(quantity::angleText(*line->swing_deg, 1)));
            }
            if (line->length_mm) text += QObject::tr("; cut %1").arg(length(*line->length_mm));
            if (!line->note.empty()) text += QStringLiteral("; ") + words(line->note);
            QStringList hooks;
            for (const mounts::JigHook& hook : line->hooks)
                hooks << QStringLiteral("%1 %2").arg(words(hook.name), length(hook.straight_mm));
            if (!hooks.isEmpty()) text += QObject::tr(". Tape: ") + hooks.join(QStringLiteral(", "));
            say(text + QLatin1Char('.'), paper.ink);
        }
    }

    /// Side and front view of a side's mounts, side view and plan of the middle, each point with its number.
    void drawing(JigSide side, const std::vector<std::pair<int, const JigLine*>>& lines) {
        const double half = (width - 2 * margin - 8) / 2;
        const QRectF left(margin, y_, half, picture_high);
        one(shape::Elevation::Side, left, lines);
        one(side == JigSide::Middle ? shape::Elevation::Plan : shape::Elevation::Front, left.translated(half + 8, 0),
            lines);
        y_ += picture_high + 8;
    }
    void one(shape::Elevation elevation, const QRectF& box, const std::vector<std::pair<int, const JigLine*>>& lines) {
        const shape::Viewpoint view = shape::viewpoint(elevation);
        Eigen::AlignedBox3d around, all;
        for (const auto& [number, line] : lines) {
            all.extend(line->at_mm);
            for (const mounts::MountReport& m : reports_.of<mounts::MountsReport>()->mounts)
                if (m.id == line->mount) around.extend(line->at_mm);
        }
        if (around.isEmpty()) around = all; // else a hole far away does not make the rest small
        const std::vector<MountOutline> outlines = mountOutlines(reports_, elevation);
        MountDrawing drawing;
        drawing.report = &*reports_.of<mounts::MountsReport>();
        drawing.elevation = elevation;
        drawing.outlines = &outlines;
        drawing.centre_mm = around.center();
        const Vector3d size = around.sizes() + Vector3d::Constant(2 * drawing_air_mm);
        const auto across = [&size](const Vector3d& axis) { return size.dot(axis.cwiseAbs()); };
        drawing.px_per_mm = std::min(box.width() / across(view.right), box.height() / across(view.up));
        drawing.names = false;
        font(8);
        paintMounts(painter_, box, drawing, paper, shown_);
        painter_.setPen(QPen(paper.rule, 1));
        painter_.setBrush(Qt::NoBrush);
        painter_.drawRect(box);
        std::vector<QRectF> taken;
        font(8, true);
        for (const auto& [number, line] : lines) {
            const Vector3d off = line->at_mm - drawing.centre_mm;
            const QPointF at = box.center() + QPointF(off.dot(view.right), -off.dot(view.up)) * drawing.px_per_mm;
            if (!box.contains(at)) continue;
            painter_.setPen(QPen(paper.trouble, 1.4));
            painter_.drawLine(at - QPointF(4, 0), at + QPointF(4, 0));
            painter_.drawLine(at - QPointF(0, 4), at + QPointF(0, 4));
            QRectF place(at + QPointF(5, -14), QSizeF(20, 13));
            for (int tries = 0; tries < 40; ++tries) {
                const auto hit =
                    std::find_if(taken.begin(), taken.end(), [&](const QRectF& r) { return r.intersects(place); });
                if (hit == taken.end()) break;
                place.moveTop(hit->bottom() + 0.5);
            }
            taken.push_back(place);
            painter_.setPen(QPen(paper.rule, 0.7));
            painter_.drawLine(at, QPointF(place.left(), place.center().y()));
            painter_.setPen(paper.ink);
            painter_.drawText(place, Qt::AlignLeft | Qt::AlignVCenter, QString::number(number));
        }
    }

    std::vector<std::string> handed() const {
        std::vector<std::string> out;
        const auto name = [&](const std::string& id) {
            for (const mounts::MountReport& m : reports_.of<mounts::MountsReport>()->mounts)
                if (m.id == id) return m.name;
            return id;
        };
        for (const mounts::HandedPair& pair : reports_.of<mounts::MountsReport>()->handed)
            out.push_back(pair.same_part
                              ? name(pair.left) + " and " + name(pair.right) + ": one part serves both sides."
                              : name(pair.left) + " and " + name(pair.right) + " are handed: " + pair.why + ".");
        return out;
    }

    mounts::JigSheet sheet_;
};

} // namespace

Result<void> writeJigSheet(const study::Reports& reports, const model::RuleBook& book, const JigSheetOptions& options,
                           const std::string& path) {
    if (!reports.of<mounts::MountsReport>() || !reports.of<mounts::MountsReport>()->usable)
        return Error{reports.of<mounts::MountsReport>() ? reports.of<mounts::MountsReport>()->reason
                                                        : "there are no mounts",
                     reports.project->name, "give them under Mounts first"};
    const model::RuleBook own = model::applied(book, reports.project->rules);
    return writePaper(path, reports.project->name + ": jig sheet", [&](QPdfWriter& writer) {
        JigSheets(writer, reports, options, mounts::jigSheet(*reports.project, *reports.of<mounts::MountsReport>()))
            .all(own);
    });
}

} // namespace gabarit::print
