#include "stages/place/compare_block.h"

#include "forms/tones.h"
#include "kit/sheet.h"
#include "make/compare.h"
#include "session/session.h"

#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace gabarit::app {

CompareBlock::CompareBlock(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), head_(new QLabel(this)),
      table_(makeSheet({tr("Figure"), tr("Pinned"), tr("Now")}, {0}, this)), changes_(new QLabel(this)) {
    head_->setWordWrap(true);
    head_->setTextFormat(Qt::PlainText);
    changes_->setWordWrap(true);
    changes_->setTextFormat(Qt::PlainText);
    table_->setAccessibleName(tr("Figures of the pinned placement and of this one"));
    table_->setWordWrap(true);
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    table_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* acts = new QGridLayout;
    const auto make = [this](const char* name, const QString& text, const QString& tip) {
        auto* button = new QPushButton(text, this);
        button->setObjectName(QString::fromLatin1(name));
        button->setToolTip(tip);
        button->setMinimumHeight(target_px);
        return button;
    };
    QPushButton* pin = make("pin", tr("Pin this placement"),
                            tr("Keeps its figures and outlines as they are now, to be compared with"));
    QPushButton* unpin = make("unpin", tr("Unpin"), tr("Takes the pinned outline out of the drawing"));
    QPushButton* as = make("as_pinned", tr("Hang it as pinned"), tr("Moves the engine back there, as one step"));
    acts->addWidget(pin, 0, 0, 1, 2);
    acts->addWidget(as, 1, 0);
    acts->addWidget(unpin, 1, 1);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 8, 8, 6);
    column->addLayout(acts);
    column->addWidget(head_);
    column->addWidget(table_, 1);
    column->addWidget(changes_);
    connect(pin, &QPushButton::clicked, this, [this] { session_.setPin(true); });
    connect(unpin, &QPushButton::clicked, this, [this] { session_.setPin(false); });
    connect(as, &QPushButton::clicked, this, [this] { session_.hangAsPinned(); });
    connect(&session_, &Session::pinChanged, this, &CompareBlock::refresh);
    connect(&session_, &Session::reportsChanged, this, &CompareBlock::refresh);
    refresh();
}

QPushButton* CompareBlock::button(const QString& name) const { return findChild<QPushButton*>(name); }
QString CompareBlock::words() const { return changes_->text(); }

void CompareBlock::refresh() {
    const auto reports = session_.reports();
    const bool pinned = session_.pin().has_value();
    button(QStringLiteral("unpin"))->setEnabled(pinned);
    button(QStringLiteral("as_pinned"))->setEnabled(pinned);
    table_->setVisible(pinned && reports);
    changes_->setVisible(pinned && reports);
    if (!pinned || !reports) {
        head_->setText(tr("Pin a placement, then move on or choose another: both stand here side by side, and the "
                          "pinned one's outline stays in the drawing as a dash-dotted line."));
        return;
    }
    head_->setText(tr("Pinned: %1").arg(session_.pin()->name));
    const make::Comparison both = make::compared(*session_.pin()->reports, *reports, session_.shown());
    table_->setRowCount(static_cast<int>(both.figures.size()));
    int row = 0;
    for (const make::ComparedFigure& figure : both.figures) {
        const QString now = QString::fromStdString(figure.now), by = QString::fromStdString(figure.difference);
        // The difference stands under the figure it belongs to: four columns are too many for this place.
        setRow(table_, row,
               {QString::fromStdString(figure.name), QString::fromStdString(figure.pinned),
                by.isEmpty() || figure.difference == "same" ? now : now + QLatin1Char('\n') + by},
               {0});
        QTableWidgetItem* item = table_->item(row, 2);
        if (figure.became_no_go) item->setForeground(tones().trouble);
        item->setToolTip(figure.better > 0   ? tr("better than pinned")
                         : figure.better < 0 ? tr("worse than pinned")
                                             : QString());
        ++row;
    }
    table_->resizeRowsToContents();
    QStringList words;
    for (const std::string& title : both.went)
        words << tr("No longer in the way: %1").arg(QString::fromStdString(title));
    for (const std::string& title : both.came) words << tr("New in the way: %1").arg(QString::fromStdString(title));
    if (words.isEmpty()) words << tr("The same things are in the way.");
    constexpr qsizetype most = 3; // the list has them all
    const qsizetype more = words.size() - most;
    if (more > 0) words = words.mid(0, most) << tr("and %1 more").arg(more);
    changes_->setText(words.join(QLatin1Char('\n')));
}

} // namespace gabarit::app

#include "moc_compare_block.cpp"
