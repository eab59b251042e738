// Layers on hulls with corners: what joinery meets is the faces moved inwards, met in mitres (worked example: offset
// planes meeting), rounded or filled where a person says so; layers end in steps and stack.
#include <catch2/catch.hpp>

#include <cmath>
#include <random>

#include "geometry/polygon.h"
#include "hull/fit.h"
#include "hull/mesh.h"
#include "hull/section.h"
#include "job/job.h"
#include "job/pipeline.h"
#include "job/starting_piece.h"
#include "support/prism.h"
#include "support/set_out.h"
#include "support/shapes.h"
#include "support/study.h"
#include "units/quantity.h"

using namespace bevelsmith;
using prisms::CutOfConvex;
using prisms::off_polylines_mm;
using prisms::Prism;

namespace {

constexpr double within_mm = 0.5;

/// Both faces lie where the offset planes meet the plane, everywhere, and nothing of it is missing.
void check_convex(const Prism& prism, const hull::Surface& surface, const geometry::Plane& plane, double panel_mm,
                  double layer_mm, double fill_mm = 0) {
    const CutOfConvex a(prism, plane, layer_mm, fill_mm),
        b(prism, {plane.normal, plane.d_mm + panel_mm}, layer_mm, fill_mm);
    const auto runs = hull::cut_section(surface, plane, panel_mm);
    INFO("layer " << layer_mm << ", plane " << plane.normal.transpose() << " at " << plane.d_mm << ": "
                  << (runs.ok() ? std::string() : runs.error().message));
    REQUIRE(runs.ok());
    for (const auto& run : *runs)
        for (const auto& p : run.points) {
            if (!p.in_survey) continue;
            INFO("at " << p.a.transpose());
            REQUIRE(a.off_mm(p.a) < within_mm);
            REQUIRE(b.off_mm(p.b) < within_mm);
        }
    const double margin = layer_mm + panel_mm + 30;
    for (const Vec3& p : a.points(prism, margin)) {
        INFO("missing on face A: " << p.transpose());
        REQUIRE(off_polylines_mm(p, *runs, &hull::SectionPoint::a) < within_mm);
    }
    for (const Vec3& p : b.points(prism, margin)) {
        INFO("missing on face B: " << p.transpose());
        REQUIRE(off_polylines_mm(p, *runs, &hull::SectionPoint::b) < within_mm);
    }
}

hull::Layer all_over(double thickness_mm) {
    return {"foam", thickness_mm, {}, {}, {}, {}};
}

}  // namespace

TEST_CASE("on a hull of planes the layers' faces meet in mitres: bulkheads, leaning, level and long panels",
          "[layers]") {
    const Prism prism = prisms::hard_chined();
    const auto fit = prism.fit();
    for (const double layer : cases<double>({1.0, 20.0, 80.0, 9.0, 40.0, 49.0}, 3)) {
        const hull::Surface lined = fit.surface.with_layers({all_over(layer)});
        for (int i = 0; i < 16; ++i) check_convex(prism, lined, {Vec3::UnitX(), 300 + 157.0 * i}, 18, layer);
        for (const double lean : {-0.4, 0.15})
            check_convex(prism, lined, {Vec3(1, 0, lean).normalized(), 1300}, 18, layer);
        check_convex(prism, lined, {Vec3(1, 0.5, 0).normalized(), 1300}, 18, layer);
        // Level panels below, across and above the chine, and where its mitre runs along them.
        for (const double z : {-420.0, -310.0, -300.0, -285.0, -260.0, -100.0})
            check_convex(prism, lined, {Vec3::UnitZ(), z}, 18, layer);
        for (const double y : {-500.0, 350.0, 700.0}) check_convex(prism, lined, {Vec3::UnitY(), y}, 18, layer);
    }
}

TEST_CASE("a corner that stands into the boat is met beyond it, in a mitre or around it", "[layers]") {
    const Prism prism = prisms::with_a_garboard();
    const auto fit = prism.fit();
    for (const double layer : {1.0, 20.0, 60.0})
        for (const auto kind : {hull::CornerKind::mitred, hull::CornerKind::rounded}) {
            const hull::Surface lined = fit.surface.with_layers({all_over(layer)}, {kind, 0});
            // The oracle: the section's polygon, closed far above, offset inwards (Clipper).
            const auto inner = geometry::offset(
                {prism.section_closed_above(), {}}, -layer,
                kind == hull::CornerKind::rounded ? geometry::Corner::round : geometry::Corner::mitre);
            REQUIRE(inner.size() == 1);
            const auto runs = hull::cut_section(lined, {Vec3::UnitX(), 1500}, 15);
            REQUIRE(runs.ok());
            const auto off = [&](const Vec3& p) {
                double least = 1e9;
                const auto& ring = inner.front().outer;
                for (std::size_t i = 0; i < ring.size(); ++i)
                    least = std::min(least, geometry::distance_to_segment_mm({p.y(), p.z()}, ring[i],
                                                                             ring[(i + 1) % ring.size()]));
                return least;
            };
            INFO("layer " << layer << (kind == hull::CornerKind::rounded ? " rounded" : " mitred"));
            for (const auto& run : *runs)
                for (const auto& p : run.points)
                    if (p.in_survey) {
                        INFO(p.a.transpose());
                        REQUIRE(off(p.a) < within_mm);
                        REQUIRE(off(p.b) < within_mm);
                    }
            for (const Vec2& corner : inner.front().outer)
                if (prism.surveyed({1500, corner.x(), corner.y()}, layer + 20))
                    CHECK(off_polylines_mm({1500, corner.x(), corner.y()}, *runs, &hull::SectionPoint::a) <
                          within_mm);
        }
}

TEST_CASE("a filled corner is cut off straight, as far from the mitre as was asked", "[layers]") {
    const Prism prism = prisms::hard_chined();
    const auto fit = prism.fit();
    constexpr double layer = 20, fill = 40;
    const hull::Surface filled = fit.surface.with_layers({all_over(layer)}, {hull::CornerKind::filled, fill});
    const auto mitre = prism.mitre(1, layer);  // of the keel: the middle one of three
    const auto runs = hull::cut_section(filled, {Vec3::UnitX(), 1500}, 15);
    REQUIRE(runs.ok());
    for (const double side : {-1.0, 1.0}) {
        const Vec2 along = Vec2(side * 900, 300).normalized();  // the bottom rises so from the keel
        const Vec2 end = mitre + fill * along;
        CHECK(off_polylines_mm({1500, end.x(), end.y()}, *runs, &hull::SectionPoint::a) < within_mm);
    }
    CHECK(off_polylines_mm({1500, mitre.x(), mitre.y()}, *runs, &hull::SectionPoint::a) ==
          Approx(fill * 300 / std::hypot(900, 300)).margin(within_mm));
    // A level panel in the filling alone is there as well.
    const double z = mitre.y() + 6;
    const auto level = hull::cut_section(filled, {-Vec3::UnitZ(), -z}, 4);
    CHECK_FALSE(level.ok());  // the filling lies above: nothing of the boat is so low
}

TEST_CASE("filled corners are met by bulkheads, leaning, level and long panels alike", "[layers]") {
    const Prism prism = prisms::hard_chined();
    const auto fit = prism.fit();
    for (const double layer : {5.0, 30.0})
        for (const double fill : {25.0, 90.0}) {
            INFO("filled by " << fill);
            const hull::Surface lined = fit.surface.with_layers({all_over(layer)}, {hull::CornerKind::filled, fill});
            for (const double x : {400.0, 1500.0, 2550.0})
                check_convex(prism, lined, {Vec3::UnitX(), x}, 18, layer, fill);
            for (const double lean : {-0.4, 0.15})
                check_convex(prism, lined, {Vec3(1, 0, lean).normalized(), 1300}, 18, layer, fill);
            check_convex(prism, lined, {Vec3(1, 0.5, 0).normalized(), 1300}, 18, layer, fill);
            for (const double z : {-420.0, -300.0, -260.0, -200.0})
                check_convex(prism, lined, {Vec3::UnitZ(), z}, 18, layer, fill);
            for (const double y : {-500.0, 350.0, 830.0})
                check_convex(prism, lined, {Vec3::UnitY(), y}, 18, layer, fill);
        }
}

TEST_CASE("a band goes on through a mitre: it is that of the face on either side", "[layers]") {
    const Prism prism = prisms::hard_chined();
    const auto fit = prism.fit();
    const hull::Surface lined = fit.surface.with_layers({all_over(30)});
    const auto runs = hull::cut_section(lined, {Vec3::UnitX(), 1500}, 18);
    const auto bare = hull::cut_section(fit.surface, {Vec3::UnitX(), 1500}, 18);
    REQUIRE(runs.ok());
    REQUIRE(bare.ok());
    const auto sigma_near = [](const std::vector<hull::SectionRun>& all, const Vec2& at, double reach) {
        std::vector<double> out;
        for (const auto& run : all)
            for (const auto& p : run.points)
                if ((Vec2(p.a.y(), p.a.z()) - at).norm() < reach) out.push_back(p.sigma_mm);
        return out;
    };
    for (std::size_t k = 0; k < 3; ++k) {
        const auto there = sigma_near(*runs, prism.mitre(k, 30), 60);
        const auto below = sigma_near(*bare, prism.section[k + 1], 120);
        REQUIRE(there.size() > 2);
        REQUIRE(below.size() > 2);
        // A mitre is as sure as the two faces that meet in it: neither nothing nor many times as unsure.
        const double least = *std::min_element(below.begin(), below.end()),
                     most = *std::max_element(below.begin(), below.end());
        for (const double sigma : there) {
            CHECK(sigma > 0.4 * least);
            CHECK(sigma < 3 * most);
        }
    }
}

TEST_CASE("a layer ends in a step, two stack, and one that ends at the chine is cut off by the other side",
          "[layers]") {
    const Prism prism = prisms::hard_chined();
    const auto fit = prism.fit();
    hull::Layer forward{"foam", 40, 1500, {}, {}, {}};
    const hull::Surface lined = fit.surface.with_layers({forward, all_over(9)});
    const auto level = hull::cut_section(lined, {Vec3::UnitZ(), 0}, 18);
    REQUIRE(level.ok());
    const double lean = prism.faces().front().normal.z();  // of the topsides
    for (const auto& run : *level)
        for (const auto& p : run.points) {
            if (!p.in_survey) continue;
            INFO(p.a.transpose());
            const double moved = -prism.outside_mm(p.a);
            // On one face, on the other, or on the way between them at the limit.
            const bool on_9 = std::abs(moved - 9) < within_mm && p.a.x() < 1500 + within_mm;
            const bool on_49 = std::abs(moved - 49) < within_mm && p.a.x() > 1500 - within_mm;
            CHECK((on_9 || on_49));
        }
    // Both corners of the step are there.
    for (const double t : {9.0, 49.0}) {
        const Vec3 corner = prism.on_topsides(1500, 0, t);
        CHECK(off_polylines_mm(corner, *level, &hull::SectionPoint::a) < within_mm);
    }
    CHECK(std::abs(lean) > 0.05);

    // Insulated from the chine up: below it the bare bottom, cut off by the foam's face.
    hull::Layer above{"foam", 40, {}, {}, -300, {}};
    const hull::Surface half = fit.surface.with_layers({above});
    const auto bulkhead = hull::cut_section(half, {Vec3::UnitX(), 1000}, 18);
    REQUIRE(bulkhead.ok());
    REQUIRE(bulkhead->size() == 1);
    for (const auto& p : bulkhead->front().points) {
        if (!p.in_survey) continue;
        INFO(p.a.transpose());
        const double topsides = prism.out_of_topsides_mm(p.a), bottom = prism.out_of_bottom_mm(p.a);
        CHECK(std::abs(std::max(topsides + 40, bottom)) < within_mm);
    }
}

TEST_CASE("in pictures the layers' face has neither gap nor overlap at a corner", "[layers]") {
    const Prism prism = prisms::hard_chined();
    const auto fit = prism.fit();
    for (const double layer : {20.0, 80.0}) {
        const auto mesh = hull::sample_mesh(fit.surface.with_layers({all_over(layer)}), 40, 80);
        for (const auto& node : mesh.nodes)
            if (prism.surveyed(node.position, layer + 20)) {
                INFO("layer " << layer << " at " << node.position.transpose());
                REQUIRE(std::abs(prism.outside_mm(node.position) + layer) < within_mm);
            }
    }
}

TEST_CASE("layers that a smooth hull has no room for are refused in plain words", "[layers]") {
    const auto tube = shapes::cylinder(90, 1000, units::radians(-170), units::radians(-10));
    const auto fit = hull::fit_surface(shapes::readings(tube, 30, 30, 0.3));
    REQUIRE(fit.ok());
    CHECK(hull::cut_section(fit->surface.with_layers({all_over(40)}), {Vec3::UnitX(), 500}, 6).ok());
    const auto refused = hull::cut_section(fit->surface.with_layers({all_over(120)}), {Vec3::UnitX(), 500}, 6);
    REQUIRE_FALSE(refused.ok());
    CHECK(refused.error().message.find("120 mm of layers have no room where the surface turns with a radius of ") ==
          0);
    CHECK(refused.error().message.find("read it as a line") != std::string::npos);
}

TEST_CASE("on an insulated hull of planes no piece is missing, and bulkheads run from side to side", "[layers]") {
    const Prism prism = prisms::hard_chined();
    job::Job job = job::empty_job();
    for (const auto& set : prism.sets()) job::add_readings(job, set);
    job::Pipeline pipeline;
    for (const double layer : cases<double>({20.0, 0.0, 9.0, 40.0, 49.0}, 2)) {
        job.surfaces.front().layers.clear();
        if (layer > 0) job.surfaces.front().layers = {all_over(layer)};
        job.pieces.clear();
        const auto bare = pipeline.compute_pieces(job);
        REQUIRE(bare.surfaces.front().fitted());
        for (int i = 0; i < 16; ++i)
            job.pieces.push_back(job::starting_piece(job, bare, job::StartingKind::bulkhead, 300 + 150.0 * i));
        for (const double z : {-350.0, -290.0, -100.0})
            job.pieces.push_back(job::starting_piece(job, bare, job::StartingKind::shelf, z));
        job.pieces.push_back(job::starting_piece(job, bare, job::StartingKind::long_face));
        const auto results = pipeline.compute_pieces(job);
        for (std::size_t i = 0; i < job.pieces.size(); ++i) {
            INFO("layer " << layer << ", " << job.pieces[i].name << " (" << i << ")");
            const auto* shape = results.pieces[i].shape();
            INFO((shape ? std::string() : results.pieces[i].outline->error().message));
            REQUIRE(shape);
            CHECK(shape->all_in_survey);
            double port = 0, starboard = 0;
            for (const Vec2& q : shape->face_a.outer) {
                const Vec3 p = shape->frame.to_space(q);
                // Never in the layer, and the gap away from it.
                CHECK(prism.outside_mm(p) < -layer + 0.05);
                port = std::max(port, p.y()), starboard = std::max(starboard, -p.y());
            }
            if (i < 16) CHECK(port == Approx(starboard).margin(1));
            if (i < 16) CHECK(port > 800);
        }
        set_out::check_all(job, results);  // and their papers say so
    }
}
