// One step of the history: the project before and after it, whole while it is new, as what changed once it is old.
#pragma once

#include "model/project.h"

#include <QByteArray>

#include <memory>
#include <mutex>
#include <optional>
#include <string>

namespace gabarit::app {

/// What has to be done to one text to get another: what lies between their common beginning and end.
struct TextChange {
    qsizetype head = 0, tail = 0; ///< bytes that stay at both ends
    QByteArray middle;            ///< what comes between them, compressed

    static TextChange between(const std::string& from, const std::string& to);
    std::string appliedTo(const std::string& from) const;
};

/// Thread-safe: packed in the background while the hand goes on.
class HistoryStep {
public:
    HistoryStep(std::shared_ptr<const model::Project> before, std::shared_ptr<const model::Project> after);

    /// Goes on to another state after it; of a step that is whole.
    void setAfter(std::shared_ptr<const model::Project> after);
    /// The state before it, `now` being the one after, and the other way round. Null: it was let go.
    std::shared_ptr<const model::Project> before(const model::Project& now) const;
    std::shared_ptr<const model::Project> after(const model::Project& now) const;

    /// Keeps only what changed. The texts of both states are made for it; `last` holds that of the state after, for
    /// the step that follows.
    struct Text {
        std::shared_ptr<const model::Project> of;
        std::string text;
    };
    void pack(Text& last);
    bool packed() const;
    /// Bytes of what changed; 0 while it is whole.
    qsizetype bytes() const;
    /// Lets it go: it cannot be undone any more.
    void letGo();

private:
    std::shared_ptr<const model::Project> other(const model::Project& now, const TextChange& change,
                                                const QByteArray& wanted) const;

    mutable std::mutex mutex_;
    std::shared_ptr<const model::Project> before_, after_;
    bool packed_ = false, gone_ = false;
    TextChange back_, forth_;
    QByteArray before_sha_, after_sha_; ///< of the texts: a change fits only the text that it was made from
};

} // namespace gabarit::app
