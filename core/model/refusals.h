// What is wrong with values together: what a description of each member alone cannot say.
#pragma once

#include "quantity/result.h"

#include <string>
#include <utility>
#include <vector>

namespace gabarit::model {

/// Collects it, each with its place ("mounts, mount "left", pad") and what to do about it.
class Refusals {
public:
    explicit Refusals(std::vector<Error> found) : found_(std::move(found)) {}
    std::vector<Error> take() { return std::move(found_); }

    void say(std::string where, std::string what, std::string mend) {
        found_.push_back(Error{std::move(what), std::move(where), std::move(mend)});
    }
    void need(bool holds, const std::string& where, const char* what, const char* mend) {
        if (!holds) say(where, what, mend);
    }

private:
    std::vector<Error> found_;
};

} // namespace gabarit::model
