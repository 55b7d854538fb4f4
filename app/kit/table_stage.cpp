#include "kit/table_stage.h"

#include "fields/editing.h"
#include "forms/tones.h"
#include "kit/page_columns.h"
#include "kit/sheet.h"
#include "session/session.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace gabarit::app {
namespace {
constexpr int form_width_px = 332;
}

TableStage::TableStage(Session& session, const QStringList& heads, const QList<int>& left, QWidget* parent)
    : Stage(parent), session_(session), left_(left), table_(makeSheet(heads, left, this)), form_(new EntryForm(this)),
      above_(new QVBoxLayout), below_(new QVBoxLayout), buttons_(new QHBoxLayout) {
    constexpr int readable_px = 500; // a smaller page is scrolled
    table_->setMinimumWidth(readable_px);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    auto* listed = new QWidget(this);
    auto* column = new QVBoxLayout(listed);
    column->setContentsMargins(18, 14, 12, 14);
    column->setSpacing(10);
    column->addLayout(above_);
    column->addWidget(table_, 1);
    buttons_->addStretch();
    column->addLayout(buttons_);
    column->addLayout(below_);
    columns_ = new PageColumns(this, nullptr, listed, form_, form_width_px);
    connect(table_, &QTableWidget::currentCellChanged, this, [this](int now, int, int before, int) {
        if (filling_ || now == before) return;
        wanted_ = key();
        refreshForm();
    });
    joinForm(*form_, session_);
    const auto whenSeen = [this] {
        if (isVisible()) refresh();
    };
    connect(&session_, &Session::reportsChanged, this, whenSeen);
    connect(&session_, &Session::projectChanged, this, whenSeen);
}

void TableStage::setNarrow(bool narrow) {
    columns_->setNarrow(narrow);
    constexpr int some_rows_px = 200;
    table_->setMinimumHeight(narrow ? some_rows_px : 0);
    narrow_ = narrow;
    fitWords();
}

/// In a small window the page scrolls: words above and below the table take the height that they need.
void TableStage::fitWords() {
    for (const QVBoxLayout* words : {above_, below_})
        for (int i = 0; i < words->count(); ++i)
            if (auto* label = qobject_cast<QLabel*>(words->itemAt(i)->widget()); label && label->wordWrap())
                label->setMinimumHeight(narrow_ ? std::max(0, label->heightForWidth(table_->width())) : 0);
}

void TableStage::resizeEvent(QResizeEvent* event) {
    Stage::resizeEvent(event);
    fitWords();
}

QPushButton* TableStage::button(const QString& name) const { return findChild<QPushButton*>(name); }

void TableStage::choose(const QString& key) {
    wanted_ = key;
    refresh();
}

void TableStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (session_.hasProject()) refresh();
    fitWords();
}

QPushButton* TableStage::addButton(const char* name, const QString& text, const QString& tip) {
    auto* button = new QPushButton(text, this);
    button->setObjectName(QString::fromLatin1(name));
    button->setToolTip(tip);
    button->setMinimumHeight(target_px);
    buttons_->insertWidget(buttons_->count() - 1, button);
    return button;
}

QString TableStage::key() const {
    const QTableWidgetItem* cell = table_->item(table_->currentRow(), 0);
    return cell ? cell->data(Qt::UserRole).toString() : QString();
}

void TableStage::beginRows(std::size_t count) {
    filling_ = true;
    // While they fill, columns do not follow what is in them: each cell would have all of them measured again.
    modes_.clear();
    for (int c = 0; c < table_->columnCount(); ++c) {
        modes_.push_back(table_->horizontalHeader()->sectionResizeMode(c));
        table_->horizontalHeader()->setSectionResizeMode(c, QHeaderView::Interactive);
    }
    table_->setUpdatesEnabled(false);
    table_->setRowCount(static_cast<int>(count));
}

void TableStage::putRow(int row, const QString& key, const QStringList& cells) {
    setRow(table_, row, cells, left_);
    for (int c = 0; c < table_->columnCount(); ++c) table_->item(row, c)->setToolTip(cells[c]);
    table_->item(row, 0)->setData(Qt::UserRole, key);
    if (key == wanted_) table_->setCurrentCell(row, 0);
}

void TableStage::endRows() {
    for (std::size_t c = 0; c < modes_.size(); ++c)
        table_->horizontalHeader()->setSectionResizeMode(static_cast<int>(c), modes_[c]);
    table_->resizeRowsToContents(); // words on two lines keep to their own row
    table_->setUpdatesEnabled(true);
    if (table_->currentRow() < 0 && table_->rowCount() > 0) table_->setCurrentCell(0, 0);
    wanted_ = key();
    filling_ = false;
    refreshForm();
}

} // namespace gabarit::app

#include "moc_table_stage.cpp"
