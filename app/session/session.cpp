#include "session/session.h"

#include "fit/fit_report.h"
#include "model/tape.h"
#include "session/keeper.h"
#include "session/lookout.h"
#include "store/bundle.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "store/safe_file.h"

#include <QFile>
#include <QFileInfo>
#include <QUndoCommand>

#include <algorithm>
#include <set>

namespace gabarit::app {
namespace {
constexpr std::size_t largest_file_bytes = 256u << 20; // as the reader takes
constexpr int most_steps = 10000, whole_steps = 20;
constexpr qsizetype most_step_bytes = 64 << 20; // of what changed in the old ones

/// Wherever the program stands later, it is the same file.
QString wholePath(const QString& path) { return path.isEmpty() ? path : QFileInfo(path).absoluteFilePath(); }
} // namespace

/// One named step of the history.
class ChangeCommand : public QUndoCommand {
public:
    ChangeCommand(Session& session, const QString& name, std::shared_ptr<const model::Project> after,
                  const QString& merge)
        : QUndoCommand(name), session_(session),
          step_(std::make_shared<HistoryStep>(session.project_, std::move(after))), merge_(merge) {}

    void undo() override { stand(step_->before(*session_.project_)); }
    void redo() override { stand(step_->after(*session_.project_)); }
    int id() const override { return merge_.isEmpty() ? -1 : 1; }
    bool mergeWith(const QUndoCommand* next) override {
        const auto* other = static_cast<const ChangeCommand*>(next);
        if (other->merge_ != merge_) return false;
        step_->setAfter(session_.project_); // it has been done already
        return true;
    }
    const std::shared_ptr<HistoryStep>& step() const { return step_; }

private:
    void stand(std::shared_ptr<const model::Project> project) {
        if (project) return session_.replace(std::move(project));
        setObsolete(true);
        session_.history_.resetClean(); // fewer steps back is not what the file holds
        emit session_.notice(Session::tr("That is too long ago: steps beyond the bound in memory were let go. What "
                                         "stands here is as it was."),
                             true);
    }

    Session& session_;
    std::shared_ptr<HistoryStep> step_;
    QString merge_;
};

Session::Session(Lookout& lookout, QObject* parent)
    : QObject(parent), lookout_(lookout), sweeps_(std::make_shared<const std::vector<Sweep>>()),
      overlaps_(std::make_shared<const std::vector<PictureOverlap>>()) {
    history_.setUndoLimit(most_steps);
    packer_.setMaxThreadCount(1); // in the order of the steps
    connect(&runner_, &StudyRunner::pictureReady, this, [this](std::shared_ptr<const Picture> picture) {
        picture_ = std::move(picture);
        emit pictureChanged();
    });
    connect(&runner_, &StudyRunner::reportsReady, this, [this](std::shared_ptr<const study::Reports> reports, bool) {
        reports_ = std::move(reports);
        if (moved_to_ && !movementFits(*moved_to_)) moveTo(std::nullopt);
        emit reportsChanged();
        askMoved();
        if (sweeps_wanted_ && reports_->with<fit::FitReport>().clearance &&
            reports_->with<fit::FitReport>().clearance->movement)
            mover_.requestSweeps(reports_);
    });
    connect(&mover_, &Mover::pictureReady, this, [this](std::shared_ptr<const Picture> picture) {
        if (!moved_to_) return; // it is back at rest
        moved_picture_ = std::move(picture);
        emit pictureChanged();
    });
    connect(&mover_, &Mover::sweepsReady, this, [this](std::shared_ptr<const std::vector<Sweep>> sweeps) {
        if (!sweeps_wanted_) return;
        sweeps_ = std::move(sweeps);
        emit pictureChanged();
    });
    connect(&runner_, &StudyRunner::overlapsReady, this,
            [this](std::shared_ptr<const std::vector<PictureOverlap>> overlaps) {
                overlaps_ = std::move(overlaps);
                emit overlapsChanged();
            });
    connect(&runner_, &StudyRunner::searching, this, [this](int done, int all) {
        searching_ = done < all ? std::optional(std::pair(done, all)) : std::nullopt;
        emit searchingChanged();
    });
    connect(&runner_, &StudyRunner::settled, this, &Session::settled);
    connect(&lookout_, &Lookout::slicesChanged, this, &Session::ask);
    connect(&lookout_, &Lookout::slicesChanged, this, &Session::askMoved);
}

bool Session::movementFits(const kinematics::State& state) const {
    return reports_ && reports_->with<fit::FitReport>().clearance &&
           reports_->with<fit::FitReport>().clearance->movement &&
           reports_->with<fit::FitReport>().clearance->movement->freedoms.size() == state.size();
}

void Session::askMoved() {
    if (moved_to_ && movementFits(*moved_to_))
        mover_.request(
            reports_, *moved_to_,
            {lookout_.slice(Elevation::Side), lookout_.slice(Elevation::Plan), lookout_.slice(Elevation::Front)});
}

void Session::moveTo(std::optional<kinematics::State> state) {
    if (state &&
        (!movementFits(*state) || std::all_of(state->begin(), state->end(), [](double value) { return value == 0; })))
        state.reset();
    if (state == moved_to_) return;
    moved_to_ = std::move(state);
    if (!moved_to_) {
        moved_picture_.reset();
        emit pictureChanged();
    }
    emit movedToChanged();
    askMoved();
}

void Session::wantSweeps(bool wanted) {
    sweeps_wanted_ = wanted;
    sweeps_ = std::make_shared<const std::vector<Sweep>>();
    if (wanted && reports_ && reports_->with<fit::FitReport>().clearance &&
        reports_->with<fit::FitReport>().clearance->movement)
        mover_.requestSweeps(reports_);
    emit pictureChanged();
}

void Session::setShown(quantity::Shown shown) {
    shown_ = shown;
    if (!hasProject()) return;
    emit projectChanged();
    ask();
}

void Session::ask() {
    if (!project_) return;
    runner_.request(
        project_, {lookout_.slice(Elevation::Side), lookout_.slice(Elevation::Plan), lookout_.slice(Elevation::Front)},
        shown_);
}

void Session::replace(std::shared_ptr<const model::Project> project) {
    project_ = std::move(project);
    overlaps_ = std::make_shared<const std::vector<PictureOverlap>>(); // they belong to the former place
    if (in_hand_ && !model::findBody(*project_, *in_hand_)) takeInHand(std::nullopt);
    emit projectChanged();
    ask();
}

void Session::adopt(model::Project project, const QString& path, bool readOnly) {
    history_.clear();
    moveTo(std::nullopt);
    sweeps_ = std::make_shared<const std::vector<Sweep>>();
    picture_.reset();
    reports_.reset();
    overlaps_ = std::make_shared<const std::vector<PictureOverlap>>();
    in_hand_.reset();
    pin_.reset();
    path_ = path;
    read_only_ = readOnly;
    project_ = std::make_shared<const model::Project>(std::move(project));
    emit projectReplaced();
    emit inHandChanged();
    emit pinChanged();
    emit projectChanged();
    ask();
}

void Session::newProject() {
    model::Project project;
    project.name = tr("New swap").toStdString();
    project.vehicle.emplace();
    project.vehicle->name = tr("Vehicle").toStdString();
    text_on_disk_.clear();
    adopt(std::move(project), QString(), false);
}

Result<void> Session::openFile(const QString& given) {
    const QString path = wholePath(given);
    auto read = store::readProject(path.toStdString(), store::defaultRuleBook());
    if (!read) return read.error();
    text_on_disk_ = std::move(read.value().text);
    adopt(std::move(read.value().project), path, read.value().read_only);
    if (read_only_)
        emit notice(tr("This file was written by a newer version. It can be looked at; saving over it is refused."),
                    true);
    return {};
}

Result<void> Session::openDemo(int which) {
    const QString names[] = {QStringLiteral("harrow-tarn"), QStringLiteral("skerry-quad"), QStringLiteral("pell-wren")};
    QFile file(QStringLiteral(":/demo/%1.gabarit").arg(names[std::clamp(which, 0, 2)]));
    if (!file.open(QIODevice::ReadOnly)) return Error{"the demo is missing from the program", "", "build it again"};
    auto read = store::projectFromText(file.readAll().toStdString(), "the demo", store::defaultRuleBook());
    if (!read) return read.error();
    text_on_disk_.clear();
    adopt(std::move(read.value().project), QString(), false);
    return {};
}

Result<void> Session::save(const QString& given) {
    const QString path = wholePath(given);
    if (read_only_ && path == path_)
        return Error{"it was written by a newer version", path.toStdString(),
                     "save under another name; what this version does not know may be lost"};
    if (path == path_) {
        const auto now = store::readWhole(path.toStdString(), text_on_disk_.size() + 1);
        if (QFile::exists(path) && (!now || now.value() != text_on_disk_))
            return Error{"somebody else changed it since it was opened", path.toStdString(),
                         "save under another name, or open it again"};
    }
    // Its pictures come along under another name; they lie there before the project that names them.
    if (path != path_ && !path_.isEmpty()) {
        const auto copied = store::copyPictures(*project_, path_.toStdString(), path.toStdString());
        if (!copied) return copied.error();
    }
    const auto written = store::writeProject(path.toStdString(), *project_);
    if (!written) return written.error();
    text_on_disk_ = store::projectText(*project_);
    path_ = path;
    read_only_ = false;
    history_.setClean();
    emit saved();
    return {};
}

Result<void> Session::takeUp(const Unfinished& work) {
    const auto text = Keeper::textOf(work);
    if (!text) return text.error();
    auto read = store::projectFromText(text.value(), work.file.toStdString(), store::defaultRuleBook());
    if (!read) return read.error();
    // If its file has changed since, saving over it is refused as ever: the two texts differ.
    const auto now = work.path.isEmpty() ? Result<std::string>(std::string())
                                         : store::readWhole(work.path.toStdString(), largest_file_bytes);
    text_on_disk_ = now && Keeper::sha256(now.value()) == work.base_sha256 ? now.value() : std::string();
    adopt(std::move(read.value().project), wholePath(work.path), read.value().read_only);
    history_.resetClean();
    emit projectChanged();
    return {};
}

Result<void> Session::saveDonor(const QString& path) const {
    const model::Donor* donor = model::activeDonor(*project_);
    if (!donor) return Error{"no donor is placed", "", "hang one first"};
    return store::writeDonor(path.toStdString(), *donor);
}

Result<void> Session::hangDonor(const QString& path) {
    auto donor = store::readDonor(path.toStdString(), store::defaultRuleBook());
    if (!donor) return donor.error();
    const QString name = QString::fromStdString(donor.value().name);
    auto placed = model::hung(*project_, std::move(donor).value());
    if (!placed) return placed.error();
    change(tr("hang %1 in the bay").arg(name), std::move(placed).value());
    return {};
}

void Session::change(const QString& name, model::Project given, const QString& merge) {
    // What is bound to readings follows them, or gives way to the hand.
    std::vector<std::string> unbound;
    model::Project changed = model::withTapeKept(*project_, given, &unbound);
    if (!unbound.empty())
        emit notice(tr("The %1 no longer follows its readings: it was changed by hand. Undo brings them back.")
                        .arg(QString::fromStdString(unbound.front()).toLower()),
                    false);
    history_.push(new ChangeCommand(*this, name, std::make_shared<const model::Project>(std::move(changed)), merge));
    packOldSteps();
}

int Session::packedSteps() const {
    int count = 0;
    for (int i = 0; i < history_.count(); ++i)
        count += static_cast<const ChangeCommand*>(history_.command(i))->step()->packed();
    return count;
}

/// Those that are far back keep only what changed; the oldest are let go when even that is too much.
void Session::packOldSteps() {
    const auto stepAt = [this](int i) { return static_cast<const ChangeCommand*>(history_.command(i))->step(); };
    std::vector<std::shared_ptr<HistoryStep>> whole;
    for (int i = history_.index() - 1 - whole_steps; i >= 0 && !stepAt(i)->packed(); --i) whole.push_back(stepAt(i));
    for (auto step = whole.rbegin(); step != whole.rend(); ++step)
        packer_.start([step = *step, last = last_packed_] { step->pack(*last); });
    constexpr int every = 100; // they are counted now and then
    if (history_.index() % every != 0) return;
    qsizetype sum = 0;
    for (int i = history_.index() - 1; i >= 0; --i) {
        sum += stepAt(i)->bytes();
        if (sum > most_step_bytes) stepAt(i)->letGo();
    }
}

bool Session::edit(const QString& name, model::Project given, const QString& merge) {
    const model::Project changed = model::withTapeKept(*project_, given);
    std::set<std::string> before;
    for (const Error& error : model::validate(*project_, store::defaultRuleBook())) before.insert(error.line());
    for (const Error& error : model::validate(changed, store::defaultRuleBook()))
        if (before.count(error.line()) == 0) {
            emit notice(QString::fromStdString(error.line()), true);
            return false;
        }
    change(name, std::move(given), merge);
    return true;
}

void Session::setPin(bool on) {
    if (!on) {
        pin_.reset();
        emit pinChanged();
        return;
    }
    const model::Placement* placement = hasProject() ? model::activePlacement(*project_) : nullptr;
    if (!placement || !reports_ || reports_->project != project_ || !picture_ || picture_->project != project_) {
        emit notice(placement ? tr("The gaps are still being measured. Pin again in a moment.")
                              : tr("There is no placement to pin: hang a donor first."),
                    true);
        return;
    }
    pin_ = Pin{QString::fromStdString(placement->name), picture_, reports_};
    emit pinChanged();
}

void Session::hangAsPinned() {
    if (!pin_ || !hasProject()) return;
    const model::Placement* pinned = model::activePlacement(*pin_->reports->project);
    model::Project changed = *project_;
    model::Placement* placement = model::activePlacement(changed);
    if (!placement || !pinned) return;
    model::Placement as = *pinned;
    as.id = placement->id;
    as.name = placement->name;
    as.note = placement->note;
    *placement = as;
    edit(tr("hang the engine as pinned"), std::move(changed));
}

void Session::stopSearch() { runner_.stopSearch(); }

void Session::takeInHand(std::optional<model::BodyRef> body) {
    if (body == in_hand_) return;
    in_hand_ = std::move(body);
    emit inHandChanged();
}

QString Session::moveName(const Eigen::Vector3d& by) const {
    return QString::fromStdString(model::moveWords(*project_, by, shown_));
}

void Session::nudge(const Eigen::Vector3d& by, const QString& merge) {
    if (!hasProject() || by.isZero(0)) return;
    if (in_hand_) {
        const model::Body* body = model::findBody(*project_, *in_hand_);
        auto moved = model::withBodyMoved(*project_, *in_hand_, by);
        if (!body || !moved) {
            if (!moved) emit notice(QString::fromStdString(moved.error().line()), true);
            return;
        }
        const QString name = QString::fromStdString(body->name).toLower();
        change(merge.isEmpty() ? tr("move the %1 %2").arg(name, moveName(by)) : tr("drag the %1").arg(name),
               std::move(moved).value(), merge);
        return;
    }
    model::Project changed = *project_;
    model::Placement* placement = model::activePlacement(changed);
    if (!placement) return;
    *placement = model::shifted(*placement, by);
    change(merge.isEmpty() ? tr("move the engine %1").arg(moveName(by)) : tr("drag the engine"), std::move(changed),
           merge);
}

void Session::turn(model::Turn turn, double by_deg) {
    if (!hasProject() || in_hand_ || by_deg == 0) return;
    const model::Placement* placement = model::activePlacement(*project_);
    const auto donor = model::hangingDonor(*project_);
    if (!placement || !donor) return;
    const auto side = [this](bool right) { return QString::fromLatin1(model::sideWord(*project_, right)); };
    const QString by = QString::fromStdString(quantity::angleText(std::abs(by_deg), 2));
    QString name;
    switch (turn) {
    case model::Turn::Tail: name = by_deg < 0 ? tr("tail up %1").arg(by) : tr("tail down %1").arg(by); break;
    case model::Turn::Swing: name = tr("swing the tail %1 %2").arg(side(by_deg > 0), by); break;
    case model::Turn::Lean: name = tr("lean the top %1 %2").arg(side(by_deg < 0), by); break; // positive: to the left
    }
    stand(model::turned(*placement, *donor, turn, by_deg), name);
}

void Session::setAngles(const model::Angles& angles) {
    const model::Placement* placement = model::activePlacement(*project_);
    const auto donor = model::hangingDonor(*project_);
    if (placement && donor) stand(model::withAngles(*placement, *donor, angles), tr("set the engine's angles"));
}

void Session::stand(const Result<model::Placement>& wanted, const QString& name) {
    if (!wanted) {
        emit notice(QString::fromStdString(wanted.error().line()), true);
        return;
    }
    model::Project changed = *project_;
    *model::activePlacement(changed) = wanted.value();
    change(name, std::move(changed));
}

void Session::tryPlacement(const model::Placement& tried, const QString& words) {
    const model::Placement* placement = model::activePlacement(*project_);
    if (placement && placement->id == tried.id) stand(tried, tr("try %1").arg(words));
}

void Session::setPose(const Eigen::Vector3d& position_mm) {
    model::Project changed = *project_;
    if (model::Placement* placement = model::activePlacement(changed)) {
        placement->position_mm = position_mm;
        change(tr("set the engine's place"), std::move(changed));
    }
}

void Session::setPivot(model::Pivot pivot) {
    model::Project changed = *project_;
    model::Placement* placement = model::activePlacement(changed);
    if (!placement || placement->pivot == pivot) return;
    placement->pivot = pivot;
    change(tr("choose another pivot"), std::move(changed));
}

void Session::usePlacement(const model::PlacementId& id) {
    if (const model::Placement* active = model::activePlacement(*project_); !active || active->id == id) return;
    model::Project changed = *project_;
    changed.active_placement = id;
    const QString name = QString::fromStdString(model::activePlacement(changed)->name);
    change(tr("use the placement \"%1\"").arg(name), std::move(changed));
}

std::string Session::school() const { return model::applied(store::defaultRuleBook(), project_->rules).default_school; }

void Session::useSchool(const std::string& id) {
    const model::School* wanted = store::defaultRuleBook().school(id);
    if (!hasProject() || !wanted || id == school()) return;
    model::Project changed = *project_;
    changed.rules.school = id;
    change(tr("hold the gaps against the %1's figures").arg(QString::fromStdString(wanted->name).toLower()),
           std::move(changed));
}

} // namespace gabarit::app

#include "moc_session.cpp"
