// Gaps measured on the real thing, written down beside the planned ones.
#pragma once

#include "forms/entry_form.h"
#include "model/project.h"

#include <QWidget>

class QLabel;
class QListWidget;
class QPushButton;

namespace gabarit::app {

class Lookout;
class Session;

class MeasuredBlock : public QWidget {
    Q_OBJECT
public:
    MeasuredBlock(Session& session, Lookout& lookout, QWidget* parent = nullptr);
    /// Fields: "a", "b", "planned", "gap", "accuracy", "date", "who", "note".
    EntryForm* form() const { return form_; }
    QListWidget* list() const { return list_; }
    QString suspect() const;
    /// "write", "strike".
    QPushButton* button(const QString& name) const;

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void refreshForm();
    void take();
    void write();
    void strike();
    Session& session_;
    Lookout& lookout_;
    EntryForm* form_;
    QListWidget* list_;
    QLabel* suspect_;
    model::MeasuredGap entry_; ///< what is being written
    std::optional<double> gap_mm_;
};

} // namespace gabarit::app
