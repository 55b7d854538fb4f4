// The columns of a page: what is listed, what is seen, what is typed.
#pragma once

#include <QGridLayout>

namespace gabarit::app {

/// Beside each other; in a small window the last stands below the others, across the page, which then scrolls down but
/// not aside.
class PageColumns : public QGridLayout {
public:
    /// `left` may be null. The middle one takes the room there is.
    PageColumns(QWidget* page, QWidget* left, QWidget* middle, QWidget* right, int right_px);
    void setNarrow(bool narrow);

private:
    void place(bool narrow);
    QWidget* right_;
    int right_px_;
    int columns_;
};

} // namespace gabarit::app
