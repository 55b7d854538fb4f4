// gabarit-gauge: stands in for a digital angle gauge or a calliper on a serial line, on a pseudo-terminal.
#include "quantity/reading_line.h"

#include <CLI/CLI.hpp>

#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <fcntl.h>
#include <filesystem>
#include <random>
#include <string>
#include <termios.h>
#include <thread>
#include <unistd.h>

namespace {

volatile std::sig_atomic_t stopped = 0;

struct Options {
    std::string kind = "angle";
    double value = 0;
    double noise = 0.02;
    double drift_per_min = 0;
    double dropout = 0;
    double rate_hz = 5;
    unsigned seed = 1;
    long count = 0;
    std::string link;
};

/// The device's side of a pseudo-terminal, raw; below zero when there is none.
int openLine(std::string& path) {
    const int line = posix_openpt(O_RDWR | O_NOCTTY);
    if (line < 0 || grantpt(line) != 0 || unlockpt(line) != 0) return -1;
    const char* name = ptsname(line);
    if (!name) return -1;
    path = name;
    termios raw{};
    if (tcgetattr(line, &raw) == 0) {
        cfmakeraw(&raw);
        tcsetattr(line, TCSANOW, &raw);
    }
    fcntl(line, F_SETFL, fcntl(line, F_GETFL) | O_NONBLOCK); // nobody listening: readings are lost, as on a wire
    return line;
}

/// What a symbolic link leads to; empty for anything else.
std::string targetOf(const std::string& link) {
    std::error_code none;
    return std::filesystem::read_symlink(link, none).string();
}

bool leadsToALine(const std::string& link) { return targetOf(link).rfind("/dev/pts/", 0) == 0; }

int run(const Options& options) {
    using namespace gabarit::quantity;
    std::string path;
    const int line = openLine(path);
    if (line < 0) {
        std::fprintf(stderr, "gabarit-gauge: no pseudo-terminal can be had on this machine\n");
        return 2;
    }
    // Kept open here too, so that the line outlives a reader that comes and goes.
    const int keeper = open(path.c_str(), O_RDWR | O_NOCTTY);
    if (!options.link.empty()) {
        if (leadsToALine(options.link)) unlink(options.link.c_str()); // left by one that was killed
        if (symlink(path.c_str(), options.link.c_str()) != 0) {
            const bool there = errno == EEXIST;
            std::fprintf(stderr, "gabarit-gauge: %s: %s; name another place\n", options.link.c_str(),
                         there ? "something is there already and stays" : "the link cannot be made");
            return 2;
        }
    }
    std::printf("%s\n", options.link.empty() ? path.c_str() : options.link.c_str());
    std::fflush(stdout);
    std::mt19937 random(options.seed);
    std::normal_distribution<double> noise(0, options.noise > 0 ? options.noise : 1);
    std::uniform_real_distribution<double> chance(0, 1);
    const auto began = std::chrono::steady_clock::now();
    const auto send = [&](const std::string& text) {
        const std::string whole = text + "\n";
        if (write(line, whole.data(), whole.size()) < 0) tcflush(line, TCIOFLUSH); // full: nobody reads it
    };
    send(options.kind == "angle" ? "# simulated angle gauge" : "# simulated calliper");
    for (long sent = 0; !stopped && (options.count == 0 || sent < options.count); ++sent) {
        const std::chrono::duration<double> age = std::chrono::steady_clock::now() - began;
        InstrumentReading reading;
        reading.kind = options.kind == "angle" ? ReadingKind::Angle : ReadingKind::Length;
        reading.value =
            options.value + options.drift_per_min * age.count() / 60 + (options.noise > 0 ? noise(random) : 0);
        if (chance(random) < options.dropout)
            send(options.kind == "angle" ? "angle - deg" : "length - mm");
        else
            send(readingLine(reading));
        std::this_thread::sleep_for(std::chrono::duration<double>(1 / options.rate_hz));
    }
    if (!options.link.empty() && targetOf(options.link) == path) unlink(options.link.c_str());
    if (keeper >= 0) close(keeper);
    close(line);
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    CLI::App app{
        "Stands in for a digital angle gauge or a calliper: writes a reading a line to a pseudo-terminal whose "
        "path it prints (docs/instruments.md)."};
    Options options;
    app.add_option("--kind", options.kind, "angle or length")->check(CLI::IsMember({"angle", "length"}));
    app.add_option("--value", options.value, "what it measures, degrees or mm");
    app.add_option("--noise", options.noise, "standard deviation of its readings")->check(CLI::NonNegativeNumber);
    app.add_option("--drift", options.drift_per_min, "how much it wanders in a minute");
    app.add_option("--dropout", options.dropout, "share of readings it has not got")->check(CLI::Range(0.0, 1.0));
    app.add_option("--rate", options.rate_hz, "readings in a second")->check(CLI::Range(0.01, 1000.0));
    app.add_option("--seed", options.seed, "of its noise");
    app.add_option("--count", options.count, "stop after so many; 0: never")->check(CLI::NonNegativeNumber);
    app.add_option("--link", options.link, "make this symbolic link to its pseudo-terminal");
    CLI11_PARSE(app, argc, argv);
    std::signal(SIGINT, [](int) { stopped = 1; });
    std::signal(SIGTERM, [](int) { stopped = 1; });
    return run(options);
}
