// A form described by its fields: what stands in each, and what is done when a person changes it.
#pragma once

#include "quantity/once.h"
#include "quantity/quantity.h"

#include <QScrollArea>
#include <QString>
#include <QStringList>

#include <functional>
#include <optional>
#include <utility>
#include <vector>

class QFormLayout;
class QLabel;
class QTableWidget;

namespace gabarit::app {

using Rows = std::vector<std::vector<double>>;

/// One field. A setter returns false when the change was refused: what was typed then stays, marked.
struct Field {
    enum class Kind { Heading, Remark, Words, Number, Choice, Flag, Table, Button, Picture };
    Kind kind = Kind::Words;
    QString name; ///< object name, unique in the form
    QString label;
    QString tip;
    QString text; ///< as shown, for words and remarks; of a picture: its file
    QString hint; ///< stands greyed in an empty field
    std::optional<double> value;
    std::optional<quantity::Dimension> dimension; ///< of a number or of a table's cells; nothing: a bare number
    bool may_be_empty = true;
    bool money = false;  ///< a sum of the project's currency
    bool more = false;   ///< not needed first: it stands behind "More" at the form's end
    bool folded = false; ///< of a heading: what stands under it is behind it until it is asked for
    /// Between what it usually lies; anything else is asked once more. Nothing: all is taken.
    std::optional<std::pair<double, double>> usual;
    /// Beyond these nothing is asked: whoever takes it refuses it.
    std::optional<std::pair<double, double>> possible;
    std::vector<std::pair<QString, QString>> choices; ///< id, words
    /// Of a choice: what of a drawing can be pointed at instead, of which owner. Without an owner ids are "owner/id".
    enum class Points { Nothing, Bodies, Places };
    Points points = Points::Nothing;
    QString points_owner;
    bool on = false;
    QStringList heads;
    Rows rows;
    std::size_t fewest_rows = 0;
    std::size_t most_rows = 0; ///< 0: as many as are typed
    /// What a column's empty cell stands for once the others of its row are typed; nothing: it is waited for.
    std::vector<std::optional<double>> when_empty;
    std::function<bool(const QString&)> set_text; ///< words, or the chosen id
    std::function<bool(std::optional<double>)> set_value;
    std::function<bool(bool)> set_on;
    std::function<bool(const Rows&)> set_rows;

    GABARIT_ONCE_DECLARED(Field);
};

namespace fields {
Field heading(const QString& label);
Field remark(const QString& name, const QString& text);
Field words(const QString& name, const QString& label, const std::string& text,
            std::function<bool(const std::string&)> set);
/// A length, mass, angle… that must be there.
Field quantity(const QString& name, const QString& label, quantity::Dimension dimension, double value,
               std::function<bool(double)> set);
/// One that may be unknown.
Field known(const QString& name, const QString& label, quantity::Dimension dimension, std::optional<double> value,
            std::function<bool(std::optional<double>)> set);
Field number(const QString& name, const QString& label, std::optional<double> value,
             std::function<bool(std::optional<double>)> set);
Field choice(const QString& name, const QString& label, std::vector<std::pair<QString, QString>> choices,
             const std::string& current, std::function<bool(const std::string&)> set);
Field flag(const QString& name, const QString& label, bool on, std::function<bool(bool)> set);
/// A table of lengths; the empty last row adds one, emptying a row takes it out.
Field table(const QString& name, const QString& label, const QStringList& heads, Rows rows, std::size_t fewest,
            std::function<bool(const Rows&)> set);
/// Something to be done, not entered.
Field button(const QString& name, const QString& label, std::function<void()> act);
/// A picture from a file; nothing is shown when it cannot be read.
Field picture(const QString& name, const QString& file);
} // namespace fields

class EntryForm : public QScrollArea {
    Q_OBJECT
public:
    explicit EntryForm(QWidget* parent = nullptr);
    ~EntryForm() override;
    /// How wide the words before the fields are, px.
    void setLabelWidth(int width_px) { label_width_px_ = width_px; }

    /// Shows these fields. Where they are the same fields as before, only what stands in them changes and the cursor
    /// stays where it is. `subject` says what they are of: while it is the same, what is being typed, and what was
    /// refused, is left alone.
    void show(std::vector<Field> fields, quantity::Shown shown, const QString& subject = {});
    /// Puts the cursor into the first field.
    void begin();
    /// A drawing stands beside it: what names a body or a point gets a button to point at it there. Before show().
    void letPoint() { lets_point_ = true; }
    /// What was pointed at, taken as if it were chosen; false: it is none of those that can be, and nothing changes.
    bool pointed(const QString& owner, const QString& id);
    /// Nothing is pointed at any more.
    void endPointing();

    /// Why something was not taken, said by whoever refused it: it then stands at the field too.
    void hear(const QString& words, bool trouble);
    /// Unfolds what is under a heading, by its words, or folds it.
    void fold(const QString& heading, bool folded);

signals:
    /// What was typed cannot be read, and why.
    void wrong(const QString& words);
    /// What was wrong is mended.
    void mended();
    /// Something in the drawing is to be pointed at; Nothing: not any more.
    void pointing(gabarit::app::Field::Points what);

private:
    void build();
    void refill(bool sameSubject);
    void refillTable(QTableWidget* table, const Field& field);
    QWidget* widgetOf(std::size_t field);
    QWidget* withPointer(std::size_t field, QWidget* choice);
    void enteredLine(std::size_t field);
    void enteredTable(std::size_t field);
    void mark(QWidget* widget, bool wrong);
    /// A heading that what is under it folds behind.
    QWidget* headingOf(const Field& field, int row);
    void showRows(int heading_row, bool shown);
    bool isFolded(const Field& heading) const;
    /// Under a field, why it was not taken, and what else could have been meant.
    void say(std::size_t field, const QString& words, const std::vector<std::pair<QString, double>>& instead = {});
    void unsay(std::size_t field);
    void give(std::size_t field, std::optional<double> value);
    /// What is asked before a figure is taken; false: nothing.
    bool asks(std::size_t field, const QString& typed, double value);
    QString shownText(const Field& field) const;

    std::vector<Field> fields_;
    std::vector<QWidget*> widgets_;
    quantity::Shown shown_;
    QString signature_;
    QString subject_;
    QWidget* inner_ = nullptr;
    int label_width_px_ = 112;
    bool filling_ = false;
    QString heard_; ///< while a setter is at work
    bool lets_point_ = false;
    std::optional<std::size_t> points_for_;
};

} // namespace gabarit::app
