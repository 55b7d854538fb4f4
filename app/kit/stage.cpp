#include "kit/stage.h"

#include <algorithm>

namespace gabarit::app {

QString openWords(const study::Reports& reports, const std::vector<std::string>& disciplines, const QString& words) {
    const auto open = std::count_if(reports.findings.begin(), reports.findings.end(), [&](const study::Finding& f) {
        return std::find(disciplines.begin(), disciplines.end(), f.discipline) != disciplines.end();
    });
    return open == 0 ? QObject::tr("nothing open") : words.arg(open);
}

} // namespace gabarit::app

#include "moc_stage.cpp"
