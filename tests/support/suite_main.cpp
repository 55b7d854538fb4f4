// Runs one suite of a test program: test_fit ClearanceTest [what QTest takes]. Names are taken as CMake writes them,
// too: "clearance", "free_move".
#include "support/suite.h"

#include "quantity/number.h"

#include <clocale>
#include <cstdio>
#include <cstdlib>
#include <string>

namespace {

/// "FreeMoveTest" and "free_move" are one: "freemove".
std::string plain(const std::string& name) {
    std::string out;
    for (const char c : name)
        if (c != '_') out += gabarit::quantity::lower(c);
    const std::string tail = "test";
    if (out.size() > tail.size() && out.compare(out.size() - tail.size(), tail.size(), tail) == 0)
        out.resize(out.size() - tail.size());
    return out;
}

} // namespace

int main(int argc, char** argv) {
    using gabarit::tests::suites;
    // As Qt does for the window. A locale that was made for the tests must be the one they run under.
    if (!std::setlocale(LC_ALL, "") && std::getenv("LOCPATH")) {
        std::fprintf(stderr, "The locale %s is not there.\n", std::getenv("LC_ALL"));
        return 2;
    }
    // What tests keep between runs is not the user's.
    setenv("XDG_CACHE_HOME", GABARIT_CACHE_DIR, 1);
    if (argc > 1)
        for (const auto& suite : suites())
            if (plain(suite.name) == plain(argv[1])) {
                argv[1] = argv[0];
                return suite.run(argc - 1, argv + 1);
            }
    std::fprintf(stderr, "Name one of its suites:\n");
    for (const auto& suite : suites()) std::fprintf(stderr, "  %s\n", suite.name);
    return 2;
}
