#include "kit/page_columns.h"

#include <QWidget>

namespace gabarit::app {

PageColumns::PageColumns(QWidget* page, QWidget* left, QWidget* middle, QWidget* right, int right_px)
    : QGridLayout(page), right_(right), right_px_(right_px), columns_(left ? 2 : 1) {
    setContentsMargins(0, 0, 0, 0);
    setSpacing(0);
    if (left) addWidget(left, 0, 0);
    addWidget(middle, 0, columns_ - 1);
    setColumnStretch(columns_ - 1, 1);
    place(false);
}

void PageColumns::setNarrow(bool narrow) {
    removeWidget(right_);
    place(narrow);
}

void PageColumns::place(bool narrow) {
    constexpr int below_px = 320; // a form of half a dozen lines, and its title
    if (!narrow) {
        right_->setMinimumHeight(0);
        right_->setFixedWidth(right_px_);
        addWidget(right_, 0, columns_);
        return;
    }
    right_->setMinimumSize(0, below_px);
    right_->setMaximumWidth(QWIDGETSIZE_MAX);
    addWidget(right_, 1, 0, 1, columns_);
}

} // namespace gabarit::app
