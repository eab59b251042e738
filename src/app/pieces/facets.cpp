#include "app/pieces/facets.h"

#include "furniture/kinds.h"

namespace bevelsmith::app {

std::vector<NamedFacet> facets_of(const job::JobPiece& piece, const job::JobUnit* unit) {
    using K = Facet::Kind;
    std::vector<NamedFacet> out;
    const auto add = [&](K kind, std::size_t index, const QString& name) { out.push_back({{kind, index}, name}); };
    if (unit) add(K::unit, 0, "unit: " + QString::fromStdString(unit->name));
    if (unit && furniture::kind_of(*unit).fits == furniture::Fits::under_all) add(K::raised, 0, "its raised part");
    add(K::piece, 0, unit ? "this panel" : "the piece");
    add(K::making, 0, "what it is made of");
    for (std::size_t i = 0; i < piece.edges.size(); ++i)
        add(K::edge, i, "edge: " + QString::fromStdString(piece.edges[i].name));
    for (std::size_t i = 0; i < piece.openings.size(); ++i)
        add(K::opening, i, "opening: " + QString::fromStdString(piece.openings[i].name));
    for (std::size_t i = 0; i < piece.notches.size(); ++i)
        add(K::notch, i, "cut out: " + QString::fromStdString(piece.notches[i].name));
    for (std::size_t i = 0; i < piece.rows.size(); ++i)
        add(K::row, i, "holes: " + QString::fromStdString(piece.rows[i].name));
    for (std::size_t i = 0; i < piece.patterns.size(); ++i)
        add(K::pattern, i, "pattern: " + QString::fromStdString(piece.patterns[i].pattern_id));
    for (std::size_t i = 0; i < piece.crossings.size(); ++i)
        add(K::crossing, i, "crossed by " + QString::fromStdString(piece.crossings[i].piece_id));
    for (std::size_t i = 0; i < piece.limbers.size(); ++i)
        add(K::limber, i,
            piece.limbers.size() == 1 ? QString("limber notch") : QString("limber notch %1").arg(i + 1));
    for (std::size_t i = 0; i < piece.joints.size(); ++i) add(K::joint, i, QString("joint %1").arg(i + 1));
    add(K::layup, 0, "plies and coverings");
    add(K::more, 0, "add to it");
    return out;
}

}  // namespace bevelsmith::app
