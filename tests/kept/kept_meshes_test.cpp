// Meshes that are kept between runs: the same again, or none.
#include "kept/kept_meshes.h"
#include "proximity/gap.h"
#include "support/suite.h"

#include <QDir>
#include <QTemporaryDir>
#include <QtTest>

#include <filesystem>
#include <fstream>
#include <sstream>
#include <sys/stat.h>

using namespace gabarit;
using Eigen::Vector3d;

namespace {

namespace fs = std::filesystem;

shape::MeshedSolid wedge() {
    shape::MeshedSolid out;
    out.mesh.points = {{0, 0, 0}, {1.0 / 3, 0, 0}, {0, 2, 0}, {0, 0, -5e-300}};
    out.mesh.triangles = {{{0, 1, 2}}, {{0, 3, 1}}, {{1, 3, 2}}, {{2, 3, 0}}};
    out.deflection_mm = 0.1;
    return out;
}

bool same(const shape::MeshedSolid& a, const shape::MeshedSolid& b) {
    bool out = a.deflection_mm == b.deflection_mm && a.mesh.points == b.mesh.points &&
               a.mesh.triangles.size() == b.mesh.triangles.size();
    for (std::size_t i = 0; out && i < a.mesh.triangles.size(); ++i)
        out = a.mesh.triangles[i].corner == b.mesh.triangles[i].corner;
    return out;
}

std::vector<fs::path> filesIn(const std::string& folder) {
    std::vector<fs::path> out;
    if (!fs::exists(folder)) return out;
    for (const auto& entry : fs::directory_iterator(folder)) out.push_back(entry.path());
    return out;
}

std::string read(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    std::stringstream bytes;
    bytes << in.rdbuf();
    return bytes.str();
}
void write(const fs::path& path, const std::string& bytes) {
    std::ofstream(path, std::ios::binary | std::ios::trunc) << bytes;
}

/// Counts what it is asked, and what of that it had.
struct Counting : proximity::MeshKeeper {
    explicit Counting(proximity::MeshKeeper& its) : keeper(its) {}
    std::optional<shape::MeshedSolid> find(const std::string& key) override {
        auto out = keeper.find(key);
        ++(out ? found : missed);
        return out;
    }
    void keep(const std::string& key, const shape::MeshedSolid& mesh) override {
        ++kept;
        keeper.keep(key, mesh);
    }
    proximity::MeshKeeper& keeper;
    int found = 0, missed = 0, kept = 0;
};

} // namespace

class KeptMeshesTest : public QObject {
    Q_OBJECT

    QTemporaryDir place_;
    std::string folder() const { return place_.filePath("meshes").toStdString(); }

private slots:
    void init() { QVERIFY(QDir(place_.filePath("meshes")).removeRecursively()); }

    void whatWasKeptComesBackToTheLastBit() {
        kept::KeptMeshes here(folder());
        QVERIFY(!here.find("wedge"));
        here.keep("wedge", wedge());
        const auto back = kept::KeptMeshes(folder()).find("wedge"); // as another run
        QVERIFY(back && same(*back, wedge()));
        QVERIFY(!here.find("wedge "));
        QVERIFY(!here.find(std::string("wedge\0", 6)));
        QCOMPARE(filesIn(folder()).size(), std::size_t(1)); // and nothing half written beside it
    }
    void aKeyMayHoldAnyBytes() {
        kept::KeptMeshes here(folder());
        const std::string key("\0\xff/../\n", 7);
        here.keep(key, wedge());
        QVERIFY(here.find(key));
        QCOMPARE(filesIn(folder()).size(), std::size_t(1));
    }
    void whatIsDamagedIsNone() {
        kept::KeptMeshes here(folder());
        here.keep("wedge", wedge());
        const fs::path file = filesIn(folder()).front();
        const std::string whole = read(file);
        for (std::size_t i = 0; i < whole.size(); ++i) {
            std::string bytes = whole;
            bytes[i] = static_cast<char>(bytes[i] ^ 1);
            write(file, bytes);
            QVERIFY2(!here.find("wedge"), std::to_string(i).c_str());
            write(file, whole.substr(0, i));
            QVERIFY2(!here.find("wedge"), std::to_string(i).c_str());
        }
        write(file, whole + "x");
        QVERIFY(!here.find("wedge"));
        write(file, whole);
        QVERIFY(here.find("wedge"));
        // Another mesh's file under its name is not it.
        here.keep("other", wedge());
        for (const fs::path& its : filesIn(folder()))
            if (its != file) fs::copy_file(its, file, fs::copy_options::overwrite_existing);
        QVERIFY(!here.find("wedge"));
        here.keep("wedge", wedge()); // it is kept anew
        QVERIFY(here.find("wedge"));
    }
    void aFolderThatCannotBeSavesNothingAndHurtsNothing() {
        kept::KeptMeshes nowhere("");
        nowhere.keep("wedge", wedge());
        QVERIFY(!nowhere.find("wedge"));
        const std::string file = place_.filePath("file").toStdString();
        write(file, "mine");
        kept::KeptMeshes under_a_file(file);
        under_a_file.keep("wedge", wedge());
        QVERIFY(!under_a_file.find("wedge"));
        QCOMPARE(read(file), std::string("mine"));
        // A folder where the mesh would stand.
        kept::KeptMeshes here(folder());
        here.keep("wedge", wedge());
        const fs::path mesh = filesIn(folder()).front();
        fs::remove(mesh);
        fs::create_directory(mesh);
        QVERIFY(!here.find("wedge"));
        here.keep("wedge", wedge());
        QCOMPARE(filesIn(folder()).size(), std::size_t(1));
    }
    void whatWasLongestUnusedGoesFirst() {
        const std::size_t size = [&] {
            kept::KeptMeshes(folder()).keep("0", wedge());
            return static_cast<std::size_t>(fs::file_size(filesIn(folder()).front()));
        }();
        kept::KeptMeshes here(folder());
        for (const char* key : {"1", "2", "3"}) here.keep(key, wedge());
        const auto now = fs::file_time_type::clock::now();
        for (const fs::path& file : filesIn(folder())) fs::last_write_time(file, now - std::chrono::hours(24 * 30));
        QVERIFY(kept::KeptMeshes(folder()).find("1")); // that is use
        const fs::path mine = fs::path(folder()) / "notes.txt";
        write(mine, "mine");
        fs::last_write_time(mine, now - std::chrono::hours(24 * 60));
        kept::KeptMeshes small(folder(), 2 * size);
        small.keep("4", wedge()); // the first of a run makes room
        QVERIFY(small.find("1") && small.find("4"));
        QCOMPARE(filesIn(folder()).size(), std::size_t(4)); // two fitted, the new one, and what is not ours
        QCOMPARE(read(mine), std::string("mine"));
    }
    void theFolderIsTheCachesOfTheUser() {
        const QByteArray cache = qgetenv("XDG_CACHE_HOME"), home = qgetenv("HOME");
        qputenv("XDG_CACHE_HOME", "/somewhere/cache");
        QCOMPARE(kept::usualFolder(), std::string("/somewhere/cache/gabarit/meshes"));
        qputenv("XDG_CACHE_HOME", "relative"); // the specification: ignored
        qputenv("HOME", "/home/r-oake");
        QCOMPARE(kept::usualFolder(), std::string("/home/r-oake/.cache/gabarit/meshes"));
        qunsetenv("XDG_CACHE_HOME");
        qunsetenv("HOME");
        QCOMPARE(kept::usualFolder(), std::string());
        qputenv("XDG_CACHE_HOME", cache);
        qputenv("HOME", home);
    }

    void aSecondRunMakesNoSolidAndFindsTheSameGap() {
        const model::ShapeSpec tube = model::TubeSpec{{{0, 0, 0}, {0, 0, 100}, {80, 0, 160}}, 30, 45};
        const model::ShapeSpec box = model::BoxSpec{{40, 40, 40}};
        kept::KeptMeshes files(folder());
        const auto run = [&](int found, int kept) {
            auto counting = std::make_shared<Counting>(files);
            proximity::ColliderCache cache;
            cache.keepWith(counting);
            const auto a = cache.get(tube), b = cache.get(box);
            (void)cache.get(tube); // known by now: not asked again
            if (counting->found != found || counting->kept != kept || !a->collider || !b->collider)
                return std::numeric_limits<double>::quiet_NaN();
            // The solid is there all the same: π·15²·length with a bend.
            const auto solid = a->solid();
            if (!solid || std::abs(shape::volume_mm3(*solid) / shape::volume_mm3(a->collider->mesh()) - 1) > 0.02)
                return std::numeric_limits<double>::quiet_NaN();
            Eigen::Isometry3d apart = Eigen::Isometry3d::Identity();
            apart.translation() = Vector3d(70, 0, 20);
            return proximity::gap(*a->collider, Eigen::Isometry3d::Identity(), *b->collider, apart, {}).gap_mm;
        };
        const double first = run(0, 2), second = run(2, 0);
        QVERIFY(std::abs(first - 35) < 0.11); // 70 − 15 − 20, the mesh within 0.1
        QCOMPARE(second, first);
        // Meshes of another fineness are others.
        auto counting = std::make_shared<Counting>(files);
        proximity::ColliderCache finer(0.05);
        finer.keepWith(counting);
        QVERIFY(finer.get(tube)->collider);
        QCOMPARE(counting->found, 0);
    }
    void whatCannotBeMadeIsNotKept() {
        kept::KeptMeshes files(folder());
        auto counting = std::make_shared<Counting>(files);
        proximity::ColliderCache cache;
        cache.keepWith(counting);
        const auto made = cache.get(model::TubeSpec{{{0, 0, 0}, {0, 0, 20}, {20, 0, 20}}, 30, 300});
        QVERIFY(made->error && !made->collider && !made->solid());
        QCOMPARE(counting->kept, 0);
    }
};
GABARIT_SUITE(KeptMeshesTest)
#include "kept_meshes_test.moc"
