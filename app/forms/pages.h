// Pages of which one is seen.
#pragma once

#include <QStackedWidget>

namespace gabarit::app {

/// What a page holds scrolls or fits itself into the room there is. So the pages are not asked how high they would be
/// at the width there is: that went through every label of every page, seen or not, at each new figure.
class Pages : public QStackedWidget {
public:
    using QStackedWidget::QStackedWidget;
    bool hasHeightForWidth() const override { return false; }
};

} // namespace gabarit::app
