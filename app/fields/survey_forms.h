// The fields of everything a project is made of: bodies, points, masses, serviced bolts, joined pairs, choices.
#pragma once

#include "fields/editing.h"
#include "model/project.h"

namespace gabarit::app {

class Session;

enum class SurveyKind {
    Bodies,
    Points,
    Masses,
    Serviced,
    Joined,
    Choices,
    About,
    Assumed,
    Readings,
    Areas,
    Outgoing,
    Found,
    Rooms,
    Motions,
    Stances
};
constexpr int survey_kind_count = 15;

/// One entry of a list: what it is known by, and its words.
struct SurveyEntry {
    QString key;
    QString words;
};

/// The entries of one kind that an owner (the vehicle, or a donor by id) has.
std::vector<SurveyEntry> surveyEntries(const model::Project& project, const std::string& owner, SurveyKind kind);

/// The fields of one entry; each changes the session's project as one step. Empty when it is not there.
std::vector<Field> surveyFields(Session& session, const std::string& owner, SurveyKind kind, const QString& key);
/// How something came to be known: method, suspension, date, who, picture. `set` changes it as one step.
/// A picture that is chosen is copied beside the project.
std::vector<Field> provenanceFields(Session& session, const model::Provenance& measured,
                                    const std::function<bool(const model::Provenance&)>& set);
/// The way something is taken with a tape, its hook and its readings.
std::vector<Field> tapeFields(Session& session, const std::string& owner, const std::string& id, bool point);
/// Entries and fields of what a survey holds besides bodies: readings, areas, the old engine, what was found, rooms.
std::vector<SurveyEntry> notebookEntries(Session& session, const std::string& owner, SurveyKind kind);
std::vector<Field> notebookFields(Session& session, const std::string& owner, SurveyKind kind, const QString& key);
/// The project with another of them; `key` receives what it is known by.
Result<model::Project> withNotebookEntry(const model::Project& project, const std::string& owner, SurveyKind kind,
                                         const Eigen::Vector3d& near_owner_mm, QString& key);
model::Project withoutNotebookEntry(const model::Project& project, const std::string& owner, SurveyKind kind,
                                    const QString& key);
/// The same for what moves and how it is made to stand.
std::vector<SurveyEntry> motionEntries(const model::Project& project, const std::string& owner, SurveyKind kind);
std::vector<Field> motionFields(Session& session, const std::string& owner, SurveyKind kind, const QString& key);
Result<model::Project> withMotionEntry(const model::Project& project, const std::string& owner, SurveyKind kind,
                                       QString& key);
model::Project withoutMotionEntry(const model::Project& project, const std::string& owner, SurveyKind kind,
                                  const QString& key);
/// A reading by its key, and what it belongs to.
struct ReadingPlace {
    std::string id;
    bool point = false;
    std::string what;
    int station = 0;
};
std::optional<ReadingPlace> readingPlace(const QString& key);
QString readingKey(const ReadingPlace& place);
/// Of a body or point that may be bound to readings: those are as true, and as measured, as it is.
template <class T>
std::function<bool(std::optional<double>)> trueToReadings(const Editing<T>& edit) {
    return edit.set([](T& item, const std::optional<double>& mm) {
        item.accuracy_mm = mm;
        for (model::Reading& reading : item.tape.readings) reading.accuracy_mm = mm;
    });
}
template <class T>
std::vector<Field> measuredWithReadings(const Editing<T>& edit, const T& item) {
    return provenanceFields(edit.session(), item.measured, edit.set([](T& its, const model::Provenance& measured) {
        its.measured = measured;
        for (model::Reading& reading : its.tape.readings) reading.measured.method = measured.method;
    }));
}
std::vector<Field> bodyFields(Session& session, const model::BodyRef& ref);

/// The project with another entry of this kind; `key` receives what it is known by.
Result<model::Project> withEntry(const model::Project& project, const std::string& owner, SurveyKind kind,
                                 const Eigen::Vector3d& near_owner_mm, QString& key);
/// The same for a copy of an entry.
Result<model::Project> withEntryCopied(const model::Project& project, const std::string& owner, SurveyKind kind,
                                       QString& key);
/// Makes the copied entry `key` the mirror image across its owner's centreline, under its name for the other side.
void mirrorEntry(model::Project& project, const std::string& owner, SurveyKind kind, const QString& key);
model::Project withoutEntry(const model::Project& project, const std::string& owner, SurveyKind kind,
                            const QString& key);

/// All bodies that a pair may name, "owner/body" and their names.
std::vector<std::pair<QString, QString>> bodyChoices(const model::Project& project);
/// The options that a thing of this owner may belong to, as "choice/option"; first the empty one.
std::vector<std::pair<QString, QString>> optionChoices(const model::Project& project, const std::string& owner);
/// The same of all owners, as "owner/choice/option".
std::vector<std::pair<QString, QString>> allOptions(const model::Project& project);

} // namespace gabarit::app
