#include "session/history_step.h"

#include "store/project_file.h"

#include <QCryptographicHash>

#include <algorithm>

namespace gabarit::app {
namespace {

QByteArray sha(const std::string& text) {
    return QCryptographicHash::hash(QByteArray::fromRawData(text.data(), static_cast<qsizetype>(text.size())),
                                    QCryptographicHash::Sha256);
}

} // namespace

TextChange TextChange::between(const std::string& from, const std::string& to) {
    const std::size_t most = std::min(from.size(), to.size());
    std::size_t head = 0, tail = 0;
    while (head < most && from[head] == to[head]) ++head;
    while (tail < most - head && from[from.size() - 1 - tail] == to[to.size() - 1 - tail]) ++tail;
    const QByteArray middle =
        QByteArray::fromRawData(to.data() + head, static_cast<qsizetype>(to.size() - head - tail));
    return {static_cast<qsizetype>(head), static_cast<qsizetype>(tail), qCompress(middle)};
}

std::string TextChange::appliedTo(const std::string& from) const {
    return from.substr(0, static_cast<std::size_t>(head)) + qUncompress(middle).toStdString() +
           from.substr(from.size() - static_cast<std::size_t>(tail));
}

HistoryStep::HistoryStep(std::shared_ptr<const model::Project> before, std::shared_ptr<const model::Project> after)
    : before_(std::move(before)), after_(std::move(after)) {}

void HistoryStep::setAfter(std::shared_ptr<const model::Project> after) {
    const std::lock_guard<std::mutex> lock(mutex_);
    after_ = std::move(after);
}

std::shared_ptr<const model::Project> HistoryStep::before(const model::Project& now) const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return packed_ ? other(now, back_, after_sha_) : before_;
}

std::shared_ptr<const model::Project> HistoryStep::after(const model::Project& now) const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return packed_ ? other(now, forth_, before_sha_) : after_;
}

std::shared_ptr<const model::Project> HistoryStep::other(const model::Project& now, const TextChange& change,
                                                         const QByteArray& wanted) const {
    if (gone_) return nullptr;
    const std::string text = store::projectText(now);
    if (sha(text) != wanted) return nullptr;
    auto read = store::projectAsWritten(change.appliedTo(text));
    return read ? std::make_shared<const model::Project>(std::move(read).value()) : nullptr;
}

void HistoryStep::pack(Text& last) {
    std::shared_ptr<const model::Project> before, after;
    {
        const std::lock_guard<std::mutex> lock(mutex_);
        if (packed_) return;
        before = before_, after = after_;
    }
    const std::string from = last.of == before ? std::move(last.text) : store::projectText(*before);
    std::string to = store::projectText(*after);
    const TextChange back = TextChange::between(to, from), forth = TextChange::between(from, to);
    const std::lock_guard<std::mutex> lock(mutex_);
    back_ = back, forth_ = forth;
    before_sha_ = sha(from), after_sha_ = sha(to);
    before_.reset(), after_.reset();
    packed_ = true;
    last = {std::move(after), std::move(to)};
}

bool HistoryStep::packed() const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return packed_;
}

qsizetype HistoryStep::bytes() const {
    const std::lock_guard<std::mutex> lock(mutex_);
    return back_.middle.size() + forth_.middle.size();
}

void HistoryStep::letGo() {
    const std::lock_guard<std::mutex> lock(mutex_);
    packed_ = gone_ = true;
    before_.reset(), after_.reset();
    back_ = forth_ = {};
}

} // namespace gabarit::app
