// The first survey, question by question: what the tape says goes in, bodies come out.
#pragma once

#include "model/first_survey.h"

#include <QWidget>

class QLabel;
class QListWidget;
class QPushButton;

namespace gabarit::app {

class EntryForm;
class PageColumns;
class Session;
class SurveyDrawing;

class GuidedPage : public QWidget {
    Q_OBJECT
public:
    /// Of the settings: who reads the tape.
    static constexpr const char* who_key = "who";
    explicit GuidedPage(Session& session, QWidget* parent = nullptr);
    QListWidget* questions() const { return questions_; }
    EntryForm* form() const { return form_; }
    SurveyDrawing* drawing() const { return drawing_; }
    /// "back", "skip", "verdict", "all".
    QPushButton* button(const QString& name) const;
    /// Goes to a question and puts the cursor into its first field.
    void ask(int question);
    int asked() const;
    void setNarrow(bool narrow);

signals:
    void verdictWanted();
    void allWanted(); ///< the whole survey instead
    void tapeModeWanted();

protected:
    void showEvent(QShowEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh();
    void refreshQuestion();
    bool answer(const model::SurveyEntryRule& entry, std::optional<double> value);
    /// From one field to the next, and from the last one to the next question.
    void advance(const QString& field);
    void next();

    Session& session_;
    const model::FirstSurvey& survey_;
    PageColumns* columns_;
    QListWidget* questions_;
    SurveyDrawing* drawing_;
    EntryForm* form_;
    QLabel* title_;
    QLabel* hook_;
    QLabel* caution_;
    QLabel* progress_;
    double accuracy_mm_;
    QString who_;
};

} // namespace gabarit::app
