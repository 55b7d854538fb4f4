#include "window/commands.h"

#include "forms/tones.h"

#include <QAction>
#include <QFile>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMainWindow>
#include <QMenu>
#include <QMenuBar>
#include <QRegularExpression>
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

std::vector<HelpPlace> helpPlaces(const QString& markdown) {
    std::vector<HelpPlace> out;
    QString heading;
    for (QString line : markdown.split(QLatin1Char('\n'), Qt::SkipEmptyParts)) {
        if (line.startsWith(QLatin1Char('#'))) {
            heading = line.remove(QLatin1Char('#')).trimmed();
            continue;
        }
        if (line.startsWith(QStringLiteral("|--")) || line.startsWith(QStringLiteral("| |"))) continue;
        static const QRegularExpression marks(QStringLiteral("[*`|]|\\[([^\\]]*)\\]\\([^)]*\\)"));
        line.replace(marks, QStringLiteral("\\1"));
        if (line.startsWith(QStringLiteral("- "))) line.remove(0, 2);
        out.push_back({heading, line.simplified()});
    }
    return out;
}

QStringList synonymsOf(const QString& word) {
    static const std::vector<std::pair<QStringList, QStringList>> lines = [] {
        std::vector<std::pair<QStringList, QStringList>> out;
        QFile file(QStringLiteral(":/words/synonyms.txt"));
        if (!file.open(QIODevice::ReadOnly)) return out;
        const auto words = [](const QString& text) {
            QStringList each;
            for (const QString& one : text.split(QLatin1Char(','), Qt::SkipEmptyParts)) each << one.trimmed();
            return each;
        };
        for (const QString& line : QString::fromUtf8(file.readAll()).split(QLatin1Char('\n'), Qt::SkipEmptyParts))
            if (!line.startsWith(QLatin1Char('#')))
                out.emplace_back(words(line.section(QLatin1Char(':'), 0, 0)), words(line.section(QLatin1Char(':'), 1)));
        return out;
    }();
    QStringList out;
    constexpr int telling = 3; // letters, from which on it is guessed what is being typed
    for (const auto& [typed, called] : lines)
        for (const QString& one : typed)
            if (one.compare(word, Qt::CaseInsensitive) == 0 ||
                (word.size() >= telling && one.startsWith(word, Qt::CaseInsensitive)))
                out << called;
    return out;
}

double likeness(const QString& a, const QString& b) {
    const qsizetype n = a.size(), m = b.size();
    if (n == 0 || m == 0) return 0;
    std::vector<std::vector<qsizetype>> d(static_cast<std::size_t>(n) + 1,
                                          std::vector<qsizetype>(static_cast<std::size_t>(m) + 1));
    const auto at = [&d](qsizetype i, qsizetype j) -> qsizetype& {
        return d[static_cast<std::size_t>(i)][static_cast<std::size_t>(j)];
    };
    const auto letter = [](const QString& word, qsizetype i) { return word[i].toLower(); };
    for (qsizetype i = 0; i <= n; ++i) at(i, 0) = i;
    for (qsizetype j = 0; j <= m; ++j) at(0, j) = j;
    for (qsizetype i = 1; i <= n; ++i)
        for (qsizetype j = 1; j <= m; ++j) {
            const bool same = letter(a, i - 1) == letter(b, j - 1);
            at(i, j) = std::min({at(i - 1, j) + 1, at(i, j - 1) + 1, at(i - 1, j - 1) + (same ? 0 : 1)});
            if (i > 1 && j > 1 && letter(a, i - 1) == letter(b, j - 2) && letter(a, i - 2) == letter(b, j - 1))
                at(i, j) = std::min(at(i, j), at(i - 2, j - 2) + 1);
        }
    return 1 - static_cast<double>(at(n, m)) / static_cast<double>(std::max(n, m));
}

CommandFinder::CommandFinder(QMainWindow& window, std::vector<HelpPlace> help)
    : QDialog(&window), commands_(commandsOf(window)), help_(std::move(help)), said_(new QLabel(this)),
      line_(new QLineEdit(this)), list_(new QListWidget(this)) {
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("What do you want to do?"));
    resize(520, 420);
    line_->setPlaceholderText(tr("type a few letters of it, Return does it"));
    line_->setAccessibleName(tr("What do you want to do?"));
    line_->setMinimumHeight(target_px);
    list_->setAccessibleName(tr("What can be done"));
    auto* column = new QVBoxLayout(this);
    column->addWidget(line_);
    said_->setWordWrap(true);
    said_->setTextFormat(Qt::PlainText);
    said_->hide();
    column->addWidget(said_);
    column->addWidget(list_, 1);
    line_->installEventFilter(this);
    connect(line_, &QLineEdit::textChanged, this, &CommandFinder::filter);
    connect(line_, &QLineEdit::returnPressed, this, &CommandFinder::run);
    connect(list_, &QListWidget::itemActivated, this, &CommandFinder::run);
    filter();
    line_->setFocus();
}

QString CommandFinder::said() const { return said_->isHidden() ? QString() : said_->text(); }

void CommandFinder::list(std::size_t i) {
    const Command& command = commands_[i];
    QString text = command.words + QStringLiteral("  ·  ") + command.group;
    if (!command.keys.isEmpty()) text += QStringLiteral("  ·  ") + command.keys;
    auto* item = new QListWidgetItem(text, list_);
    item->setData(Qt::UserRole, static_cast<qulonglong>(i));
}

void CommandFinder::filter() {
    constexpr int most_help = 6;
    constexpr std::size_t nearest = 5;
    constexpr double alike = 0.6; // four letters of seven
    list_->clear();
    said_->hide();
    // Every word that was typed stands in it somewhere, or what it is called here does.
    const QStringList wanted = line_->text().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    const auto speaks = [&](const QString& all) {
        return std::all_of(wanted.begin(), wanted.end(), [&](const QString& word) {
            if (all.contains(word, Qt::CaseInsensitive)) return true;
            const QStringList others = synonymsOf(word);
            return std::any_of(others.begin(), others.end(),
                               [&](const QString& other) { return all.contains(other, Qt::CaseInsensitive); });
        });
    };
    for (std::size_t i = 0; i < commands_.size(); ++i)
        if (commands_[i].action->isEnabled() && speaks(commands_[i].group + QLatin1Char(' ') + commands_[i].words))
            list(i);
    const bool found = list_->count() > 0;
    int helped = 0;
    for (std::size_t i = 0; i < help_.size() && !wanted.isEmpty() && helped < most_help; ++i) {
        if (!speaks(help_[i].words)) continue;
        constexpr int shown = 60;
        QString words = help_[i].words.left(shown);
        if (help_[i].words.size() > shown) words = words.section(QLatin1Char(' '), 0, -2) + QStringLiteral(" …");
        auto* item = new QListWidgetItem(tr("Help, %1: %2").arg(help_[i].heading, words), list_);
        item->setToolTip(help_[i].words);
        item->setData(Qt::UserRole + 1, help_[i].words);
        ++helped;
    }
    if (!found && !wanted.isEmpty()) {
        // What comes nearest to it, letter by letter.
        std::vector<std::pair<double, std::size_t>> near;
        for (std::size_t i = 0; i < commands_.size(); ++i) {
            if (!commands_[i].action->isEnabled()) continue;
            double best = 0;
            for (const QString& its : commands_[i].words.split(QLatin1Char(' '), Qt::SkipEmptyParts))
                for (const QString& word : wanted) best = std::max(best, likeness(word, its));
            if (best >= alike) near.emplace_back(best, i);
        }
        std::stable_sort(near.begin(), near.end(), [](const auto& x, const auto& y) { return x.first > y.first; });
        near.resize(std::min(near.size(), nearest));
        for (const auto& [like, i] : near) list(i);
        const QString what = tr("Nothing that can be done is called \"%1\".").arg(line_->text().trimmed());
        said_->setText(!near.empty() ? tr("%1 The nearest:").arg(what)
                       : helped > 0  ? tr("%1 The help speaks of it:").arg(what)
                                     : tr("%1 Try another word, or look through the help with F1.").arg(what));
        said_->show();
    }
    list_->setCurrentRow(0);
}

void CommandFinder::run() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item) return;
    const QString help = item->data(Qt::UserRole + 1).toString();
    if (!help.isEmpty()) {
        emit helpWanted(help);
        close();
        return;
    }
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
