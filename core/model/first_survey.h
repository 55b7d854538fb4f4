// The guided first survey: questions with a tape whose answers make bodies, the rest being assumed until it is read.
#pragma once

#include "model/tape.h"

namespace gabarit::model {

/// So many times another entry's value.
struct SurveyTerm {
    std::string entry;
    double times = 1;
};

/// So much, and so many times what these entries stand at.
struct SurveySum {
    double plus_mm = 0;
    std::vector<SurveyTerm> of;
};

/// A reading of a thing that no question asks for: assumed, from what was answered.
struct SurveyReading : SurveySum {
    std::string what;
    int station = 0;
};

/// A body or point that the survey makes.
struct SurveyThing {
    std::string id;
    std::string name;
    bool donors = false;  ///< the donor's, else the vehicle's
    std::string category; ///< of a body
    std::string role;     ///< of a point
    std::string way;      ///< one of tapeWays()
    std::string of;       ///< of the way "mirror": the thing on the other side
    std::string with;     ///< made as soon as that thing is
    bool closing = false;
    std::vector<SurveyReading> readings;
};

/// One figure that is asked for.
struct SurveyEntryRule {
    std::string id;
    std::string label;
    std::string ask;        ///< the same as a question, for a page of its own
    std::string how;        ///< how the tape lies
    double usual_least = 0; ///< as far as such a figure usually goes; both zero: not known
    double usual_most = 0;
    bool from_floor = false;    ///< what is usual is told from the floor, wherever heights start
    bool is_mass = false;       ///< kg, else mm
    bool needed = false;        ///< for a first verdict
    double assumed = 0;         ///< until it is answered: so much…
    std::vector<SurveyTerm> of; ///< …and so many times these
    std::string
        thing; ///< whose reading it is, or "@wheelbase", "@place_x", "@place_z", "@engine_mass", "@gearbox_mass"
    std::string what;
    int station = 0;
    double times = 1;    ///< the reading is so many times the answer: −1 of what is read ahead of the axle
    std::string drawing; ///< the one its arrow lies on; empty: the question's
    std::vector<Eigen::Vector2d> arrow; ///< on the drawing: from the hook to what is read
};

/// Where a place of a drawing lies in millimetres.
struct SurveyAnchor : SurveySum {
    double at = 0; ///< in the drawing's own units
};

/// What makes a drawing follow the readings: along both of its axes, places whose true distance is known. Between two
/// of them it is stretched evenly.
struct SurveyScale {
    std::string id; ///< the drawing's
    std::vector<SurveyAnchor> across;
    std::vector<SurveyAnchor> down;
};

struct SurveyQuestion {
    std::string id;
    std::string title;
    std::string hook;    ///< where the tape hooks and what is read
    std::string drawing; ///< which of the drawings its arrows lie on
    std::string caution;
    std::vector<SurveyEntryRule> entries;
};

/// A thing most bays or engines have, as a box of its usual size where such things sit: two of its sizes are asked for.
struct StarterShape {
    std::string id;
    std::string name;
    bool donors = false; ///< the donor's, in its frame; else the vehicle's
    std::string category;
    Eigen::Vector3d size_mm{0, 0, 0};
    std::vector<std::string> asks; ///< "x", "y", "z"
    std::string ask;               ///< the question for them
    SurveySum x, y, z;             ///< its middle
};

/// How true a tape may read.
struct TapeAccuracy {
    double mm = 0;
};

struct FirstSurvey {
    double tape_accuracy_mm = 0;               ///< of an answer
    double assumed_accuracy_mm = 0;            ///< of what is assumed
    std::vector<TapeAccuracy> tape_accuracies; ///< to choose from
    std::string source;
    std::vector<SurveyThing> things;
    std::vector<SurveyScale> drawings;
    std::vector<StarterShape> starters;
    std::vector<SurveyQuestion> questions;

    const SurveyEntryRule* entry(const std::string& id) const;
    const SurveyThing* thing(const std::string& id) const;
    const SurveyScale* drawing(const std::string& id) const;
    /// The question that asks for an entry; null when none does.
    const SurveyQuestion* questionOf(const std::string& entry) const;
    /// All entries one after the other: first what a first verdict needs, then the rest.
    std::vector<const SurveyEntryRule*> oneByOne() const;
};

/// What an entry stands at: read (with its sign as asked), else assumed.
struct SurveyValue {
    double value = 0;
    bool answered = false;
};
SurveyValue surveyValue(const Project& project, const FirstSurvey& survey, const std::string& entry);

/// The starter as a body of the owner, assumed until it is measured; its id is given back. Error when there is no such
/// owner.
Result<Project> withStarter(const Project& project, const FirstSurvey& survey, const StarterShape& starter,
                            const std::string& owner, BodyId& id);

/// A drawing's place in millimetres, right and down, as the readings stand (assumed ones too).
class SurveyProportion {
public:
    /// Without a scale places stay what they are.
    SurveyProportion(const Project& project, const FirstSurvey& survey, const SurveyScale* scale);
    Eigen::Vector2d at_mm(const Eigen::Vector2d& place) const;

private:
    struct Known {
        double at = 0;
        double mm = 0;
    };
    static double along(const std::vector<Known>& known, double place);
    std::vector<Known> across_, down_;
};

/// Between what an entry usually lies, told from where heights start; nothing when that is not known.
std::optional<std::pair<double, double>> usual(const Project& project, const FirstSurvey& survey,
                                               const SurveyEntryRule& entry);
/// What a person should look at again before it is taken.
bool farFromUsual(const Project& project, const FirstSurvey& survey, const SurveyEntryRule& entry, double value);

/// How far a question has come: all, some or none of its entries answered.
enum class Answered { None, Some, All };
Answered answered(const Project& project, const FirstSurvey& survey, const SurveyQuestion& question);
/// Needed entries that are not answered yet.
std::vector<std::string> stillNeeded(const Project& project, const FirstSurvey& survey);

/// The project with an entry answered (nothing: taken back, and assumed again): what it speaks of is made if it is not
/// there, bound to readings, and what was assumed from it follows. The donor's first answer also hangs it, where the
/// survey assumes. Error when there is no such entry or the answer makes a shape impossible.
Result<Project> withAnswer(const Project& project, const FirstSurvey& survey, const std::string& entry,
                           std::optional<double> value, double accuracy_mm, const Provenance& measured);

} // namespace gabarit::model
