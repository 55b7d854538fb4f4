#include "quantity/recent_cache.h"
#include "support/suite.h"

#include <QtTest>

#include <thread>
#include <vector>

using gabarit::RecentCache;

class RecentCacheTest : public QObject {
    Q_OBJECT
private slots:
    void keepsWhatIsAskedFor() {
        RecentCache<int> cache;
        QVERIFY(!cache.find("a"));
        QCOMPARE(cache.keep("a", 1), 1);
        QCOMPARE(cache.keep("b", 2), 2);
        cache.forgetUnused(); // both are new: they stay for one more round
        QCOMPARE(*cache.find("a"), 1);
        cache.forgetUnused();
        QCOMPARE(*cache.find("a"), 1);
        QVERIFY(!cache.find("b"));
        cache.forgetUnused();
        cache.forgetUnused();
        QVERIFY(!cache.find("a"));
    }
    void theFirstOneInIsKept() {
        RecentCache<int> cache;
        cache.keep("a", 1);
        QCOMPARE(cache.keep("a", 2), 1);
        QCOMPARE(*cache.find("a"), 1);
    }
    void manyThreads() {
        RecentCache<int> cache;
        std::vector<std::thread> threads;
        std::atomic<int> wrong{0};
        for (int t = 0; t < 4; ++t)
            threads.emplace_back([&cache, &wrong] {
                for (int i = 0; i < 2000; ++i) {
                    const std::string key = std::to_string(i % 50);
                    const auto known = cache.find(key);
                    if (known && *known != i % 50) ++wrong;
                    if (!known) cache.keep(key, i % 50);
                    if (i % 97 == 0) cache.forgetUnused();
                }
            });
        for (std::thread& thread : threads) thread.join();
        QCOMPARE(wrong.load(), 0);
    }
};

GABARIT_SUITE(RecentCacheTest)
#include "recent_cache_test.moc"
