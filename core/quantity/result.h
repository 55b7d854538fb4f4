// A value, or the reason why there is none, in words its reader can act on.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <variant>

namespace gabarit {

/// What went wrong (`what`), where (`where`: file, line, field…), and how to mend it (`mend`).
struct Error {
    std::string what;
    std::string where;
    std::string mend;

    /// One line: "where: what. mend"; empty members are left out.
    std::string line() const {
        std::string text = where.empty() ? what : where + ": " + what;
        if (!mend.empty()) text += (text.empty() || text.back() == '.' ? " " : "; ") + mend;
        return text;
    }
};

/// Holds a T or an Error. Asking for the one that is not there is a programming error and throws.
template <class T>
class [[nodiscard]] Result {
public:
    Result(T value) : held_(std::move(value)) {}
    Result(Error error) : held_(std::move(error)) {}

    bool ok() const { return std::holds_alternative<T>(held_); }
    explicit operator bool() const { return ok(); }
    const T& value() const& { return std::get<T>(held_); }
    T& value() & { return std::get<T>(held_); }
    T&& value() && { return std::get<T>(std::move(held_)); }
    const Error& error() const { return std::get<Error>(held_); }

private:
    std::variant<T, Error> held_;
};

/// An outcome without a value.
template <>
class [[nodiscard]] Result<void> {
public:
    Result() = default;
    Result(Error error) : error_(std::move(error)) {}

    bool ok() const { return !error_; }
    explicit operator bool() const { return ok(); }
    const Error& error() const { return *error_; }

private:
    std::optional<Error> error_;
};

} // namespace gabarit
