// Where the unit has hung since the project was opened, and how it stood there: so that advice does not lead back.
#pragma once

#include "model/placement.h"
#include "study/study.h"

#include <QObject>

#include <optional>
#include <vector>

namespace gabarit::app {

class Session;

class Tries : public QObject {
    Q_OBJECT
public:
    explicit Tries(Session& session, QObject* parent = nullptr);
    /// How many gaps were no-go when it hung there, all else being as it is now; nothing when it never did.
    /// There: within half a millimetre and a twentieth of a degree. Where it hangs now does not count.
    std::optional<int> noGoAt(const model::Placement& placement) const;

private:
    struct Try {
        model::Placement placement;
        std::uint64_t rest = 0; ///< mark of all but where it hangs
        int no_go = 0;
    };
    void note();
    Session& session_;
    std::vector<Try> tries_; ///< the last one is where it hangs now
};

} // namespace gabarit::app
