#include "gearing/gearing.h"

#include "gearing/section/gearing.h"
#include "weights/section/weights.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

namespace gabarit::gearing {
namespace {

using model::Verdict;

constexpr double mm_per_km = 1e6;
constexpr double min_per_h = 60;

/// A figure with its source. Asking for one that the book does not have is a programming error and throws.
const model::Figure& figureOf(const model::RuleBook& book, const std::string& id) {
    const auto found =
        std::find_if(book.figures.begin(), book.figures.end(), [&](const model::Figure& f) { return f.id == id; });
    if (found == book.figures.end()) throw std::out_of_range("the rule book has no figure \"" + id + "\"");
    return *found;
}

std::optional<double> rolling_mm(const std::string& size, const model::RuleBook& book,
                                 std::optional<quantity::Tyre>* tyre) {
    if (size.empty()) return std::nullopt;
    const auto read = quantity::parseTyre(size);
    if (!read) return std::nullopt;
    if (tyre) *tyre = read.value();
    return read.value().diameter_mm *
           book.figure(read.value().radial ? "rolling_radial_factor" : "rolling_crossply_factor");
}

class Reckoning {
public:
    Reckoning(const model::Project& project, const model::RuleBook& book)
        : project_(project), g_(*project.sections.get<model::Gearing>()), book_(book) {}

    GearingReport report() {
        out_.rolling_mm = rolling_mm(g_.tyre, book_, &out_.tyre);
        if (!out_.rolling_mm)
            miss(g_.tyre.empty() ? "the tyre size (speeds and pull)"
                                 : "a tyre size that can be read: \"" + g_.tyre + "\" cannot");
        else
            out_.revs_per_km = mm_per_km / *out_.rolling_mm;
        if (!drive()) miss("the final drive (speeds and pull)");
        if (g_.gears.empty()) miss("the gears");
        if (!g_.max_rpm) miss("the engine's highest speed (top speed in each gear)");
        const model::Figure& loss = figureOf(book_, "wheel_loss_share");
        out_.loss = g_.loss.value_or(loss.value);
        out_.loss_source = g_.loss ? "given here" : loss.source;
        mass();
        for (const model::TorquePoint& p : g_.torque)
            if (p.torque_nm > 0) out_.most_torque_nm = std::max(out_.most_torque_nm.value_or(0), p.torque_nm);
        if (!out_.most_torque_nm) miss("the engine's torque (pull)");
        if (!out_.mass_kg) miss("the vehicle's mass (pull for each kilogram)");
        range(g_.transfer_high, false);
        if (g_.transfer_low) range(*g_.transfer_low, true);
        wanted();
        speedometer();
        if (g_.gears.empty() || !out_.rolling_mm || !drive() || !g_.max_rpm) out_.verdict = Verdict::Unknown;
        if (out_.speedo_asked) out_.verdict = model::worse(out_.verdict, out_.speedo_verdict);
        return std::move(out_);
    }

private:
    void miss(std::string what) { out_.missing.push_back(std::move(what)); }
    std::optional<double> drive() const {
        return g_.final_drive && *g_.final_drive > 0 ? g_.final_drive : std::nullopt;
    }
    const model::Gear* longest() const {
        const model::Gear* best = nullptr;
        for (const model::Gear& gear : g_.gears)
            if (!gear.reverse && (!best || gear.ratio < best->ratio)) best = &gear;
        return best;
    }
    const model::Gear* shortest() const {
        const model::Gear* best = nullptr;
        for (const model::Gear& gear : g_.gears)
            if (!gear.reverse && (!best || gear.ratio > best->ratio)) best = &gear;
        return best;
    }

    void mass() {
        const auto* weights = project_.sections.get<model::Weights>();
        if (g_.mass_kg) {
            out_.mass_kg = g_.mass_kg;
            out_.mass_source = "given here";
        } else if (weights && weights->bare.front_kg && weights->bare.rear_kg) {
            out_.mass_kg = *weights->bare.front_kg + *weights->bare.rear_kg;
            out_.mass_source = "the axle loads before the swap";
        }
    }

    double kmhPer1000(double total) const { return 1000 / total * *out_.rolling_mm * min_per_h / mm_per_km; }
    double force_n(double total) const {
        return *out_.most_torque_nm * total * (1 - out_.loss) * 2 * M_PI / (*out_.rolling_mm / 1000);
    }

    void range(double transfer, bool low) {
        const model::Gear* before = nullptr;
        for (const model::Gear& gear : g_.gears) {
            GearReport r;
            r.name = gear.name;
            r.ratio = gear.ratio * transfer;
            r.low_range = low;
            r.reverse = gear.reverse;
            if (out_.rolling_mm && drive()) {
                const double total = r.ratio * *drive();
                r.kmh_per_1000 = kmhPer1000(total);
                if (g_.max_rpm) r.top_kmh = *r.kmh_per_1000 * *g_.max_rpm / 1000;
                if (g_.cruise_kmh && !low && !gear.reverse) r.cruise_rpm = *g_.cruise_kmh / *r.kmh_per_1000 * 1000;
                if (out_.most_torque_nm) {
                    r.force_n = force_n(total);
                    if (out_.mass_kg) r.force_n_per_kg = *r.force_n / *out_.mass_kg;
                }
            }
            if (before && !gear.reverse && g_.max_rpm) r.after_shift_rpm = *g_.max_rpm * gear.ratio / before->ratio;
            if (!gear.reverse) before = &gear;
            out_.gears.push_back(std::move(r));
        }
    }

    void wanted() {
        const model::Gear *top = longest(), *first = shortest();
        if (!top || !out_.rolling_mm) return;
        const double high = g_.transfer_high;
        const auto driveFor = [&](double rpm) {
            return rpm * *out_.rolling_mm * min_per_h / (*g_.cruise_kmh * mm_per_km * top->ratio * high);
        };
        if (g_.cruise_kmh && drive())
            out_.cruise_rpm = *g_.cruise_kmh * mm_per_km / min_per_h / *out_.rolling_mm * top->ratio * high * *drive();
        if (g_.cruise_kmh && g_.wanted_cruise_rpm) out_.drive_for_cruise = driveFor(*g_.wanted_cruise_rpm);
        if (!g_.original) return;
        const model::OriginalVehicle& o = *g_.original;
        const auto theirs = rolling_mm(o.tyre, book_, nullptr);
        if (!theirs || !o.final_drive) {
            miss(o.tyre.empty() || theirs
                     ? "the original vehicle's tyre or final drive (yardstick)"
                     : "the original vehicle's tyre: \"" + o.tyre + "\" cannot be read (yardstick)");
            return;
        }
        if (g_.cruise_kmh) {
            out_.original_cruise_rpm = *g_.cruise_kmh * mm_per_km / min_per_h / *theirs * top->ratio * *o.final_drive;
            out_.drive_for_original_cruise = driveFor(*out_.original_cruise_rpm);
        }
        if (o.mass_kg && *o.mass_kg > 0 && out_.most_torque_nm && out_.mass_kg && first) {
            out_.original_force_n_per_kg = *out_.most_torque_nm * first->ratio * *o.final_drive * (1 - out_.loss) * 2 *
                                           M_PI / (*theirs / 1000) / *o.mass_kg;
            out_.drive_for_original_force =
                *out_.original_force_n_per_kg * *out_.mass_kg /
                (*out_.most_torque_nm * first->ratio * high * (1 - out_.loss) * 2 * M_PI / (*out_.rolling_mm / 1000));
        }
    }

    /// The drive turns with the gearbox's output: what it shows goes by the final drive and tyre it was made for.
    void speedometer() {
        out_.speedo_asked = !g_.speedo_tyre.empty() || g_.speedo_final_drive.has_value();
        if (!out_.speedo_asked) return;
        out_.speedo_rule =
            figureOf(book_, "speedo_over_share").text + " (" + figureOf(book_, "speedo_over_share").source + ")";
        const auto made_for = rolling_mm(g_.speedo_tyre.empty() ? g_.tyre : g_.speedo_tyre, book_, nullptr);
        if (!made_for || !out_.rolling_mm || !drive()) {
            miss(!made_for && !g_.speedo_tyre.empty()
                     ? "the speedometer's tyre: \"" + g_.speedo_tyre + "\" cannot be read"
                     : "the speedometer's tyre, or the tyre and final drive as they are now");
            return;
        }
        const double its_drive = g_.speedo_final_drive.value_or(*drive());
        // For one turn of the output: a road of rolling / drive is covered, and its own is shown.
        const double shown = *made_for / its_drive, covered = *out_.rolling_mm / *drive();
        out_.speedo_error = shown / covered - 1;
        out_.speedo_true_kmh = 100 * covered / shown;
        const double over = book_.figure("speedo_over_share");
        out_.speedo_verdict = *out_.speedo_error < -1e-9 || *out_.speedo_error > over ? Verdict::NoGo : Verdict::Go;
    }

    const model::Project& project_;
    const model::Gearing& g_;
    const model::RuleBook& book_;
    GearingReport out_;
};

} // namespace

std::optional<GearingReport> gearing(const model::Project& project, const model::RuleBook& book) {
    const auto* gearing = project.sections.get<model::Gearing>();
    if (!gearing) return std::nullopt;
    const model::Whose whose = model::whose(project, gearing->donor);
    if (whose != model::Whose::Hangs) {
        GearingReport unknown;
        unknown.verdict = Verdict::Unknown;
        unknown.missing.push_back(whose == model::Whose::Another
                                      ? "a gearing of the donor that hangs: the one given is another's"
                                      : "which donor the gearing belongs to");
        return unknown;
    }
    return Reckoning(project, book).report();
}

} // namespace gabarit::gearing
