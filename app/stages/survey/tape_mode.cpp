#include "stages/survey/tape_mode.h"

#include "forms/text.h"
#include "forms/tones.h"
#include "forms/wrapped_label.h"
#include "session/session.h"
#include "stages/survey/guided_page.h"
#include "stages/survey/survey_drawing.h"
#include "store/first_survey.h"

#include <QDate>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSettings>
#include <QStyleOptionButton>
#include <QStylePainter>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace gabarit::app {
namespace {

const QString inches_key = QStringLiteral("tape/inches");
const QString accuracy_key = QStringLiteral("tape/accuracy_mm");

constexpr int roomy_px = 1000; // less is a tablet on its side, or much enlarged
constexpr int question_width_roomy_px = 564, question_width_px = 430;

QFont sized(QFont font, double points, bool bold) {
    font.setPointSizeF(points);
    font.setBold(bold);
    return font;
}

QString asQuestion(const model::Project& project, const model::SurveyEntryRule& entry) {
    return q(model::sided(project, entry.ask.empty() ? entry.label + "?" : entry.ask));
}

} // namespace

/// A key for a gloved thumb: a large word, and a small one below it.
class BigKey : public QPushButton {
public:
    BigKey(const QString& words, const QString& below, QWidget* parent) : QPushButton(words, parent), below_(below) {
        setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
        tell();
    }
    void say(const QString& words, const QString& below) {
        setText(words);
        below_ = below;
        tell();
        update();
    }
    const QString& below() const { return below_; }
    void setLarge(double points) {
        large_ = points;
        update();
    }
    QSize minimumSizeHint() const override { return {40, target_px}; }
    QSize sizeHint() const override { return {72, 48}; }

protected:
    void paintEvent(QPaintEvent*) override {
        QStylePainter painter(this);
        QStyleOptionButton option;
        initStyleOption(&option);
        option.text.clear();
        painter.drawControl(QStyle::CE_PushButton, option);
        const bool filled = property("filled").toBool() || isDown();
        const QColor ink = filled ? tones().paper : isEnabled() ? tones().ink : tones().second_ink;
        const QFont small = font(), large = fitting(sized(font(), large_, true), text());
        const QFontMetrics small_room(small), large_room(large);
        const QStringList lines = wrapped(small_room);
        const int whole = large_room.height() + static_cast<int>(lines.size()) * small_room.height();
        int y = (height() - whole) / 2;
        painter.setPen(ink);
        painter.setFont(large);
        painter.drawText(QRect(0, y, width(), large_room.height()), Qt::AlignCenter, text());
        y += large_room.height();
        painter.setFont(small);
        for (const QString& line : lines) {
            painter.drawText(QRect(0, y, width(), small_room.height()), Qt::AlignCenter, line);
            y += small_room.height();
        }
    }

private:
    static constexpr int beside_px = 8;
    void tell() { setAccessibleName(below_.isEmpty() ? text() : text() + QStringLiteral(", ") + below_); }
    QFont fitting(QFont font, const QString& words) const {
        while (font.pointSizeF() > 9 && QFontMetrics(font).horizontalAdvance(words) > width() - 2 * beside_px)
            font.setPointSizeF(font.pointSizeF() - 1);
        return font;
    }
    /// The small words on at most two lines, whole words only.
    QStringList wrapped(const QFontMetrics& room) const {
        QStringList lines;
        for (const QString& word : below_.split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
            const QString longer = lines.isEmpty() ? word : lines.last() + QLatin1Char(' ') + word;
            if (!lines.isEmpty() && room.horizontalAdvance(longer) <= width() - 2 * beside_px)
                lines.last() = longer;
            else if (lines.size() < 2)
                lines << word;
            else
                break;
        }
        return lines;
    }
    QString below_;
    double large_ = 18;
};

/// How many of the needed readings are in: a dot each, the one in hand with its number.
class StepDots : public QWidget {
public:
    explicit StepDots(QWidget* parent) : QWidget(parent) {
        setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Expanding);
    }
    void show(std::vector<bool> taken, int at) {
        taken_ = std::move(taken);
        at_ = at;
        setAccessibleName(QObject::tr("%1 of %2 readings taken")
                              .arg(std::count(taken_.begin(), taken_.end(), true))
                              .arg(taken_.size()));
        updateGeometry();
        update();
    }
    QSize sizeHint() const override { return {static_cast<int>(taken_.size()) * step_px + 8, 30}; }
    QSize minimumSizeHint() const override { return {0, 30}; }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        const double step = std::min<double>(step_px, double(width()) / std::max<std::size_t>(1, taken_.size()));
        for (int i = 0; i < static_cast<int>(taken_.size()); ++i) {
            const QPointF centre((i + 0.5) * step, height() / 2.0);
            if (i == at_) {
                const QRectF box(centre.x() - 11, centre.y() - 11, 22, 22);
                painter.setPen(Qt::NoPen);
                painter.setBrush(tones().hand_fill);
                painter.drawRoundedRect(box, 4, 4);
                painter.setPen(tones().paper);
                painter.setFont(sized(font(), font().pointSizeF(), true));
                painter.drawText(box, Qt::AlignCenter, QString::number(i + 1));
                continue;
            }
            painter.setPen(QPen(taken_[static_cast<std::size_t>(i)] ? tones().donor : tones().second_ink, 1.6));
            painter.setBrush(taken_[static_cast<std::size_t>(i)] ? QBrush(tones().donor) : QBrush(Qt::NoBrush));
            painter.drawEllipse(centre, 6.5, 6.5);
        }
    }

private:
    static constexpr int step_px = 29;
    std::vector<bool> taken_;
    int at_ = -1;
};

TapeMode::TapeMode(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), survey_(store::firstSurvey()), order_(survey_.oneByOne()),
      accuracy_mm_(QSettings().value(accuracy_key, survey_.tape_accuracy_mm).toDouble()), title_(new QLabel(this)),
      which_(new QLabel(this)), more_(new QLabel(this)), dots_(new StepDots(this)), drawing_(new SurveyDrawing(this)),
      from_(new WrappedLabel(this)), how_(new WrappedLabel(this)), hook_(new WrappedLabel(this)),
      caution_(new WrappedLabel(this)), settles_(new WrappedLabel(this)), ask_(new WrappedLabel(this)),
      line_(new QLineEdit(this)), reads_(new QLabel(this)), tape_(new QLabel(this)), under_(new WrappedLabel(this)),
      keys_(new QGridLayout) {
    const double points = font().pointSizeF();
    title_->setText(tr("Tape mode"));
    title_->setFont(sized(font(), points * 1.5, true));
    for (QLabel* label : {more_, from_, hook_, reads_, tape_}) label->setForegroundRole(QPalette::PlaceholderText);
    how_->setFont(sized(font(), points * 1.15, true));
    QPalette warning = caution_->palette();
    warning.setColor(QPalette::WindowText, tones().trouble);
    caution_->setPalette(warning);

    auto* top = new QHBoxLayout;
    top->setContentsMargins(16, 6, 16, 6);
    top->setSpacing(14);
    top->addWidget(title_);
    top->addWidget(which_);
    top->addWidget(dots_);
    top->addWidget(more_);
    top->addStretch(1);
    auto* verdict = new QPushButton(tr("See what it touches"), this);
    verdict->setObjectName(QStringLiteral("verdict"));
    verdict->setMinimumHeight(target_px);
    verdict->setToolTip(tr("Goes to the drawing with the gaps, assumed figures and all"));
    top->addWidget(verdict);
    auto* leave = new QPushButton(tr("Leave tape mode"), this);
    leave->setObjectName(QStringLiteral("leave"));
    leave->setMinimumHeight(target_px);
    leave->setToolTip(tr("Back to the survey; what was read stays (Esc)"));
    top->addWidget(leave);

    drawing_->setNear(true);
    drawing_->setMinimumSize(200, 120);
    auto* words = new QVBoxLayout;
    words->setContentsMargins(16, 8, 16, 8);
    words->setSpacing(4);
    for (QLabel* label : {how_, hook_, caution_, settles_}) words->addWidget(label);
    auto* left = new QVBoxLayout;
    left->setSpacing(0);
    left->addWidget(drawing_, 1);
    left->addLayout(words);

    auto* box = new QFrame(this);
    box->setObjectName(QStringLiteral("figure"));
    box->setFrameShape(QFrame::Box);
    box->setAutoFillBackground(true);
    box->setBackgroundRole(QPalette::Base);
    auto* figure = new QHBoxLayout(box);
    figure->setContentsMargins(12, 4, 12, 4);
    line_->setFrame(false);
    line_->setObjectName(QStringLiteral("tape_figure"));
    line_->setStyleSheet(QStringLiteral("border: none; padding: 0; background: transparent;"));
    figure->addWidget(line_, 1);
    auto* beside = new QVBoxLayout;
    beside->setSpacing(0);
    reads_->setAlignment(Qt::AlignRight | Qt::AlignBottom);
    tape_->setAlignment(Qt::AlignRight | Qt::AlignTop);
    beside->addWidget(reads_);
    beside->addWidget(tape_);
    figure->addLayout(beside);
    auto* right = new QVBoxLayout;
    right->setContentsMargins(16, 10, 16, 12);
    right->setSpacing(8);
    right->addWidget(ask_);
    right->addWidget(box);
    right->addWidget(under_);
    keys_->setSpacing(8);
    right->addLayout(keys_, 4);
    auto* foot = new QHBoxLayout;
    foot->setSpacing(8);
    BigKey* back = make(QStringLiteral("back"), tr("Back"));
    BigKey* skip = make(QStringLiteral("skip"), tr("Cannot reach"), tr("assume, come back"));
    BigKey* next = make(QStringLiteral("take"), tr("Next"));
    next->setProperty("filled", true);
    foot->addWidget(back, 4);
    foot->addWidget(skip, 5);
    foot->addWidget(next, 6);
    right->addLayout(foot, 2);
    for (const char* digit : {"7", "8", "9", "4", "5", "6", "1", "2", "3", "0", "."})
        make(QStringLiteral("key_") + QLatin1String(digit), QLatin1String(digit));
    for (const char* part : {"1/2", "1/4", "1/8", "1/16"})
        make(QStringLiteral("key_") + QLatin1String(part), QLatin1String(part));
    make(QStringLiteral("key_+"), QStringLiteral("+"));
    make(QStringLiteral("key_-"), QStringLiteral("−"));
    make(QStringLiteral("rub"), tr("Rub out"));
    make(QStringLiteral("unit"), QString());
    make(QStringLiteral("tape"), QString());

    auto* rightBox = new QWidget(this);
    rightBox->setObjectName(QStringLiteral("question"));
    rightBox->setLayout(right);
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    row->addLayout(left, 1);
    row->addWidget(rightBox);
    auto* rule = new QFrame(this);
    rule->setFixedHeight(1);
    rule->setAutoFillBackground(true);
    rule->setBackgroundRole(QPalette::PlaceholderText);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addLayout(top);
    column->addWidget(rule);
    column->addLayout(row, 1);
    auto* caption = new QVBoxLayout(drawing_);
    caption->setContentsMargins(16, 10, 16, 10);
    caption->addWidget(from_, 0, Qt::AlignTop);

    connect(leave, &QPushButton::clicked, this, &TapeMode::left);
    connect(verdict, &QPushButton::clicked, this, &TapeMode::verdictWanted);
    connect(back, &QPushButton::clicked, this, [this] { go(at_ > 0 ? at_ - 1 : 0); });
    connect(skip, &QPushButton::clicked, this, &TapeMode::goOn);
    connect(next, &QPushButton::clicked, this, &TapeMode::take);
    connect(key(QStringLiteral("rub")), &QPushButton::clicked, line_, &QLineEdit::backspace);
    connect(key(QStringLiteral("unit")), &QPushButton::clicked, this, &TapeMode::turnUnit);
    connect(key(QStringLiteral("tape")), &QPushButton::clicked, this, &TapeMode::turnTape);
    for (BigKey* each : all_)
        if (const QString types = each->objectName(); types.startsWith(QLatin1String("key_")))
            connect(each, &QPushButton::clicked, this, [this, types] { type(types.mid(4)); });
    connect(line_, &QLineEdit::textEdited, this, [this] {
        refused_.clear();
        refreshTyped();
    });
    line_->installEventFilter(this);
    connect(&session_, &Session::projectChanged, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&session_, &Session::reportsChanged, this, [this] {
        if (isVisible()) refreshSettles();
    });
    connect(&session_, &Session::projectReplaced, this, [this] { at_ = 0; });
    layKeys();
    sizeKeys();
}

BigKey* TapeMode::make(const QString& name, const QString& words, const QString& below) {
    auto* key = new BigKey(words, below, this);
    key->setObjectName(name);
    key->setFocusPolicy(Qt::NoFocus); // the figure has the keyboard all the time
    all_.push_back(key);
    return key;
}

QPushButton* TapeMode::key(const QString& name) const { return findChild<QPushButton*>(name); }
QString TapeMode::saidUnder() const { return under_->text(); }
QString TapeMode::title() const { return ask_->text(); }

quantity::Dimension TapeMode::dimension() const {
    return asked().is_mass ? quantity::Dimension::Mass : quantity::Dimension::Length;
}

quantity::Shown TapeMode::shown() const {
    quantity::Shown out = session_.shown();
    if (inches_ && !out.inches()) out.length = quantity::LengthStyle::Sixteenths;
    if (!inches_) out.length = quantity::LengthStyle::Millimetres;
    out.mass = inches_ ? quantity::MassUnit::Pounds : quantity::MassUnit::Kilograms;
    return out;
}

QString TapeMode::text(double value) const {
    const QString whole = q(quantity::text(dimension(), value, shown(), asked().is_mass ? 1 : 0));
    return whole.section(QStringLiteral(" ("), 0, 0); // the remainder of a fraction is not for the floor
}

/// "16 to 22 in": whole inches are near enough for what is usual.
QString TapeMode::usualWords() const {
    const auto between = model::usual(*session_.project(), survey_, asked());
    if (!between) return tr("not known");
    const auto near = [this](double value) {
        const bool inches = inches_ && !asked().is_mass;
        return text(inches ? std::round(value / quantity::mm_per_inch) * quantity::mm_per_inch : value);
    };
    return tr("%1 to %2").arg(near(between->first).section(QLatin1Char(' '), 0, 0), near(between->second));
}

/// Heights start at the floor only where the project says so.
QString TapeMode::askedWords(const model::SurveyEntryRule& entry) const {
    QString words = asQuestion(*session_.project(), entry);
    const model::SurveyValue down = model::surveyValue(*session_.project(), survey_, "ground_down");
    if (down.value > 0 && entry.from_floor && words.startsWith(tr("Floor")))
        words.replace(0, static_cast<int>(tr("Floor").size()), tr("From where your heights start,"));
    return words;
}

void TapeMode::begin() {
    inches_ = QSettings().value(inches_key, session_.shown().inches()).toBool();
    const std::vector<std::string> open = model::stillNeeded(*session_.project(), survey_);
    if (!open.empty()) return ask(open.front());
    for (std::size_t i = 0; i < order_.size(); ++i)
        if (!model::surveyValue(*session_.project(), survey_, order_[i]->id).answered) return go(i);
    go(0);
}

void TapeMode::ask(const std::string& entry) {
    for (std::size_t i = 0; i < order_.size(); ++i)
        if (order_[i]->id == entry) return go(i);
}

void TapeMode::go(std::size_t to) {
    at_ = std::min(to, order_.size() - 1);
    sure_of_.clear();
    refused_.clear();
    const model::SurveyValue stands = model::surveyValue(*session_.project(), survey_, asked().id);
    line_->setText(stands.answered ? text(stands.value) : QString());
    refresh();
    line_->setFocus();
    line_->selectAll();
}

void TapeMode::goOn() {
    if (at_ + 1 < order_.size()) return go(at_ + 1);
    const std::vector<std::string> open = model::stillNeeded(*session_.project(), survey_);
    if (!open.empty()) return ask(open.front()); // those that could not be reached the first time
    emit verdictWanted();
}

void TapeMode::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    // A window that comes back from the task bar goes on with what is being typed.
    if (!event->spontaneous() && session_.hasProject()) begin();
}

void TapeMode::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    sizeKeys();
}

bool TapeMode::eventFilter(QObject* watched, QEvent* event) {
    // Escape is a key of the window's, but not here.
    if (watched == line_ && event->type() == QEvent::ShortcutOverride &&
        static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape)
        event->accept();
    if (watched == line_ && event->type() == QEvent::KeyPress) {
        switch (static_cast<QKeyEvent*>(event)->key()) {
        case Qt::Key_Return:
        case Qt::Key_Enter: take(); return true;
        case Qt::Key_Escape: emit left(); return true;
        case Qt::Key_PageUp: key(QStringLiteral("back"))->click(); return true;
        case Qt::Key_PageDown: goOn(); return true;
        default: break;
        }
    }
    return QWidget::eventFilter(watched, event);
}

/// A key's words go where the cursor is, as one would write them: a fraction stands off from the whole inches.
void TapeMode::type(const QString& words) {
    QString out = words;
    const QString before = line_->hasSelectedText() ? QString() : line_->text().left(line_->cursorPosition());
    const bool whole = !before.isEmpty() && before.back().isDigit();
    if (words.contains(QLatin1Char('/')) && whole) out.prepend(QLatin1Char(' '));
    if (words == QLatin1String("+") || (words == QLatin1String("-") && !before.trimmed().isEmpty()))
        out = QStringLiteral(" %1 ").arg(words);
    line_->insert(out);
    refused_.clear();
    line_->setFocus();
    refreshTyped();
}

TapeMode::Typed TapeMode::typed() const {
    Typed out;
    const QString words = line_->text().trimmed();
    if (words.isEmpty()) return out;
    quantity::Shown as = shown();
    const bool bare_fraction = quantity::bareFraction(words.toStdString());
    if (!inches_ && !asked().is_mass && bare_fraction) {
        as.length = quantity::LengthStyle::Sixteenths;
        out.asks = tr("%1 without a unit: inches? Press Next again for inches, or write mm behind it.").arg(words);
    }
    const auto read = quantity::parse(dimension(), words.toStdString(), as);
    if (!read) {
        out.trouble = q(read.error().line());
        return out;
    }
    out.value = read.value();
    if (model::farFromUsual(*session_.project(), survey_, asked(), *out.value) && out.asks.isEmpty())
        out.asks =
            tr("%1 is far from usual (%2). Press Next again if the tape says so.").arg(text(*out.value), usualWords());
    return out;
}

void TapeMode::take() {
    const Typed is = typed();
    if (!is.trouble.isEmpty()) {
        refused_ = is.trouble;
        return refreshTyped();
    }
    if (!is.value) {
        refused_ = tr("Type what the tape reads, or press Cannot reach: %1 is then assumed.")
                       .arg(text(model::surveyValue(*session_.project(), survey_, asked().id).value));
        return refreshTyped();
    }
    const model::SurveyValue stands = model::surveyValue(*session_.project(), survey_, asked().id);
    // What was shown rounded is not taken as a new reading when it is only passed by.
    if (stands.answered && line_->text() == text(stands.value)) return goOn();
    if (!is.asks.isEmpty() && sure_of_ != line_->text()) {
        sure_of_ = line_->text();
        return refreshTyped();
    }
    model::Provenance measured;
    measured.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    measured.who = QSettings().value(GuidedPage::who_key).toString().toStdString();
    const auto changed = model::withAnswer(*session_.project(), survey_, asked().id, *is.value, accuracy_mm_, measured);
    if (!changed) {
        refused_ = q(changed.error().line());
        return refreshTyped();
    }
    if (session_.edit(tr("read: %1").arg(q(model::sided(*session_.project(), asked().label)).toLower()),
                      changed.value()))
        goOn();
}

void TapeMode::turnUnit() {
    inches_ = !inches_;
    QSettings().setValue(inches_key, inches_);
    const model::SurveyValue stands = model::surveyValue(*session_.project(), survey_, asked().id);
    if (stands.answered && !line_->isModified()) line_->setText(text(stands.value));
    layKeys();
    refresh();
    line_->setFocus();
}

void TapeMode::turnTape() {
    const auto& all = survey_.tape_accuracies;
    if (all.empty()) return;
    const auto next =
        std::find_if(all.begin(), all.end(), [this](const model::TapeAccuracy& a) { return a.mm > accuracy_mm_; });
    accuracy_mm_ = next == all.end() ? all.front().mm : next->mm;
    QSettings().setValue(accuracy_key, accuracy_mm_);
    refresh();
    line_->setFocus();
}

void TapeMode::layKeys() {
    while (keys_->count() > 0) delete keys_->takeAt(0);
    const char* const digits[4][3] = {{"key_7", "key_8", "key_9"},
                                      {"key_4", "key_5", "key_6"},
                                      {"key_1", "key_2", "key_3"},
                                      {"key_0", "key_.", "rub"}};
    const char* const fractions[] = {"key_1/2", "key_1/4", "key_1/8", "key_1/16"};
    const char* const others[] = {"key_+", "key_-", "unit", "tape"};
    const bool parts = inches_ && !asked().is_mass;
    for (int r = 0; r < 4; ++r) {
        for (int c = 0; c < 3; ++c) keys_->addWidget(key(QLatin1String(digits[r][c])), r, c);
        key(QLatin1String(fractions[r]))->setVisible(parts);
        if (parts) keys_->addWidget(key(QLatin1String(fractions[r])), r, 3);
        keys_->addWidget(key(QLatin1String(others[r])), r, parts ? 4 : 3);
    }
}

void TapeMode::sizeKeys() {
    const bool roomy = width() >= roomy_px && height() >= 560;
    const double points = font().pointSizeF();
    findChild<QWidget*>(QStringLiteral("question"))
        ->setFixedWidth(std::max(roomy ? question_width_roomy_px : question_width_px, roomy ? width() * 44 / 100 : 0));
    ask_->setFont(sized(font(), points * (roomy ? 1.9 : 1.3), true));
    line_->setFont(sized(font(), points * (roomy ? 3.6 : 2.2), true));
    line_->setMinimumHeight(roomy ? 84 : 46);
    for (BigKey* each : all_) each->setLarge(points * (roomy ? 1.7 : 1.3));
    // Where it is low, the drawing goes before the long explanation; that stays in the tip.
    hook_->setVisible(roomy);
    which_->setVisible(roomy);
    dots_->setVisible(width() >= roomy_px);
}

void TapeMode::refresh() {
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    const model::SurveyQuestion& question = *survey_.questionOf(asked().id);
    layKeys();
    which_->setText(q(question.title));
    ask_->setText(askedWords(asked()));
    how_->setText(q(model::sided(project, asked().how)));
    how_->setToolTip(q(model::sided(project, question.hook)));
    hook_->setText(q(model::sided(project, question.hook)));
    caution_->setText(q(question.caution));
    caution_->setVisible(!question.caution.empty());
    std::vector<bool> taken;
    int at = -1;
    for (const model::SurveyEntryRule* entry : order_) {
        if (!entry->needed) continue;
        if (entry == &asked()) at = static_cast<int>(taken.size());
        taken.push_back(model::surveyValue(project, survey_, entry->id).answered);
    }
    const auto open = static_cast<int>(std::count(taken.begin(), taken.end(), false));
    dots_->show(std::move(taken), at);
    more_->setText(open > 1    ? tr("%1 more to a first verdict").arg(open)
                   : open == 1 ? tr("one more to a first verdict")
                               : tr("enough for a first verdict"));
    key(QStringLiteral("verdict"))->setVisible(open == 0);
    const QString before = at_ > 0 ? q(survey_.questionOf(order_[at_ - 1]->id)->title).toLower() : QString();
    static_cast<BigKey*>(key(QStringLiteral("back")))->say(tr("Back"), before);
    key(QStringLiteral("back"))->setEnabled(at_ > 0);
    static_cast<BigKey*>(key(QStringLiteral("unit")))
        ->say(asked().is_mass ? (inches_ ? tr("lb") : tr("kg")) : (inches_ ? tr("in") : tr("mm")),
              asked().is_mass ? (inches_ ? tr("to kg") : tr("to lb")) : (inches_ ? tr("to mm") : tr("to inches")));
    const QString good =
        q(quantity::text(quantity::Dimension::Length, accuracy_mm_, shown(), 0)).section(QStringLiteral(" ("), 0, 0);
    static_cast<BigKey*>(key(QStringLiteral("tape")))->say(tr("±%1").arg(good), tr("tape"));
    tape_->setText(asked().is_mass ? QString() : tr("tape good to ±%1").arg(good));

    // Of this drawing: what is asked now, and what was read before.
    const std::string drawing = asked().drawing.empty() ? question.drawing : asked().drawing;
    std::vector<SurveyArrow> arrows;
    for (const model::SurveyEntryRule* entry : order_) {
        const std::string its = entry->drawing.empty() ? survey_.questionOf(entry->id)->drawing : entry->drawing;
        const model::SurveyValue stands = model::surveyValue(project, survey_, entry->id);
        const bool active = entry == &asked();
        if (its != drawing || entry->arrow.size() != 2 || (!active && !stands.answered)) continue;
        arrows.push_back({q(entry->id),
                          {entry->arrow[0].x(), entry->arrow[0].y()},
                          {entry->arrow[1].x(), entry->arrow[1].y()},
                          stands.answered ? text(stands.value) : tr("%1?").arg(text(stands.value)),
                          active});
    }
    drawing_->show(q(drawing), model::SurveyProportion(project, survey_, survey_.drawing(drawing)), std::move(arrows),
                   q(question.id), q(question.title), q(question.hook));
    from_->setText(drawing == "bay_side" || drawing == "engine_side"
                       ? tr("From its left side, drawn from your readings")
                   : drawing == "bay_plan"     ? tr("From above, drawn from your readings")
                   : drawing == "gearbox_rear" ? tr("From behind, drawn from your readings")
                                               : tr("From the front, drawn from your readings"));
    refreshTyped();
    refreshSettles();
}

void TapeMode::refreshTyped() {
    const Typed is = typed();
    const QString words = line_->text().trimmed();
    // In the other unit too, and what a sum comes to.
    QString reads;
    if (is.value && !asked().is_mass) {
        quantity::Shown other = shown();
        other.length = inches_ ? quantity::LengthStyle::Millimetres : quantity::LengthStyle::Sixteenths;
        const auto bare = [](const std::string& t) { return q(t).section(QStringLiteral(" ("), 0, 0); };
        const QString own = bare(quantity::lengthText(*is.value, shown(), 1));
        const bool sum = words.contains(QLatin1Char('+')) || words.contains(QLatin1String(" - "));
        reads = (sum ? tr("= %1, ").arg(own) : QString()) + bare(quantity::lengthText(*is.value, other, 1));
    }
    reads_->setText(reads);
    const bool doubts = !is.asks.isEmpty() && sure_of_ == line_->text();
    QString under = tr("Usual here: %1. A sum is fine: %2.")
                        .arg(usualWords(), inches_ ? QStringLiteral("18 1/2 + 3/8") : QStringLiteral("300 + 25"));
    if (!refused_.isEmpty()) under = refused_;
    if (doubts) under = is.asks;
    under_->setText(under);
    QPalette tone = under_->palette();
    tone.setColor(QPalette::WindowText, refused_.isEmpty() && !doubts ? tones().second_ink : tones().trouble);
    under_->setPalette(tone);
    const bool last = at_ + 1 == order_.size();
    const QString after =
        last ? tr("see what it touches") : q(survey_.questionOf(order_[at_ + 1]->id)->title).toLower();
    static_cast<BigKey*>(key(QStringLiteral("take")))
        ->say(doubts && is.value ? tr("Yes, %1").arg(text(*is.value)) : tr("Next"), after);
}

/// What of the checks the thing that is read has a part in, worst first: what this reading decides.
void TapeMode::refreshSettles() {
    const auto reports = session_.reports();
    const auto* thing = survey_.thing(asked().thing);
    QString words;
    if (reports && reports->project && thing) {
        const auto ours = [&](const std::optional<model::BodyRef>& ref) {
            const model::Body* body = ref ? model::findBody(*reports->project, *ref) : nullptr;
            return body && body->tape.entry == thing->id;
        };
        for (const auto* findings : {&reports->findings, &reports->good}) {
            for (const study::Finding& finding : *findings)
                if (words.isEmpty() && (ours(finding.a) || ours(finding.b)))
                    words = tr("Decides: %1").arg(q(finding.title));
        }
    }
    settles_->setText(words);
    settles_->setVisible(!words.isEmpty());
}

} // namespace gabarit::app

#include "moc_tape_mode.cpp"
