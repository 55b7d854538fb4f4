#include "window/next_bar.h"

#include "forms/tones.h"
#include "forms/wrapped_label.h"
#include "window/gauge_strip.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>

#include <algorithm>

namespace gabarit::app {

NextBar::NextBar(QWidget* parent) : QFrame(parent), words_(new WrappedLabel(this)), button_(new QPushButton(this)) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 2, 8, 2);
    row->setSpacing(10);
    auto* next = new QLabel(tr("Next"), this);
    QFont bold = font();
    bold.setBold(true);
    next->setFont(bold);
    row->addWidget(next, 0, Qt::AlignVCenter);
    words_->setAccessibleName(tr("What to do next"));
    row->addWidget(words_, 1, Qt::AlignVCenter);
    button_->setObjectName(QStringLiteral("next"));
    row->addWidget(button_, 0, Qt::AlignVCenter);
    constexpr int lines = 2, round_them_px = 4;
    setFixedHeight(std::max(target_px + round_them_px, lines * fontMetrics().lineSpacing() + round_them_px));
    connect(button_, &QPushButton::clicked, this, &NextBar::go);
}

void NextBar::show(const NextStep& step) {
    said_ = step.words;
    button_->setText(tr("%1  F5").arg(step.deed));
    button_->setAccessibleName(QStringLiteral("%1: %2").arg(step.deed, step.words));
    button_->setVisible(static_cast<bool>(step.act));
    act_ = step.act;
    fit();
}

/// All of it in two lines, or its first sentence; the tip has the rest.
void NextBar::fit() {
    layout()->activate();
    const QString words = withoutRest(said_);
    const bool whole =
        words_->fontMetrics().boundingRect(QRect(0, 0, words_->width(), 10000), Qt::TextWordWrap, words).height() <=
        height();
    const QString first = words.section(QStringLiteral(". "), 0, 0) + QLatin1Char('.');
    words_->setText(
        whole ? words : words_->fontMetrics().elidedText(first, Qt::ElideRight, std::max(0, 2 * words_->width() - 80)));
    words_->setToolTip(words_->text() == said_ ? QString() : said_);
}

void NextBar::resizeEvent(QResizeEvent* event) {
    QFrame::resizeEvent(event);
    fit();
}

void NextBar::go() {
    const auto act = act_; // what it does may bring another step
    if (act && isVisible()) act();
}

void NextBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), tones().panel);
    painter.fillRect(0, 0, 5, height(), tones().in_hand);
    painter.fillRect(0, height() - 1, width(), 1, tones().rule);
}

} // namespace gabarit::app

#include "moc_next_bar.cpp"
