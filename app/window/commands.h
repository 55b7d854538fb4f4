// Everything that can be done, by its words: found by typing, and listed with its keys.
#pragma once

#include <QDialog>

class QAction;
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

/// "What do you want to do?": type a few letters of it, Return does it.
class CommandFinder : public QDialog {
    Q_OBJECT
public:
    explicit CommandFinder(QMainWindow& window);
    QLineEdit* line() const { return line_; }
    QListWidget* list() const { return list_; }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void filter();
    void run();
    std::vector<Command> commands_;
    QLineEdit* line_;
    QListWidget* list_;
};

/// All commands that have a key, as a page of text.
QString keysPage(const QMainWindow& window);

} // namespace gabarit::app
