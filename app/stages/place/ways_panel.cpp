#include "stages/place/ways_panel.h"

#include "forms/text.h"
#include "forms/wrapped_label.h"
#include "kit/check_sheet.h"
#include "make/search.h"
#include "session/job.h"
#include "session/session.h"
#include "store/rule_book.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace gabarit::app {

WaysPanel::WaysPanel(Session& session, QWidget* parent)
    : QFrame(parent), session_(session), job_(new Job(this)), now_(new WrappedLabel(this)), rows_(new QVBoxLayout) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(30, 0, 4, 8);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->addWidget(now_, 1);
    auto* away = new QPushButton(tr("Close"), this);
    away->setObjectName(QStringLiteral("close_ways"));
    head->addWidget(away, 0, Qt::AlignTop);
    column->addLayout(head);
    rows_->setSpacing(6);
    column->addLayout(rows_);
    connect(away, &QPushButton::clicked, this, &WaysPanel::close);
    connect(&session_, &Session::projectChanged, this, &WaysPanel::close);
    connect(&session_, &Session::projectReplaced, this, &WaysPanel::close);
    connect(job_, &Job::progressed, this,
            [this](int done, int all) { now_->setText(tr("%1, %2 of %3").arg(looking_).arg(done).arg(all)); });
    connect(job_, &Job::failed, this, [this](const QString& why) {
        now_->setText(tr("It was given up: %1.").arg(why));
        emit changed();
    });
    hide();
}

bool WaysPanel::looking() const { return job_->busy(); }

void WaysPanel::clear() {
    clearLayout(rows_);
    first_.clear();
    found_ = false;
}

void WaysPanel::close() {
    if (of_.empty()) return;
    job_->stop();
    of_.clear();
    clear();
    hide();
    emit changed();
}

void WaysPanel::lookFor(const study::Finding& finding) {
    if (finding.a && finding.b)
        begin("ways", finding.id, {finding.a->text(), finding.b->text()}, tr("Looking at other ways"));
}

void WaysPanel::lookForAPlace(const std::string& held, const std::string& first) {
    begin(free_all, free_all, {held, first}, tr("Looking for a place where it fits"));
}

void WaysPanel::lookForAForm(const std::string& held, const std::string& first) {
    begin(free_choices, free_choices, {held, first}, tr("Trying every form"));
}

void WaysPanel::begin(const char* search, const std::string& of, std::vector<std::string> about,
                      const QString& looking) {
    const auto reports = session_.reports();
    if (!reports || !reports->complete || reports->project != session_.project())
        return emit session_.notice(tr("The figures are still being worked out. Try again in a moment."), false);
    clear();
    of_ = of;
    looking_ = looking;
    now_->setText(tr("%1…").arg(looking));
    show();
    emit changed();
    job_->begin(
        [reports, search, about = std::move(about), shown = session_.shown()](const StopToken& stop,
                                                                              const Job::Progress& progress) {
            study::Study study(store::defaultRuleBook());
            return make::lookFor(make::searchOf(search), {study, *reports}, store::defaultRuleBook(), about, shown,
                                 stop, progress);
        },
        [this](Result<discipline::Found> found) { take(std::move(found)); });
}

void WaysPanel::take(Result<discipline::Found> found) {
    clear();
    if (!found) {
        now_->setText(q(found.error().line()));
        return emit changed();
    }
    const discipline::Found& its = found.value();
    now_->setText(q(its.answers.empty() ? its.none : its.now));
    found_ = its.found;
    int n = 0;
    for (const discipline::Answer& answer : its.answers) {
        auto* row = new QHBoxLayout;
        auto* words = new WrappedLabel(this);
        words->setText(q(answer.words));
        QStringList more;
        for (const std::string& line : answer.more) more << q(line);
        words->setToolTip(more.join(QLatin1Char('\n')));
        row->addWidget(words, 1);
        if (answer.project) {
            auto* button = new QPushButton(tr("Try"), this);
            button->setObjectName(QStringLiteral("way:%1").arg(n));
            button->setAccessibleName(tr("Try: %1").arg(words->text()));
            row->addWidget(button, 0, Qt::AlignTop);
            if (answer.first) {
                first_ = button;
                first_words_ = q(answer.words);
            }
            connect(button, &QPushButton::clicked, this,
                    [this, project = answer.project, step = q(answer.step)] { session_.change(step, *project); });
        }
        rows_->addLayout(row);
        if (!answer.note.empty()) {
            auto* note = new WrappedLabel(this);
            note->setText(q(answer.note));
            note->setForegroundRole(QPalette::PlaceholderText); // the second ink
            rows_->addWidget(note);
        }
        ++n;
    }
    emit changed();
}

} // namespace gabarit::app

#include "moc_ways_panel.cpp"
