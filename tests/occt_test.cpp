// Open CASCADE as an independent oracle: the same fitted spline as a B-spline surface of that library, the same piece
// as a solid of it. Built where OCCT is installed (scripts/dependencies --tests).
#include <catch2/catch.hpp>

#include <BOPAlgo_MakerVolume.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_IntSS.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Curve.hxx>
#include <Geom_Plane.hxx>
#include <STEPControl_Reader.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <cmath>
#include <gp_Pln.hxx>

#include "exchange/step_file.h"
#include "hull/section.h"
#include "job/in_full.h"
#include "piece/outline.h"
#include "piece/solid.h"
#include "support/jobs.h"
#include "support/virtual_jobs.h"

using namespace bevelsmith;

namespace {

gp_Pnt point(const Vec3& p) {
    return {p.x(), p.y(), p.z()};
}

/// The Bézier heights of one knot interval from the values at its thirds (the cubic through four of them).
Eigen::Matrix4d bezier_of_thirds() {
    Eigen::Matrix4d out;
    out << 1, 0, 0, 0, -5.0 / 6, 3, -1.5, 1.0 / 3, 1.0 / 3, -1.5, 3, -5.0 / 6, 0, 0, 0, 1;
    return out;
}

/// Our surface over a plane chart, knot interval by knot interval: exactly the same cubics.
Handle(Geom_BSplineSurface) as_occt(const hull::Surface& surface) {
    const auto &s = surface.basis_s().breaks(), &v = surface.basis_v().breaks();
    const auto n = static_cast<int>(s.size()) - 1, m = static_cast<int>(v.size()) - 1;
    TColgp_Array2OfPnt poles(1, 3 * n + 1, 1, 3 * m + 1);
    const Eigen::Matrix4d b = bezier_of_thirds();
    for (int i = 0; i < n; ++i)
        for (int j = 0; j < m; ++j) {
            const double s0 = s[static_cast<std::size_t>(i)], ds = s[static_cast<std::size_t>(i) + 1] - s0;
            const double v0 = v[static_cast<std::size_t>(j)], dv = v[static_cast<std::size_t>(j) + 1] - v0;
            Eigen::Matrix4d heights;
            for (int a = 0; a < 4; ++a)
                for (int c = 0; c < 4; ++c) {
                    // A break belongs to the interval before it as well: a hair within.
                    const double sa = s0 + ds * std::clamp(a / 3.0, 1e-12, 1 - 1e-12),
                                 vc = v0 + dv * std::clamp(c / 3.0, 1e-12, 1 - 1e-12);
                    heights(a, c) = surface.height_m({sa, vc});
                }
            const Eigen::Matrix4d h = b * heights * b.transpose();
            for (int a = 0; a < 4; ++a)
                for (int c = 0; c < 4; ++c)
                    poles.SetValue(3 * i + a + 1, 3 * j + c + 1,
                                   point(surface.chart().to_space({s0 + ds * a / 3, v0 + dv * c / 3, h(a, c)})));
        }
    const auto knots = [](const std::vector<double>& breaks) {
        TColStd_Array1OfReal out(1, static_cast<int>(breaks.size()));
        for (int i = 1; i <= out.Length(); ++i) out.SetValue(i, breaks[static_cast<std::size_t>(i) - 1]);
        return out;
    };
    const auto times = [](int count) {
        TColStd_Array1OfInteger out(1, count);
        out.Init(3);
        out.SetValue(1, 4), out.SetValue(count, 4);
        return out;
    };
    return new Geom_BSplineSurface(poles, knots(s), knots(v), times(n + 1), times(m + 1), 3, 3);
}

struct Hull {
    virtual_jobs::VirtualJob job;
    hull::Surface surface;
    Handle(Geom_BSplineSurface) occt;
};

/// A fitted port side over a plane.
std::optional<Hull> fitted(int number) {
    auto job = virtual_jobs::numbered(number, 0);
    job.options.chart = hull::ChartChoice::plane;
    job.options.hard_lines.clear();
    auto fit = hull::fit_surface(job.points, job.options);
    if (!fit) return std::nullopt;
    return Hull{std::move(job), fit->surface, as_occt(fit->surface)};
}

double distance_to_path(const Vec3& p, const std::vector<Vec3>& path) {
    double best = HUGE_VAL;
    for (std::size_t i = 0; i + 1 < path.size(); ++i) {
        const Vec3 way = path[i + 1] - path[i];
        const double share = std::clamp(way.dot(p - path[i]) / way.squaredNorm(), 0.0, 1.0);
        best = std::min(best, (path[i] + share * way - p).norm());
    }
    return best;
}

/// A half-bulkhead without gaps at x: its hull, an upright inboard edge, level ends within what was read.
piece::PieceSpec half_bulkhead(double x, double inboard, double low, double high) {
    piece::PieceSpec out;
    out.id = out.name = "B1";
    out.plane = {Vec3(std::cos(0.12), std::sin(0.12), 0), 0};  // a little aslant, so that bevels are large
    out.plane.d_mm = out.plane.normal.dot(Vec3(x, inboard, 0));
    out.split_for_passage = false;
    out.at = Vec3(x, inboard + 50, (low + high) / 2);
    piece::EdgeSpec hull;
    hull.name = hull.surface_id = "hull";
    out.edges.push_back(hull);
    for (const auto& [normal, d] : {std::pair(Vec3(Vec3::UnitZ()), high), std::pair(Vec3(-Vec3::UnitZ()), -low),
                                    std::pair(Vec3(-Vec3::UnitY()), -inboard)}) {
        piece::EdgeSpec e;
        e.kind = piece::EdgeKind::plane, e.name = "end", e.plane = {normal, d};
        out.edges.push_back(e);
    }
    return out;
}

TopoDS_Shape plane_face(const Vec3& normal, double d) {
    const gp_Pln plane(point(d * normal), gp_Dir(normal.x(), normal.y(), normal.z()));
    return BRepBuilderAPI_MakeFace(plane, -6000, 6000, -6000, 6000).Face();
}

/// What the hull, the piece's faces and its three planes enclose: of the cells that they make together the one just
/// outboard of the inboard plane.
double occt_volume(const Hull& hull, const piece::PieceSpec& spec, double thickness, double inboard, double low,
                   double high) {
    TopTools_ListOfShape walls;
    walls.Append(BRepBuilderAPI_MakeFace(hull.occt, 1e-6).Face());
    for (const double behind : {0.0, thickness})
        walls.Append(plane_face(spec.plane.normal, spec.plane.d_mm + behind));
    walls.Append(plane_face(Vec3::UnitY(), inboard));
    for (const double z : {low, high}) walls.Append(plane_face(Vec3::UnitZ(), z));
    BOPAlgo_MakerVolume cells;
    cells.SetArguments(walls);
    cells.SetIntersect(true);
    cells.Perform();
    double best = 0;
    for (TopExp_Explorer at(cells.Shape(), TopAbs_SOLID); at.More(); at.Next()) {
        GProp_GProps mass;
        BRepGProp::VolumeProperties(at.Current(), mass, 1e-7);
        const gp_Pnt c = mass.CentreOfMass();
        const Vec3 middle(c.X(), c.Y(), c.Z());
        const double behind = spec.plane.normal.dot(middle) - spec.plane.d_mm;
        if (behind > 0 && behind < thickness && c.Z() > low && c.Z() < high && c.Y() > inboard)
            best = std::max(best, std::abs(mass.Mass()));
    }
    return best;
}

}  // namespace

TEST_CASE("the fitted spline is the same surface in OCCT", "[occt]") {
    const auto hull = fitted(1);
    REQUIRE(hull);
    for (double s = 0.07; s < 1; s += 0.13)
        for (double v = 0.05; v < 1; v += 0.11) {
            const auto &bs = hull->surface.basis_s(), &bv = hull->surface.basis_v();
            const hull::Place place{bs.low() + s * (bs.high() - bs.low()), bv.low() + v * (bv.high() - bv.low())};
            const gp_Pnt p = hull->occt->Value(place.s, place.v);
            CHECK((hull->surface.at(place).position - Vec3(p.X(), p.Y(), p.Z())).norm() < 1e-6);
        }
}

TEST_CASE("sections lie on OCCT's intersection curve within 0.02 mm, both ways", "[occt]") {
    int compared = 0;
    double most = 0;
    for (int number = 0; number < 12; ++number) {
        const auto hull = fitted(number);
        if (!hull) continue;
        const geometry::Plane plane{Vec3(std::cos(0.1), std::sin(0.1), 0), 1500};
        hull::SectionOptions options;
        options.step_mm = 5;
        const auto runs = hull::cut_section(hull->surface, plane, 18, options);
        if (!runs) continue;
        std::vector<Vec3> own;
        for (const auto& run : *runs)
            for (const auto& p : run.points) own.push_back(p.a);
        GeomAPI_IntSS cut(hull->occt,
                          new Geom_Plane(gp_Pln(point(1500 * plane.normal),
                                                gp_Dir(plane.normal.x(), plane.normal.y(), plane.normal.z()))),
                          1e-4);
        if (!cut.IsDone() || cut.NbLines() == 0) continue;
        for (const Vec3& p : own) {
            const GeomAPI_ProjectPointOnSurf near(point(p), hull->occt);
            if (near.NbPoints() == 0) continue;  // beyond OCCT's rim, by rounding
            const double off = near.LowerDistance();
            CHECK(off < 0.02);
            most = std::max(most, off);
        }
        for (int k = 1; k <= cut.NbLines(); ++k) {
            const Handle(Geom_Curve)& line = cut.Line(k);
            for (double share = 0.05; share < 0.96; share += 0.05) {
                const gp_Pnt p =
                    line->Value(line->FirstParameter() + share * (line->LastParameter() - line->FirstParameter()));
                const double off = distance_to_path({p.X(), p.Y(), p.Z()}, own);
                INFO("hull " << number << " at " << p.X() << ", " << p.Y() << ", " << p.Z());
                CHECK(off < 0.02);
                most = std::max(most, off);
            }
        }
        ++compared;
    }
    INFO("worst " << most);
    CHECK(compared >= 8);
}

TEST_CASE("the bevelled solid has the volume of OCCT's within 0.1 %", "[occt]") {
    constexpr double thickness = 25;
    int compared = 0;
    for (int number = 0; number < 12; ++number) {
        const auto hull = fitted(number);
        if (!hull) continue;
        // Between heights at which the side is surely known, well out from the centre line.
        const auto& boat = hull->job.boat;
        const double low = boat.at(1500, -1.0).z(), high = boat.at(1500, -0.1).z();
        const double inboard = std::round(0.45 * boat.at(1500, -1.0).y());
        const auto spec = half_bulkhead(1500, inboard, low, high);
        const auto lookup = [&](const std::string&) { return &hull->surface; };
        const auto outline = piece::compute_outline(spec, thickness, lookup, {5000, 5000});
        INFO("hull " << number << (outline.ok() ? "" : ": " + outline.error().message));
        if (!outline) continue;
        const double own =
            thickness * (geometry::area_mm2(outline->face_a) + geometry::area_mm2(outline->face_b)) / 2;
        const double theirs = occt_volume(*hull, spec, thickness, inboard, low, high);
        CHECK(own == Approx(theirs).epsilon(0.001));
        ++compared;
    }
    CHECK(compared >= 8);
}

TEST_CASE("STEP solids are read back by OCCT: as many, closed, with the volume between the true faces", "[occt]") {
    const job::Job job = jobs::ternlight();
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    const jobs::Folder folder;
    const std::string path = folder.file("pieces.step");
    std::vector<std::string> ids;
    std::vector<double> volumes;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        REQUIRE(shape);
        ids.push_back(job.pieces[i].id);
        for (const auto& part : shape->parts) {
            const double volume = piece::volume_mm3(piece::solid_of(*shape, part.face_a, part.face_b));
            // Between ruled faces the middle section lies between: Simpson's rule over both faces alone is within a
            // percent of the mean (derived).
            const double mean =
                (geometry::area_mm2(part.face_a) + geometry::area_mm2(part.face_b)) / 2 * shape->thickness_mm;
            CHECK(volume == Approx(mean).epsilon(0.01));
            volumes.push_back(volume);
        }
    }
    const auto written = exchange::write_step(job, results, ids, path);
    INFO((written ? "" : written.error().message));
    REQUIRE(written.ok());
    STEPControl_Reader reader;
    REQUIRE(reader.ReadFile(path.c_str()) == IFSelect_RetDone);
    reader.TransferRoots();
    std::vector<double> read;
    for (int k = 1; k <= reader.NbShapes(); ++k)
        for (TopExp_Explorer solids(reader.Shape(k), TopAbs_SOLID); solids.More(); solids.Next()) {
            GProp_GProps properties;
            BRepGProp::VolumeProperties(solids.Current(), properties);
            read.push_back(properties.Mass());
        }
    REQUIRE(read.size() == volumes.size());
    for (std::size_t k = 0; k < read.size(); ++k) CHECK(read[k] == Approx(volumes[k]).epsilon(0.001));
    CHECK_FALSE(exchange::write_step(job, results, {"none"}, path).ok());
    CHECK_FALSE(exchange::write_step(job, results, ids, folder.file("no/pieces.step")).ok());
}

TEST_CASE("the pieces' curves are curves in STEP, sound, few, and where the papers have them", "[occt]") {
    const job::Job job = job::in_full(jobs::demo("ternlight"));
    job::Pipeline pipeline;
    const auto results = pipeline.compute_pieces(job);
    const jobs::Folder folder;
    const std::string path = folder.file("all.step");
    std::vector<std::string> ids;
    std::vector<piece::Solid> own;
    for (std::size_t i = 0; i < job.pieces.size(); ++i) {
        const auto* shape = results.pieces[i].shape();
        if (!shape) continue;
        ids.push_back(job.pieces[i].id);
        for (const auto& part : shape->parts) {
            own.push_back(piece::solid_of(*shape, part.face_a, part.face_b));
            if (shape->cut_differs() && part.finished_a.holes.size() == part.finished_b.holes.size())
                own.push_back(piece::solid_of(*shape, part.finished_a, part.finished_b));
        }
    }
    REQUIRE(exchange::write_step(job, results, ids, path).ok());
    CHECK(jobs::read(path).size() < 6'000'000);  // in facets it is 22 MB
    STEPControl_Reader reader;
    REQUIRE(reader.ReadFile(path.c_str()) == IFSelect_RetDone);
    reader.TransferRoots();
    std::vector<TopoDS_Shape> read;
    for (int k = 1; k <= reader.NbShapes(); ++k)
        for (TopExp_Explorer solids(reader.Shape(k), TopAbs_SOLID); solids.More(); solids.Next())
            read.push_back(solids.Current());
    REQUIRE(read.size() == own.size());
    int smooth = 0;
    for (std::size_t k = 0; k < read.size(); ++k) {
        INFO("solid " << k);
        CHECK(BRepCheck_Analyzer(read[k]).IsValid());
        GProp_GProps properties;
        BRepGProp::VolumeProperties(read[k], properties);
        CHECK(properties.Mass() == Approx(piece::volume_mm3(own[k])).epsilon(0.001));
        int faces = 0;
        for (TopExp_Explorer at(read[k], TopAbs_FACE); at.More(); at.Next()) ++faces;
        smooth += faces < 60;
        const auto& band = own[k].bands[0];
        for (const auto* ring : {&band.a, &band.b})
            for (std::size_t i = 0; i < ring->size(); i += 1 + ring->size() / 2) {
                const BRepExtrema_DistShapeShape off(BRepBuilderAPI_MakeVertex(point((*ring)[i])).Vertex(), read[k]);
                CHECK(off.Value() < 0.02);
            }
    }
    CHECK(smooth * 20 >= 19 * static_cast<int>(read.size()));
}
