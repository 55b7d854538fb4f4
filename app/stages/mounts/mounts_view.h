// The elevations with the mounts on them: what each carries, how the unit moves and shakes.
#pragma once

#include "print/mount_pictures.h"

#include <QWidget>

#include <array>

class QTimer;

namespace gabarit::app {

class MountsView : public QWidget {
    Q_OBJECT
public:
    explicit MountsView(QWidget* parent = nullptr);

    /// `what`: "case:ID", "mode:1"… or empty; `chosen`: "mount:ID", "row:ID", "seat:ID"…
    void show(std::shared_ptr<const study::Reports> reports, const QString& what, const QString& chosen,
              quantity::Shown shown);
    /// Swings the unit in the shown mode, slowed down.
    void play(bool on);
    bool playing() const;
    /// What is drawn larger than it is, in words; empty when nothing is.
    QString note() const { return note_; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    std::shared_ptr<const study::Reports> reports_;
    std::array<std::vector<print::MountOutline>, 3> outlines_;
    QString what_, chosen_, note_;
    quantity::Shown shown_;
    QTimer* swing_;
    double phase_ = 0.25; ///< of the mode's swing: at its end while it stands
};

} // namespace gabarit::app
