// A project as something to open: a small drawing, its name, how it stands.
#pragma once

#include <QPixmap>
#include <QPushButton>

namespace gabarit::app {

class ProjectCard : public QPushButton {
    Q_OBJECT
public:
    /// `below`: in a line or two, how it stands or what it shows. Without a picture the place for one is left out.
    ProjectCard(const QString& name, const QString& below, const QPixmap& picture, QWidget* parent);
    const QString& below() const { return below_; }
    bool hasPicture() const { return !picture_.isNull(); }
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    int wordsHeight() const;
    QString below_;
    QPixmap picture_;
};

/// The size of its drawing.
constexpr QSize card_picture(320, 160);

} // namespace gabarit::app
