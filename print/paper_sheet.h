// Pages that are read from top to bottom: words, figures with their verdicts, what to mind. Internal to the room.
#pragma once

#include "discipline/check_words.h"
#include "print/pdf_file.h"
#include "print/shaft_pictures.h"
#include "print/words.h"

#include <QFontMetricsF>
#include <QPainter>
#include <QPdfWriter>

#include <functional>

namespace gabarit::print {

// The pictures are drawn in screen pixels of 1/96 in; on paper these are the units too, at vector sharpness.
constexpr int units_per_inch = 96;
constexpr double width = 210 / 25.4 * units_per_inch, height = 297 / 25.4 * units_per_inch, margin = 45;
inline const PictureTones paper{{0x24, 0x21, 0x1D}, {0x5C, 0x55, 0x4A}, {0xC9, 0xC0, 0xB0}, {0x2F, 0x5D, 0x62},
                                {0x8A, 0x7F, 0x6E}, {0xB8, 0x37, 0x1B}, {0xA5, 0x6A, 0x12}, {0xFF, 0xFF, 0xFF}};

class PaperSheet {
public:
    PaperSheet(QPdfWriter& writer, const study::Reports& reports, const quantity::Shown& shown, std::string date)
        : writer_(writer), painter_(&writer), reports_(reports), shown_(shown), date_(std::move(date)) {}

protected:
    void font(double points, bool bold = false) {
        QFont font(QStringLiteral("Lato"));
        font.setPointSizeF(points);
        font.setBold(bold);
        font.setLetterSpacing(QFont::AbsoluteSpacing, 0.02); // no ligatures: the sheet's words can be searched for
        painter_.setFont(font);
    }
    void begin(const QString& title, model::Verdict verdict) {
        if (!first_) writer_.newPage();
        first_ = false;
        y_ = margin;
        font(15, true);
        say(title + QStringLiteral(": ") + QLatin1String(model::word(verdict)), paper.ink);
        font(9);
        const model::Placement* placement = model::activePlacement(*reports_.project);
        QString under = words(reports_.project->name);
        if (placement) under += QStringLiteral(" · ") + words(placement->name);
        say(under + QStringLiteral(" · ") + words(date_), paper.second_ink);
        y_ += 8;
    }
    /// Wrapped; goes on to another page when this one is full.
    void say(const QString& text, const QColor& tone) {
        const QFontMetricsF metrics(painter_.font(), painter_.device());
        const double tall =
            metrics.boundingRect(QRectF(0, 0, width - 2 * margin, 1e5), Qt::TextWordWrap, text).height();
        room(tall);
        painter_.setPen(tone);
        painter_.drawText(QRectF(margin, y_, width - 2 * margin, tall + 2), Qt::TextWordWrap, text);
        y_ += tall + 3;
    }
    void room(double tall) {
        if (y_ + tall < height - margin) return;
        writer_.newPage();
        y_ = margin;
    }
    void checks(const std::vector<model::Check>& list) {
        font(9);
        const QFontMetricsF metrics(painter_.font(), painter_.device());
        const double row = metrics.height() + 3;
        const double columns[] = {margin, margin + 330, margin + 420, margin + 470};
        const double ends[] = {margin + 325, margin + 412, margin + 468, width - margin};
        for (const model::Check& check : list) {
            room(row);
            QString what = words(check.what);
            if (!check.at.empty() && check.at != "ride height") what += QStringLiteral(", ") + words(check.at);
            const QString cells[] = {what, words(discipline::valueWords(check, shown_)),
                                     QLatin1String(model::word(check.verdict)),
                                     words(discipline::limitWords(check, shown_))};
            for (int i = 0; i < 4; ++i) {
                painter_.setPen(i == 2 && check.verdict != model::Verdict::Go ? paper.trouble : paper.ink);
                painter_.drawText(QRectF(columns[i], y_, ends[i] - columns[i], row),
                                  (i == 1 ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter,
                                  metrics.elidedText(cells[i], Qt::ElideRight, ends[i] - columns[i]));
            }
            y_ += row;
        }
        y_ += 6;
    }
    void caution(const QString& text) {
        y_ += 4;
        font(9, true);
        say(text, paper.ink);
    }

    QPdfWriter& writer_;
    QPainter painter_;
    const study::Reports& reports_;
    quantity::Shown shown_;
    std::string date_;
    double y_ = margin;
    bool first_ = true;
};

/// Draws A4 pages, upright, and writes them as one PDF; the file is whole or untouched. Error: it cannot be written.
Result<void> writePaper(const std::string& path, const std::string& title,
                        const std::function<void(QPdfWriter& writer)>& draw);

} // namespace gabarit::print
