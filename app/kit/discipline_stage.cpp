#include "kit/discipline_stage.h"

#include "disciplines/all.h"
#include "fields/editing.h"
#include "forms/text.h"
#include "forms/tones.h"
#include "kit/page_columns.h"
#include "kit/pointer.h"
#include "session/job.h"
#include "session/session.h"
#include "store/rule_book.h"

#include <QDate>
#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QTableWidget>
#include <QVBoxLayout>

#include <exception>

namespace gabarit::app {
namespace {

/// Never lower than its wrapped words need at its width: a page that scrolls asks only for what is least.
class TallEnough : public QWidget {
public:
    using QWidget::QWidget;

protected:
    bool event(QEvent* event) override {
        const bool done = QWidget::event(event);
        if (layout() && (event->type() == QEvent::LayoutRequest || event->type() == QEvent::Resize))
            setMinimumHeight(std::max(0, layout()->totalHeightForWidth(width())));
        return done;
    }
};

} // namespace

DisciplineStage::DisciplineStage(Session& session, const Look& look, QWidget* parent)
    : Stage(parent), session_(session), job_(new Job(this)), adding_(look.adding), of_(look.of),
      list_(new QListWidget(this)), checks_(makeCheckSheet(this)), words_(new QLabel(this)), caution_(new QLabel(this)),
      progress_(new QProgressBar(this)), who_(new QLineEdit(this)), left_(new QVBoxLayout), middle_(new QVBoxLayout),
      below_(new QVBoxLayout), scrolled_(new QScrollArea(this)), help_(new QVBoxLayout), form_(new EntryForm(this)),
      menu_(new QMenu(this)), delete_(nullptr) {
    list_->setAccessibleName(look.list_name);
    list_->setWordWrap(true);
    list_->setFixedWidth(look.list_px);
    for (QLabel* label : {words_, caution_}) {
        label->setWordWrap(true);
        label->setTextFormat(Qt::PlainText);
    }
    caution_->setForegroundRole(QPalette::PlaceholderText);
    who_->setObjectName(QStringLiteral("who"));
    who_->setPlaceholderText(tr("Who signs"));
    who_->setAccessibleName(tr("Who signs"));
    who_->setMinimumHeight(target_px);
    progress_->hide();

    left_->setContentsMargins(12, 14, 0, 14);
    left_->setSpacing(8);
    left_->addWidget(list_, 1);
    auto* make = new QPushButton(tr("New"), this);
    make->setObjectName(QStringLiteral("new"));
    make->setMinimumHeight(target_px);
    make->setMenu(menu_);
    connect(menu_, &QMenu::aboutToShow, this, [this] { fillMenu(); });
    left_->addWidget(make);
    delete_ = addButton("delete", tr("Delete"), [this] { remove(); });

    middle_->setContentsMargins(12, 14, 12, 10);
    middle_->setSpacing(6);
    // Words, advice, figures and what to mind scroll as one below the drawing.
    scrolled_->setWidgetResizable(true);
    scrolled_->setFrameShape(QFrame::NoFrame);
    scrolled_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scrolled_->setFixedHeight(look.below_px);
    auto* inner = new TallEnough(scrolled_);
    inner->setLayout(below_);
    below_->setContentsMargins(0, 0, 6, 0);
    below_->setSpacing(6);
    help_->setSpacing(4);
    below_->addWidget(words_);
    below_->addWidget(progress_);
    below_->addLayout(help_);
    below_->addWidget(who_);
    below_->addWidget(checks_);
    below_->addWidget(caution_);
    below_->addStretch();
    scrolled_->setWidget(inner);
    middle_->addWidget(scrolled_);
    auto* left = new QWidget(this);
    left->setLayout(left_);
    auto* middle = new QWidget(this);
    middle->setLayout(middle_);
    columns_ = new PageColumns(this, left, middle, form_, look.form_px);

    connect(list_, &QListWidget::currentRowChanged, this, [this] {
        if (filling_) return;
        wanted_ = key();
        refreshBody();
    });
    joinForm(*form_, session_);
    connect(job_, &Job::busyChanged, this, [this](bool busy) {
        progress_->setMaximum(0); // until it says how far it has come
        progress_->setVisible(busy);
    });
    connect(job_, &Job::progressed, this, [this](int done, int all) {
        progress_->setMaximum(all);
        progress_->setValue(done);
    });
    connect(job_, &Job::failed, this,
            [this](const QString& why) { emit session_.notice(tr("It was given up: %1.").arg(why), true); });
    const auto whenSeen = [this] {
        if (isVisible()) refresh();
    };
    connect(&session_, &Session::reportsChanged, this, whenSeen);
    connect(&session_, &Session::projectChanged, this, whenSeen);
}

void DisciplineStage::setDrawing(QWidget* drawing, QLayout* above) {
    constexpr QSize readable(500, 230); // a smaller page is scrolled
    drawing->setMinimumSize(readable.expandedTo(drawing->minimumSize()));
    middle_->insertWidget(0, new PointedDrawing(session_, *form_, this, drawing), 1);
    if (above) middle_->insertLayout(0, above);
}

void DisciplineStage::setNarrow(bool narrow) {
    columns_->setNarrow(narrow);
    // The whole page scrolls then: nothing on it by itself too.
    if (narrow != (scrolled_->widget() != nullptr)) return; // it is so
    QWidget* inner = below_->parentWidget();
    if (narrow) {
        scrolled_->takeWidget();
        middle_->addWidget(inner);
    } else {
        middle_->removeWidget(inner);
        scrolled_->setWidget(inner);
    }
    inner->show();
    scrolled_->setVisible(!narrow);
}

void DisciplineStage::addBelow(QWidget* widget) { below_->insertWidget(0, widget); }

void DisciplineStage::addKind(const char* kind, const QString& words) {
    QAction* action = menu_->addAction(words);
    action->setObjectName(QStringLiteral("new_") + QLatin1String(kind));
    connect(action, &QAction::triggered, this, [this, kind = QString::fromLatin1(kind)] { addNew(kind); });
}

QPushButton* DisciplineStage::addButton(const char* name, const QString& text, const std::function<void()>& act) {
    auto* made = new QPushButton(text, this);
    made->setObjectName(QString::fromLatin1(name));
    made->setMinimumHeight(target_px);
    connect(made, &QPushButton::clicked, this, act);
    left_->insertWidget(delete_ ? left_->indexOf(delete_) : left_->count(), made);
    return made;
}

QString DisciplineStage::key() const { return keyOf(list_); }
QString DisciplineStage::words() const { return words_->text(); }
bool DisciplineStage::searching() const { return job_->busy(); }

void DisciplineStage::choose(const QString& key) {
    wanted_ = key;
    refresh();
}

bool DisciplineStage::leadTo(const QString& finding) {
    const QString first = finding.section(QLatin1Char(':'), 1).section(QLatin1Char('/'), 0, 0);
    if (first.isEmpty()) return false;
    for (const StageItem& item : items(*session_.project(), nullptr))
        if (item.key.section(QLatin1Char(':'), 1) == first) {
            choose(item.key);
            return true;
        }
    return false;
}

NextStep DisciplineStage::nextStep(const study::Reports& reports) {
    if (!menu_->isVisible()) fillMenu();
    if (menu_->actions().isEmpty() || !items(*reports.project, nullptr).empty()) return {};
    const QAction* first = menu_->actions().front();
    // The menu is another one when the step is taken: what is new is found again by its name.
    return {tr("Nothing is given here yet."), tr("New: %1").arg(first->text()), [this, name = first->objectName()] {
                if (!session_.hasProject()) return;
                fillMenu();
                if (auto* action = menu_->findChild<QAction*>(name)) action->trigger();
            }};
}

void DisciplineStage::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (session_.hasProject()) refresh();
}

void DisciplineStage::refresh() {
    if (!session_.hasProject()) return;
    filling_ = true;
    const auto reports = session_.reports();
    fillItems(list_, items(*session_.project(), reports.get()), wanted_);
    wanted_ = key();
    filling_ = false;
    refreshBody();
}

void DisciplineStage::refreshBody() {
    const QString chosen = key();
    const auto reports = session_.reports();
    draw(chosen);
    delete_->setEnabled(deletable(chosen));
    form_->show(fieldsOf(chosen), session_.shown(), chosen);
    checks_->setRowCount(0);
    checks_->setHorizontalHeaderLabels({tr("What"), tr("Is"), tr("Wanted")});
    words_->clear();
    caution_->clear();
    if (reports) tell(chosen, *reports);
    fitToRows(checks_);
    words_->setVisible(!words_->text().isEmpty());
    caution_->setVisible(!caution_->text().isEmpty());
    refreshAdvice();
}

void DisciplineStage::refreshAdvice() {
    clearLayout(help_);
    who_->hide();
    if (!session_.hasProject()) return;
    offerSearches(key());
    offerFound();
    advise(key());
    offerDeeds(key());
}

void DisciplineStage::offerSearches(const QString& key) {
    for (const make::Search& search : make::searches()) {
        if (std::find(of_.begin(), of_.end(), search.discipline) == of_.end()) continue;
        if (search.card.kind.empty() || !isOf(key, search.card.kind.c_str())) continue;
        std::vector<std::string> about;
        if (!search.card.asks.empty()) about.push_back(idOf(key));
        help(q(search.card.id).replace(QLatin1Char('-'), QLatin1Char('_')), tr(search.card.words.c_str()),
             [this, id = search.card.id.c_str(), about] { lookFor(id, about); });
    }
}

void DisciplineStage::offerFound() {
    if (!found_for_ || found_for_ != session_.project() || found_at_ != key()) return;
    if (!found_.now.empty()) remark(q(found_.now));
    if (found_.answers.empty()) remark(q(found_.none));
    int n = 0;
    for (const discipline::Answer& answer : found_.answers) {
        const QString name = QStringLiteral("answer:%1").arg(n++);
        if (!answer.project) {
            remark(q(answer.words));
            continue;
        }
        QStringList tip{q(answer.words)};
        for (const std::string& line : answer.more) tip << q(line);
        help(
            name, q(answer.words),
            [this, project = answer.project, step = q(answer.step)] { session_.change(step, *project); },
            tip.join(QLatin1Char('\n')));
        if (!answer.note.empty()) remark(q(answer.note));
    }
}

void DisciplineStage::lookFor(const char* id, std::vector<std::string> about) {
    job_->stop();
    found_for_.reset();
    const auto reports = session_.reports();
    if (!reports || !reports->complete || reports->project != session_.project())
        return emit session_.notice(tr("The figures are still being reckoned: try again in a moment."), false);
    const make::Search& search = make::searchOf(id);
    found_at_ = key();
    job_->begin(
        [&search, reports, about, shown = session_.shown()](const StopToken& stop, const Job::Progress& progress) {
            study::Study study(store::defaultRuleBook());
            return make::lookFor(search, {study, *reports}, store::defaultRuleBook(), about, shown, stop, progress);
        },
        [this, &search, asked = session_.project()](Result<discipline::Found> found) {
            if (asked == session_.project()) return takeFound(search, std::move(found));
            emit session_.notice(tr("Something was changed meanwhile: press it again."), true);
        });
}

void DisciplineStage::takeFound(const make::Search& search, Result<discipline::Found> found) {
    if (!found) return emit session_.notice(q(found.error().line()), true);
    discipline::Found& its = found.value();
    for (const Error& trouble : its.troubles) emit session_.notice(q(trouble.line()), true);
    if (!search.card.takes) {
        found_ = std::move(its);
        found_for_ = session_.project();
        return refreshAdvice();
    }
    if (its.answers.empty()) {
        if (its.troubles.empty()) emit session_.notice(q(its.none), true);
        return;
    }
    const discipline::Answer answer = its.answers.front();
    if (!answer.made.empty()) want(q(answer.made));
    session_.change(q(answer.step), *answer.project);
}

void DisciplineStage::offerDeeds(const QString& key) {
    const discipline::Board& board = disciplines::all();
    for (std::size_t i = 0; i < board.size(); ++i) {
        if (std::find(of_.begin(), of_.end(), board[i].card().id) == of_.end()) continue;
        for (const discipline::Deed& deed : board[i].deeds()) {
            if (!isOf(key, deed.kind)) continue;
            help(QString::fromLatin1(deed.id).replace(QLatin1Char('-'), QLatin1Char('_')), tr(deed.words),
                 [this, deed, item = idOf(key)] {
                     take(deed.act({*session_.project(), book(), deed.one ? item : std::string()}), tr(deed.step));
                 });
        }
    }
}

void DisciplineStage::addNew(const QString& kind) {
    model::Project changed = *session_.project();
    const QString made = add(kind, changed);
    if (made.isEmpty()) return;
    wanted_ = made;
    session_.change(adding_, std::move(changed));
    refresh();
    form_->begin();
}

void DisciplineStage::remove() {
    const QString chosen = key();
    if (!deletable(chosen)) return;
    auto changed = without(chosen, *session_.project());
    take(std::move(changed), tr("delete %1").arg(list_->currentItem()->text().section(QLatin1Char('\n'), 0, 0)));
    refresh();
}

void DisciplineStage::say(const QStringList& sentences) { words_->setText(sentences.join(QLatin1Char(' ')).trimmed()); }

void DisciplineStage::mind(const QString& caution) { caution_->setText(caution); }

void DisciplineStage::put(const model::Check& check, const QString& known) {
    addCheck(checks_, check, session_.shown(), known);
}

QPushButton* DisciplineStage::help(const QString& name, const QString& text, const std::function<void()>& act,
                                   const QString& tip) {
    QPushButton* button = addAdvice(help_, this, name, text, tip);
    connect(button, &QPushButton::clicked, this, [this, act] {
        try {
            act();
        } catch (const std::exception& e) { // a library's: the project is as it was
            emit session_.notice(tr("It could not be done: %1.").arg(QString::fromUtf8(e.what())), true);
        }
    });
    return button;
}

void DisciplineStage::remark(const QString& text) { addRemark(help_, this, text); }

void DisciplineStage::askWho() { who_->show(); }
std::string DisciplineStage::who() const { return typedWords(who_->text()); }

void DisciplineStage::take(Result<model::Project> changed, const QString& step) {
    if (!changed) return emit session_.notice(q(changed.error().line()), true);
    session_.change(step, std::move(changed.value()));
}

model::RuleBook DisciplineStage::book() const {
    return model::applied(store::defaultRuleBook(), session_.project()->rules);
}

QString DisciplineStage::caution(const char* thing) { return q(model::cautionAbout(store::defaultRuleBook(), thing)); }

QString DisciplineStage::today() { return QDate::currentDate().toString(Qt::ISODate); }

std::string idOf(const QString& key) { return key.section(QLatin1Char(':'), 1).toStdString(); }

bool isOf(const QString& key, const char* kind) { return key.section(QLatin1Char(':'), 0, 0) == QLatin1String(kind); }

} // namespace gabarit::app

#include "moc_discipline_stage.cpp"
