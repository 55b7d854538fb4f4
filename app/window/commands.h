// Everything that can be done, by its words: found by typing, and listed with its keys.
#pragma once

#include <QDialog>

class QAction;
class QLabel;
class QLineEdit;
class QListWidget;
class QMainWindow;

namespace gabarit::app {

/// What a window's actions are called: where they stand ("Edit"), their words, their key.
struct Command {
    QAction* action = nullptr;
    QString group;
    QString words;
    QString keys;
};

/// All actions of a window that have words: those of its menus by menu, then those of its drawings.
std::vector<Command> commandsOf(const QMainWindow& window);

/// A paragraph of the help, without its marks, and the heading it stands under.
struct HelpPlace {
    QString heading;
    QString words;
};
std::vector<HelpPlace> helpPlaces(const QString& markdown);

/// What a typed word may stand for besides itself (window/synonyms.txt).
QStringList synonymsOf(const QString& word);
/// How alike two words are, 0 to 1: what is left of the longer one after the letters that were changed, left out, put
/// in or swapped (Damerau–Levenshtein).
double likeness(const QString& a, const QString& b);

/// "What do you want to do?": type a few letters of it, or what it is called elsewhere; Return does it. It finds what
/// the help says, too; of what is not there it says so, and offers the nearest.
class CommandFinder : public QDialog {
    Q_OBJECT
public:
    CommandFinder(QMainWindow& window, std::vector<HelpPlace> help);
    QLineEdit* line() const { return line_; }
    QListWidget* list() const { return list_; }
    /// What stands above the list; empty while something was found.
    QString said() const;

signals:
    /// The help is wanted where it says this.
    void helpWanted(const QString& words);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void filter();
    void run();
    void list(std::size_t command);
    std::vector<Command> commands_;
    std::vector<HelpPlace> help_;
    QLabel* said_;
    QLineEdit* line_;
    QListWidget* list_;
};

/// All commands that have a key, as a page of text.
QString keysPage(const QMainWindow& window);

} // namespace gabarit::app
