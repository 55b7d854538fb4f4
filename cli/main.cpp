// gabarit-cli: every computation the window shows, from the same reports, without a display.
#include "json_parts.h"
#include "report_help.h"
#include "report_json.h"
#include "report_text.h"

#include "disciplines/all.h"
#include "fit/fit_report.h"
#include "kept/kept_meshes.h"
#include "make/search.h"
#include "print/sheets.h"
#include "quantity/plain_text.h"
#include "store/bundle.h"
#include "store/csv.h"
#include "store/first_survey.h"
#include "store/project_file.h"
#include "store/rule_book.h"
#include "store/safe_file.h"
#include "store/schema.h"
#include "survey/survey.h"

#include <CLI/CLI.hpp>

#include <QDate>
#include <QGuiApplication>

#include <algorithm>
#include <clocale>
#include <csignal>
#include <cstdio>
#include <exception>
#include <thread>

namespace {

using namespace gabarit;

constexpr int exit_go = 0, exit_not_go = 1, exit_bad_input = 2;

struct Options {
    std::string report; ///< that help is asked on
    bool donor_file = false;
    std::string file;
    std::string placement;
    std::string units = "mm";
    std::string donor;
    std::string table;
    std::string csv;
    std::string out;
    std::string date;
    std::string what = "fit";
    std::string paper = "a4";
    std::string item;               ///< of a deed
    std::vector<std::string> about; ///< of a search: the answers to what it asks
    std::string pick;               ///< the answer of it that is taken
    bool free = false;              ///< of fit: where it fits, instead of the room from here
    bool choices = false;           ///< of fit --free: in every form
    std::vector<std::string> map;   ///< of fit --free: over two freedoms
    std::string held;               ///< of fit --free: what stays as it is
    std::string first;              ///< of fit --free: what comes before the smallest move
    bool json = false;
    mutable bool newer = false; ///< the file was written by a newer version: nothing of it is believed to be go
    bool ways = false;          ///< look for moves
    bool whole = false;         ///< whole sentences
    int why = 0;                ///< the number of a finding whose sum is asked for
};

/// Names and paths come from files: nothing of them steers the terminal.
void put(const std::string& text) {
    const std::string shown = quantity::printable(text);
    std::fwrite(shown.data(), 1, shown.size(), stdout);
}
void tell(const std::string& text) { std::fputs(("gabarit-cli: " + quantity::printable(text) + "\n").c_str(), stderr); }

int complain(const Error& error) {
    tell(error.line());
    return exit_bad_input;
}

Error inFile(const Options& options, Error error) {
    error.where = options.file + ", " + error.where;
    return error;
}

Result<model::Project> load(const Options& options) {
    auto read = store::readProject(options.file, store::defaultRuleBook());
    if (!read) return read.error();
    if (read.value().read_only) {
        tell(options.file + ": written by a newer version; what this one does not know is left out");
        options.newer = true;
    }
    model::Project project = std::move(read.value().project);
    if (!options.placement.empty()) {
        const auto named = [&options](const model::Placement& p) { return p.id.text == options.placement; };
        if (std::none_of(project.placements.begin(), project.placements.end(), named)) {
            std::string known;
            for (const model::Placement& p : project.placements) known += (known.empty() ? "" : ", ") + p.id.text;
            return Error{"there is no placement \"" + options.placement + "\"", options.file, "use one of: " + known};
        }
        project.active_placement = model::PlacementId{options.placement};
    }
    return project;
}

/// A report of the command line.
struct Report {
    std::function<std::string(const study::Reports&, const std::string& file)> json;
    std::function<std::string(const study::Reports&, quantity::Shown)> text;
    std::function<std::optional<model::Verdict>(const study::Reports&)> verdict; ///< that the exit status tells
    std::function<bool()> closer{};                                              ///< takes a closer look; none: not
    std::vector<std::string> only{};                                             ///< disciplines that it tells of; all
};

study::RunOptions runOptions(const Options& options) {
    study::RunOptions run;
    if (options.units != "mm") run.shown = quantity::Shown::Inches;
    if (options.units == "16") run.shown.length = quantity::LengthStyle::Sixteenths;
    if (options.units == "32") run.shown.length = quantity::LengthStyle::ThirtySeconds;
    run.threads = static_cast<int>(std::max(1u, std::thread::hardware_concurrency()));
    return run;
}

int report(const Options& options, const Report& its) {
    auto project = load(options);
    if (!project) return complain(project.error());
    study::Study study(store::defaultRuleBook());
    study.colliders().keepWith(kept::usual());
    study::RunOptions run = runOptions(options);
    run.only = its.only;
    study::Reports reports = study.run(std::make_shared<const model::Project>(std::move(project).value()), run);
    if (its.closer && its.closer()) reports = study.advised(std::move(reports), run);
    const std::string out = options.json ? its.json(reports, options.file) : its.text(reports, run.shown);
    put(out);
    for (const study::Failed& failed : reports.failed)
        tell(failed.discipline + " could not be reckoned (" + failed.words + "); please report it with the file");
    const auto judged = its.verdict(reports);
    return (!judged || *judged == model::Verdict::Go) && !options.newer ? exit_go : exit_not_go;
}

/// Looks for what a search is about; writes the answer that is taken.
int lookFor(const Options& options, const make::Search& search) {
    auto project = load(options);
    if (!project) return complain(project.error());
    const discipline::SearchCard& card = search.card;
    const bool writes = card.takes || !options.out.empty();
    if (options.newer && writes)
        return complain(Error{"it was written by a newer version", options.file, "use that version to change it"});
    study::Study study(store::defaultRuleBook());
    study.colliders().keepWith(kept::usual());
    const study::RunOptions run = runOptions(options);
    const study::Reports reports = study.run(std::make_shared<const model::Project>(std::move(project).value()), run);
    const auto found =
        make::lookFor(search, {study, reports}, store::defaultRuleBook(), options.about, run.shown, run.stop);
    if (!found) return complain(inFile(options, found.error()));
    for (const Error& trouble : found.value().troubles) tell(trouble.line());
    const discipline::Answer* taken = nullptr;
    for (const discipline::Answer& answer : found.value().answers)
        if (answer.project && !taken && (card.takes || answer.id == options.pick)) taken = &answer;
    if (options.json && found.value().json) {
        cli::Json out = cli::head(card.id.c_str(), reports, options.file);
        out.update(*found.value().json);
        put(out.dump(2) + "\n");
    }
    const std::string to = options.out.empty() ? options.file : options.out;
    if (writes && taken) {
        auto read = store::readProject(options.file, store::defaultRuleBook());
        if (!read) return complain(read.error());
        model::Project with = *taken->project;
        if (!options.placement.empty()) // not the one that was only looked at
            with.active_placement = read.value().project.active_placement;
        const auto written = store::writeProject(to, with);
        if (!written) return complain(written.error());
        if (card.takes) put(taken->words + "; written to " + to + "\n");
    }
    if (!options.json) put(found.value().text);
    if (writes && !taken && !card.takes)
        return complain(Error{"there is no " + options.pick + " proposal", options.file,
                              "choose another --" + card.pick + ", or none"});
    if (writes && !taken) {
        tell(options.file + ": " + found.value().none);
        return exit_not_go;
    }
    return found.value().troubles.empty() ? exit_go : exit_not_go;
}

/// The same searches as `free-all`, `free-choices` and `fit-map`.
int freeFit(Options options) {
    const std::string id = !options.map.empty() ? "fit-map" : options.choices ? "free-choices" : "free-all";
    if (!options.map.empty() &&
        (options.choices || !options.held.empty() || !options.first.empty() || !options.out.empty()))
        return complain(Error{"--map is looked at by itself", options.file,
                              "leave out --choices, --hold, --first and --out, or use fit-map"});
    const make::Search& search = make::searchOf(id);
    options.about.assign(search.card.asks.size(), {});
    for (std::size_t i = 0; i < search.card.asks.size(); ++i) {
        if (i < options.map.size()) options.about[i] = options.map[i];
        if (search.card.asks[i].option == "hold") options.about[i] = options.held;
        if (search.card.asks[i].option == "first") options.about[i] = options.first;
    }
    if (options.pick.empty()) options.pick = "1";
    return lookFor(options, search);
}

int printSheet(const Options& options) {
    auto project = load(options);
    if (!project) return complain(project.error());
    qputenv("QT_QPA_PLATFORM", "offscreen"); // fonts are wanted, a display is not
    qInstallMessageHandler([](QtMsgType, const QMessageLogContext&, const QString&) {}); // our errors are one line
    int count = 1;
    char name[] = "gabarit-cli";
    char* arguments[] = {name, nullptr};
    const QGuiApplication application(count, arguments);
    std::setlocale(LC_NUMERIC, "C"); // the libraries' own figures: Qt has set the user's
    study::Study study(store::defaultRuleBook());
    study.colliders().keepWith(kept::usual());
    const study::RunOptions run = runOptions(options);
    const study::Reports reports =
        study.advised(study.run(std::make_shared<const model::Project>(std::move(project).value()), run), run);
    const std::string date =
        options.date.empty() ? QDate::currentDate().toString(Qt::ISODate).toStdString() : options.date;
    const print::Sheet& sheet = *print::sheetOf(options.what);
    const auto written = sheet.write(reports, store::defaultRuleBook(), {run.shown, date, options.paper}, options.out);
    return written ? exit_go : complain(written.error());
}

int exportDonor(const Options& options) {
    auto project = load(options);
    if (!project) return complain(project.error());
    const model::Donor* donor = model::findDonor(project.value(), model::DonorId{options.donor});
    if (!donor)
        return complain(
            Error{"there is no donor \"" + options.donor + "\"", options.file, "name one of the project's donors"});
    const auto written = store::writeDonor(options.out, *donor);
    return written ? exit_go : complain(written.error());
}

int doDeed(const Options& options, const discipline::Deed& deed) {
    auto project = load(options);
    if (!project) return complain(project.error());
    const model::RuleBook book = model::applied(store::defaultRuleBook(), project.value().rules);
    const auto changed = deed.act({project.value(), book, options.item});
    if (!changed) return complain(inFile(options, changed.error()));
    for (const Error& error : model::validate(changed.value(), book)) return complain(inFile(options, error));
    const auto written = store::writeProject(options.out.empty() ? options.file : options.out, changed.value());
    return written ? exit_go : complain(written.error());
}

int exportTable(const Options& options) {
    auto project = load(options);
    if (!project) return complain(project.error());
    const std::string text =
        options.table == "parts" ? store::partsCsv(project.value()) : store::loadsCsv(project.value());
    const auto written = store::writeWhole(options.out, text);
    return written ? exit_go : complain(written.error());
}

int importTable(const Options& options) {
    auto read = store::readProject(options.file, store::defaultRuleBook());
    if (!read) return complain(read.error());
    if (read.value().read_only)
        return complain(Error{"it was written by a newer version", options.file, "use that version to change it"});
    constexpr std::size_t largest_bytes = 17U << 20U; // the reader refuses what is above 16 MiB
    const auto text = store::readWhole(options.csv, largest_bytes);
    if (!text) return complain(text.error());
    const auto changed =
        options.table == "parts"
            ? store::withPartsCsv(read.value().project, text.value(), options.csv, store::defaultRuleBook())
            : store::withLoadsCsv(read.value().project, text.value(), options.csv, store::defaultRuleBook());
    if (!changed) return complain(changed.error());
    const auto written = store::writeProject(options.out.empty() ? options.file : options.out, changed.value());
    return written ? exit_go : complain(written.error());
}

void tellDoubts(const Options& options, const store::BundleNotes& notes) {
    for (const std::string& name : notes.missing) tell(options.file + ": the picture \"" + name + "\" is not there");
    for (const std::string& name : notes.changed)
        tell(options.file + ": \"" + name + "\" is not the picture that was taken in");
}

int packBundle(const Options& options) {
    auto project = load(options);
    if (!project) return complain(project.error());
    const auto packed = store::writeBundle(options.out, project.value(), options.file);
    if (!packed) return complain(packed.error());
    tellDoubts(options, packed.value());
    return packed.value().missing.empty() && packed.value().changed.empty() ? exit_go : exit_not_go;
}

int unpackBundle(const Options& options) {
    const auto unpacked = store::unpackBundle(options.file, options.out, store::defaultRuleBook());
    if (!unpacked) return complain(unpacked.error());
    tellDoubts(options, unpacked.value().notes);
    put(unpacked.value().project_path + "\n");
    return unpacked.value().notes.missing.empty() && unpacked.value().notes.changed.empty() ? exit_go : exit_not_go;
}

/// The questions of the first survey, what each stands at in a project, and whether a first verdict waits for it.
void listQuestions(const model::Project& project) {
    const model::FirstSurvey& survey = store::firstSurvey();
    cli::Table table({"entry", "stands at", "", "asked"}, {false, true, false, false});
    for (const model::SurveyQuestion& question : survey.questions)
        for (const model::SurveyEntryRule& entry : question.entries) {
            const model::SurveyValue stands = model::surveyValue(project, survey, entry.id);
            const char* state = stands.answered ? "read" : entry.needed ? "NEEDED" : "assumed";
            table.row({entry.id, quantity::fixed(stands.value, 1) + (entry.is_mass ? " kg" : " mm"), state,
                       question.title + ": " + model::sided(project, entry.label)});
        }
    put(table.text());
}

/// Works a sheet of readings, "entry, value" a line, into a project or a new one.
int firstSurvey(const Options& options) {
    model::Project project;
    project.name = "New swap";
    if (!options.file.empty()) {
        auto read = store::readProject(options.file, store::defaultRuleBook());
        if (!read) return complain(read.error());
        if (read.value().read_only)
            return complain(Error{"it was written by a newer version", options.file, "use that version to change it"});
        project = std::move(read.value().project);
    }
    if (options.csv.empty()) {
        listQuestions(project);
        return exit_go;
    }
    constexpr std::size_t largest_bytes = 1U << 20U;
    const auto text = store::readWhole(options.csv, largest_bytes);
    if (!text) return complain(text.error());
    const auto answered = store::withAnswerSheet(project, text.value(), options.csv, store::firstSurvey(), options.date,
                                                 runOptions(options).shown);
    if (!answered) return complain(answered.error());
    const auto wrong = model::validate(answered.value(), store::defaultRuleBook());
    if (!wrong.empty()) return complain(wrong.front());
    const auto written = store::writeProject(options.out.empty() ? options.file : options.out, answered.value());
    if (!written) return complain(written.error());
    const auto open = model::stillNeeded(answered.value(), store::firstSurvey());
    for (const std::string& entry : open) tell("not read yet: " + entry);
    return open.empty() ? exit_go : exit_not_go;
}

int tidy(const Options& options) {
    auto read = store::readProject(options.file, store::defaultRuleBook());
    if (!read) return complain(read.error());
    if (read.value().read_only)
        return complain(Error{"it was written by a newer version", options.file, "use that version to change it"});
    const auto written = store::writeProject(options.out.empty() ? options.file : options.out, read.value().project);
    return written ? exit_go : complain(written.error());
}

/// What a report holds. Of a command that is no report how it is called.
int helpOn(const Options& options, const CLI::App& app) {
    std::string known;
    for (const std::string& report : cli::reportsWithHelp()) known += (known.empty() ? "" : ", ") + report;
    if (options.report.empty()) {
        put("Reports: " + known + ". gabarit-cli help REPORT tells of one; gabarit-cli --help lists all commands.\n");
        return exit_go;
    }
    const auto commands =
        app.get_subcommands([&options](const CLI::App* one) { return one->get_name() == options.report; });
    const CLI::App* command = commands.empty() ? nullptr : commands.front();
    const auto words = cli::reportHelp(options.report);
    if (!command && !words)
        return complain(Error{"there is no report or command of that name", options.report, "use one of " + known});
    if (command) put(command->help("gabarit-cli"));
    if (words) put("\n" + *words);
    return exit_go;
}

/// The schema of a file, or a page of docs with its tables of members made anew.
int schema(const Options& options) {
    if (options.file.empty()) {
        put(options.donor_file ? store::donorSchema(store::defaultRuleBook())
                               : store::projectSchema(store::defaultRuleBook()));
        return exit_go;
    }
    constexpr std::size_t largest_bytes = 1U << 22U;
    const auto page = store::readWhole(options.file, largest_bytes);
    if (!page) return complain(page.error());
    put(store::withMemberTables(page.value()));
    return exit_go;
}

int importDonor(const Options& options) {
    auto read = store::readProject(options.file, store::defaultRuleBook());
    if (!read) return complain(read.error());
    if (read.value().read_only)
        return complain(Error{"it was written by a newer version", options.file, "use that version to change it"});
    auto donor = store::readDonor(options.donor, store::defaultRuleBook());
    if (!donor) return complain(donor.error());
    model::Project project = std::move(read.value().project);
    auto placed = model::hung(project, std::move(donor).value());
    if (!placed) return complain(placed.error());
    const auto written = store::writeProject(options.out.empty() ? options.file : options.out, placed.value());
    return written ? exit_go : complain(written.error());
}

int run(int argc, char** argv) {
    CLI::App app{"Gabarit on the command line. Exit status: 0 all that was asked is go; 1 any no-go, close or unknown; "
                 "2 bad input or usage, or what was asked could not be written."};
    app.set_version_flag("--version", "gabarit-cli " GABARIT_VERSION);
    app.require_subcommand(1);
    app.fallthrough();
    Options options;
    int status = exit_go;
    const auto addUnits = [&options](CLI::App* command) {
        command
            ->add_option("--units", options.units,
                         "mm, in (decimal), 16 or 32 (fractions of an inch), for the readable tables")
            ->check(CLI::IsMember({"mm", "in", "16", "32"}));
    };
    const auto addReport = [&](const std::string& name, const std::string& help, const Report& its) {
        CLI::App* command = app.add_subcommand(name, help);
        command->add_option("FILE", options.file, "a .gabarit project")->required();
        command->add_flag("--json", options.json, "print the whole report as JSON (docs/reports.md)");
        addUnits(command);
        command->add_option("--placement", options.placement, "judge this placement instead of the active one");
        command->callback([&options, &status, its] { status = report(options, its); });
        return command;
    };
    CLI::App* check =
        addReport("check", "all verdicts, and what is in the way",
                  {cli::checkJson,
                   [&options](const study::Reports& r, quantity::Shown shown) {
                       return options.why > 0 ? cli::whyText(r, options.why, shown)
                              : options.whole ? cli::checkLongText(r, shown)
                                              : cli::checkText(r, shown);
                   },
                   [](const study::Reports& r) { return r.asked ? std::optional(r.verdict) : std::nullopt; },
                   [&options] { return options.ways; }});
    check->add_flag("--ways", options.ways, "look for the single move that frees each pair, and what it costs");
    check->add_option("--why", options.why, "the sum behind one finding's figure, by its number")
        ->check(CLI::PositiveNumber);
    check->add_flag("--long", options.whole, "whole sentences, each with its rule and caution");
    const discipline::Board& board = disciplines::all();
    for (std::size_t i = 0; i < board.size(); ++i) {
        const std::string& id = board[i].card().id;
        const auto verdict = [id](const study::Reports& r) { return study::verdictOf(r, id); };
        for (const discipline::Printed& printed : board[i].prints())
            addReport(printed.name, printed.what,
                      {[id, printed](const study::Reports& r, const std::string& file) {
                           return cli::printedJson(r, id, printed, file);
                       },
                       [id, printed](const study::Reports& r, quantity::Shown shown) {
                           return cli::printedText(r, id, printed, shown);
                       },
                       verdict,
                       {},
                       {id}});
        // These tell of what several disciplines found, too.
        if (id == "clearance") {
            addReport("clearance", "gaps at rest of every pair that can move against each other",
                      {cli::clearanceJson, cli::clearanceText, verdict, {}, {id}});
            const Report room{cli::fitJson, cli::fitText, verdict, [] { return true; }};
            CLI::App* fit = addReport("fit", "room to move from here, and the single move that frees each pair", room);
            CLI::Option* free =
                fit->add_flag("--free", options.free, "where it fits: the smallest move after which every gap is good");
            fit->add_flag("--choices", options.choices, "with --free: in every form that the file offers")->needs(free);
            fit->add_option("--map", options.map, "with --free: a map over two freedoms, as along up")
                ->expected(2)
                ->needs(free);
            fit->add_option("--hold", options.held, "with --free: what stays as it is")->needs(free);
            fit->add_option("--first", options.first, "with --free: shaft or angles, before the smallest move")
                ->needs(free);
            CLI::Option* out = fit->add_option("--out", options.out, "with --free: write the project with one answer");
            out->needs(free);
            fit->add_option("--take", options.pick, "with --out: which answer")->needs(out);
            fit->callback(
                [&options, &status, room] { status = options.free ? freeFit(options) : report(options, room); });
        }
        if (id == "survey")
            addReport("survey", "what is surveyed, assumed, found, and how the new engine stands to the old one",
                      {cli::surveyJson, cli::surveyText, [](const study::Reports& r) {
                           if (!r.project->vehicle) return std::optional<model::Verdict>();
                           return std::optional(r.with<survey::SurveyState>().ready_to_cut ? model::Verdict::Go
                                                                                           : model::Verdict::Unknown);
                       }});
        if (id == "relief")
            addReport("relief", "pockets, tubes and plates: what is left of the section, and what to cut",
                      {cli::reliefJson, cli::reliefText, verdict});
    }

    // What can be looked for, as the window's stages have it on buttons.
    for (const make::Search& search : make::searches()) // before any option points into it
        options.about.resize(std::max(options.about.size(), search.card.asks.size()));
    for (const make::Search& search : make::searches()) {
        const discipline::SearchCard& card = search.card;
        CLI::App* verb = app.add_subcommand(card.id, card.what);
        verb->add_option("FILE", options.file, "a .gabarit project")->required();
        for (std::size_t i = 0; i < card.asks.size(); ++i) {
            verb->add_option("--" + card.asks[i].option, options.about[i], card.asks[i].what)
                ->required(card.asks[i].must);
        }
        verb->add_option("--placement", options.placement, "for this placement instead of the active one");
        addUnits(verb);
        if (!card.takes) verb->add_flag("--json", options.json, "print it as JSON (docs/reports.md)");
        if (card.takes) verb->add_option("--out", options.out, "write the project here instead of over FILE");
        if (!card.pick.empty()) {
            verb->add_option("--out", options.out, "write the project with the answer of --" + card.pick + " here");
            std::string names;
            for (const std::string& pick : card.picks) names += (names.empty() ? "" : ", ") + pick;
            verb->add_option("--" + card.pick, options.pick, names)->check(CLI::IsMember(card.picks));
        }
        verb->callback([&options, &status, &search] {
            if (options.pick.empty() && !search.card.picks.empty()) options.pick = search.card.picks.front();
            status = lookFor(options, search);
        });
    }

    // What the disciplines can do, as the window's stages have it on buttons.
    for (std::size_t i = 0; i < disciplines::all().size(); ++i)
        for (const discipline::Deed& deed : disciplines::all()[i].deeds()) {
            CLI::App* verb = app.add_subcommand(deed.id, deed.what);
            verb->add_option("FILE", options.file, "a .gabarit project")->required();
            if (deed.one) verb->add_option("--item", options.item, std::string("id of the ") + deed.kind)->required();
            verb->add_option("--placement", options.placement, "for this placement instead of the active one");
            verb->add_option("--out", options.out, "write the project here instead of over FILE");
            verb->callback([&options, &status, deed] { status = doDeed(options, deed); });
        }

    CLI::App* out = app.add_subcommand("export", "write a donor as a file of its own");
    out->add_option("FILE", options.file, "a .gabarit project")->required();
    out->add_option("--donor", options.donor, "the donor's id")->required();
    out->add_option("--out", options.out, "the donor file to write (.gabarit-donor)")->required();
    out->callback([&] { status = exportDonor(options); });
    CLI::App* in = app.add_subcommand(
        "import", "hang a donor from a file of its own in a project, with a placement at its origin");
    in->add_option("FILE", options.file, "a .gabarit project")->required();
    in->add_option("--donor", options.donor, "a .gabarit-donor file")->required();
    in->add_option("--out", options.out, "write the project here instead of over FILE");
    in->callback([&] { status = importDonor(options); });

    CLI::App* tableOut = app.add_subcommand("table-out", "write the parts or the loads as a CSV table");
    tableOut->add_option("FILE", options.file, "a .gabarit project")->required();
    tableOut->add_option("--table", options.table, "parts or loads")
        ->check(CLI::IsMember({"parts", "loads"}))
        ->required();
    tableOut->add_option("--out", options.out, "the table to write (.csv)")->required();
    tableOut->callback([&] { status = exportTable(options); });
    CLI::App* tableIn = app.add_subcommand("table-in", "work a CSV table of parts or loads into a project");
    tableIn->add_option("FILE", options.file, "a .gabarit project")->required();
    tableIn->add_option("--table", options.table, "parts or loads")
        ->check(CLI::IsMember({"parts", "loads"}))
        ->required();
    tableIn->add_option("--csv", options.csv, "the table to read (docs/format.md)")->required();
    tableIn->add_option("--out", options.out, "write the project here instead of over FILE");
    tableIn->callback([&] { status = importTable(options); });

    CLI::App* sheet = app.add_subcommand(
        "print", "write a sheet as PDF: the one-page fit sheet, the driveline, the jig sheet, or templates 1:1");
    sheet->add_option("FILE", options.file, "a .gabarit project")->required();
    sheet->add_option("--out", options.out, "the PDF to write; of templates a folder")->required();
    sheet->add_option("--paper", options.paper, "of templates: a4, letter or roll")
        ->check(CLI::IsMember({"a4", "letter", "roll"}));
    std::vector<std::string> kinds;
    std::string kinds_words;
    for (const print::Sheet& kind : print::sheets()) {
        kinds.push_back(kind.id);
        kinds_words += (kinds_words.empty() ? "" : ", ") + kind.id + " (" + kind.what + ")";
    }
    sheet->add_option("--what", options.what, kinds_words)->check(CLI::IsMember(kinds));
    addUnits(sheet);
    sheet->add_option("--placement", options.placement, "show this placement instead of the active one");
    sheet->add_option("--date", options.date, "the date to print instead of today's");
    sheet->callback([&] { status = printSheet(options); });

    CLI::App* first = app.add_subcommand(
        "first-survey", "work a sheet of tape readings into a project; without --sheet: list what is asked");
    first->add_option("FILE", options.file, "a .gabarit project; left out: a new one");
    first->add_option("--sheet", options.csv, "a table \"entry, value\" (docs/format.md)");
    first->add_option("--date", options.date, "the day the readings were taken, as 2026-05-17");
    addUnits(first);
    first->add_option("--out", options.out, "write the project here instead of over FILE");
    first->callback([&] {
        if (!options.csv.empty() && options.out.empty() && options.file.empty())
            status = complain(Error{"there is no place to write the new project to", "--out", "name a .gabarit file"});
        else
            status = firstSurvey(options);
    });
    CLI::App* bundle = app.add_subcommand("bundle", "pack a project and its pictures into one file");
    bundle->add_option("FILE", options.file, "a .gabarit project")->required();
    bundle->add_option("--out", options.out, "the bundle to write (.gabaritz)")->required();
    bundle->callback([&] { status = packBundle(options); });
    CLI::App* unbundle = app.add_subcommand("unpack", "unpack a bundle; nothing that is there is written over");
    unbundle->add_option("FILE", options.file, "a .gabaritz bundle")->required();
    unbundle->add_option("--out", options.out, "the folder to unpack into")->required();
    unbundle->callback([&] { status = unpackBundle(options); });

    CLI::App* neat =
        app.add_subcommand("tidy", "write a project again as this version writes it; nothing in it changes");
    neat->add_option("FILE", options.file, "a .gabarit project")->required();
    neat->add_option("--out", options.out, "write here instead of over FILE");
    neat->callback([&] { status = tidy(options); });

    CLI::App* help = app.add_subcommand("help", "what a report holds, how it is computed and what it leaves out");
    help->add_option("REPORT", options.report, "check, clearance, driveline, …; left out: which there are");
    help->callback([&] { status = helpOn(options, app); });

    CLI::App* members = app.add_subcommand("schema", "print the JSON Schema of a project file");
    members->add_flag("--donor", options.donor_file, "of a donor file instead");
    members->add_option("--page", options.file,
                        "print this Markdown page instead, its tables of members made anew (docs/format.md)");
    members->callback([&] { status = schema(options); });

    try {
        app.parse(argc, argv);
    } catch (const CLI::Success& e) { return app.exit(e); } catch (const CLI::ParseError& e) {
        tell(std::string(e.what()) + "; try gabarit-cli --help");
        return exit_bad_input;
    }
    return status;
}

} // namespace

int main(int argc, char** argv) {
    std::signal(SIGPIPE, SIG_IGN); // told at the end
    try {
        const int status = run(argc, argv);
        // What did not arrive is no answer: a full disk, a reader that has gone.
        if (std::fflush(stdout) == 0 && std::ferror(stdout) == 0) return status;
        tell("the output could not be written; free some room, or let it be read to its end");
        return exit_bad_input;
    } catch (const std::bad_alloc&) {
        tell("there is not enough memory for this file; close other programs");
        return exit_bad_input;
    } catch (const std::exception& e) {
        tell(std::string("this should not have happened (") + e.what() + "); please report it with the file");
        return exit_bad_input;
    }
}
