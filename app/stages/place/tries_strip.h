// Where it has hung, as small drawings with what was left in the way: pointed at, it hangs there again.
#pragma once

#include <Eigen/Geometry>

#include <QPixmap>
#include <QWidget>

#include <functional>
#include <map>

class QHBoxLayout;
class QLabel;
class QPushButton;
class QScrollArea;

namespace gabarit::app {

class Session;
class Tries;

class TriesStrip : public QWidget {
    Q_OBJECT
public:
    /// `portrait`: a drawing of how it hangs now, of a size.
    TriesStrip(Session& session, Tries& tries, std::function<QPixmap(const QSize&)> portrait,
               QWidget* parent = nullptr);
    /// Of a try, by its id; null when it is not in the strip.
    QPushButton* shot(int id) const;
    /// "undo", "pin", "own".
    QPushButton* button(const QString& name) const;

signals:
    /// How it hangs now is to be a placement of its own.
    void ownWanted();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh();
    void refreshUndo();

    Session& session_;
    Tries& tries_;
    std::function<QPixmap(const QSize&)> portrait_;
    std::map<int, QPixmap> drawn_;
    QScrollArea* area_;
    QHBoxLayout* row_;
    QLabel* title_;
    QPushButton* undo_;
};

} // namespace gabarit::app
