// "What is in the way": the findings, what would help, and the way to the place.
#pragma once

#include "study/study.h"

#include <QFrame>
#include <QScrollArea>

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace gabarit::app {

class Lookout;
class Session;
class Tries;
class WaysPanel;

/// One finding: mark, title, figures, what would help, and buttons.
class FindingCard : public QFrame {
    Q_OBJECT
public:
    explicit FindingCard(QWidget* parent = nullptr);
    /// `stood`: what is to be said of a way out that leads back to where the unit hung; may be empty.
    void show(const study::Finding& finding, bool selected, const QString& stood = {});
    const study::Finding& finding() const { return finding_; }
    /// Whether it knows a move of the engine that helps.
    bool canTry() const;
    /// Whether other ways than a move can be looked for: a no-go gap of the unit to the vehicle.
    static bool hasWays(const study::Finding& finding);

signals:
    void leadTo(const gabarit::study::Finding& finding);
    void tryIt(const gabarit::study::Finding& finding);
    void whyWanted(const QString& finding);
    void waysWanted(const gabarit::study::Finding& finding);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    study::Finding finding_;
    bool selected_ = false;
    QLabel* title_;
    QLabel* detail_;
    QLabel* help_;
    QLabel* caution_;
    QPushButton* show_;
    QPushButton* try_;
    QPushButton* why_;
    QPushButton* ways_;
};

class FindingsList : public QScrollArea {
    Q_OBJECT
public:
    FindingsList(Session& session, Lookout& lookout, const Tries& tries, QWidget* parent = nullptr);
    WaysPanel* ways() const { return ways_; }
    /// The cards shown, in order.
    std::vector<const FindingCard*> cards() const;
    /// Leads to the next (+1) or the one before (−1) of what is pointed at; the first when nothing is.
    void step(int by);
    /// Does what the card that is pointed at offers; false when it offers nothing.
    bool tryPointedAt();
    /// Points at this finding and looks for other ways out of it.
    void lookForWays(const std::string& finding);

signals:
    void leadTo(const gabarit::study::Finding& finding);
    void whyWanted(const QString& finding);
    /// Where does it fit?
    void placeWanted();

private:
    void refresh();
    /// The card of the finding that is pointed at; null when there is none.
    FindingCard* pointedAt() const;
    void bringIntoSight();
    /// Has the cards say what they are to show, if they do not yet.
    void sayThem();
    void tryIt(const study::Finding& finding);
    void placeWays();
    QString stoodWords(const study::Finding& finding) const;
    Session& session_;
    Lookout& lookout_;
    const Tries& tries_;
    QVBoxLayout* column_;
    QLabel* empty_;
    QLabel* more_;
    WaysPanel* ways_;
    QPushButton* free_;
    std::vector<FindingCard*> cards_;
    std::vector<study::Finding> findings_; ///< that the cards are to show
    bool said_ = true;                     ///< and do
};

} // namespace gabarit::app
