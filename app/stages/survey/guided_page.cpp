#include "stages/survey/guided_page.h"

#include "fields/editing.h"
#include "forms/entry_form.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "kit/page_columns.h"
#include "session/session.h"
#include "stages/survey/survey_drawing.h"
#include "store/first_survey.h"

#include <QApplication>
#include <QDate>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSettings>
#include <QTimer>
#include <QVBoxLayout>

namespace gabarit::app {
namespace {
constexpr int guided_list_width_px = 236;
constexpr int guided_form_width_px = 330;
} // namespace

GuidedPage::GuidedPage(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), survey_(store::firstSurvey()), questions_(new QListWidget(this)),
      drawing_(new SurveyDrawing(this)), form_(new EntryForm(this)), title_(new QLabel(this)), hook_(new QLabel(this)),
      caution_(new QLabel(this)), progress_(new QLabel(this)), accuracy_mm_(survey_.tape_accuracy_mm),
      who_(QSettings().value(who_key).toString()) {
    const auto make = [this](const char* name, const QString& text, const QString& tip) {
        auto* button = new QPushButton(text, this);
        button->setObjectName(QString::fromLatin1(name));
        button->setToolTip(tip);
        button->setMinimumHeight(target_px);
        return button;
    };
    questions_->setAccessibleName(tr("Questions"));
    questions_->setWordWrap(true);
    questions_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    for (const model::SurveyQuestion& question : survey_.questions)
        (new QListWidgetItem(q(question.title), questions_))->setData(Qt::UserRole, q(question.id));
    auto* left = new QVBoxLayout;
    left->setContentsMargins(8, 8, 8, 8);
    QPushButton* all =
        make("all", tr("All that was measured"), tr("The whole survey: bodies, points, masses and more"));
    left->addWidget(all);
    QPushButton* tape = make("tape_mode", tr("Tape mode"), tr("One reading a page, in large figures, beside the car"));
    left->addWidget(tape);
    left->addWidget(questions_, 1);
    auto* leftBox = new QWidget(this);
    leftBox->setLayout(left);
    leftBox->setFixedWidth(guided_list_width_px);

    QFont large = title_->font();
    large.setPointSizeF(large.pointSizeF() * 1.4);
    large.setBold(true);
    title_->setFont(large);
    for (QLabel* label : {hook_, caution_, progress_}) label->setWordWrap(true);
    QPalette warning = caution_->palette();
    warning.setColor(QPalette::WindowText, tones().trouble);
    caution_->setPalette(warning);
    auto* middle = new QVBoxLayout;
    middle->setContentsMargins(12, 10, 12, 10);
    middle->addWidget(title_);
    middle->addWidget(hook_);
    middle->addWidget(caution_);
    middle->addWidget(drawing_, 1);

    auto* right = new QVBoxLayout;
    right->setContentsMargins(4, 8, 8, 8);
    form_->setLabelWidth(150);
    right->addWidget(form_, 1);
    right->addWidget(progress_);
    auto* buttons = new QGridLayout;
    buttons->setSpacing(4);
    QPushButton* back = make("back", tr("Back"), tr("The question before"));
    QPushButton* skip = make("skip", tr("Skip, or next"), tr("Leaves what is open assumed; it can be read later"));
    QPushButton* verdict =
        make("verdict", tr("See what it touches"), tr("Goes to the drawing with the gaps, assumed ones and all"));
    buttons->addWidget(back, 0, 0);
    buttons->addWidget(skip, 0, 1);
    buttons->addWidget(verdict, 1, 0, 1, 2);
    right->addLayout(buttons);
    auto* rightBox = new QWidget(this);
    rightBox->setLayout(right);
    auto* middleBox = new QWidget(this);
    middleBox->setLayout(middle);
    columns_ = new PageColumns(this, leftBox, middleBox, rightBox, guided_form_width_px);

    connect(all, &QPushButton::clicked, this, &GuidedPage::allWanted);
    connect(tape, &QPushButton::clicked, this, &GuidedPage::tapeModeWanted);
    connect(verdict, &QPushButton::clicked, this, &GuidedPage::verdictWanted);
    connect(back, &QPushButton::clicked, this, [this] { ask(std::max(0, asked() - 1)); });
    connect(skip, &QPushButton::clicked, this, &GuidedPage::next);
    connect(questions_, &QListWidget::currentRowChanged, this, [this] { refreshQuestion(); });
    joinForm(*form_, session_);
    connect(&session_, &Session::projectChanged, this, [this] {
        if (isVisible()) refresh();
    });
    connect(&session_, &Session::projectReplaced, this, [this] { questions_->setCurrentRow(0); });
    questions_->setCurrentRow(0);
}

QPushButton* GuidedPage::button(const QString& name) const { return findChild<QPushButton*>(name); }

int GuidedPage::asked() const { return std::max(0, questions_->currentRow()); }

void GuidedPage::setNarrow(bool narrow) { columns_->setNarrow(narrow); }

void GuidedPage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void GuidedPage::ask(int question) {
    questions_->setCurrentRow(question);
    form_->begin();
}

void GuidedPage::next() {
    if (asked() + 1 < questions_->count())
        ask(asked() + 1);
    else
        emit verdictWanted();
}

void GuidedPage::refresh() {
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    for (int i = 0; i < questions_->count(); ++i) {
        const model::SurveyQuestion& question = survey_.questions[static_cast<std::size_t>(i)];
        const bool needed = std::any_of(question.entries.begin(), question.entries.end(),
                                        [](const model::SurveyEntryRule& e) { return e.needed; });
        QString state = needed ? tr("to be read") : tr("later");
        switch (model::answered(project, survey_, question)) {
        case model::Answered::None: break;
        case model::Answered::Some: state = tr("begun, the rest assumed"); break;
        case model::Answered::All: state = tr("read"); break;
        }
        questions_->item(i)->setText(tr("%1 · %2").arg(q(question.title), state));
    }
    std::size_t wanted = 0;
    for (const model::SurveyQuestion& question : survey_.questions)
        for (const model::SurveyEntryRule& entry : question.entries) wanted += entry.needed;
    const std::size_t open = model::stillNeeded(project, survey_).size();
    progress_->setText(open > 0 ? tr("%1 of %2 readings for a first verdict.").arg(wanted - open).arg(wanted)
                                : tr("Enough for a first verdict. What is still assumed counts as ±%1; every further "
                                     "reading makes it surer.")
                                      .arg(q(quantity::lengthText(survey_.assumed_accuracy_mm, session_.shown(), 0))));
    button(QStringLiteral("verdict"))->setEnabled(!project.placements.empty());
    refreshQuestion();
}

void GuidedPage::refreshQuestion() {
    if (!session_.hasProject()) return;
    const model::Project& project = *session_.project();
    const model::SurveyQuestion& question = survey_.questions[static_cast<std::size_t>(asked())];
    title_->setText(q(question.title));
    hook_->setText(q(model::sided(project, question.hook)));
    caution_->setText(q(question.caution));
    caution_->setVisible(!question.caution.empty());
    std::vector<Field> out;
    std::vector<SurveyArrow> arrows;
    for (const model::SurveyEntryRule& entry : question.entries) {
        const model::SurveyValue stands = model::surveyValue(project, survey_, entry.id);
        const auto dimension = entry.is_mass ? quantity::Dimension::Mass : quantity::Dimension::Length;
        const QString shown = q(quantity::text(dimension, stands.value, session_.shown(), 0));
        Field field = fields::known(q(entry.id), q(model::sided(project, entry.label)), dimension,
                                    stands.answered ? std::optional(stands.value) : std::nullopt,
                                    [this, &entry](std::optional<double> value) { return answer(entry, value); });
        field.usual = model::usual(project, survey_, entry);
        field.hint = tr("assumed %1").arg(shown);
        out.push_back(std::move(field));
        if (entry.arrow.size() == 2 && (entry.drawing.empty() || entry.drawing == question.drawing))
            arrows.push_back({q(entry.id),
                              {entry.arrow[0].x(), entry.arrow[0].y()},
                              {entry.arrow[1].x(), entry.arrow[1].y()},
                              stands.answered ? shown : tr("%1?").arg(shown),
                              arrows.empty()});
    }
    out.push_back(fields::heading(tr("For every answer")));
    out.push_back(fields::quantity(QStringLiteral("tape_accuracy"), tr("The tape reads to ±"),
                                   quantity::Dimension::Length, accuracy_mm_, [this](double mm) {
                                       if (mm <= 0) return false;
                                       accuracy_mm_ = mm;
                                       return true;
                                   }));
    out.back().tip = q(survey_.source);
    out.push_back(fields::words(QStringLiteral("who"), tr("Read by"), who_.toStdString(), [this](const std::string& v) {
        who_ = q(v);
        QSettings().setValue(who_key, who_);
        return true;
    }));
    form_->show(std::move(out), session_.shown(), q(question.id));
    for (QLineEdit* line : form_->findChildren<QLineEdit*>()) {
        line->removeEventFilter(this);
        line->installEventFilter(this);
    }
    drawing_->show(q(question.drawing), model::SurveyProportion(project, survey_, survey_.drawing(question.drawing)),
                   std::move(arrows), q(question.id), q(question.title), q(question.hook));
    const QWidget* focus = QApplication::focusWidget();
    if (focus && form_->isAncestorOf(focus)) drawing_->setActive(focus->objectName());
}

bool GuidedPage::answer(const model::SurveyEntryRule& entry, std::optional<double> value) {
    model::Provenance measured;
    measured.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    measured.who = who_.toStdString();
    const auto changed = model::withAnswer(*session_.project(), survey_, entry.id, value, accuracy_mm_, measured);
    if (!changed) {
        emit session_.notice(q(changed.error().line()), true);
        return false;
    }
    return session_.edit(tr("read: %1").arg(q(model::sided(*session_.project(), entry.label)).toLower()),
                         changed.value());
}

bool GuidedPage::eventFilter(QObject* watched, QEvent* event) {
    const QString name = watched->objectName();
    if (event->type() == QEvent::FocusIn) {
        const auto& entries = survey_.questions[static_cast<std::size_t>(asked())].entries;
        for (std::size_t i = 0; i < entries.size(); ++i)
            if (q(entries[i].id) == name) drawing_->setActive(name);
    }
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        // After the field has taken what was typed.
        if (key == Qt::Key_Return || key == Qt::Key_Enter) QTimer::singleShot(0, this, [this, name] { advance(name); });
    }
    return QWidget::eventFilter(watched, event);
}

void GuidedPage::advance(const QString& field) {
    const auto& entries = survey_.questions[static_cast<std::size_t>(asked())].entries;
    for (std::size_t i = 0; i < entries.size(); ++i) {
        if (q(entries[i].id) != field) continue;
        const auto* line = form_->findChild<QLineEdit*>(field);
        if (line && line->property("wrong").toBool()) return; // it has to be mended first
        if (i + 1 == entries.size()) return next();
        if (auto* following = form_->findChild<QLineEdit*>(q(entries[i + 1].id))) {
            following->setFocus();
            following->selectAll();
        }
        return;
    }
}

} // namespace gabarit::app

#include "moc_guided_page.cpp"
