// Many suites in one program: each lists itself, and the program runs the one that is named.
#pragma once

#include <vector>

namespace gabarit::tests {

/// One QObject full of tests. `run` makes what application it needs and gives the number of failures.
struct Suite {
    const char* name; ///< of its class: "ClearanceTest"
    int (*run)(int argc, char** argv);
};

/// The suites of this program.
inline std::vector<Suite>& suites() {
    static std::vector<Suite> all;
    return all;
}
inline bool listed(const Suite& suite) {
    suites().push_back(suite);
    return true;
}

} // namespace gabarit::tests

/// Lists a suite that is run by a function of its own.
#define GABARIT_SUITE_RUN_BY(Class, function)                                                                          \
    [[maybe_unused]] static const bool is_##Class##_listed = gabarit::tests::listed({#Class, function});
/// One that needs no application.
#define GABARIT_SUITE(Class)                                                                                           \
    GABARIT_SUITE_RUN_BY(Class, [](int argc, char** argv) {                                                            \
        Class test;                                                                                                    \
        return QTest::qExec(&test, argc, argv);                                                                        \
    })
/// One that needs an event loop.
#define GABARIT_LOOP_SUITE(Class)                                                                                      \
    GABARIT_SUITE_RUN_BY(Class, [](int argc, char** argv) {                                                            \
        QCoreApplication application(argc, argv);                                                                      \
        Class test;                                                                                                    \
        return QTest::qExec(&test, argc, argv);                                                                        \
    })
/// One that paints, with no display.
#define GABARIT_PAINT_SUITE(Class)                                                                                     \
    GABARIT_SUITE_RUN_BY(Class, [](int argc, char** argv) {                                                            \
        qputenv("QT_QPA_PLATFORM", "offscreen");                                                                       \
        QGuiApplication application(argc, argv);                                                                       \
        Class test;                                                                                                    \
        return QTest::qExec(&test, argc, argv);                                                                        \
    })
/// One that works real widgets: as the program looks, its settings out of the user's.
#define GABARIT_WINDOW_SUITE(Class)                                                                                    \
    GABARIT_SUITE_RUN_BY(Class, [](int argc, char** argv) {                                                            \
        QStandardPaths::setTestModeEnabled(true);                                                                      \
        QApplication application(argc, argv);                                                                          \
        gabarit::app::dress(application);                                                                              \
        Class test;                                                                                                    \
        return QTest::qExec(&test, argc, argv);                                                                        \
    })
