// Bundles there and back; hostile ones refused with nothing unpacked.
#include "store/bundle.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "store/safe_file.h"
#include "support/suite.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

using namespace gabarit;

namespace {

const model::RuleBook& book() { return store::defaultRuleBook(); }

std::string bytesOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll().toStdString() : std::string();
}
void put(const QString& path, const std::string& bytes) {
    QDir().mkpath(QFileInfo(path).path());
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly)) qFatal("cannot write %s", qPrintable(path));
    file.write(bytes.data(), static_cast<qint64>(bytes.size()));
}

model::Project project() {
    model::Project p;
    p.name = "Van";
    p.vehicle.emplace();
    p.vehicle->name = "Van";
    model::Body body;
    body.id.text = "b";
    body.name = "B";
    body.category = "frame";
    body.shape = model::BoxSpec{{1, 1, 1}};
    body.measured.picture = "left rail.png";
    body.measured.picture_sha256 = store::sha256("a picture");
    p.vehicle->bodies.push_back(body);
    return p;
}

/// A zip by another hand than ours: Debian's Python. `entries`: Python expressions, name and content.
QString zipped(const QTemporaryDir& folder, const QString& script) {
    const QString path = folder.filePath(QStringLiteral("hostile.gabaritz"));
    QProcess python;
    python.start(QStringLiteral("/usr/bin/python3"),
                 {QStringLiteral("-W"), QStringLiteral("ignore"), QStringLiteral("-c"),
                  QStringLiteral("import sys, zipfile\nz = zipfile.ZipFile(sys.argv[1], 'w', zipfile.ZIP_DEFLATED)\n"
                                 "p = sys.argv[2]\n") +
                      script + QStringLiteral("\nz.close()\n"),
                  path, QString::fromStdString(store::projectText(project()))});
    if (!python.waitForFinished(120000) || python.exitCode() != 0) qFatal("%s", python.readAllStandardError().data());
    return path;
}

QString refusal(const QString& path) {
    const auto read = store::readBundle(path.toStdString(), book());
    return read.ok() ? QString() : QString::fromStdString(read.error().line());
}

} // namespace

class BundleTest : public QObject {
    Q_OBJECT
private slots:
    void sha256IsThePublishedOne() {
        // FIPS 180-4, the example "abc".
        QCOMPARE(store::sha256("abc"), std::string("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"));
    }

    void thereAndBack() {
        QTemporaryDir from, to;
        const std::string path = from.filePath("van.gabarit").toStdString();
        QVERIFY(store::writeProject(path, project()).ok());
        put(from.filePath("van.files/left rail.png"), "a picture");
        const std::string bundle = from.filePath("sent.gabaritz").toStdString();
        const auto packed = store::writeBundle(bundle, project(), path);
        QVERIFY2(packed.ok(), packed.ok() ? "" : packed.error().line().c_str());
        QCOMPARE(packed.value().pictures, 1);
        QVERIFY(packed.value().missing.empty() && packed.value().changed.empty());
        const auto unpacked = store::unpackBundle(bundle, to.path().toStdString(), book());
        QVERIFY2(unpacked.ok(), unpacked.ok() ? "" : unpacked.error().line().c_str());
        QCOMPARE(bytesOf(to.filePath("van.gabarit")), store::projectText(project()));
        QCOMPARE(bytesOf(to.filePath("van.files/left rail.png")), std::string("a picture"));
        // The same project gives the same bytes, whatever the hour.
        const std::string first = bytesOf(QString::fromStdString(bundle));
        QTest::qSleep(2100); // a zip's clock ticks every two seconds
        QVERIFY(store::writeBundle(bundle, project(), path).ok());
        QVERIFY(bytesOf(QString::fromStdString(bundle)) == first);
        // Again into the same folder: nothing differs, nothing is refused. Something else there: nothing is lost.
        QVERIFY(store::unpackBundle(bundle, to.path().toStdString(), book()).ok());
        put(to.filePath("van.gabarit"), "mine");
        QVERIFY(!store::unpackBundle(bundle, to.path().toStdString(), book()).ok());
        QCOMPARE(bytesOf(to.filePath("van.gabarit")), std::string("mine"));
    }

    void anotherZipProgramReadsIt() {
        QTemporaryDir folder;
        const std::string path = folder.filePath("van.gabarit").toStdString();
        put(folder.filePath("van.files/left rail.png"), "a picture");
        QVERIFY(store::writeBundle(folder.filePath("a.gabaritz").toStdString(), project(), path).ok());
        QProcess python;
        python.start("/usr/bin/python3", {"-c",
                                          "import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); "
                                          "print(z.testzip(), sorted(z.namelist()))",
                                          folder.filePath("a.gabaritz")});
        QVERIFY(python.waitForFinished());
        QCOMPARE(python.readAllStandardOutput().trimmed(),
                 QByteArray("None ['van.files/left rail.png', 'van.gabarit']"));
    }

    void picturesThatAreNotThereOrChangedAreSaid() {
        QTemporaryDir folder;
        const std::string path = folder.filePath("van.gabarit").toStdString();
        const std::string bundle = folder.filePath("a.gabaritz").toStdString();
        QCOMPARE(store::writeBundle(bundle, project(), path).value().missing,
                 std::vector<std::string>{"left rail.png"});
        put(folder.filePath("van.files/left rail.png"), "another picture");
        QCOMPARE(store::writeBundle(bundle, project(), path).value().changed,
                 std::vector<std::string>{"left rail.png"});
        QCOMPARE(store::readBundle(bundle, book()).value().notes.changed, std::vector<std::string>{"left rail.png"});
    }

    void aPictureStaysInItsFolder() {
        QTemporaryDir folder;
        const QString outside = folder.filePath("secret.png");
        put(outside, "x");
        const std::string path = folder.filePath("in/van.gabarit").toStdString();
        put(folder.filePath("in/van.files/a.png"), "a");
        put(folder.filePath("in/old.png"), "beside");
        QFile::link(outside, folder.filePath("in/van.files/link.png"));
        QVERIFY(!store::picturePath(path, "a.png").empty());
        QVERIFY(!store::picturePath(path, "old.png").empty()); // as older projects have it
        for (const char* name : {"../../secret.png", "link.png", "/etc/passwd", "", "a\\b.png", "./a.png", "gone.png"})
            QVERIFY2(store::picturePath(path, name).empty(), name);
    }

    void aPictureIsTakenInOnceAndNeverWrittenOver() {
        QTemporaryDir folder;
        const std::string path = folder.filePath("van.gabarit").toStdString();
        put(folder.filePath("a.png"), "one");
        const auto first = store::takePicture(path, folder.filePath("a.png").toStdString());
        QCOMPARE(first.value().name, std::string("a.png"));
        QCOMPARE(first.value().sha256, store::sha256("one"));
        QCOMPARE(store::takePicture(path, folder.filePath("a.png").toStdString()).value().name, std::string("a.png"));
        put(folder.filePath("a.png"), "two");
        QCOMPARE(store::takePicture(path, folder.filePath("a.png").toStdString()).value().name, std::string("a 2.png"));
        QCOMPARE(bytesOf(folder.filePath("van.files/a.png")), std::string("one"));
        QVERIFY(!store::takePicture("", folder.filePath("a.png").toStdString()).ok()); // not saved yet: said so
    }

    void picturesComeAlongUnderAnotherName() {
        QTemporaryDir folder;
        put(folder.filePath("van.files/left rail.png"), "a picture");
        QVERIFY(store::copyPictures(project(), folder.filePath("van.gabarit").toStdString(),
                                    folder.filePath("copy.gabarit").toStdString())
                    .ok());
        QCOMPARE(bytesOf(folder.filePath("copy.files/left rail.png")), std::string("a picture"));
    }

    void hostileBundlesAreRefused_data() {
        QTest::addColumn<QString>("script");
        QTest::addColumn<QString>("says");
        const QString whole = QStringLiteral("z.writestr('van.gabarit', p)\n");
        QTest::newRow("up and out") << whole + "z.writestr('van.files/../../out.png', 'x')"
                                    << "leads out";
        QTest::newRow("up at once") << whole + "z.writestr('../out.png', 'x')"
                                    << "leads out";
        QTest::newRow("absolute") << whole + "z.writestr('/tmp/out.png', 'x')"
                                  << "leads out";
        QTest::newRow("backslash") << whole + "z.writestr('van.files\\\\..\\\\out.png', 'x')"
                                   << "leads out";
        QTest::newRow("beside the folder") << whole + "z.writestr('other/out.png', 'x')"
                                           << "does not lie in van.files/";
        QTest::newRow("another's folder") << whole + "z.writestr('van.files2/x.png', 'x')"
                                          << "does not lie in";
        QTest::newRow("two projects") << whole + "z.writestr('b.gabarit', p)"
                                      << "two projects";
        QTest::newRow("twice") << whole + "z.writestr('van.gabarit', p)"
                               << "";
        QTest::newRow("no project") << "z.writestr('readme.txt', 'x')"
                                    << "no .gabarit project";
        QTest::newRow("empty") << ""
                               << "";
        QTest::newRow("a project that is none") << "z.writestr('van.gabarit', '{}')"
                                                << "van.gabarit";
        QTest::newRow("too many entries") << whole + "for i in range(5000): z.writestr('van.files/%d' % i, '')"
                                          << "more than 4096 entries";
        QTest::newRow("a bomb") << whole + "b = bytes(1 << 26)\nfor i in range(17): z.writestr('van.files/%d' % i, b)"
                                << "unpacks to more than 1024 MiB";
    }
    void hostileBundlesAreRefused() {
        QFETCH(QString, script);
        QFETCH(QString, says);
        QTemporaryDir folder, target;
        const QString path = zipped(folder, script);
        const QString said = refusal(path);
        QVERIFY2(!said.isEmpty() && said.contains(says), qPrintable(said));
        QVERIFY(said.contains("hostile.gabaritz")); // the file is named
        QVERIFY(!store::unpackBundle(path.toStdString(), target.filePath("in").toStdString(), book()).ok());
        QVERIFY(QDir(target.path()).isEmpty());
    }

    void aBombThatLiesAboutItsSizeIsRefused() {
        // The central directory says 10 bytes where 2 GiB come: counted as they come, or refused as inconsistent.
        QTemporaryDir folder;
        const QString path = zipped(folder, "z.writestr('van.gabarit', p)\nb = bytes(1 << 26)\n"
                                            "with z.open('van.files/big', 'w', force_zip64=True) as f:\n"
                                            "  for i in range(17): f.write(b)");
        std::string bytes = bytesOf(path);
        // Every place where the true size (17 << 26) stands, written over.
        const std::string said("\0\0\0\x44\0\0\0\0", 8), lie("\x0a\0\0\0\0\0\0\0", 8);
        int found = 0;
        for (std::size_t at = 0; (at = bytes.find(said, at)) != std::string::npos; ++at, ++found)
            bytes.replace(at, said.size(), lie);
        QVERIFY(found > 0);
        QVERIFY(!store::bundleFromBytes(bytes, "bomb", book()).ok());
    }

    void damagedBundlesAreRefused() {
        QTemporaryDir folder;
        put(folder.filePath("van.files/left rail.png"), std::string(3000, 'x'));
        const std::string bundle = folder.filePath("a.gabaritz").toStdString();
        QVERIFY(store::writeBundle(bundle, project(), folder.filePath("van.gabarit").toStdString()).ok());
        const std::string whole = bytesOf(QString::fromStdString(bundle));
        for (std::size_t length = 0; length < whole.size(); ++length)
            QVERIFY(!store::bundleFromBytes(whole.substr(0, length), "cut", book()).ok());
        // One byte wrong, at every place: an error or the same project, never a crash.
        for (std::size_t at = 0; at < whole.size(); ++at) {
            std::string wrong = whole;
            wrong[at] = static_cast<char>(wrong[at] ^ 0x5A);
            const auto read = store::bundleFromBytes(wrong, "wrong", book());
            if (read) QVERIFY(store::projectFromText(read.value().text, "t", book()).ok());
        }
        QVERIFY(!store::readBundle(folder.path().toStdString(), book()).ok());
        QVERIFY(!store::readBundle(folder.filePath("gone.gabaritz").toStdString(), book()).ok());
    }

    void aLinkInThePlaceOfTheFolderIsNotFollowed() {
        QTemporaryDir folder, target, elsewhere;
        put(folder.filePath("van.files/left rail.png"), "a picture");
        const std::string bundle = folder.filePath("a.gabaritz").toStdString();
        QVERIFY(store::writeBundle(bundle, project(), folder.filePath("van.gabarit").toStdString()).ok());
        QFile::link(elsewhere.path(), target.filePath("van.files"));
        QVERIFY(!store::unpackBundle(bundle, target.path().toStdString(), book()).ok());
        QVERIFY(QDir(elsewhere.path()).isEmpty());
    }

    /// A link in the folder that is unpacked into leads nothing out of it.
    void linksInTheTargetAreNotFollowed() {
        QTemporaryDir from, to, outside;
        const std::string path = from.filePath("van.gabarit").toStdString();
        QVERIFY(store::writeProject(path, project()).ok());
        put(from.filePath("van.files/left rail.png"), "a picture");
        const std::string bundle = from.filePath("sent.gabaritz").toStdString();
        QVERIFY(store::writeBundle(bundle, project(), path).ok());
        const auto refused = [&] {
            const auto unpacked = store::unpackBundle(bundle, to.path().toStdString(), book());
            return !unpacked.ok() && unpacked.error().what.find("link") != std::string::npos &&
                   QDir(outside.path()).entryList(QDir::Files).isEmpty();
        };
        QVERIFY(QFile::link(outside.path(), to.filePath("van.files")));
        QVERIFY(refused());
        QVERIFY(QFile::remove(to.filePath("van.files")));
        QVERIFY(QDir().mkpath(to.filePath("van.files")));
        QVERIFY(QFile::link(outside.filePath("stolen"), to.filePath("van.files/left rail.png"))); // dangling
        QVERIFY(refused());
        QVERIFY(QFile::remove(to.filePath("van.files/left rail.png")));
        QVERIFY(QFile::link(outside.filePath("stolen"), to.filePath("van.gabarit")));
        QVERIFY(refused());
        QVERIFY(QFile::remove(to.filePath("van.gabarit")));
        // The folder itself may be one: it was named.
        QVERIFY(QFile::link(to.path(), outside.filePath("here")));
        QVERIFY(store::unpackBundle(bundle, outside.filePath("here").toStdString(), book()).ok());
        QVERIFY(store::unpackBundle(bundle, outside.filePath("here").toStdString() + "/", book()).ok());
    }

    /// A project of more than 256 MiB is no more taken from a bundle than from a file.
    void aProjectInABundleIsHeldToTheSameSize() {
        const std::string text = store::projectText(project()) + std::string(257U << 20U, ' ');
        const auto read = store::projectFromText(text, "sent.gabaritz, van.gabarit", book());
        QVERIFY(!read.ok() && read.error().what.find("larger than 256 MiB") != std::string::npos);
    }
};

GABARIT_SUITE(BundleTest)
#include "bundle_test.moc"
