#include "window/project_card.h"

#include "forms/tones.h"

#include <QPainter>

namespace gabarit::app {
namespace {

constexpr int card_edge_px = 10;
constexpr int name_gap_px = 4;

} // namespace

ProjectCard::ProjectCard(const QString& name, const QString& below, const QPixmap& picture, QWidget* parent)
    : QPushButton(name, parent), below_(below), picture_(picture) {
    setAccessibleName(QStringLiteral("%1: %2").arg(name, below));
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

int ProjectCard::wordsHeight() const {
    return fontMetrics()
        .boundingRect(QRect(0, 0, card_picture.width() + 2 - 2 * card_edge_px, 1000), Qt::TextWordWrap, below_)
        .height();
}

QSize ProjectCard::sizeHint() const {
    const int picture = picture_.isNull() ? 0 : card_picture.height();
    return {card_picture.width() + 2,
            picture + 2 * card_edge_px + fontMetrics().height() + name_gap_px + wordsHeight()};
}

void ProjectCard::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.fillRect(rect(), tones().paper);
    int y = 1;
    if (!picture_.isNull()) {
        painter.drawPixmap(QRect(QPoint(1, 1), card_picture), picture_);
        y += card_picture.height();
        painter.fillRect(1, y, width() - 2, 1, tones().rule);
    }
    const QRect words(card_edge_px, y + card_edge_px, width() - 2 * card_edge_px, height() - y - card_edge_px);
    QFont bold = font();
    bold.setBold(true);
    painter.setFont(bold);
    painter.setPen(isEnabled() ? tones().ink : tones().second_ink);
    painter.drawText(words, Qt::AlignLeft | Qt::AlignTop,
                     QFontMetrics(bold).elidedText(text(), Qt::ElideMiddle, words.width()));
    painter.setFont(font());
    painter.setPen(tones().second_ink);
    painter.drawText(words.adjusted(0, fontMetrics().height() + name_gap_px, 0, 0),
                     Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, below_);
    painter.setPen(QPen(underMouse() ? tones().ink : tones().rule, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(rect().adjusted(0, 0, -1, -1));
    paintFocus(painter, *this);
}

} // namespace gabarit::app

#include "moc_project_card.cpp"
