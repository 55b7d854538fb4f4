// Where the donor stands, in figures that can be typed over.
#pragma once

#include "forms/field_line.h"
#include "quantity/quantity.h"

#include <QLineEdit>
#include <QWidget>

class QComboBox;

namespace gabarit::app {

class Session;

/// A number whose sign is a word: "6.0 mm to the passenger's side", "3.00° down". Accepts what people write, with the
/// word, its first letters, or nothing (then the first word is meant, or the second for a minus sign).
class SidedField : public FieldLine {
    Q_OBJECT
public:
    SidedField(quantity::Dimension dimension, QWidget* parent = nullptr);
    void setWords(const QString& positive, const QString& negative);
    void setValue(double value, const quantity::Shown& shown);
    /// What stands in the field; an error says what is wrong with it.
    Result<double> read(const quantity::Shown& shown) const;

signals:
    void entered(); ///< the user finished a change

private:
    quantity::Dimension dimension_;
    QString positive_;
    QString negative_;
    QString last_;
};

class PoseFields : public QWidget {
    Q_OBJECT
public:
    explicit PoseFields(Session& session, QWidget* parent = nullptr);
    /// "x", "y", "z", "tail", "swing", "lean".
    SidedField* field(const QString& name) const { return findChild<SidedField*>(name); }

private:
    void refresh();
    void apply();
    Session& session_;
    QComboBox* placement_;
    QComboBox* pivot_;
    SidedField* x_;
    SidedField* y_;
    SidedField* z_;
    SidedField* tail_;
    SidedField* swing_;
    SidedField* lean_;
};

} // namespace gabarit::app
