#include "job/reference.h"

#include <fmt/format.h>

#include <Eigen/Geometry>
#include <algorithm>

#include "job/in_full.h"

namespace bevelsmith::job {
namespace {

std::vector<std::string> split(const std::string& text) {
    std::vector<std::string> out(1);
    for (const char c : text)
        if (c == ',') out.emplace_back();
        else if (c != ' ' || !out.back().empty()) out.back() += c;
    for (auto& one : out)
        while (!one.empty() && one.back() == ' ') one.pop_back();
    return out;
}

const JobMark* find_mark(const Job& job, const std::string& text) {
    const auto at = std::find_if(job.marks.begin(), job.marks.end(),
                                 [&](const JobMark& m) { return m.id == text || m.name == text; });
    return at == job.marks.end() ? nullptr : &*at;
}

piece::Reference face_of(const Job& job, const JobPiece& other, const Vec3& towards) {
    const piece::Neighbour n = neighbour_of(job, other);
    piece::Reference out;
    const bool beyond_b = n.plane.distance_mm(towards) > n.thickness_mm / 2;
    out.plane = n.plane;
    out.plane.d_mm += beyond_b ? n.thickness_mm + n.covering_b_mm : -n.covering_a_mm;
    out.words = fmt::format("face {} of {}", beyond_b ? "B" : "A", other.name);
    return out;
}

std::string what_there_is(const Job& job) {
    std::string pieces, marks;
    for (const auto& p : job.pieces) pieces += (pieces.empty() ? "" : ", ") + p.id;
    for (const auto& m : job.marks) marks += (marks.empty() ? "" : ", ") + m.id;
    return fmt::format("a piece ({}), two marks for a string, or three for a plane ({})",
                       pieces.empty() ? "there is none" : pieces, marks.empty() ? "there are none" : marks);
}

}  // namespace

std::vector<piece::BoatMark> boat_marks(const Job& job) {
    std::vector<piece::BoatMark> out;
    for (const auto& m : job.marks) out.push_back({m.id, m.position});
    return out;
}

Result<piece::Reference> reference_named(const Job& job, const std::string& text, const Vec3& towards) {
    if (const JobPiece* other = find_piece(job, text)) return face_of(job, *other, towards);
    const auto names = split(text);
    std::vector<const JobMark*> marks;
    for (const auto& name : names) {
        marks.push_back(find_mark(job, name));
        if (!marks.back())
            return Error{fmt::format("there is no '{}' to measure from: name {}", name, what_there_is(job))};
    }
    piece::Reference out;
    if (marks.size() == 2) {
        out.kind = piece::Reference::Kind::string;
        out.from = marks[0]->position, out.to = marks[1]->position;
        if ((out.to - out.from).norm() < 1)
            return Error{fmt::format("{} and {} are the same place: a string needs two", marks[0]->id, marks[1]->id)};
        out.words = fmt::format("a string from {} to {}", marks[0]->id, marks[1]->id);
        return out;
    }
    if (marks.size() != 3)
        return Error{fmt::format("'{}' names {} marks: name {}", text, marks.size(), what_there_is(job))};
    const Vec3 u = marks[1]->position - marks[0]->position, v = marks[2]->position - marks[0]->position;
    const Vec3 n = u.cross(v);
    if (n.norm() < 1e-3 * u.norm() * v.norm() || n.norm() < 1e-9)
        return Error{fmt::format("{}, {} and {} stand in a row: no plane goes through them alone", marks[0]->id,
                                 marks[1]->id, marks[2]->id)};
    out.plane.normal = n.normalized();
    out.plane.d_mm = out.plane.normal.dot(marks[0]->position);
    out.words = fmt::format("the plane through {}, {} and {}", marks[0]->id, marks[1]->id, marks[2]->id);
    return out;
}

std::vector<ReferenceChoice> reference_choices(const Job& job, const JobPiece& piece) {
    constexpr double more_or_less = 0.97;
    std::vector<ReferenceChoice> stays, others;
    for (const auto& p : job.pieces) {
        if (p.id == piece.id || std::abs(p.plane.normal.dot(piece.plane.normal)) < more_or_less) continue;
        const bool stands = p.role != piece::Role::made;
        (stands ? stays : others).push_back({p.id, p.name + (stands ? " (stands already)" : "")});
    }
    stays.insert(stays.end(), others.begin(), others.end());
    if (job.marks.size() > 2)
        stays.push_back(
            {fmt::format("{},{},{}", job.marks[0].id, job.marks[1].id, job.marks[2].id),
             fmt::format("the plane through {}, {} and {}", job.marks[0].id, job.marks[1].id, job.marks[2].id)});
    for (std::size_t i = 0; i + 1 < job.marks.size() && i < 6; ++i)
        stays.push_back({fmt::format("{},{}", job.marks[i].id, job.marks[i + 1].id),
                         fmt::format("a string from {} to {}", job.marks[i].id, job.marks[i + 1].id)});
    return stays;
}

}  // namespace bevelsmith::job
