// The sum behind a figure, drawn: each line a bar to scale, its value, and where it comes from.
#pragma once

#include "discipline/why.h"

#include <QWidget>

namespace gabarit::app {

class WhyPicture : public QWidget {
    Q_OBJECT
public:
    explicit WhyPicture(QWidget* parent = nullptr);
    void show(const discipline::Why& why);
    const discipline::Why& why() const { return why_; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return {260, heightForWidth(width())}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    struct Columns;
    Columns columns(int width) const;
    discipline::Why why_;
};

} // namespace gabarit::app
