// Drawings as other programs write them: what is read is what a foreign reader (ezdxf, from the distribution) makes
// of the same file, in every version that it writes.
#include <catch2/catch.hpp>

#include <algorithm>
#include <nlohmann/json.hpp>

#include "exchange/dxf_outlines.h"
#include "support/jobs.h"

using namespace bevelsmith;

namespace {

/// Writes a drawing of closed outlines of every kind, and what ezdxf reads of it: layer, area, box.
constexpr const char* program = R"(import sys, json, ezdxf
from ezdxf import path
version, name, told = sys.argv[1:4]
doc = ezdxf.new(version, setup=True)
if version != 'R12': doc.header['$INSUNITS'] = 4
space = doc.modelspace()
curved = [(300, 0, 0.3), (420, 0, 0), (420, 90, -0.4), (300, 90, 0)]
def outline(where, layer):
    if version == 'R12': where.add_polyline2d(curved, format='xyb', close=True, dxfattribs={'layer': layer})
    else: where.add_lwpolyline(curved, format='xyb', close=True, dxfattribs={'layer': layer})
space.add_circle((100, 100), 40, dxfattribs={'layer': 'CIRCLE'})
outline(space, 'BULGES')
space.add_circle((-700, 100), 25, dxfattribs={'layer': 'BEHIND', 'extrusion': (0, 0, -1)})
if version != 'R12':
    space.add_ellipse((500, 300), (80, 20), 0.5, dxfattribs={'layer': 'ELLIPSE'})
    ring = [(0, 400), (120, 380), (200, 480), (90, 560), (-40, 500), (0, 400)]
    space.add_spline(dxfattribs={'layer': 'SPLINE'}).set_open_uniform(ring, degree=3)
    shifted = [(x + 400, y + 300) for x, y in ring]
    space.add_spline(dxfattribs={'layer': 'RATIONAL'}).set_open_rational(shifted, [1, 2, 0.5, 1, 3, 1], degree=3)
small = doc.blocks.new('SMALL', base_point=(5, 5))
small.add_circle((15, 5), 8, dxfattribs={'layer': '0'})
part = doc.blocks.new('PART', base_point=(300, 0))
outline(part, '0')
part.add_circle((350, 40), 10, dxfattribs={'layer': 'HOLES'})
part.add_blockref('SMALL', (380, 30), dxfattribs={'xscale': 0.5, 'yscale': 0.5, 'layer': '0'})
space.add_blockref('PART', (900, 300), dxfattribs={'xscale': 2, 'yscale': 2, 'rotation': 30, 'layer': 'PARTS'})
space.add_blockref('PART', (900, 900), dxfattribs={'xscale': -1, 'yscale': 1, 'rotation': 200, 'layer': 'TURNED'})
if version != 'R12': doc.layout('Layout1').add_circle((0, 0), 500, dxfattribs={'layer': 'PAPER'})
doc.saveas(name)
def all_of(entities):
    for e in entities:
        if e.dxftype() == 'INSERT':
            for v in e.virtual_entities():
                if v.dxf.layer == '0': v.dxf.layer = e.dxf.layer
                yield from all_of([v])
        else: yield e
out = []
for e in all_of(ezdxf.readfile(name).modelspace()):
    points = list(path.make_path(e).flattening(0.002))
    xs, ys = [p.x for p in points], [p.y for p in points]
    area = sum(a.x * b.y - b.x * a.y for a, b in zip(points, points[1:] + points[:1])) / 2
    out.append({'layer': e.dxf.layer, 'area': abs(area), 'box': [min(xs), min(ys), max(xs), max(ys)]})
json.dump(out, open(told, 'w'))
)";

}  // namespace

TEST_CASE("drawings of every version are read as a foreign reader reads them: arcs, curves, blocks", "[dxf]") {
    const jobs::Folder folder;
    jobs::write(folder.file("draw.py"), program);
    for (const char* version : {"R12", "R2000", "R2004", "R2007", "R2010", "R2013", "R2018"}) {
        INFO(version);
        const std::string file = folder.file(std::string(version) + ".dxf"), told = folder.file("told.json");
        const std::string command =
            "/usr/bin/python3 " + folder.file("draw.py") + " " + version + " " + file + " " + told;
        REQUIRE(std::system(command.c_str()) == 0);
        std::string text = jobs::read(file);
        // Colours of materials are numbers beyond all counts.
        if (const auto at = text.find("MATERIAL\n"); at != std::string::npos)
            text.insert(at + 9, " 90\n-1023410177\n");
        const auto ours = exchange::read_dxf_outlines(text);
        INFO((ours.ok() ? std::string() : ours.error().message));
        REQUIRE(ours.ok());
        for (const auto& note : ours->notes) FAIL_CHECK(note);
        CHECK(ours->unit_stated == (std::string(version) != "R12"));
        auto theirs = nlohmann::json::parse(jobs::read(told));
        REQUIRE(ours->rings.size() == theirs.size());
        for (const auto& ring : ours->rings) {
            const auto box = geometry::bounding_box(ring.ring);
            const double area = geometry::area_mm2(ring.ring);
            // Chords within 0.02 mm of the curve take no more than that along its length off the area.
            const double slack = 0.02 * (2 * (box.width() + box.height())) + 0.1;
            const auto same = std::find_if(theirs.begin(), theirs.end(), [&](const auto& t) {
                const auto b = t["box"].template get<std::vector<double>>();
                return t["layer"] == ring.layer && std::abs(t["area"].template get<double>() - area) < slack &&
                       std::abs(b[0] - box.min.x()) < 0.05 && std::abs(b[1] - box.min.y()) < 0.05 &&
                       std::abs(b[2] - box.max.x()) < 0.05 && std::abs(b[3] - box.max.y()) < 0.05;
            });
            INFO(ring.layer << ", " << area << " mm², from " << box.min.transpose() << " to " << box.max.transpose());
            REQUIRE(same != theirs.end());
            theirs.erase(same);
        }
    }
}

TEST_CASE("a spline told by the places that it goes through goes through them, much as elsewhere", "[dxf]") {
    const jobs::Folder folder;
    // Every 8 mm of a hull's section, closed by lines: ezdxf's own ends of such a spline differ from a batten's.
    jobs::write(folder.file("fit.py"), R"(import sys, json, math, ezdxf
from ezdxf import path
doc = ezdxf.new('R2010', setup=True)
doc.header['$INSUNITS'] = 4
space = doc.modelspace()
points = [(0.9 * u - 0.0004 * u * u, 400 * math.sin(u / 600) + u / 4) for u in range(0, 801, 8)]
s = space.add_spline(fit_points=points, dxfattribs={'layer': 'SECTION'})
a, b = points[0], points[-1]
space.add_line(b, (a[0], b[1]), dxfattribs={'layer': 'SECTION'})
space.add_line((a[0], b[1]), a, dxfattribs={'layer': 'SECTION'})
doc.saveas(sys.argv[1])
e = [p for p in path.make_path(ezdxf.readfile(sys.argv[1]).modelspace().query('SPLINE')[0]).flattening(0.002)]
ring = [(p.x, p.y) for p in e] + [(a[0], b[1])]
area = sum(p[0] * q[1] - q[0] * p[1] for p, q in zip(ring, ring[1:] + ring[:1])) / 2
json.dump({'area': abs(area), 'points': points}, open(sys.argv[2], 'w'))
)");
    const std::string drawing = folder.file("fit.dxf"), told = folder.file("fit.json");
    REQUIRE(std::system(("/usr/bin/python3 " + folder.file("fit.py") + " " + drawing + " " + told).c_str()) == 0);
    const auto ours = exchange::read_dxf_outlines(jobs::read(drawing));
    REQUIRE(ours.ok());
    REQUIRE(ours->rings.size() == 1);
    const auto& ring = ours->rings[0].ring;
    const auto theirs = nlohmann::json::parse(jobs::read(told));
    CHECK(geometry::area_mm2(ring) == Approx(theirs["area"].get<double>()).epsilon(2e-4));
    for (const auto& p : theirs["points"]) {
        double nearest = 1e9;
        for (std::size_t k = 0; k < ring.size(); ++k)
            nearest = std::min(nearest, geometry::distance_to_segment_mm({p[0].get<double>(), p[1].get<double>()},
                                                                         ring[k], ring[(k + 1) % ring.size()]));
        CHECK(nearest < 1e-3);
    }
}

TEST_CASE("outlines of a drawing come out of the command line as JSON", "[dxf]") {
    const jobs::Folder folder;
    jobs::write(folder.file("draw.py"), program);
    const std::string drawing = folder.file("a.dxf"), out = folder.file("a.json");
    REQUIRE(std::system(
                ("/usr/bin/python3 " + folder.file("draw.py") + " R2010 " + drawing + " " + folder.file("told.json"))
                    .c_str()) == 0);
    const std::string cli = BEVELSMITH_CLI;
    REQUIRE(std::system((cli + " outlines " + drawing + " > " + out).c_str()) == 0);
    const auto told = nlohmann::json::parse(jobs::read(out));
    CHECK(told["mm_per_unit"] == 1);
    REQUIRE(told["outlines"].size() == 12);
    for (const auto& one : told["outlines"]) {
        CHECK(one["layer"].is_string());
        CHECK(one["area_mm2"].get<double>() > 1);
        CHECK(one["points_mm"].size() >= 3);
    }
    CHECK(std::system((cli + " outlines " + folder.file("none.dxf") + " 2> " + out).c_str()) != 0);
    CHECK(jobs::read(out).find("none.dxf") != std::string::npos);
}
