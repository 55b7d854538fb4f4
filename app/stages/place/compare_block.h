// A pinned placement beside the one that hangs now.
#pragma once

#include <QWidget>

class QLabel;
class QPushButton;
class QTableWidget;

namespace gabarit::app {

class Session;

class CompareBlock : public QWidget {
    Q_OBJECT
public:
    explicit CompareBlock(Session& session, QWidget* parent = nullptr);
    QTableWidget* table() const { return table_; }
    QString words() const;
    /// "pin", "unpin", "as_pinned".
    QPushButton* button(const QString& name) const;

private:
    void refresh();
    Session& session_;
    QLabel* head_;
    QTableWidget* table_;
    QLabel* changes_;
};

} // namespace gabarit::app
