// Drawings of our own that show where the tape hooks and what is read.
#pragma once

#include "model/first_survey.h"

#include <QPointF>
#include <QStringList>
#include <QWidget>

#include <optional>

namespace gabarit::app {

/// An entry's tape, in the drawing's own units: from the hook to what is read.
struct SurveyArrow {
    QString entry;
    QPointF from, to;
    QString words;
    bool active = false;
};

/// A vehicle or an engine in outline, in proportion to what was read so far, and an arrow for each entry. The entry
/// that is being answered stands out.
class SurveyDrawing : public QWidget {
    Q_OBJECT
public:
    explicit SurveyDrawing(QWidget* parent = nullptr);
    /// `question`, by its id: what is only drawn where it is asked for is then drawn.
    void show(const QString& drawing, const model::SurveyProportion& proportion, std::vector<SurveyArrow> arrows,
              const QString& question, const QString& title, const QString& hook);
    /// By the entry's id; of one that has no arrow here none stands out.
    void setActive(const QString& entry);
    /// Shows the neighbourhood of the arrow in hand, not of all of them.
    void setNear(bool near) { near_ = near; }
    const QString& drawing() const { return drawing_; }
    const std::vector<SurveyArrow>& arrows() const { return arrows_; }
    /// The names of the drawings that questions may ask for.
    static QStringList known();

protected:
    void paintEvent(QPaintEvent* event) override;
    QSize sizeHint() const override { return {560, 360}; }

private:
    QString drawing_, question_;
    std::optional<model::SurveyProportion> proportion_;
    std::vector<SurveyArrow> arrows_;
    bool near_ = false;
};

} // namespace gabarit::app
