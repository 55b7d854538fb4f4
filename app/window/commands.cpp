#include "window/commands.h"

#include "forms/tones.h"

#include <QAction>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QMainWindow>
#include <QMenu>
#include <QMenuBar>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {

QString plain(QString words) {
    words.remove(QLatin1Char('&'));
    words.remove(QStringLiteral("…"));
    return words;
}

void collect(const QMenu& menu, const QString& group, std::vector<Command>& out) {
    for (QAction* action : menu.actions()) {
        if (action->isSeparator()) continue;
        if (action->menu())
            collect(*action->menu(), plain(action->text()), out);
        else
            out.push_back(
                {action, group, plain(action->text()), action->shortcut().toString(QKeySequence::NativeText)});
    }
}

} // namespace

std::vector<Command> commandsOf(const QMainWindow& window) {
    std::vector<Command> out;
    for (const QAction* top : window.menuBar()->actions())
        if (top->menu()) collect(*top->menu(), plain(top->text()), out);
    for (QAction* action : window.findChildren<QAction*>()) {
        const bool known =
            std::any_of(out.begin(), out.end(), [action](const Command& c) { return c.action == action; });
        if (known || action->menu() || action->isSeparator() || action->shortcut().isEmpty() ||
            action->text().isEmpty() || action->objectName().startsWith(QLatin1String("_q_")) ||
            !action->property("command").toBool())
            continue;
        out.push_back({action, QObject::tr("In the drawing"), plain(action->text()),
                       action->shortcut().toString(QKeySequence::NativeText)});
    }
    return out;
}

QString keysPage(const QMainWindow& window) {
    QString page = QObject::tr("# Keys\n\nMade from what this window can do now.\n");
    QString group;
    for (const Command& command : commandsOf(window)) {
        if (command.keys.isEmpty()) continue;
        if (command.group != group) {
            group = command.group;
            page += QStringLiteral("\n## %1\n\n| key | what it does |\n|---|---|\n").arg(group);
        }
        page += QStringLiteral("| **%1** | %2 |\n").arg(command.keys, command.words);
    }
    return page +
           QObject::tr("\n## With the mouse\n\n| | what it does |\n|---|---|\n| **drag the engine** | move it in whole "
                       "steps |\n"
                       "| **drag the paper** | look elsewhere |\n| **wheel, double click** | nearer, farther |\n");
}

CommandFinder::CommandFinder(QMainWindow& window)
    : QDialog(&window), commands_(commandsOf(window)), line_(new QLineEdit(this)), list_(new QListWidget(this)) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("What do you want to do?"));
    resize(520, 420);
    line_->setPlaceholderText(tr("type a few letters of it, Return does it"));
    line_->setAccessibleName(tr("What do you want to do?"));
    line_->setMinimumHeight(target_px);
    list_->setAccessibleName(tr("What can be done"));
    auto* column = new QVBoxLayout(this);
    column->addWidget(line_);
    column->addWidget(list_, 1);
    line_->installEventFilter(this);
    connect(line_, &QLineEdit::textChanged, this, &CommandFinder::filter);
    connect(line_, &QLineEdit::returnPressed, this, &CommandFinder::run);
    connect(list_, &QListWidget::itemActivated, this, &CommandFinder::run);
    filter();
    line_->setFocus();
}

void CommandFinder::filter() {
    list_->clear();
    // Every word that was typed stands in it somewhere.
    const QStringList wanted = line_->text().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < commands_.size(); ++i) {
        const Command& command = commands_[i];
        if (!command.action->isEnabled()) continue;
        const QString all = command.group + QLatin1Char(' ') + command.words;
        if (!std::all_of(wanted.begin(), wanted.end(),
                         [&](const QString& word) { return all.contains(word, Qt::CaseInsensitive); }))
            continue;
        QString text = command.words + QStringLiteral("  ·  ") + command.group;
        if (!command.keys.isEmpty()) text += QStringLiteral("  ·  ") + command.keys;
        auto* item = new QListWidgetItem(text, list_);
        item->setData(Qt::UserRole, static_cast<qulonglong>(i));
    }
    list_->setCurrentRow(0);
}

void CommandFinder::run() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item) return;
    QAction* action = commands_[item->data(Qt::UserRole).toULongLong()].action;
    close();
    // Once this window has gone, so that what it does finds the main window in front.
    QTimer::singleShot(0, action, [action] { action->trigger(); });
}

bool CommandFinder::eventFilter(QObject* watched, QEvent* event) {
    if (watched == line_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up) {
            const int row = list_->currentRow() + (key == Qt::Key_Down ? 1 : -1);
            list_->setCurrentRow(std::clamp(row, 0, std::max(0, list_->count() - 1)));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace gabarit::app

#include "moc_commands.cpp"
