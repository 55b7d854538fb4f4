// Drawings of our own that show where the tape hooks and what is read.
#pragma once

#include "model/first_survey.h"

#include <QStringList>
#include <QWidget>

namespace gabarit::app {

/// One question's drawing: a vehicle or an engine in outline, and an arrow for each entry, from the hook to what is
/// read. The entry that is being answered stands out.
class SurveyDrawing : public QWidget {
    Q_OBJECT
public:
    explicit SurveyDrawing(QWidget* parent = nullptr);
    /// `words`: what stands at each entry's arrow. The question is kept by reference.
    void showQuestion(const model::SurveyQuestion& question, const QStringList& words);
    void setActive(int entry);
    int active() const { return active_; }
    /// The names of the drawings that questions may ask for.
    static QStringList known();

protected:
    void paintEvent(QPaintEvent* event) override;
    QSize sizeHint() const override { return {560, 360}; }

private:
    const model::SurveyQuestion* question_ = nullptr;
    QStringList words_;
    int active_ = 0;
};

} // namespace gabarit::app
