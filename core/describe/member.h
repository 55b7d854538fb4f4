// What a member of a structure is: said once, asked by files, schema, docs, checks, names and frames.
#pragma once

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

namespace gabarit::describe {

/// A kilometre: no shop holds more, and distances keep a thousandth of a millimetre in float trees.
constexpr double longest_mm = 1e6;
/// A hundred tonnes.
constexpr double heaviest_kg = 1e5;
/// A solid below it cannot be told from nothing.
constexpr double thinnest_mm = 1e-3;
/// Of objects in one list: many times what a swap has.
constexpr std::size_t longest_list = 20000;

/// A value of a choice: its word in the file, and how a person says it where that is another.
class Word {
public:
    Word(const char* in_file, const char* as_said = nullptr) : file(in_file), said_(as_said) {}
    operator const char*() const { return file; }
    /// As it is said: its own words, else those of the file without its underlines.
    std::string said() const;

    const char* file;

private:
    const char* said_;
};
/// The words of a choice, in the order of its enum's values.
using Words = std::vector<Word>;

/// What a text names.
enum class Target {
    None,
    Body,       ///< a body of `owner`
    BodyPath,   ///< "owner/body"
    Point,      ///< a point of `owner`
    Owner,      ///< "vehicle" or a donor's id
    Donor,      ///< a donor's id
    Placement,  ///< a placement's id
    ChoicePath, ///< "owner/choice"
    OptionPath, ///< "owner/choice/option"
    Option,     ///< the rest of such a path, which `owner` begins
    Part,       ///< a part's id
    FreeVolume, ///< the id of one of the vehicle's free volumes
    ItemPath,   ///< what a signature was given for: "owner/body", or a word of its own
};

/// What becomes of a text when what it names is taken out.
enum class Gone {
    Stays, ///< it goes on naming what is not there, and a check says so
    Empty, ///< it names nothing any more; in a list of texts it goes
    Entry, ///< the whole entry of the list goes that it stands in
};

/// How three numbers (or two) are meant.
enum class Vector {
    Place,     ///< in the frame of `owner`; none named: one that no datum moves
    Shift,     ///< from one place to another
    Direction, ///< of any length above zero
    Size,      ///< each above zero
    Extent,    ///< each not below zero
    Figures,   ///< three figures of another kind
};

/// One member. Built where the structure is described, read by whoever visits it; what is not said stays as here.
class Member {
public:
    /// `means`: what it is, in a few words for docs, schema and help.
    explicit Member(const char* its_key, const char* its_meaning = "") : key(its_key), means(its_meaning) {}

    const char* key;   ///< in the file; the unit stands at its end
    const char* means; ///< may be empty where the key says it all
    // In a form (app/fields/described.h):
    const char* label = "";           ///< before its field, or over an object's; empty: it is not shown
    const char* under = "";           ///< a heading that its field begins
    const char* hint = "";            ///< on it, where `means` is not for one who fills it in
    const char* nothing = "";         ///< what an empty choice is called
    const char* among = "";           ///< of a text: the list that it names an entry of, "mounts/rows"
    const char* heads[3]{"", "", ""}; ///< of a point, and of points: what its coordinates are called
    bool apart = false;               ///< of a point: each coordinate has a field of its own
    bool in_rows = false;             ///< of an object or list: a table, its columns the members with a label
    bool offered = false;             ///< of an object that is not there: shown all the same, and made when filled in
    bool headed = true;               ///< of an object: its label stands over its fields
    const char* ask = "";             ///< of an object that may not be there: the flag before it, whether it is
    bool seldom = false;              ///< in a form behind "More", as notes are
    std::optional<int> at;            ///< before those with a greater one; else in the file's order, objects last
    // What it is:
    bool required = false;
    bool filled = false;         ///< a text that may not be empty
    bool is_id = false;          ///< unique in its list, without a slash
    Target known = Target::None; ///< of an id: what a text names that is this
    bool lines = false;          ///< a text of several lines
    std::optional<double> low, high;
    bool above = false; ///< `low` itself is refused
    bool whole = false;
    std::optional<double> usual;     ///< what it is when left out: a number, 0 or 1, the place of a choice's word
    const char* usual_text = "";     ///< the same of a text
    std::optional<Vector> vector;    ///< of a point
    double usual_vector[3]{0, 0, 0}; ///< what it is when left out
    Target target = Target::None;
    Gone gone = Gone::Stays;
    std::string owner;            ///< whose body, point or frame it is
    bool money = false;           ///< a number that is a sum of the project's currency
    bool height = false;          ///< a number that is a height above the datum in the frame of `owner`
    bool sided = false;           ///< a number that is the other way round in a mirror
    const Words* words = nullptr; ///< of a text that is one of them
    const char* from = "";        ///< of a text: the list of the rule book that it is one of ("categories")
    const char* entry = "";       ///< of a list: what one of its entries is called
    bool there = false;           ///< what a text names must be there
    bool one_book = false;        ///< of a list: its ids are of one set with those of the object's other such lists
    std::size_t least = 0, most = longest_list; ///< of a list: how many

    Member& said(const char* before_its_field) { return label = before_its_field, *this; }
    Member& heading(const char* over_its_field) { return under = over_its_field, *this; }
    Member& tip(const char* words_on_it) { return hint = words_on_it, *this; }
    Member& none(const char* called) { return nothing = called, *this; }
    Member& oneAmong(const char* list) { return among = list, *this; }
    Member& columns(const char* x, const char* y, const char* z = "") {
        return heads[0] = x, heads[1] = y, heads[2] = z, *this;
    }
    /// A point whose coordinates are fields of their own.
    Member& eachSaid(const char* x, const char* y, const char* z) { return apart = true, said(x).columns(x, y, z); }
    Member& inRows() { return in_rows = true, *this; }
    Member& always() { return offered = true, *this; }
    /// An object whose fields stand among those of what holds it.
    Member& withOthers(bool all = true) { return headed = false, said(all ? "shown" : ""); }
    Member& asked(const char* whether) { return ask = whether, *this; }
    Member& behind() { return seldom = true, *this; }
    Member& order(int place) { return at = place, *this; }
    Member& must() { return required = true, *this; }
    Member& notEmpty() { return filled = true, *this; }
    Member& id(Target known_as = Target::None) { return known = known_as, is_id = filled = required = true, *this; }
    Member& note() { return lines = true, *this; }
    Member& within(double from_, double to) { return low = from_, high = to, *this; }
    Member& over(double from_, double to) { return within(from_, to), above = true, *this; }
    /// Millimetres above zero.
    Member& size() { return over(0, longest_mm); }
    /// Millimetres of something made solid.
    Member& solid() { return within(thinnest_mm, longest_mm); }
    /// Millimetres from zero.
    Member& length() { return within(0, longest_mm); }
    /// Millimetres to either side.
    Member& offset() { return within(-longest_mm, longest_mm); }
    /// ± of a measurement in mm.
    Member& accuracy() { return length(); }
    Member& mass() { return within(0, heaviest_kg); }
    Member& angle(double each_way_deg = 360) { return within(-each_way_deg, each_way_deg); }
    Member& ofMoney(double from_, double to) { return money = true, within(from_, to); }
    Member& wholeNumber() { return whole = true, *this; }
    Member& leftOut(double value) { return usual = value, *this; }
    Member& leftOutWord(const char* text) { return usual_text = text, *this; }
    Member& leftOut(double x, double y, double z) {
        usual_vector[0] = x, usual_vector[1] = y, usual_vector[2] = z;
        return *this;
    }
    /// A place in the frame of an owner.
    Member& place(std::string of) { return vector = Vector::Place, owner = std::move(of), *this; }
    /// A direction in the frame of an owner; none named: of whoever holds it.
    Member& direction(std::string of = {}) { return vector = Vector::Direction, owner = std::move(of), *this; }
    Member& is(Vector meant) { return vector = meant, *this; }
    /// A number to one side: in a mirror it has the other sign.
    Member& toOneSide() { return sided = true, *this; }
    /// A height above the datum in the frame of an owner.
    Member& heightIn(std::string of) { return height = true, owner = std::move(of), *this; }
    Member& names(Target what, Gone when_gone = Gone::Stays, std::string of = {}) {
        return target = what, gone = when_gone, owner = std::move(of), *this;
    }
    Member& mustBeThere() { return there = true, *this; }
    Member& oneOf(const Words& these) { return words = &these, *this; }
    Member& fromBook(const char* list) { return from = list, *this; }
    Member& each(const char* called) { return entry = called, *this; }
    Member& idsShared() { return one_book = true, *this; }
    Member& atLeast(std::size_t count) { return least = count, *this; }
    Member& atMost(std::size_t count) { return most = count, *this; }
};

/// The unit that a key ends with, as it is shown: "mm", "kg", "°", "N/mm"; empty when it has none.
std::string unitOf(const std::string& key);
/// What is wrong with a value, in words that name the member: nothing when it is in its range.
std::optional<std::string> outOfRange(const Member& member, double value);
/// What to do about it.
std::string rangeMend(const Member& member);

} // namespace gabarit::describe
