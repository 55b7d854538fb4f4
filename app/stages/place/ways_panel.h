// Ways out of a gap that is too small, side by side: moves, other forms, a pocket; each can be tried from there.
#pragma once

#include "discipline/search.h"
#include "study/study.h"

#include <QFrame>
#include <QPointer>
#include <QPushButton>

class QLabel;
class QVBoxLayout;

namespace gabarit::app {

class Job;
class Session;

class WaysPanel : public QFrame {
    Q_OBJECT
public:
    explicit WaysPanel(Session& session, QWidget* parent = nullptr);
    /// Begins to look. The finding is of a body of the unit and one of the vehicle.
    void lookFor(const study::Finding& finding);
    /// Begins to look for a place where everything is good, or for forms with one. `held`: the freedoms that stay as
    /// they are, `first`: what comes before the smallest move, as the search asks for them.
    void lookForAPlace(const std::string& held = {}, const std::string& first = {});
    void lookForAForm(const std::string& held = {}, const std::string& first = {});
    /// Of the finding that it looks for, or looked for, or free_all or free_choices; empty while there is none.
    const std::string& of() const { return of_; }
    bool looking() const;
    /// What it would try first, and the button for it; null: it has nothing that leaves fewer no-go gaps.
    QPushButton* first() const { return first_; }
    QString firstWords() const { return first_words_; }
    /// Whether it found a place where every gap of the unit is good.
    bool found() const { return found_; }
    void close();

    static constexpr const char* free_all = "free-all";
    static constexpr const char* free_choices = "free-choices";

signals:
    /// It is shown, says something else, or is closed.
    void changed();

private:
    void begin(const char* search, const std::string& of, std::vector<std::string> about, const QString& looking);
    void take(Result<discipline::Found> found);
    void clear();
    Session& session_;
    Job* job_;
    QLabel* now_;
    QVBoxLayout* rows_;
    QPointer<QPushButton> first_;
    QString first_words_, looking_;
    std::string of_;
    bool found_ = false;
};

} // namespace gabarit::app
