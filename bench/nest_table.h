// `bevelsmith-bench nest`: layouts over time, beside libnest2d's on the same parts in the same run.
#pragma once

#include <string>
#include <vector>

/// Prints a table for each parts file; 0 when all could be read.
int bench_nest(const std::vector<std::string>& arguments);
