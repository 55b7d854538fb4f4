#include "forms/entry_form.h"
#include "forms/elided_combo.h"
#include "forms/field_line.h"

#include "forms/text.h"
#include "forms/tones.h"
#include "quantity/number.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QImageReader>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSettings>
#include <QStyle>
#include <QTableWidget>
#include <QToolButton>
#include <QVBoxLayout>

namespace gabarit::app {

GABARIT_ONCE_DEFINED(Field);

namespace {

constexpr QSize picture_px(290, 200);
const QString folded_key = QStringLiteral("forms/folded"), unfolded_key = QStringLiteral("forms/unfolded");
const QString rounded_mark = QStringLiteral("≈ ");

QString textOf(double value, const std::optional<quantity::Dimension>& dimension, const quantity::Shown& shown) {
    if (!dimension) return QString::number(value, 'g', 10);
    return QString::fromStdString(
        quantity::text(*dimension, value, shown, *dimension == quantity::Dimension::Angle ? 2 : 1));
}

/// The text without the rounding of a fraction, which is long: the field says that there is one, its tip how much.
QString brief(const QString& text, QString& tip) {
    const qsizetype remark = text.indexOf(QLatin1String(" ("));
    if (remark < 0) return text;
    tip = QObject::tr("exactly %1").arg(text);
    return rounded_mark + text.left(remark);
}

Result<double> read(QString text, const std::optional<quantity::Dimension>& dimension, const quantity::Shown& shown,
                    bool money = false) {
    text = text.trimmed();
    if (money) return quantity::typedMoney(text.toStdString());
    if (text.startsWith(rounded_mark.trimmed())) text = text.mid(1).trimmed();
    if (dimension) return quantity::parse(*dimension, text.toStdString(), shown);
    return quantity::typedNumber(text.toStdString());
}

Field made(Field::Kind kind, const QString& name, const QString& label) {
    Field field;
    field.kind = kind;
    field.name = name;
    field.label = label;
    return field;
}

/// The head of a narrow column: broken at the space nearest its middle.
QString onTwoLines(QString head) {
    constexpr int longest_on_one = 10;
    if (head.size() <= longest_on_one) return head;
    int best = -1;
    for (int at = head.indexOf(QLatin1Char(' ')); at >= 0; at = head.indexOf(QLatin1Char(' '), at + 1))
        if (best < 0 || std::abs(2 * at - head.size()) < std::abs(2 * best - head.size())) best = at;
    if (best >= 0) head[best] = QLatin1Char('\n');
    return head;
}

/// What is not needed first goes to the end, folded behind a heading of its own; a short form stays as it is.
void putLast(std::vector<Field>& fields) {
    constexpr std::ptrdiff_t short_form = 8; // of what is needed
    const auto first = [](const Field& field) { return !field.more; };
    const auto needed = std::count_if(fields.begin(), fields.end(), first);
    if (needed < short_form || needed == static_cast<std::ptrdiff_t>(fields.size())) return;
    Field heading = fields::heading(QObject::tr("More"));
    heading.folded = true;
    fields.insert(std::stable_partition(fields.begin(), fields.end(), first), std::move(heading));
}

} // namespace

namespace fields {

Field heading(const QString& label) { return made(Field::Kind::Heading, QString(), label); }

Field remark(const QString& name, const QString& text) {
    Field field = made(Field::Kind::Remark, name, QString());
    field.text = text;
    return field;
}

Field words(const QString& name, const QString& label, const std::string& text,
            std::function<bool(const std::string&)> set) {
    Field field = made(Field::Kind::Words, name, label);
    field.text = QString::fromStdString(text);
    field.set_text = [set = std::move(set)](const QString& typed) { return set(typedWords(typed)); };
    return field;
}

Field quantity(const QString& name, const QString& label, quantity::Dimension dimension, double value,
               std::function<bool(double)> set) {
    Field field = known(name, label, dimension, value,
                        [set = std::move(set)](std::optional<double> typed) { return typed && set(*typed); });
    field.may_be_empty = false;
    return field;
}

Field known(const QString& name, const QString& label, quantity::Dimension dimension, std::optional<double> value,
            std::function<bool(std::optional<double>)> set) {
    Field field = number(name, label, value, std::move(set));
    field.dimension = dimension;
    return field;
}

Field number(const QString& name, const QString& label, std::optional<double> value,
             std::function<bool(std::optional<double>)> set) {
    Field field = made(Field::Kind::Number, name, label);
    field.value = value;
    field.set_value = std::move(set);
    return field;
}

Field choice(const QString& name, const QString& label, std::vector<std::pair<QString, QString>> choices,
             const std::string& current, std::function<bool(const std::string&)> set) {
    Field field = made(Field::Kind::Choice, name, label);
    field.choices = std::move(choices);
    field.text = QString::fromStdString(current);
    field.set_text = [set = std::move(set)](const QString& id) { return set(id.toStdString()); };
    return field;
}

Field flag(const QString& name, const QString& label, bool on, std::function<bool(bool)> set) {
    Field field = made(Field::Kind::Flag, name, label);
    field.on = on;
    field.set_on = std::move(set);
    return field;
}

Field table(const QString& name, const QString& label, const QStringList& heads, Rows rows, std::size_t fewest,
            std::function<bool(const Rows&)> set) {
    Field field = made(Field::Kind::Table, name, label);
    field.heads = heads;
    field.rows = std::move(rows);
    field.fewest_rows = fewest;
    field.dimension = quantity::Dimension::Length;
    field.set_rows = std::move(set);
    return field;
}

Field button(const QString& name, const QString& label, std::function<void()> act) {
    Field field = made(Field::Kind::Button, name, label);
    field.set_on = [act = std::move(act)](bool) {
        act();
        return true;
    };
    return field;
}

Field picture(const QString& name, const QString& file) {
    Field field = made(Field::Kind::Picture, name, QString());
    field.text = file;
    return field;
}

} // namespace fields

EntryForm::EntryForm(QWidget* parent) : QScrollArea(parent) {
    setWidgetResizable(true);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
}

/// A line that has the focus still says what was typed while the form goes.
EntryForm::~EntryForm() {
    for (QObject* child : findChildren<QObject*>()) child->disconnect(this);
}

void EntryForm::show(std::vector<Field> fields, quantity::Shown shown, const QString& subject) {
    const bool same = subject == subject_;
    if (!same) endPointing();
    subject_ = subject;
    putLast(fields);
    QString signature;
    for (const Field& field : fields) {
        signature += QString::number(static_cast<int>(field.kind)) + field.name + field.label + QLatin1Char('\n');
        for (const auto& choice : field.choices) signature += choice.first + choice.second + QLatin1Char('\t');
    }
    fields_ = std::move(fields);
    shown_ = shown;
    if (signature != signature_ || !inner_) {
        signature_ = signature;
        build();
    }
    refill(same);
}

void EntryForm::begin() {
    for (QWidget* widget : widgets_)
        if (widget && widget->isEnabled() && widget->focusPolicy() != Qt::NoFocus) {
            widget->setFocus();
            if (auto* line = qobject_cast<QLineEdit*>(widget)) line->selectAll();
            return;
        }
}

void EntryForm::build() {
    const QWidget* focus = inner_ && focusWidget() && inner_->isAncestorOf(focusWidget()) ? focusWidget() : nullptr;
    const QString focused = focus && focus->hasFocus() ? focus->objectName() : QString();
    // Taken away it loses the focus: what was typed in it belongs to no field that is still there.
    if (inner_)
        for (QObject* child : inner_->findChildren<QObject*>()) child->disconnect(this);
    if (QWidget* old = takeWidget()) {
        old->hide();
        old->setParent(nullptr);
        for (QWidget* child : old->findChildren<QWidget*>()) child->setObjectName(QString());
        old->deleteLater(); // one of its widgets may have brought us here
    }
    inner_ = new QWidget;
    // What height is left over goes below the fields, not between them.
    auto* outer = new QVBoxLayout(inner_);
    outer->setContentsMargins(0, 0, 0, 0);
    auto* form = new QFormLayout;
    outer->addLayout(form);
    outer->addStretch(1);
    form->setContentsMargins(10, 6, 10, 10);
    form->setVerticalSpacing(4);
    form->setLabelAlignment(Qt::AlignLeft);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    endPointing();
    widgets_.assign(fields_.size(), nullptr);
    for (std::size_t i = 0; i < fields_.size(); ++i) {
        const Field& field = fields_[i];
        if (field.kind == Field::Kind::Heading) {
            form->addRow(headingOf(field, form->rowCount()));
            continue;
        }
        QWidget* widget = widgetOf(i);
        widgets_[i] = widget;
        widget->setObjectName(field.name);
        widget->setToolTip(field.tip);
        if (field.kind == Field::Kind::Remark || field.kind == Field::Kind::Flag || field.kind == Field::Kind::Button ||
            field.kind == Field::Kind::Picture) {
            form->addRow(widget);
            continue;
        }
        widget->setAccessibleName(field.label);
        auto* label = new QLabel(field.label, inner_);
        label->setBuddy(widget);
        label->setWordWrap(true);
        if (field.kind == Field::Kind::Table) {
            form->addRow(label);
            form->addRow(widget);
        } else {
            label->setMinimumHeight(target_px);
            label->setFixedWidth(label_width_px_);
            if (field.kind == Field::Kind::Number || field.kind == Field::Kind::Words) {
                // Room below it for why it was not taken.
                auto* cell = new QWidget(inner_);
                auto* column = new QVBoxLayout(cell);
                column->setContentsMargins(0, 0, 0, 0);
                column->setSpacing(2);
                column->addWidget(widget);
                form->addRow(label, cell);
            } else if (lets_point_ && field.points != Field::Points::Nothing) {
                // Beside the button its words need the width of the form.
                label->setMinimumHeight(0);
                label->setMaximumWidth(QWIDGETSIZE_MAX);
                label->setMinimumWidth(0);
                form->addRow(label);
                form->addRow(withPointer(i, widget));
            } else {
                form->addRow(label, widget);
            }
        }
    }
    for (std::size_t i = 0; i < fields_.size(); ++i)
        if (fields_[i].kind == Field::Kind::Heading && isFolded(fields_[i])) fold(fields_[i].label, true);
    setWidget(inner_);
    inner_->show();
    if (!focused.isEmpty())
        if (auto* again = inner_->findChild<QWidget*>(focused)) again->setFocus();
}

QWidget* EntryForm::withPointer(std::size_t i, QWidget* choice) {
    auto* cell = new QWidget(inner_);
    auto* row = new QHBoxLayout(cell);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    row->addWidget(choice, 1);
    const bool body = fields_[i].points == Field::Points::Bodies;
    auto* point = new QPushButton(tr("Point"), cell);
    point->setObjectName(QStringLiteral("point_") + fields_[i].name);
    point->setProperty("pointer", true);
    point->setCheckable(true);
    point->setMinimumHeight(target_px);
    point->setToolTip(body ? tr("Then click the body in the drawing") : tr("Then click the point in the drawing"));
    point->setAccessibleName(tr("%1: point at it in the drawing").arg(fields_[i].label));
    row->addWidget(point);
    connect(point, &QPushButton::clicked, this, [this, i](bool on) {
        const QString name = fields_[i].name;
        endPointing();
        if (!on) return;
        points_for_ = i;
        inner_->findChild<QPushButton*>(QStringLiteral("point_") + name)->setChecked(true);
        emit pointing(fields_[i].points);
    });
    return cell;
}

void EntryForm::endPointing() {
    if (!points_for_) return;
    points_for_.reset();
    for (auto* button : inner_->findChildren<QPushButton*>())
        if (button->property("pointer").toBool()) button->setChecked(false);
    emit pointing(Field::Points::Nothing);
}

bool EntryForm::pointed(const QString& owner, const QString& id) {
    if (!points_for_) return false;
    const Field field = fields_[*points_for_]; // taking it may replace them
    if (!field.points_owner.isEmpty() && field.points_owner != owner) return false;
    const QString chosen = field.points_owner.isEmpty() ? owner + QLatin1Char('/') + id : id;
    const auto is = [&chosen](const auto& choice) { return choice.first == chosen; };
    if (std::none_of(field.choices.begin(), field.choices.end(), is)) return false;
    endPointing();
    if (chosen != field.text && !field.set_text(chosen)) refill(true);
    return true;
}

QWidget* EntryForm::headingOf(const Field& field, int row) {
    auto* heading = new QToolButton(inner_);
    heading->setText(field.label);
    heading->setProperty("heading", field.label);
    heading->setProperty("row", row);
    heading->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    heading->setArrowType(Qt::DownArrow);
    heading->setStyleSheet(QStringLiteral(
        "QToolButton { border: none; background: transparent; font-weight: bold; padding: 6px 2px 2px 0; }"));
    heading->setAccessibleName(tr("%1, shown").arg(field.label));
    heading->setToolTip(tr("Folds what is under it, and shows it again"));
    const QString label = field.label;
    const bool usually = field.folded;
    connect(heading, &QToolButton::clicked, this, [this, heading, label, usually] {
        const bool folded = heading->arrowType() == Qt::DownArrow;
        fold(label, folded);
        // As it was left, the next time too.
        QSettings settings;
        for (const auto& [key, in] :
             {std::pair(folded_key, folded && !usually), std::pair(unfolded_key, !folded && usually)}) {
            QStringList all = settings.value(key).toStringList();
            all.removeAll(label);
            if (in) all << label;
            settings.setValue(key, all);
        }
    });
    return heading;
}

bool EntryForm::isFolded(const Field& heading) const {
    const QSettings settings;
    return heading.folded ? !settings.value(unfolded_key).toStringList().contains(heading.label)
                          : settings.value(folded_key).toStringList().contains(heading.label);
}

void EntryForm::fold(const QString& label, bool folded) {
    for (QToolButton* heading : inner_->findChildren<QToolButton*>()) {
        if (heading->property("heading").toString() != label) continue;
        heading->setArrowType(folded ? Qt::RightArrow : Qt::DownArrow);
        heading->setAccessibleName(folded ? tr("%1, folded").arg(label) : tr("%1, shown").arg(label));
        showRows(heading->property("row").toInt(), !folded);
    }
}

void EntryForm::showRows(int heading_row, bool shown) {
    auto* form = qobject_cast<QFormLayout*>(inner_->layout()->itemAt(0)->layout());
    for (int row = heading_row + 1; form && row < form->rowCount(); ++row) {
        const QLayoutItem* whole = form->itemAt(row, QFormLayout::SpanningRole);
        if (whole && whole->widget() && whole->widget()->property("heading").isValid()) return;
        form->setRowVisible(row, shown);
    }
}

QWidget* EntryForm::widgetOf(std::size_t i) {
    switch (fields_[i].kind) {
    case Field::Kind::Button: {
        auto* button = new QPushButton(fields_[i].label, inner_);
        button->setMinimumHeight(target_px);
        connect(button, &QPushButton::clicked, this, [this, i] {
            const auto act = fields_[i].set_on; // it may replace the fields
            act(true);
        });
        return button;
    }
    case Field::Kind::Picture: return new QLabel(inner_);
    case Field::Kind::Remark: {
        auto* label = new QLabel(inner_);
        label->setWordWrap(true);
        label->setTextFormat(Qt::PlainText);
        return label;
    }
    case Field::Kind::Choice: {
        auto* box = new ElidedCombo(inner_);
        for (const auto& choice : fields_[i].choices) box->addItem(choice.second, choice.first);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(6);
        connect(box, &QComboBox::activated, this, [this, i, box] {
            if (!filling_ && box->currentData().toString() != fields_[i].text &&
                !fields_[i].set_text(box->currentData().toString()))
                refill(true);
        });
        return box;
    }
    case Field::Kind::Flag: {
        auto* box = new QCheckBox(fields_[i].label, inner_);
        box->setMinimumHeight(target_px);
        connect(box, &QCheckBox::toggled, this, [this, i](bool on) {
            if (!filling_ && !fields_[i].set_on(on)) refill(true);
        });
        return box;
    }
    case Field::Kind::Table: {
        auto* table = new QTableWidget(0, static_cast<int>(fields_[i].heads.size()), inner_);
        QStringList heads;
        for (const QString& head : fields_[i].heads) heads << onTwoLines(head);
        table->setHorizontalHeaderLabels(heads);
        table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
        table->verticalHeader()->hide();
        table->verticalHeader()->setDefaultSectionSize(target_px);
        table->setTabKeyNavigation(true);
        connect(table, &QTableWidget::cellChanged, this, [this, i] {
            if (!filling_) enteredTable(i);
        });
        return table;
    }
    default: {
        auto* line = new FieldLine(inner_);
        connect(line, &QLineEdit::editingFinished, this, [this, i] { enteredLine(i); });
        return line;
    }
    }
}

QString EntryForm::shownText(const Field& field) const {
    if (field.kind != Field::Kind::Number) return field.text;
    return field.value ? textOf(*field.value, field.dimension, shown_) : QString();
}

void EntryForm::refill(bool sameSubject) {
    filling_ = true;
    for (std::size_t i = 0; i < fields_.size(); ++i) {
        const Field& field = fields_[i];
        if (auto* line = qobject_cast<QLineEdit*>(widgets_[i])) {
            // Somebody is typing there, or has to mend what was refused: new figures do not take it away.
            const bool typing = line->hasFocus() && line->text() != line->property("shown").toString();
            if (sameSubject && (typing || line->property("wrong").toBool())) continue;
            QString tip = field.tip;
            const QString whole = shownText(field);
            const QString text = field.kind == Field::Kind::Number ? brief(whole, tip) : whole;
            if (field.kind == Field::Kind::Words && tip.isEmpty()) tip = whole; // it may be longer than the field
            line->setToolTip(tip);
            if (line->text() != text) {
                line->setText(text);
                line->setCursorPosition(0);
            }
            line->setProperty("shown", text);
            const bool unknown = field.kind == Field::Kind::Number && field.may_be_empty && field.hint.isEmpty();
            line->setPlaceholderText(unknown ? tr("not known") : field.hint);
            if (line->property("wrong").toBool()) unsay(i);
            mark(line, false);
        } else if (field.kind == Field::Kind::Picture) {
            auto* frame = qobject_cast<QLabel*>(widgets_[i]);
            QImageReader reader(field.text);
            reader.setAutoTransform(true);
            const QSize whole = reader.size();
            if (whole.isValid()) reader.setScaledSize(whole.scaled(picture_px, Qt::KeepAspectRatio));
            const QImage image = field.text.isEmpty() ? QImage() : reader.read();
            frame->setPixmap(QPixmap::fromImage(image));
            frame->setVisible(!image.isNull());
        } else if (auto* label = qobject_cast<QLabel*>(widgets_[i])) {
            label->setText(field.text);
            label->setVisible(!field.text.isEmpty());
        } else if (auto* box = qobject_cast<QComboBox*>(widgets_[i])) {
            box->setCurrentIndex(box->findData(field.text));
            box->setToolTip(field.tip.isEmpty() ? box->currentText() : field.tip); // it may be longer than the box
        } else if (auto* flag = qobject_cast<QCheckBox*>(widgets_[i])) {
            flag->setChecked(field.on);
        } else if (auto* table = qobject_cast<QTableWidget*>(widgets_[i])) {
            refillTable(table, field);
        }
    }
    filling_ = false;
}

void EntryForm::refillTable(QTableWidget* table, const Field& field) {
    const int rows = static_cast<int>(field.rows.size());
    const bool full = field.most_rows > 0 && field.rows.size() >= field.most_rows;
    const int all = full ? rows : rows + 1; // the last one is for another
    table->setRowCount(all);
    for (int r = 0; r < all; ++r)
        for (int c = 0; c < table->columnCount(); ++c) {
            const QString text = r < rows ? textOf(field.rows[static_cast<std::size_t>(r)][static_cast<std::size_t>(c)],
                                                   field.dimension, shown_)
                                          : QString();
            QString tip;
            const QString words = brief(text, tip);
            QTableWidgetItem* item = table->item(r, c);
            if (!item) table->setItem(r, c, item = new QTableWidgetItem);
            item->setText(words);
            item->setData(Qt::UserRole, words);
            item->setToolTip(tip);
            item->setBackground(QBrush());
        }
    table->setFixedHeight(table->horizontalHeader()->sizeHint().height() + target_px * std::min(all, 7) + 4);
}

void EntryForm::mark(QWidget* widget, bool wrong) {
    if (widget->property("wrong").toBool() == wrong) return;
    widget->setProperty("wrong", wrong);
    widget->style()->unpolish(widget);
    widget->style()->polish(widget);
}

void EntryForm::hear(const QString& words, bool trouble) {
    if (trouble) heard_ = words;
}

void EntryForm::say(std::size_t i, const QString& words, const std::vector<std::pair<QString, double>>& instead) {
    unsay(i);
    QWidget* cell = widgets_[i]->parentWidget();
    auto* column = cell ? qobject_cast<QVBoxLayout*>(cell->layout()) : nullptr;
    if (!column || cell == inner_) return;
    auto* said = new QLabel(words, cell);
    said->setObjectName(QStringLiteral("said"));
    said->setWordWrap(true);
    said->setTextFormat(Qt::PlainText);
    QPalette tone = said->palette();
    tone.setColor(QPalette::WindowText, tones().trouble);
    said->setPalette(tone);
    column->addWidget(said);
    widgets_[i]->setAccessibleDescription(words);
    for (const auto& [choice, value] : instead) {
        auto* button = new QPushButton(choice, cell);
        button->setObjectName(QStringLiteral("instead"));
        button->setMinimumHeight(target_px);
        column->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, i, value = value] {
            unsay(i);
            give(i, value);
        });
    }
    ensureWidgetVisible(said);
}

void EntryForm::unsay(std::size_t i) {
    QWidget* cell = widgets_[i]->parentWidget();
    if (!cell || cell == inner_) return;
    widgets_[i]->setAccessibleDescription(QString());
    for (QWidget* its : cell->findChildren<QWidget*>())
        if (its->objectName() == QLatin1String("said") || its->objectName() == QLatin1String("instead")) {
            its->hide();
            its->setObjectName(QString());
            its->deleteLater(); // it may be the one that was pressed
        }
}

bool EntryForm::asks(std::size_t i, const QString& typed, double value) {
    const Field& field = fields_[i];
    const QString words = typed.trimmed();
    if (field.dimension == quantity::Dimension::Length && !shown_.inches() &&
        quantity::bareFraction(words.toStdString())) {
        quantity::Shown inches = shown_;
        inches.length = quantity::LengthStyle::Sixteenths;
        const auto as_inches = quantity::parse(*field.dimension, words.toStdString(), inches);
        if (as_inches) {
            say(i, tr("%1 without a unit: inches?").arg(words),
                {{tr("%1 in").arg(words), as_inches.value()}, {tr("%1 mm").arg(words), value}});
            return true;
        }
    }
    if (field.possible && (value < field.possible->first || value > field.possible->second)) return false;
    if (field.usual && (value < field.usual->first || value > field.usual->second)) {
        const QString shown = textOf(value, field.dimension, shown_);
        say(i,
            tr("%1 is far from usual (%2 to %3).")
                .arg(shown, textOf(field.usual->first, field.dimension, shown_),
                     textOf(field.usual->second, field.dimension, shown_)),
            {{tr("It is %1").arg(shown), value}});
        return true;
    }
    return false;
}

/// What was meant is taken, or said why it is not.
void EntryForm::give(std::size_t i, std::optional<double> value) {
    QWidget* line = widgets_[i];
    const Field field = fields_[i]; // the setter may replace the fields
    heard_.clear();
    const bool taken = field.set_value(value);
    // What was taken may be shown in other words, or the form may have gone.
    if (i >= widgets_.size() || widgets_[i] != line) return;
    mark(line, !taken);
    if (!taken) return say(i, heard_.isEmpty() ? tr("It was not taken.") : heard_);
    unsay(i);
    emit mended();
    refill(true);
}

void EntryForm::enteredLine(std::size_t i) {
    auto* line = qobject_cast<QLineEdit*>(widgets_[i]);
    if (!line || filling_ || line->text() == line->property("shown").toString()) return;
    line->setProperty("shown", line->text()); // said once, not at every loss of focus
    const bool was_wrong = line->property("wrong").toBool();
    mark(line, false);
    unsay(i);
    const Field field = fields_[i]; // the setter may replace the fields
    bool taken = false;
    QString refused;
    heard_.clear();
    if (field.kind == Field::Kind::Words) {
        taken = field.set_text(line->text());
    } else if (line->text().trimmed().isEmpty()) {
        if (field.may_be_empty)
            taken = field.set_value(std::nullopt);
        else
            refused = tr("It cannot be left empty.");
    } else if (const auto value = read(line->text(), field.dimension, shown_, field.money); !value) {
        refused = QString::fromStdString(value.error().line());
    } else if (asks(i, line->text(), value.value())) {
        mark(line, true); // it is not in the drawing yet
        return;
    } else {
        taken = field.set_value(value.value());
    }
    // What was taken may be shown in other words, or the form may have gone.
    const bool here = i < widgets_.size() && widgets_[i] == line;
    if (!refused.isEmpty()) emit wrong(tr("%1: %2").arg(field.label, refused));
    if (taken && was_wrong) emit mended();
    if (!here) return;
    mark(line, !taken);
    if (!taken) say(i, !refused.isEmpty() ? refused : !heard_.isEmpty() ? heard_ : tr("It was not taken."));
}

void EntryForm::enteredTable(std::size_t i) {
    auto* table = qobject_cast<QTableWidget*>(widgets_[i]);
    const Field field = fields_[i];
    Rows rows;
    bool waits = false, changed = false;
    for (int r = 0; r < table->rowCount(); ++r) {
        std::vector<double> row;
        int empty = 0;
        bool lacks = false; // the rest of the row is still to come
        for (int c = 0; c < table->columnCount(); ++c) {
            QTableWidgetItem* item = table->item(r, c);
            const QString text = item ? item->text().trimmed() : QString();
            const bool old = static_cast<std::size_t>(r) < field.rows.size();
            if (text.isEmpty()) {
                ++empty;
                const auto column = static_cast<std::size_t>(c);
                const bool stands = column < field.when_empty.size() && field.when_empty[column].has_value();
                lacks = lacks || !stands;
                changed = changed || (old && !item->data(Qt::UserRole).toString().isEmpty());
                row.push_back(stands ? *field.when_empty[column] : 0.0);
                continue;
            }
            if (old && text == item->data(Qt::UserRole).toString()) {
                row.push_back(field.rows[static_cast<std::size_t>(r)][static_cast<std::size_t>(c)]);
                continue;
            }
            const auto value = read(text, field.dimension, shown_);
            if (!value) {
                emit wrong(tr("%1, row %2, %3: %4")
                               .arg(field.label)
                               .arg(r + 1)
                               .arg(field.heads[c], QString::fromStdString(value.error().line())));
                return;
            }
            changed = true;
            row.push_back(value.value());
        }
        if (empty == table->columnCount()) {
            changed = changed || static_cast<std::size_t>(r) < field.rows.size();
            continue;
        }
        waits = waits || lacks;
        rows.push_back(std::move(row));
    }
    if (waits || !changed) return;
    if (rows.size() < field.fewest_rows) {
        emit wrong(tr("%1: at least %2 rows are needed.").arg(field.label).arg(field.fewest_rows));
        refill(true);
        return;
    }
    if (!field.set_rows(rows)) refill(true);
}

} // namespace gabarit::app

#include "moc_entry_form.cpp"
