// bevelsmith-bench start
#pragma once

/// Prints how long the program takes to its first picture, beside a bare window. 0, or 2 where nothing is painted.
int bench_start();
