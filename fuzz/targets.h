// What is fuzzed: every parser of what comes from outside. Each takes any bytes; a crash, a sanitizer's report, a
// hang or a broken promise (checked with abort) is a fault. `scripts/fuzz` runs them under libFuzzer, `scripts/test`
// replays tests/corpus through them.
#pragma once

#include <cstddef>
#include <cstdint>

namespace bevelsmith::fuzz {

using Target = int (*)(const std::uint8_t* data, std::size_t size);

int job(const std::uint8_t* data, std::size_t size);       ///< job JSON; what is read writes and reads back the same
int readings(const std::uint8_t* data, std::size_t size);  ///< x,y,z[,sigma] a line
int tables(const std::uint8_t* data, std::size_t size);    ///< columns chosen by the first byte
int xyz(const std::uint8_t* data, std::size_t size);       ///< scans in text
int ply(const std::uint8_t* data, std::size_t size);       ///< scans in PLY; "ply\n" is put before
int parts(const std::uint8_t* data, std::size_t size);     ///< parts JSON
int dxf(const std::uint8_t* data, std::size_t size);       ///< outlines of a drawing
int lengths(const std::uint8_t* data, std::size_t size);   ///< a length in every unit, masses, angles
int meter(const std::uint8_t* data, std::size_t size);     ///< lines of a laser meter

struct Named {
    const char* name;
    Target target;
};
inline constexpr Named all[] = {{"job", job}, {"readings", readings}, {"tables", tables},
                                {"xyz", xyz}, {"ply", ply},           {"parts", parts},
                                {"dxf", dxf}, {"lengths", lengths},   {"meter", meter}};

}  // namespace bevelsmith::fuzz
