// A run of readings from one hook, typed one after the other.
#pragma once

#include "fields/survey_forms.h"

#include <QWidget>

class QComboBox;
class QTableWidget;

namespace gabarit::app {

/// Hooks the tape on a point, points it one way, and lists all that can be read along it, nearest first. What is typed
/// moves what it belongs to at once, wherever that thing's own readings are hooked; a name in the last row makes a new
/// point there.
class TapePad : public QWidget {
    Q_OBJECT
public:
    explicit TapePad(Session& session, QWidget* parent = nullptr);
    void setOwner(const std::string& owner);
    void refresh();
    QComboBox* hook() const { return hook_; }
    QComboBox* direction() const { return direction_; }
    QTableWidget* table() const { return table_; }

private:
    struct Row {
        ReadingPlace place;
        QString words;
        double at_mm = 0;     ///< along the axis, owner's frame
        double hooked_mm = 0; ///< where its own readings are hooked
    };
    std::vector<Row> rowsAlong(int axis) const;
    double hookAt_mm(int axis) const;
    void fill(bool anew);
    void entered(int row, int column);
    void goOn(int row);

    Session& session_;
    QComboBox* hook_;
    QComboBox* direction_;
    QTableWidget* table_;
    std::string owner_;
    std::vector<Row> rows_;
    bool filling_ = false;
};

} // namespace gabarit::app
