#include "session/keeper.h"

#include "session/session.h"
#include "store/project_file.h"
#include "store/safe_file.h"

#include <QCoreApplication>
#include <QCryptographicHash>
#include <QDir>
#include <QEvent>
#include <QFile>
#include <QFileInfo>
#include <QFileSystemWatcher>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLockFile>
#include <QStandardPaths>
#include <QThreadPool>
#include <QTimer>
#include <QUuid>

#include <algorithm>

namespace gabarit::app {
namespace {

const QString suffix = QStringLiteral(".unfinished");
constexpr std::size_t largest_bytes = 256u << 20; // as a project file may have

QString lockOf(const QString& file) { return file + QStringLiteral(".lock"); }

/// `held`: whether somebody else has it; a lock can also fail for want of room or rights.
std::unique_ptr<QLockFile> locked(const QString& path, bool* held = nullptr) {
    auto lock = std::make_unique<QLockFile>(path);
    lock->setStaleLockTime(0); // a window may stay open for days; a dead one's lock is seen by its process
    if (lock->tryLock(0)) return lock;
    if (held) *held = lock->error() == QLockFile::LockFailedError;
    return nullptr;
}

} // namespace

Keeper::Keeper(Session& session, QObject* parent)
    : QObject(parent), session_(session), timer_(new QTimer(this)), watcher_(new QFileSystemWatcher(this)),
      writer_(new QThreadPool(this)) {
    writer_->setMaxThreadCount(1); // in the order of the changes
    timer_->setSingleShot(true);
    connect(timer_, &QTimer::timeout, this, &Keeper::keep);
    connect(&session_, &Session::projectChanged, this, &Keeper::changed);
    connect(&session_.history(), &QUndoStack::cleanChanged, this, [this](bool clean) {
        if (clean) forget(); // undone to what the file holds
    });
    connect(&session_, &Session::projectReplaced, this, &Keeper::opened);
    connect(&session_, &Session::saved, this, &Keeper::opened);
    connect(watcher_, &QFileSystemWatcher::fileChanged, this, &Keeper::outside);
}

/// An orderly end; a crash does not come here.
Keeper::~Keeper() {
    timer_->stop();
    writer_->waitForDone();
    dropOwn();
}

QString Keeper::folder() {
    const QString path =
        QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + QStringLiteral("/unfinished");
    QDir().mkpath(path);
    return path;
}

QString Keeper::sha256(const std::string& text) {
    return QString::fromLatin1(
        QCryptographicHash::hash(QByteArray::fromStdString(text), QCryptographicHash::Sha256).toHex());
}

void Keeper::changed() {
    // Whether the history is clean is asked when the time is up: here it does not hold this change yet. Not begun anew
    // with every change: a hand that never rests is kept too.
    if (!timer_->isActive()) timer_->start(patience_ms_);
}

void Keeper::keep() {
    const auto project = session_.project();
    if (!project || session_.history().isClean()) return;
    if (file_.isEmpty()) {
        file_ = folder() + QLatin1Char('/') + QUuid::createUuid().toString(QUuid::WithoutBraces) + suffix;
    }
    if (!mine_) mine_ = locked(lockOf(file_)); // on a full disk not at once
    const QJsonObject about{{QStringLiteral("name"), QString::fromStdString(project->name)},
                            {QStringLiteral("path"), session_.path()},
                            {QStringLiteral("base_sha256"), sha256(session_.textOnDisk())},
                            {QStringLiteral("when"), QDateTime::currentDateTimeUtc().toString(Qt::ISODate)}};
    const std::string head = QJsonDocument(about).toJson(QJsonDocument::Compact).toStdString() + "\n";
    writer_->start([this, project, head, file = file_.toStdString()] { // waited for before this one goes
        const auto written = store::writeWhole(file, head + store::projectText(*project));
        QMetaObject::invokeMethod(
            this, [this, file, written] { kept(file, written); }, Qt::QueuedConnection);
    });
}

/// A window that cannot keep its work says so, and tries again until it can.
void Keeper::kept(const std::string& file, const Result<void>& written) {
    if (file != file_.toStdString()) return; // of work that is saved or given up by now
    if (!written) {
        if (!trouble_)
            emit session_.notice(
                tr("What you change is not kept against a crash at the moment: %1. Mend: %2. It is "
                   "tried again every few seconds.")
                    .arg(QString::fromStdString(written.error().what), QString::fromStdString(written.error().mend)),
                true);
        trouble_ = true;
        if (!timer_->isActive()) timer_->start(patience_ms_);
        return;
    }
    if (trouble_) emit session_.notice(tr("What you change is kept against a crash again."), false);
    trouble_ = false;
    former_lock_.reset(); // before its file goes
    if (former_) throwAway(*former_);
    former_.reset();
}

bool Keeper::keepNow() {
    timer_->stop();
    keep();
    writer_->waitForDone();
    QCoreApplication::sendPostedEvents(this, QEvent::MetaCall); // what came of it
    return !trouble_;
}

void Keeper::takeOver(const Unfinished& work) {
    former_ = work;
    former_lock_ = locked(lockOf(work.file));
}

void Keeper::forget() {
    timer_->stop();
    writer_->waitForDone();
    trouble_ = false;
    former_lock_.reset(); // before its file goes
    if (former_) throwAway(*former_);
    former_.reset();
    dropOwn();
}

void Keeper::dropOwn() {
    if (file_.isEmpty()) return;
    QFile::remove(file_);
    QFile::remove(file_ + QStringLiteral(".bak"));
    mine_.reset();
    file_.clear();
}

/// Another project stands in the window, or this one was saved: what was kept is not needed any more.
void Keeper::opened() {
    if (session_.history().isClean()) forget();
    if (!watcher_->files().isEmpty()) watcher_->removePaths(watcher_->files());
    const QString path = session_.path();
    if (path.isEmpty()) {
        open_.reset();
        return;
    }
    watcher_->addPath(path);
    const QString id = sha256(QFileInfo(path).canonicalFilePath().toStdString());
    const QString lock = folder() + QStringLiteral("/open-") + id.left(32) + QStringLiteral(".lock");
    if (open_ && open_->fileName() == lock) return;
    bool held = false;
    open_ = locked(lock, &held);
    if (open_) return;
    const QString words = held ? tr("%1 is open in another window of Gabarit. What is changed there is not seen here; "
                                    "whoever saves second is asked for another name.")
                                     .arg(path)
                               : tr("Nothing can be written into %1: the disk may be full, or the folder not yours. "
                                    "Until there is room, what you change is not kept against a crash: save often.")
                                     .arg(folder());
    // Once the window has done with the project that was there before.
    QTimer::singleShot(0, this, [this, words] { emit session_.notice(words, true); });
}

void Keeper::outside() {
    const QString path = session_.path();
    // Whoever saves by renaming takes the watched file away.
    if (QFile::exists(path) && !watcher_->files().contains(path)) watcher_->addPath(path);
    const auto now = store::readWhole(path.toStdString(), largest_bytes);
    if (now && now.value() == session_.textOnDisk()) return;
    emit session_.notice(now ? tr("%1 was changed by somebody else. Open it again to see that; to keep what stands "
                                  "here, save it under another name.")
                                   .arg(path)
                             : tr("%1 was taken away or renamed by somebody else. What stands here is not lost: save "
                                  "it again.")
                                   .arg(path),
                         true);
}

std::vector<Unfinished> Keeper::unfinished() {
    std::vector<Unfinished> out;
    const QDir dir(folder());
    for (const QFileInfo& info : dir.entryInfoList({QStringLiteral("*") + suffix}, QDir::Files, QDir::Time)) {
        // Of a window that lives: not ours to offer.
        if (!locked(lockOf(info.filePath()))) continue;
        QFile file(info.filePath());
        if (!file.open(QIODevice::ReadOnly)) continue;
        const QJsonObject about = QJsonDocument::fromJson(file.readLine(1 << 16)).object();
        if (about.isEmpty()) continue;
        out.push_back(
            {info.filePath(), about.value(QLatin1String("name")).toString(),
             about.value(QLatin1String("path")).toString(), about.value(QLatin1String("base_sha256")).toString(),
             QDateTime::fromString(about.value(QLatin1String("when")).toString(), Qt::ISODate).toLocalTime()});
    }
    return out;
}

std::optional<Unfinished> Keeper::unfinishedOf(const QString& path) {
    const QString whole = QFileInfo(path).canonicalFilePath();
    for (const Unfinished& work : unfinished())
        if (!whole.isEmpty() && QFileInfo(work.path).canonicalFilePath() == whole) return work;
    return std::nullopt;
}

void Keeper::throwAway(const Unfinished& work) {
    QFile::remove(work.file);
    QFile::remove(work.file + QStringLiteral(".bak"));
    QFile::remove(lockOf(work.file));
}

Result<std::string> Keeper::textOf(const Unfinished& work) {
    auto text = store::readWhole(work.file.toStdString(), largest_bytes);
    if (!text) return text.error();
    const std::size_t line = text.value().find('\n');
    if (line == std::string::npos) return Error{"it holds no project", work.file.toStdString(), "throw it away"};
    return text.value().substr(line + 1);
}

} // namespace gabarit::app

#include "moc_keeper.cpp"
