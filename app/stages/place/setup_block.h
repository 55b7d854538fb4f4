// What hangs here and in which form: placements, the donor, how it lies, choices, panels on or off.
#pragma once

#include "forms/entry_form.h"

#include <QWidget>

class QPushButton;

namespace gabarit::app {

class Session;

class SetupBlock : public QWidget {
    Q_OBJECT
public:
    explicit SetupBlock(Session& session, QWidget* parent = nullptr);
    /// Fields: "placement_name", "donor", "orientation", "choice:OWNER/CHOICE", "panel:BODY", "placement_note".
    EntryForm* form() const { return form_; }
    /// "another", "drop".
    QPushButton* button(const QString& name) const;

private:
    void refresh();
    void another();
    void drop();
    Session& session_;
    EntryForm* form_;
};

} // namespace gabarit::app
