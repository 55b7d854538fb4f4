// Where the unit has hung since the project was opened, and how it stood there: so that advice does not lead back.
#pragma once

#include "model/placement.h"
#include "study/study.h"

#include <QObject>

#include <optional>
#include <vector>

namespace gabarit::app {

class Session;

/// One place where it hung.
struct Try {
    int id = 0;
    QString words; ///< the step that led there: "22.5 mm down"
    model::Placement placement;
    std::uint64_t rest = 0; ///< mark of all but where it hangs
    int no_go = 0;          ///< gaps
};

class Tries : public QObject {
    Q_OBJECT
public:
    explicit Tries(Session& session, QObject* parent = nullptr);
    /// In the order in which they were first tried.
    const std::vector<Try>& all() const { return tries_; }
    /// Where it hangs now; null while that is not judged yet.
    const Try* now() const;
    /// All but where it hangs is as it was then, so that its figures still hold.
    bool holds(const Try& which) const;
    /// Hangs it there again, as one step.
    void goTo(int id);
    /// How many gaps were no-go when it hung there, all else being as it is now; nothing when it never did.
    /// There: within half a millimetre and a twentieth of a degree. Where it hangs now does not count.
    std::optional<int> noGoAt(const model::Placement& placement) const;

signals:
    void changed();

private:
    void note();
    Session& session_;
    std::vector<Try> tries_;
    int now_ = 0, next_ = 1; ///< ids
};

} // namespace gabarit::app
