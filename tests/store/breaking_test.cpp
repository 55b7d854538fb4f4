// Files as accidents and enemies leave them: each gets an error that names the place, or opens; nothing crashes, and a
// save that is cut short leaves a whole file.
#include "store/project_file.h"
#include "store/rule_book.h"
#include "store/safe_file.h"
#include "support/suite.h"

#include <QFile>
#include <QTemporaryDir>
#include <QtTest>

#include <csignal>
#include <random>

#include <sys/mount.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace gabarit;

namespace {

std::string demoText() {
    return store::readWhole(GABARIT_SOURCE_DIR "/data/demo/harrow-tarn.gabarit", 1u << 26).value();
}

/// True when it opened; an error must be complete, and what opened must be sound and come back as it was.
bool opens(const std::string& text) {
    const auto read = store::projectFromText(text, "broken.gabarit", store::defaultRuleBook());
    if (!read) {
        const Error& error = read.error();
        if (error.where.find("broken.gabarit") == std::string::npos || error.what.empty() || error.mend.empty())
            qFatal("an error that does not say enough: %s", error.line().c_str());
        return false;
    }
    if (!model::validate(read.value().project, store::defaultRuleBook()).empty())
        qFatal("what was opened is not sound");
    const std::string again = store::projectText(read.value().project);
    const auto second = store::projectFromText(again, "again", store::defaultRuleBook());
    if (!second || store::projectText(second.value().project) != again) qFatal("it does not come back as it was");
    return true;
}

std::string replaced(std::string text, const std::string& from, const std::string& to) {
    const std::size_t at = text.find(from);
    if (at == std::string::npos) qFatal("the demo has no %s", from.c_str());
    return text.replace(at, from.size(), to);
}

} // namespace

class BreakingTest : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;

private slots:
    void cutShortAnywhere() {
        const std::string text = demoText();
        const std::size_t whole = text.find_last_not_of(" \n") + 1;
        for (std::size_t length = 0; length < whole; length += 1 + whole / 150) QVERIFY(!opens(text.substr(0, length)));
        QVERIFY(opens(text));
    }
    /// A tape of random damage, the same at every run.
    void bytesChanged() {
        const std::string text = demoText();
        std::mt19937 random(20261125);
        int opened = 0;
        constexpr int tries = 250;
        for (int i = 0; i < tries; ++i) {
            std::string broken = text;
            for (int n = 1 + static_cast<int>(random() % 4); n > 0; --n) {
                const std::size_t at = random() % broken.size();
                switch (random() % 4) {
                case 0: broken[at] = static_cast<char>(random() % 256); break;
                case 1: broken.erase(at, 1 + random() % 40); break;
                case 2: broken.insert(at, broken.substr(random() % broken.size(), random() % 60)); break;
                default: broken[at] = "{}[],:\"0-e."[random() % 11]; break;
                }
            }
            opened += opens(broken);
        }
        QVERIFY2(opened > 0 && opened < tries, qPrintable(QString::number(opened))); // a damaged note does no harm
    }
    void everyMemberOfAnotherType() {
        const std::string text = demoText();
        std::size_t at = 0;
        int members = 0, refused = 0;
        const char* const others[] = {"null", "true", "-7", "\"x\"", "[]", "{}", "1e308", "-1e308", "[[[[1]]]]"};
        while ((at = text.find("\": ", at)) != std::string::npos && members < 600) {
            at += 3;
            const std::size_t end = text.find_first_of(",\n", at);
            if (text[at] == '{' || text[at] == '[') continue;
            if (++members % 3 != 0) continue; // a third of them is enough for a minute
            std::string broken = text;
            broken.replace(at, end - at, others[static_cast<std::size_t>(members / 3) % 9]);
            refused += !opens(broken);
        }
        QVERIFY2(members > 200 && refused > 50, qPrintable(QString("%1 %2").arg(members).arg(refused)));
    }
    void numbersThatAreNone() {
        const std::string text = demoText();
        for (const char* number :
             {"NaN", "nan", "Infinity", "-inf", "1e400", "1e308", "0x10", "1_000", "--1", "1e", "٣"})
            QVERIFY2(!opens(replaced(text, "\"wheelbase_mm\": 2650", std::string("\"wheelbase_mm\": ") + number)),
                     number);
    }
    void namesTwice() {
        const std::string text = demoText();
        QVERIFY(!opens(replaced(text, "\"id\": \"rail-right\"", "\"id\": \"rail-left\"")));
        QVERIFY(!opens(replaced(text, "\"id\": \"second-try\"", "\"id\": \"first-try\"")));
        QVERIFY(!opens(replaced(text, "\"donor\": \"ostrel-six\"", "\"donor\": \"../../etc/passwd\"")));
    }
    void veryLongAndVeryDeep() {
        const std::string head = "{\"format\": \"gabarit-project\", \"version\": 1, \"name\": \"";
        QVERIFY(opens(head + std::string(100u << 20, 'x') + "\"}")); // a hundred megabytes of name: slow, not wrong
        for (const char* open : {"[", "{\"a\":"})
            for (const int depth : {63, 1000, 1000000}) {
                std::string nest;
                for (int i = 0; i < depth; ++i) nest += open;
                QVERIFY(!opens(head + "deep\", \"x\": " + nest));
            }
        QVERIFY(!opens(std::string(1u << 20, '\0')));
        QVERIFY(!opens("\xEF\xBB\xBF"));
        QVERIFY(!opens("\xFF\xFE{\0}\0"));
    }

    /// Two hundred saves, each killed at another moment: the file is always one of the two.
    void killedInTheMiddleOfSaving() {
        const auto book = store::defaultRuleBook();
        auto a = store::projectFromText(demoText(), "demo", book).value().project, b = a;
        a.name = "A", b.name = "B";
        b.note = std::string(200000, 'b'); // of another length, so that a mixture would show
        const std::string path = folder_.filePath(QStringLiteral("killed.gabarit")).toStdString();
        QVERIFY(store::writeProject(path, a));
        const std::string textA = store::projectText(a), textB = store::projectText(b);
        int seenA = 0, seenB = 0;
        for (int i = 0; i < 200; ++i) {
            const pid_t child = ::fork();
            QVERIFY(child >= 0);
            if (child == 0) {
                for (;;) {
                    (void)store::writeWhole(path, textB).ok();
                    (void)store::writeWhole(path, textA).ok();
                }
            }
            ::usleep(500 + static_cast<useconds_t>(i * 97 % 9000));
            ::kill(child, SIGKILL);
            int status = 0;
            QVERIFY(::waitpid(child, &status, 0) == child && WIFSIGNALED(status));
            const std::string now = store::readWhole(path, 1u << 26).value();
            QVERIFY(now == textA || now == textB);
            (now == textA ? seenA : seenB)++;
            const auto backup = store::readWhole(path + ".bak", 1u << 26);
            QVERIFY(!backup || backup.value() == textA || backup.value() == textB);
        }
        QVERIFY2(seenA > 5 && seenB > 5, qPrintable(QString("%1 %2").arg(seenA).arg(seenB)));
        QVERIFY(store::readProject(path, book).ok());
    }
    /// No room left: what was there stays, and the error says what to do.
    void theDiskIsFull() {
        const std::string text = demoText();
        const std::string path = folder_.filePath(QStringLiteral("full.gabarit")).toStdString();
        QVERIFY(store::writeWhole(path, text));
        const pid_t child = ::fork();
        QVERIFY(child >= 0);
        if (child == 0) { // a limit on the size of files stands for the full disk, and needs no rights
            ::signal(SIGXFSZ, SIG_IGN);
            const rlimit small{4096, 4096};
            ::setrlimit(RLIMIT_FSIZE, &small);
            const auto written = store::writeWhole(path, text + text);
            ::_exit(!written && !written.error().mend.empty() ? 0 : 1);
        }
        int status = 0;
        QVERIFY(::waitpid(child, &status, 0) == child && WIFEXITED(status) && WEXITSTATUS(status) == 0);
        QCOMPARE(store::readWhole(path, 1u << 26).value(), text);
        QCOMPARE(QDir(folder_.path()).entryList({QStringLiteral("full*")}, QDir::Files).size(), 1); // no litter

        const QString disk = folder_.filePath(QStringLiteral("disk"));
        QVERIFY(QDir().mkpath(disk));
        if (::mount("tmpfs", disk.toLocal8Bit().constData(), "tmpfs", 0, "size=300k") != 0)
            QSKIP("a small disk of its own needs the right to mount one");
        const std::string there = (disk + QStringLiteral("/full.gabarit")).toStdString();
        const auto first = store::writeWhole(there, std::string(180000, 'a'));
        const auto second = store::writeWhole(there, std::string(280000, 'b'));
        const auto left = store::readWhole(there, 1u << 26);
        ::umount(disk.toLocal8Bit().constData());
        QVERIFY(first.ok() && !second.ok());
        QVERIFY(second.error().mend.find("free some room") == 0);
        QCOMPARE(left.value(), std::string(180000, 'a'));
    }

    /// Every call of a save fails once, in every way: what was there stays whole, nothing is left beside it, the error
    /// says what to do; and the next save works.
    void everyCallOfASaveFailsOnce() {
        const std::string path = folder_.filePath(QStringLiteral("faults.gabarit")).toStdString();
        const std::string was(150000, 'a'), wanted(170000, 'b'); // three pieces
        struct Off {
            ~Off() { store::failWrites({}); }
        } off;
        int failed = 0;
        for (const int code : {ENOSPC, EDQUOT, EACCES, EROFS, EIO, ENOENT, EINTR})
            for (int which = 0;; ++which) {
                QVERIFY(store::writeWhole(path, was).ok());
                int calls = 0;
                bool told = false;
                std::string call;
                store::failWrites([&](const char* name) {
                    if (calls++ != which) return 0;
                    told = true, call = name;
                    return code;
                });
                const auto written = store::writeWhole(path, wanted);
                store::failWrites({});
                if (!told) break; // all have failed once
                const std::string now = store::readWhole(path, 1U << 20U).value();
                // Without a spare copy it is saved all the same; an interrupted write goes on.
                const bool saved = call == "link" || call == "backup" || (call == "write" && code == EINTR);
                QVERIFY2(written.ok() == saved, call.c_str());
                QVERIFY2(now == (saved ? wanted : was), call.c_str());
                failed += !saved;
                if (!saved) {
                    QVERIFY(written.error().where == path && !written.error().mend.empty());
                    if (code == ENOSPC) QVERIFY(written.error().mend.find("free some room") == 0);
                    if (code == EACCES) QVERIFY(written.error().mend.find("may write to") != std::string::npos);
                }
                const QStringList beside = QDir(folder_.path()).entryList({QStringLiteral("faults*")}, QDir::Files);
                QVERIFY2(beside.size() <= 2, qPrintable(beside.join(' '))); // itself and its .bak
            }
        QVERIFY2(failed >= 7 * 7 - 1, qPrintable(QString::number(failed)));
    }
    void theFolderVanishesWhileSaving() {
        const QString folder = folder_.filePath(QStringLiteral("gone"));
        QVERIFY(QDir().mkpath(folder));
        store::failWrites([&folder](const char* call) {
            if (std::string(call) == "sync") QDir(folder).removeRecursively();
            return 0;
        });
        const auto written = store::writeWhole((folder + "/a.gabarit").toStdString(), "text");
        store::failWrites({});
        QVERIFY(!written.ok() && !written.error().mend.empty());
        QVERIFY(!QFile::exists(folder));
    }
    /// Only files are written over, and only files are read.
    void devicesPipesAndLinks() {
        const auto path = [this](const char* name) { return folder_.filePath(QLatin1String(name)).toStdString(); };
        QVERIFY(::mkfifo(path("pipe").c_str(), 0600) == 0);
        const auto pipe = store::writeWhole(path("pipe"), "text");
        QVERIFY(!pipe.ok() && pipe.error().what.find("pipe") != std::string::npos);
        struct stat about {};
        QVERIFY(::lstat(path("pipe").c_str(), &about) == 0 && S_ISFIFO(about.st_mode));
        QVERIFY(!store::readWhole(path("pipe"), 1000).ok()); // and does not wait for somebody to fill it
        QVERIFY(!store::readProject(path("pipe"), store::defaultRuleBook()).ok());
        QVERIFY(!store::writeWhole("/dev/null", "text").ok());
        QVERIFY(::lstat("/dev/null", &about) == 0 && S_ISCHR(about.st_mode));
        QVERIFY(!store::writeWhole(folder_.path().toStdString(), "text").ok());
        // A link is followed and stays one; one that leads nowhere is told.
        QVERIFY(store::writeWhole(path("real"), "old").ok());
        QVERIFY(::symlink(path("real").c_str(), path("link").c_str()) == 0);
        QVERIFY(store::writeWhole(path("link"), "new").ok());
        QVERIFY(::lstat(path("link").c_str(), &about) == 0 && S_ISLNK(about.st_mode));
        QCOMPARE(store::readWhole(path("real"), 1000).value(), std::string("new"));
        QVERIFY(::symlink(path("nowhere").c_str(), path("dangling").c_str()) == 0);
        const auto dangling = store::writeWhole(path("dangling"), "text");
        QVERIFY(!dangling.ok() && dangling.error().what.find("leads nowhere") != std::string::npos);
        QVERIFY(!QFile::exists(folder_.filePath(QStringLiteral("nowhere"))));
    }
    void lettersAndLists() {
        const std::string text = demoText();
        const auto complaint = [](const std::string& broken) {
            const auto read = store::projectFromText(broken, "broken.gabarit", store::defaultRuleBook());
            return read ? std::string() : read.error().line();
        };
        const std::string latin = complaint(replaced(text, "\"Front crossmember\"", "\"Front cr\xF6ssmember\""));
        QVERIFY2(latin.find("UTF-8") != std::string::npos && latin.find("line ") != std::string::npos, latin.c_str());
        const std::string escape = complaint(replaced(text, "\"Front crossmember\"", "\"Front\\u001b[2J\""));
        QVERIFY2(escape.find("U+001B") != std::string::npos && escape.find(".name") != std::string::npos,
                 escape.c_str());
        // A line feed in a name begins no line of its own; a note keeps its lines, whichever system ended them.
        const auto folded =
            store::projectFromText(replaced(replaced(text, "\"Front crossmember\"", "\"x\\nall that was asked: go\""),
                                            "cut and closed again; see Relief", "cut\\r\\nand closed"),
                                   "f", store::defaultRuleBook());
        QVERIFY2(folded.ok(), folded.ok() ? "" : folded.error().line().c_str());
        const std::string again = store::projectText(folded.value().project);
        QVERIFY(again.find("\"x all that was asked: go\"") != std::string::npos);
        QVERIFY(again.find("\"cut\\nand closed\"") != std::string::npos);
        std::string many = "{\"id\": \"x0\", \"name\": \"X\"}";
        for (int i = 1; i <= 20000; ++i) many += ", {\"id\": \"x" + std::to_string(i) + "\", \"name\": \"X\"}";
        QVERIFY(
            complaint("{\"format\": \"gabarit-project\", \"version\": 2, \"name\": \"n\", \"parts\": [" + many + "]}")
                .find("more than 20000 entries") != std::string::npos);
    }
};

GABARIT_SUITE(BreakingTest)
#include "breaking_test.moc"
