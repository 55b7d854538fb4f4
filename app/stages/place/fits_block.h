// "Where does it fit?": the nearest place, every form tried, and a map; with what may move.
#pragma once

#include "fit/fit_map.h"
#include "study/study.h"

#include <QScrollArea>

#include <array>
#include <functional>
#include <mutex>

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace gabarit::app {

class FitMapView;
class Job;
class Session;
class WaysPanel;

class FitsBlock : public QScrollArea {
    Q_OBJECT
public:
    explicit FitsBlock(Session& session, QWidget* parent = nullptr);
    /// Where there is no place for it as it is, every form is tried, if the file offers any.
    void lookForAPlace();
    void lookForAForm();
    void drawMap();
    WaysPanel* places() const { return places_; }
    FitMapView* map() const { return map_; }
    bool drawing() const;
    /// Whether anything is still looked for, or will be once the figures are there.
    bool looking() const;
    /// Whether a freedom may change.
    QCheckBox* mayMove(fit::Freedom freedom) const { return may_[static_cast<std::size_t>(freedom)]; }
    /// "place", "forms", "map".
    QPushButton* button(const QString& name) const;
    /// "first", "across", "up", "others".
    QComboBox* chooser(const QString& name) const;

private:
    std::string held() const;
    std::string first() const;
    /// Now, or as soon as the figures are there.
    void whenReckoned(std::function<void()> what);
    void bringIntoSight(QWidget* widget);
    /// The map is of a project that differs by no more than where the unit hangs; else it goes.
    void refresh();
    bool hasForms() const;
    void beginMap();
    void showMap();
    void hangThere(int column, int row);
    struct SoFar { ///< of the map that is being drawn
        std::mutex mutex;
        fit::FitMap map;
    };
    Session& session_;
    WaysPanel* places_;
    std::array<QCheckBox*, fit::freedoms> may_{};
    QComboBox *first_, *across_, *up_, *others_;
    FitMapView* map_;
    QLabel* says_;   ///< of the point that is pointed at
    QLabel* legend_; ///< what binds, by number
    Job* job_;
    std::shared_ptr<SoFar> so_far_;
    bool forms_after_ = false;                 ///< every form is tried where no place is found
    bool forms_next_ = false;                  ///< in a moment
    std::function<void()> then_;               ///< waits for the figures
    std::shared_ptr<const study::Reports> of_; ///< the run that the map is of
    std::uint64_t mark_ = 0;                   ///< of its project, but for where the unit hangs
};

} // namespace gabarit::app
