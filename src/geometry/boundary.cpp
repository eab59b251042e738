#include "geometry/boundary.h"

#include <algorithm>
#include <array>
#include <boost/pending/disjoint_sets.hpp>
#include <boost/polygon/voronoi.hpp>
#include <cmath>
#include <map>
#include <queue>
#include <set>

namespace bevelsmith::geometry {
namespace {

using IntPoint = boost::polygon::point_data<int>;
using Edge = std::pair<int, int>;  // smaller index first

Edge edge_of(int a, int b) {
    return a < b ? Edge{a, b} : Edge{b, a};
}

/// Distinct places on an integer grid, and the triangles of their Delaunay triangulation.
struct Mesh {
    std::vector<Vec2> places;
    std::vector<std::array<int, 3>> triangles;
};

Mesh triangulated(const std::vector<Vec2>& all) {
    const Box box = bounding_box(all);
    const double unit = std::max(box.size().maxCoeff(), 1e-12) / 1e6;
    std::map<std::pair<int, int>, Vec2> distinct;
    for (const Vec2& p : all) {
        const Vec2 q = (p - box.min) / unit;
        distinct.emplace(std::pair{static_cast<int>(std::lround(q.x())), static_cast<int>(std::lround(q.y()))}, p);
    }
    Mesh mesh;
    std::vector<IntPoint> sites;
    for (const auto& [grid, p] : distinct) {
        sites.emplace_back(grid.first, grid.second);
        mesh.places.push_back(p);
    }
    boost::polygon::voronoi_diagram<double> diagram;
    boost::polygon::construct_voronoi(sites.begin(), sites.end(), &diagram);
    for (const auto& vertex : diagram.vertices()) {
        std::vector<int> corners;  // the sites around a Voronoi vertex lie on one circle: a fan divides them
        const auto* edge = vertex.incident_edge();
        do {
            corners.push_back(static_cast<int>(edge->cell()->source_index()));
            edge = edge->rot_next();
        } while (edge != vertex.incident_edge());
        for (std::size_t k = 1; k + 1 < corners.size(); ++k)
            mesh.triangles.push_back({corners[0], corners[k], corners[k + 1]});
    }
    return mesh;
}

double longest_bridge(const Mesh& mesh) {
    std::vector<Edge> sorted;
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k) sorted.push_back(edge_of(t[k], t[(k + 1) % 3]));
    std::sort(sorted.begin(), sorted.end());
    sorted.erase(std::unique(sorted.begin(), sorted.end()), sorted.end());
    const auto length = [&](const Edge& e) {
        return (mesh.places[static_cast<std::size_t>(e.first)] - mesh.places[static_cast<std::size_t>(e.second)])
            .norm();
    };
    std::sort(sorted.begin(), sorted.end(), [&](const Edge& a, const Edge& b) { return length(a) < length(b); });
    std::vector<int> rank(mesh.places.size()), parent(mesh.places.size());
    boost::disjoint_sets<int*, int*> groups(rank.data(), parent.data());
    for (int i = 0; i < static_cast<int>(mesh.places.size()); ++i) groups.make_set(i);
    double longest = 0;
    for (const Edge& e : sorted) {
        const int a = groups.find_set(e.first), b = groups.find_set(e.second);
        if (a == b) continue;
        groups.link(a, b);
        longest = length(e);
    }
    return longest;
}

/// A gap of so much of the extent is no hollow: lines of places that cross (stations and a string along them) would
/// else be told apart by their own close spacing.
constexpr double least_hollow = 0.18;

/// Opens triangles from the outside, longest border edge first, as long as the outline stays one simple ring.
class Hollowing {
  public:
    explicit Hollowing(const Mesh& mesh) : mesh_(mesh) {
        for (int t = 0; t < static_cast<int>(mesh.triangles.size()); ++t)
            for (std::size_t k = 0; k < 3; ++k) beside_[edge_of(corner(t, k), corner(t, (k + 1) % 3))].push_back(t);
        for (const auto& [edge, triangles] : beside_)
            if (triangles.size() == 1) add_border(edge);
    }

    void run(double longest_allowed) {
        while (!queue_.empty() && queue_.top().first > longest_allowed) {
            const Edge edge = queue_.top().second;
            queue_.pop();
            const auto owners = beside_.find(edge);
            if (owners == beside_.end() || owners->second.size() != 1) continue;
            const int t = owners->second.front();
            const int third = opposite(t, edge);
            if (on_border_.count(third)) continue;
            border_.erase(edge);
            for (const Edge& side : {edge_of(edge.first, third), edge_of(edge.second, third)}) {
                std::erase(beside_[side], t);
                add_border(side);
            }
            beside_.erase(edge);
        }
    }

    Ring outline() const {
        std::map<int, std::vector<int>> next;
        for (const Edge& e : border_) {
            next[e.first].push_back(e.second);
            next[e.second].push_back(e.first);
        }
        Ring ring;
        int before = -1, here = border_.begin()->first;
        const int start = here;
        do {
            ring.push_back(mesh_.places[static_cast<std::size_t>(here)]);
            const auto& to = next[here];
            const int step = to[0] != before ? to[0] : to[to.size() - 1];
            before = here;
            here = step;
        } while (here != start && ring.size() <= border_.size());
        if (area_mm2(ring) < 0) std::reverse(ring.begin(), ring.end());
        return ring;
    }

  private:
    int corner(int t, std::size_t k) const { return mesh_.triangles[static_cast<std::size_t>(t)][k]; }
    int opposite(int t, const Edge& e) const {
        for (std::size_t k = 0; k < 3; ++k)
            if (corner(t, k) != e.first && corner(t, k) != e.second) return corner(t, k);
        return e.first;
    }
    void add_border(const Edge& e) {
        border_.insert(e);
        on_border_.insert(e.first);
        on_border_.insert(e.second);
        queue_.push(
            {(mesh_.places[static_cast<std::size_t>(e.first)] - mesh_.places[static_cast<std::size_t>(e.second)])
                 .norm(),
             e});
    }

    const Mesh& mesh_;
    std::map<Edge, std::vector<int>> beside_;
    std::set<Edge> border_;
    std::set<int> on_border_;
    std::priority_queue<std::pair<double, Edge>> queue_;
};

}  // namespace

Ring surrounding_outline(const std::vector<Vec2>& places) {
    if (places.size() < 4) return convex_hull(places);
    const Mesh mesh = triangulated(places);
    if (mesh.triangles.empty()) return convex_hull(places);
    Hollowing hollowing(mesh);
    const Box box = bounding_box(places);
    hollowing.run(std::max(2 * longest_bridge(mesh), least_hollow * box.size().norm()));
    return hollowing.outline();
}

}  // namespace bevelsmith::geometry
