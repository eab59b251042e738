// What of a piece is looked at: its unit, the piece, one edge, one opening. Facts show this and nothing else.
#pragma once

#include <QString>
#include <vector>

#include "job/job.h"

namespace bevelsmith::app {

struct Facet {
    enum class Kind {
        unit,
        raised,
        piece,
        making,
        layup,
        pattern,
        edge,
        opening,
        notch,
        row,
        crossing,
        limber,
        joint,
        more
    };
    Kind kind = Kind::piece;
    std::size_t index = 0;  ///< into the piece's list
    bool operator==(const Facet&) const = default;
};

struct NamedFacet {
    Facet facet;
    QString name;
};

/// In the order in which they are offered. A piece of a unit begins with its unit.
std::vector<NamedFacet> facets_of(const job::JobPiece& piece, const job::JobUnit* unit);

}  // namespace bevelsmith::app
