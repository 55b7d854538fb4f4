// The first survey beside the car: one reading a page, in large figures, with large keys.
#pragma once

#include "model/first_survey.h"
#include "quantity/quantity.h"

#include <QWidget>

class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace gabarit::app {

class BigKey;
class Session;
class StepDots;
class SurveyDrawing;

class TapeMode : public QWidget {
    Q_OBJECT
public:
    explicit TapeMode(Session& session, QWidget* parent = nullptr);

    /// Goes on where it was left: the first reading that a verdict needs and that is not taken.
    void begin();
    /// Asks for an entry by its id; one that there is not changes nothing.
    void ask(const std::string& entry);
    /// Of the entry that is asked.
    const model::SurveyEntryRule& asked() const { return *order_[at_]; }
    QLineEdit* line() const { return line_; }
    SurveyDrawing* drawing() const { return drawing_; }
    /// "leave", "verdict", "back", "skip", "take", "unit", "tape", "rub", and "key_" with what it types.
    QPushButton* key(const QString& name) const;
    /// What stands under the figure: what is usual, or why it was not taken.
    QString saidUnder() const;
    QString title() const;

signals:
    void left();
    void verdictWanted();

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Typed {
        std::optional<double> value; ///< mm or kg; nothing: not read
        QString trouble;             ///< why not
        QString asks;                ///< read, and to be said once more before it is taken
    };
    BigKey* make(const QString& name, const QString& words, const QString& below = {});
    quantity::Dimension dimension() const;
    /// How this tape is read: bare figures are in its unit.
    quantity::Shown shown() const;
    QString text(double value) const;
    QString usualWords() const;
    QString askedWords(const model::SurveyEntryRule& entry) const;
    Typed typed() const;
    void type(const QString& words);
    void take();
    void go(std::size_t to);
    void goOn();
    void turnUnit();
    void turnTape();
    void layKeys();
    void sizeKeys();
    void refresh();
    void refreshTyped();
    void refreshSettles();

    Session& session_;
    const model::FirstSurvey& survey_;
    std::vector<const model::SurveyEntryRule*> order_;
    std::size_t at_ = 0;
    bool inches_ = false;
    double accuracy_mm_;
    QString sure_of_; ///< what was typed when it was asked whether it is so
    QString refused_; ///< why the last figure was not taken; goes with the next key
    QLabel* title_;
    QLabel* which_;
    QLabel* more_;
    StepDots* dots_;
    SurveyDrawing* drawing_;
    QLabel* from_;
    QLabel* how_;
    QLabel* hook_;
    QLabel* caution_;
    QLabel* settles_;
    QLabel* ask_;
    QLineEdit* line_;
    QLabel* reads_;
    QLabel* tape_;
    QLabel* under_;
    QGridLayout* keys_;
    std::vector<BigKey*> all_;
};

} // namespace gabarit::app
