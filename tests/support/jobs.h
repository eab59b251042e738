// Small jobs for tests: a cylindrical hull with known answers, and the Ternlight demo.
#pragma once

#include <string>
#include <vector>

#include "job/job.h"
#include "job/pipeline.h"

namespace jobs {

using namespace bevelsmith;

/// The inside radius of `tube_job`'s hull (mm).
inline constexpr double tube_radius_mm = 1000;

/// A boat whose hull is the lower half of a circular cylinder about the x axis, read cleanly at seven stations from
/// x = 0 to 3000, with one bulkhead "B1" at x = 1500 below the level z = -200, of 18 mm ply, gap and coating zero.
job::Job tube_job();

/// The surface of `tube_job`, fitted once for all tests.
const hull::Surface& tube_surface();

/// Ternlight at the beginning of her fit-out: the readings amidships and three plain pieces.
job::Job ternlight();
std::string ternlight_text();
std::string ternlight_path();
/// A job that ships with the program: "ternlight" as she is shown, "ketch", "workboat".
job::Job demo(const std::string& name);
std::string demo_path(const std::string& name);

/// A fresh folder for one test's files, removed when it goes out of scope.
class Folder {
  public:
    Folder();
    ~Folder();
    const std::string& path() const { return path_; }
    std::string file(const std::string& name) const { return path_ + "/" + name; }

  private:
    std::string path_;
};

/// A number as files have it, with a point whatever the locale; a test that asks for none fails.
double number_in(const std::string& text);
/// All that stand in a text, one after the other, whatever is between.
std::vector<double> numbers_in(const std::string& text);
std::string read(const std::string& path);
void write(const std::string& path, const std::string& text);

}  // namespace jobs
