// Keeps the words of a picture off one another. Internal to the room.
#pragma once

#include <QRectF>

#include <algorithm>
#include <vector>

namespace gabarit::print {

class ClearWords {
public:
    explicit ClearWords(const QRectF& room) : room_(room) {}
    /// Nothing else is put there.
    void take(const QRectF& place) { taken_.push_back(place); }
    /// The first of these places that is free, each brought into the room first; else the one least covered.
    QRectF place(std::vector<QRectF> wanted) {
        QRectF best;
        double least = -1;
        for (QRectF& at : wanted) {
            at.moveLeft(std::max(room_.left(), std::min(at.left(), room_.right() - at.width())));
            at.moveTop(std::max(room_.top(), std::min(at.top(), room_.bottom() - at.height())));
            double covered = 0;
            for (const QRectF& other : taken_) {
                const QRectF both = other & at;
                covered += both.width() * both.height();
            }
            if (least >= 0 && covered >= least) continue;
            best = at;
            least = covered;
            if (covered == 0) break;
        }
        taken_.push_back(best);
        return best;
    }

private:
    QRectF room_;
    std::vector<QRectF> taken_;
};

} // namespace gabarit::print
