// bevelsmith-meter-sim: a laser meter on a pseudo-terminal, which plays ranges to the readings of a job with noise.
#include <fcntl.h>
#include <fmt/format.h>
#include <poll.h>
#include <termios.h>
#include <unistd.h>

#include <CLI/CLI.hpp>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <random>

#include "job/job_file.h"
#include "survey/meter_line.h"
#include "survey/points.h"
#include "units/quantity.h"

namespace {

using namespace bevelsmith;

struct Arguments {
    std::string job, surface = "hull";
    std::vector<double> stand{0, 0, 0};
    double noise_mm = 1.5, noise_deg = 0.1;
    unsigned seed = 1;
    int garbage_every = 0, fail_every = 0, silent_after = 0, leave_after = 0;
    bool plain = false, by_itself = false;
};

[[noreturn]] void fail(const std::string& where, const std::string& why) {
    fmt::print(stderr, "{}:1: {}\n", where, why);
    std::exit(2);
}

/// Ranges, turns and rises from the stand point to each reading's place, in order.
std::vector<survey::MeterReading> measurements(const Arguments& a) {
    const auto job = job::load_job(a.job);
    if (!job) fail(a.job, job.error().message);
    const auto sets = job::readings_in_boat(*job);
    if (!sets) fail(a.job, sets.error().message);
    const auto points = survey::points_of(*sets, a.surface);
    if (!points) fail(a.job, points.error().message);
    if (points->empty()) fail(a.job, fmt::format("there are no readings of '{}'", a.surface));
    const Vec3 stand(a.stand[0], a.stand[1], a.stand[2]);
    std::mt19937 random(a.seed);
    std::normal_distribution<double> error(0, 1);
    std::vector<survey::MeterReading> out;
    for (const auto& p : *points) {
        const Vec3 way = p.position - stand;
        survey::MeterReading m;
        m.range_mm = way.norm() + a.noise_mm * error(random);
        m.turn_deg = units::degrees(std::atan2(way.y(), way.x())) + a.noise_deg * error(random);
        m.rise_deg = units::degrees(std::asin(way.z() / way.norm())) + a.noise_deg * error(random);
        if (a.plain) m.turn_deg.reset(), m.rise_deg.reset();
        out.push_back(m);
    }
    return out;
}

int open_terminal() {
    const int terminal = posix_openpt(O_RDWR | O_NOCTTY);
    if (terminal < 0 || grantpt(terminal) != 0 || unlockpt(terminal) != 0)
        fail("bevelsmith-meter-sim", "no pseudo-terminal can be had here");
    termios settings{};
    tcgetattr(terminal, &settings);
    cfmakeraw(&settings);
    tcsetattr(terminal, TCSANOW, &settings);
    return terminal;
}

class Meter {
  public:
    Meter(const Arguments& a, int terminal) : a_(a), terminal_(terminal), readings_(measurements(a)) {}

    /// False when it is time to leave.
    bool measure() {
        ++asked_;
        if (a_.leave_after > 0 && asked_ > a_.leave_after) return false;
        if (a_.silent_after > 0 && asked_ > a_.silent_after) return true;
        if (a_.garbage_every > 0 && asked_ % a_.garbage_every == 0) return send("range 1\xff\x07#zz\n");
        if (a_.fail_every > 0 && asked_ % a_.fail_every == 0) return send(survey::meter_refusal("target too dark"));
        return send(survey::meter_line(readings_[next_++ % readings_.size()]));
    }

    void serve() {
        std::string heard;
        while (true) {
            pollfd wait{terminal_, POLLIN, 0};
            const int ready = poll(&wait, 1, a_.by_itself ? 1000 : -1);
            if (ready == 0 && !measure()) return;
            if ((wait.revents & POLLIN) == 0) {
                // Nobody has the other end open yet, or any more.
                if (ready > 0) usleep(20'000);
                continue;
            }
            char buffer[256];
            const auto n = read(terminal_, buffer, sizeof buffer);
            if (n > 0) heard.append(buffer, static_cast<std::size_t>(n));
            for (auto end = heard.find('\n'); end != std::string::npos; end = heard.find('\n')) {
                const bool asked = heard.substr(0, end + 1) == survey::meter_request;
                heard.erase(0, end + 1);
                if (asked && !measure()) return;
            }
        }
    }

  private:
    bool send(const std::string& line) const {
        return write(terminal_, line.data(), line.size()) == static_cast<ssize_t>(line.size());
    }
    const Arguments& a_;
    int terminal_;
    std::vector<survey::MeterReading> readings_;
    std::size_t next_ = 0;
    int asked_ = 0;
};

}  // namespace

int main(int argc, char** argv) {
    Arguments a;
    CLI::App app{"A simulated laser meter on a pseudo-terminal (docs/meter-protocol.md)"};
    app.add_option("job", a.job, "job whose readings it plays")->required();
    app.add_option("--surface", a.surface, "whose readings");
    app.add_option("--stand", a.stand, "stand point in the boat: fwd port up, mm")->expected(3);
    app.add_option("--noise", a.noise_mm, "standard deviation of a range, mm")->check(CLI::Range(0.0, 1000.0));
    app.add_option("--noise-deg", a.noise_deg, "of an angle, degrees")->check(CLI::Range(0.0, 45.0));
    app.add_option("--seed", a.seed);
    app.add_flag("--plain", a.plain, "ranges only, without angles");
    app.add_flag("--by-itself", a.by_itself, "measure every second without being asked, as by the meter's button");
    app.add_option("--garbage-every", a.garbage_every, "damage every so manyth line");
    app.add_option("--fail-every", a.fail_every, "fail to measure every so manyth time");
    app.add_option("--silent-after", a.silent_after, "answer no more after so many");
    app.add_option("--leave-after", a.leave_after, "go away after so many");
    CLI11_PARSE(app, argc, argv);
    std::signal(SIGPIPE, SIG_IGN);
    const int terminal = open_terminal();
    Meter meter(a, terminal);
    fmt::print("{}\n", ptsname(terminal));
    std::fflush(stdout);
    meter.serve();
}
