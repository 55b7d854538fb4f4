// Whatever bytes a file holds: the readers of projects, donors, bundles and tables answer with a value or an error.
#include "store/bundle.h"
#include "store/csv.h"
#include "store/first_survey.h"
#include "store/project_file.h"
#include "store/rule_book.h"

#include <cstdint>
#include <cstdio>
#include <cstdlib>

using namespace gabarit;

namespace {

void stop(const char* law, const std::string& about) {
    std::fprintf(stderr, "broken law: %s: %s\n", law, about.c_str());
    std::abort();
}

/// What was read is sound, is written, and comes back the same.
void checkProject(const std::string& text) {
    const auto read = store::projectFromText(text, "fuzz.gabarit", store::defaultRuleBook());
    if (!read) {
        if (read.error().what.empty() || read.error().where.empty() || read.error().mend.empty())
            stop("an error says what, where and how to mend it", read.error().line());
        return;
    }
    const std::string written = store::projectText(read.value().project);
    const auto again = store::projectFromText(written, "fuzz.gabarit", store::defaultRuleBook());
    if (!again) stop("what is written can be read", again.error().line());
    if (store::projectText(again.value().project) != written) stop("writing twice gives the same bytes", written);
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string bytes(reinterpret_cast<const char*>(data), size);
    if (bytes.compare(0, 2, "PK") == 0) {
        const auto bundle = store::bundleFromBytes(bytes, "fuzz.gabaritz", store::defaultRuleBook());
        if (bundle) checkProject(bundle.value().text);
        return 0;
    }
    if (bytes.compare(0, 1, "{") == 0 || bytes.find("gabarit-") != std::string::npos) {
        checkProject(bytes);
        const auto donor = store::donorFromText(bytes, "fuzz.gabarit-donor", store::defaultRuleBook());
        if (donor && !store::donorFromText(store::donorText(donor.value()), "fuzz", store::defaultRuleBook()))
            stop("a donor that is written can be read", bytes);
        return 0;
    }
    model::Project project;
    project.name = "T";
    (void)store::withPartsCsv(project, bytes, "fuzz.csv", store::defaultRuleBook());
    (void)store::withLoadsCsv(project, bytes, "fuzz.csv", store::defaultRuleBook());
    (void)store::withAnswerSheet(project, bytes, "fuzz.csv", store::firstSurvey(), "2026-01-01", {});
    return 0;
}
