// Unfinished work is kept beside the files: written every few seconds, found again after a crash.
#pragma once

#include "quantity/result.h"

#include <QDateTime>
#include <QObject>
#include <QString>

#include <memory>
#include <optional>
#include <vector>

class QFileSystemWatcher;
class QLockFile;
class QThreadPool;
class QTimer;

namespace gabarit::app {

class Session;

/// Work that a window left behind without saving it.
struct Unfinished {
    QString file; ///< where it is kept
    QString name;
    QString path;        ///< the project's own file; empty: it had none
    QString base_sha256; ///< of what that file held when the work began
    QDateTime when;
};

class Keeper : public QObject {
    Q_OBJECT
public:
    explicit Keeper(Session& session, QObject* parent = nullptr);
    ~Keeper() override;

    /// How long a change may wait before it is kept.
    void setPatience(int patience_ms) { patience_ms_ = patience_ms; }
    /// What windows that are gone left behind, newest first.
    static std::vector<Unfinished> unfinished();
    static void throwAway(const Unfinished& work);
    /// The project's text of such work.
    static Result<std::string> textOf(const Unfinished& work);
    static QString sha256(const std::string& text);
    /// What a window left behind on this file, the newest of it.
    static std::optional<Unfinished> unfinishedOf(const QString& path);
    /// The window is closed and its changes were saved or given up on purpose.
    void forget();
    /// Keeps what stands in the window at once; whether what is not saved is kept now.
    bool keepNow();
    /// The window went on with that work: it is thrown away once it is kept, or saved, from here. Until then it stays,
    /// and is not offered to others.
    void takeOver(const Unfinished& work);

private:
    static QString folder();
    void changed();
    void keep();
    void opened();
    void outside();
    void kept(const std::string& file, const Result<void>& written);
    void dropOwn();

    Session& session_;
    QTimer* timer_;
    QFileSystemWatcher* watcher_;
    QThreadPool* writer_;
    QString file_;
    std::unique_ptr<QLockFile> mine_;  ///< held while this window lives: its work is not offered to others
    std::optional<Unfinished> former_; ///< taken over, and not kept anew yet
    std::unique_ptr<QLockFile> former_lock_;
    bool trouble_ = false;            ///< the last keeping failed, and that was said
    std::unique_ptr<QLockFile> open_; ///< held while the project's file is open here
    int patience_ms_ = 3000;
};

} // namespace gabarit::app
