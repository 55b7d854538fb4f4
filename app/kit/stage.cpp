#include "kit/stage.h"

namespace gabarit::app {

QString stageGroupWords(StageGroup group) {
    switch (group) {
    case StageGroup::Measure: return QObject::tr("Measure");
    case StageGroup::Place: return QObject::tr("Place");
    case StageGroup::HoldAndDrive: return QObject::tr("Hold and drive");
    case StageGroup::Route: return QObject::tr("Route");
    case StageGroup::Account: return QObject::tr("Account");
    case StageGroup::Build: return QObject::tr("Build");
    case StageGroup::Rules: break;
    }
    return QObject::tr("Rules");
}

} // namespace gabarit::app

#include "moc_stage.cpp"
