// What the window is made of, apart from it: pictures of sets, new pieces, forms, the camera, the scene.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QComboBox>
#include <QPrinter>
#include <cmath>

#include "app/measure/reading_number.h"
#include "app/measure/set_picture.h"
#include "app/pieces/piece_fields.h"
#include "app/shape/scene.h"
#include "app/shape/scene_view.h"
#include "app/widgets/direction.h"
#include "app/widgets/form.h"
#include "exchange/drawing.h"
#include "job/loose_piece.h"
#include "job/starting_piece.h"
#include "paper/pdf.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;

namespace {

const Computed& demo() {
    static const Computed the_demo = [] {
        Computed out{jobs::ternlight(), {}, {}};
        out.results = job::Pipeline().compute(out.job);
        out.findings = review::review(out.job, out.results);
        return out;
    }();
    return the_demo;
}

std::vector<FormField> fields(double gap, std::vector<QVariant>& sent) {
    using Kind = FormField::Kind;
    const auto keep = [&sent](const QVariant& v) { sent.push_back(v); };
    return {{Kind::heading, "Edge", {}, {}, {}, {}},
            {Kind::length, "gap", gap, keep, {}, {}, 0, 100},
            {Kind::degrees, "leans", 2.0, keep, {}, {}, -45, 45},
            {Kind::mass, "displacement", 1200.0, keep, {}, {}},
            {Kind::number, "GM", 0.9, keep, {}, "m"},
            {Kind::text, "name", "B1", keep, {}, {}},
            {Kind::choice, "kind", 1, keep, {"a", "b"}, {}},
            {Kind::toggle, "structural", true, keep, {}, {}},
            {Kind::button, "Remove", {}, keep, {}, {}}};
}

}  // namespace

TEST_CASE("a set's picture has its readings in their plane, residuals, and the suspect's hint", "[parts]") {
    const SetPicture p = picture_of(demo().job, demo(), 0);
    const auto& set = demo().job.readings[0];
    REQUIRE(p.readings.size() == set.readings.size());
    for (std::size_t i = 0; i < p.readings.size(); ++i) {
        CHECK((p.frame.to_space(p.readings[i].at) - survey::locate(set, set.readings[i])->position).norm() < 1e-9);
        CHECK(p.readings[i].fitted);
        CHECK(p.readings[i].suspect == (i == 10));
    }
    CHECK(p.readings[10].hint.contains("50 mm misread"));
    REQUIRE_FALSE(p.curves.empty());
    CHECK(p.curves[0].points.size() == p.curves[0].sigma_mm.size());
    CHECK(p.base.empty());
    CHECK(picture_of(demo().job, demo(), 2).base.size() == 2);
    CHECK(picture_of(demo().job, demo(), 99).readings.empty());
}

TEST_CASE("residuals are not shown with readings that were changed since", "[parts]") {
    job::Job newer = demo().job;
    newer.readings[0].readings.pop_back();
    const SetPicture p = picture_of(newer, demo(), 0);
    for (const auto& r : p.readings) CHECK_FALSE(r.fitted);
    CHECK_FALSE(p.curves.empty());  // the surface as it was is still something to see
}

TEST_CASE("residuals are written with their sign, and none for nothing", "[parts]") {
    CHECK(signed_mm(1.24) == "+1.2");
    CHECK(signed_mm(-0.36) == "-0.4");
    CHECK(signed_mm(-0.04) == "0.0");
    CHECK(signed_mm(0.04) == "0.0");
}

TEST_CASE("new pieces stand where they are asked for and are bounded", "[parts]") {
    for (int k = 0; k < job::starting_kind_count; ++k) {
        const auto kind = static_cast<job::StartingKind>(k);
        const auto piece = job::starting_piece(demo().job, demo().results, kind, 420);
        CHECK(geometry::place_mm(piece.plane) == 420);
        CHECK(piece.plane.normal.norm() == Approx(1));
        if (!job::is_loose(kind)) {
            CHECK(piece.edges.size() >= 2);
            CHECK(piece.edges.front().kind == piece::EdgeKind::scribed);
        }
        CHECK_FALSE(job::find_piece(demo().job, piece.id));
        CHECK(piece.structural == (kind == job::StartingKind::bulkhead));
    }
}

TEST_CASE("directions have words both ways", "[parts]") {
    for (int k = 0; k < 6; ++k) CHECK(direction_choice(direction(k)) == k);
    CHECK(direction_words(Vec3::UnitX()).size() == 6);
    CHECK(direction_words(Vec3(1, 1, 0).normalized()).size() == 7);
    CHECK(direction_choice(Vec3(1, 1, 0).normalized()) == 6);
    CHECK(direction(3) == -Vec3::UnitY());  // starboard
}

TEST_CASE("a form shows values, sends what is confirmed, and keeps what is being typed", "[parts]") {
    driver::application();
    Form form([] { return units::LengthUnit::millimetre; });
    std::vector<QVariant> sent;
    form.show_fields(fields(3, sent));
    form.show();
    form.activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&form, 3000));
    auto* gap = qobject_cast<QLineEdit*>(form.editor("gap"));
    REQUIRE(gap);
    CHECK(gap->text() == "3.0 mm");
    CHECK(qobject_cast<QLineEdit*>(form.editor("leans"))->text() == "2°");
    CHECK(qobject_cast<QLineEdit*>(form.editor("displacement"))->text() == "1200 kg");
    CHECK(qobject_cast<QLineEdit*>(form.editor("GM"))->text() == "0.9 m");
    CHECK(qobject_cast<QComboBox*>(form.editor("kind"))->currentIndex() == 1);
    CHECK(qobject_cast<QCheckBox*>(form.editor("structural"))->isChecked());
    CHECK(sent.empty());  // showing is not editing
    gap->setFocus();
    gap->selectAll();
    QTest::keyClicks(gap, "1/4 in");
    QTest::keyClick(gap, Qt::Key_Return);
    REQUIRE(sent.size() == 1);
    CHECK(sent[0].toDouble() == Approx(6.35));
    gap->selectAll();
    QTest::keyClicks(gap, "12");
    form.show_fields(fields(7, sent));  // results come in while a person types
    CHECK(form.editor("gap") == gap);
    CHECK(gap->text() == "12");
    QTest::mouseClick(form.editor("structural"), Qt::LeftButton, {}, {8, 8});
    QTest::mouseClick(form.editor("Remove"), Qt::LeftButton);
    CHECK(sent.size() >= 3);
    CHECK(form.editor("none") == nullptr);
}

TEST_CASE("a form of another shape keeps the fields that it still has, with the focus where it was", "[parts]") {
    driver::application();
    Form form([] { return units::LengthUnit::millimetre; });
    std::vector<QVariant> sent;
    auto some = fields(3, sent);
    form.show_fields(some);
    form.show();
    form.activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&form, 3000));
    QWidget* before = form.editor("GM");
    before->setFocus();
    some.erase(some.begin() + 1);
    form.show_fields(some);
    CHECK(form.editor("gap") == nullptr);
    CHECK(form.editor("GM") == before);
    CHECK(QApplication::focusWidget() == form.editor("GM"));
}

TEST_CASE("what is typed when another piece is chosen goes to the piece it was typed for", "[parts]") {
    driver::application();
    Form form([] { return units::LengthUnit::millimetre; });
    std::vector<QVariant> to_first, to_second;
    form.show_fields(fields(3, to_first), "B1");
    form.show();
    form.activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&form, 3000));
    auto* gap = qobject_cast<QLineEdit*>(form.editor("gap"));
    gap->setFocus();
    gap->selectAll();
    QTest::keyClicks(gap, "4.5");
    // Worked out anew it stays what is being typed; of another piece it is that one's figure.
    form.show_fields(fields(3, to_first), "B1");
    CHECK(gap->text() == "4.5");
    CHECK(to_first.empty());
    form.show_fields(fields(7, to_second), "B2");
    CHECK(gap->text() == "7.0 mm");
    CHECK(to_first == std::vector<QVariant>{4.5});
    QTest::keyClick(gap, Qt::Key_Return);
    CHECK(to_second.empty());
}

TEST_CASE("a text that is wrong stays, is explained and is not sent", "[parts]") {
    driver::application();
    Form form([] { return units::LengthUnit::millimetre; });
    QStringList sent;
    const auto shown = [&](const std::string& value) {
        FieldList list;
        list.text(
            "marks", value, [&](const QVariant& v) { sent << v.toString(); },
            [](const QString& text) { return text.contains("x") ? QString("no x, please") : QString(); });
        return list.take();
    };
    form.show_fields(shown("100"));
    form.show();
    auto* edit = qobject_cast<QLineEdit*>(form.editor("marks"));
    REQUIRE(edit);
    edit->selectAll();
    QTest::keyClicks(edit, "1x");
    QTest::keyClick(edit, Qt::Key_Return);
    CHECK(sent.empty());
    CHECK(edit->text() == "1x");
    CHECK(form.findChild<QLabel*>("fault")->text() == "no x, please");
    form.show_fields(shown("100"));
    CHECK(edit->text() == "1x");
    edit->selectAll();
    QTest::keyClicks(edit, "150");
    QTest::keyClick(edit, Qt::Key_Return);
    CHECK(sent == QStringList{"150"});
    CHECK_FALSE(form.findChild<QLabel*>("fault")->isVisible());
}

TEST_CASE("numbers of readings are typed, shown and typed again by their kind", "[parts]") {
    const auto unit = units::LengthUnit::millimetre;
    const survey::Column length{"range"}, optional{"from 3", survey::Column::Kind::length, true},
        angle{"turn", survey::Column::Kind::angle}, mark{"mark", survey::Column::Kind::number};
    CHECK(*parse_number(length, "1 in", unit) == Approx(25.4));
    CHECK_FALSE(parse_number(length, "2 km and more", unit));
    CHECK_FALSE(parse_number(length, "9e9", unit));
    CHECK_FALSE(parse_number(length, "", unit));
    CHECK(*parse_number(optional, " ", unit) == 0);
    CHECK(*parse_number(angle, "-18.3", unit) == -18.3);  // to the last bit
    CHECK(*parse_number(angle, "0.5 rad", unit) == Approx(28.6479));
    CHECK(*parse_number(mark, "4", unit) == 4);
    for (const char* nonsense : {"0", "-1", "2.5", "four", ""}) CHECK_FALSE(parse_number(mark, nonsense, unit));
    CHECK(shown_number(length, 812, unit) == "812.0");
    CHECK(shown_number(length, 812, unit, true) == "812");
    CHECK(shown_number(optional, 0, unit) == "–");
    CHECK(shown_number(angle, 7.5, unit) == "7.5°");
    CHECK(column_heading(length, unit) == "range, mm");
    CHECK(column_heading(angle, unit) == "turn, °");
    CHECK(column_heading(length, unit, true) == "range\nmm");
    CHECK(parse_number(angle, exact_number(angle, 0.1 + 0.2, unit), unit).ok());
}

TEST_CASE("rows come with tabs, semicolons, commas or blanks between, and faults name their row", "[parts]") {
    const auto set = survey::usual_set(survey::School::direct);
    const auto unit = units::LengthUnit::millimetre;
    for (const char* text :
         {"1\t2\t3\n4\t5\t6", "1;2;3\n4;5;6", "1,2,3\n4,5,6", "fwd, port, up\n1, 2, 3\n# aft\n4 5 6"}) {
        const auto rows = readings_from_text(set, text, unit);
        INFO(text);
        REQUIRE(rows.ok());
        REQUIRE(rows->size() == 2);
        CHECK((*rows)[1].values[2] == 6);
    }
    const auto fault = [&](const char* text) {
        const auto rows = readings_from_text(set, text, unit);
        REQUIRE_FALSE(rows.ok());
        return rows.error().message;
    };
    CHECK(fault("1 2 3\n4 5").find("row 2: 2 numbers") != std::string::npos);
    CHECK(fault("1 2 3\n4 five 6").find("row 2, port") != std::string::npos);
    CHECK(fault("").find("no readings") != std::string::npos);
    CHECK(fault("fwd port up").find("no readings") != std::string::npos);
}

TEST_CASE("the camera sees what it looks at, from where it stands", "[parts]") {
    Scene scene;
    scene.low = {-1000, -500, 0};
    scene.high = {3000, 500, 1200};
    Scene::Spots corners{{}, Qt::black, 4};
    for (const double x : {-1000.0, 3000.0})
        for (const double y : {-500.0, 500.0})
            for (const double z : {0.0, 1200.0}) corners.at.push_back({x, y, z});
    scene.spots.push_back(corners);
    Camera camera;
    camera.look_at(scene);
    CHECK((camera.target - Vec3(1000, 0, 600)).norm() < 1000);
    const QSizeF view(800, 400);
    const auto place = [&](const Vec3& p) {
        const QVector4D clip = camera.matrix(view) * QVector4D(static_cast<float>(p.x()), static_cast<float>(p.y()),
                                                               static_cast<float>(p.z()), 1);
        return QPointF(clip.x() / clip.w(), clip.y() / clip.w());
    };
    // All of it is seen, in the middle of the view.
    double left = 1, right = -1;
    for (const Vec3& p : corners.at) {
        const QPointF at = place(p);
        CHECK(std::max(std::abs(at.x()), std::abs(at.y())) <= 1);
        left = std::min(left, at.x()), right = std::max(right, at.x());
    }
    CHECK(std::abs(left + right) < 0.1);
    // A survey that is flat at its beginning is not looked at edge-on.
    Scene flat = scene;
    for (Vec3& p : flat.spots[0].at) p.y() *= 0.02;
    flat.low.y() = -10, flat.high.y() = 10;
    Camera other;
    other.look_at(flat);
    CHECK(std::abs((other.target - other.eye()).normalized().y()) > 0.6);
    CHECK(std::abs(place(camera.target).x()) < 1e-4);
    CHECK(std::abs(place(camera.target).y()) < 1e-4);
    CHECK(place(camera.target + Vec3(0, 0, 300)).y() > 0.01);  // up is up
    camera.turn = 0;                                           // from aft, looking forward: port is left
    CHECK(place(camera.target + Vec3(0, 300, 0)).x() < -0.01);
    CHECK(camera.eye().x() < camera.target.x());
    const double distance = camera.distance_mm;
    camera.zoom(2);
    CHECK(camera.distance_mm == Approx(distance / 2));
    camera.orbit({0, 1000});
    CHECK(camera.rise <= 85);
    const Vec3 target = camera.target;
    camera.pan({50, 0}, view);
    CHECK((camera.target - target).norm() > 1);
}

TEST_CASE("the scene holds surface, readings, pieces and the section's plane", "[parts]") {
    driver::application();
    const Scene scene = scene_of(demo(), "B1", {Vec3::UnitX(), 2700});
    CHECK(scene.triangles.size() == 2 * 40 * 60);
    REQUIRE(scene.spots.size() == 2);  // good readings, and the two that were left out
    CHECK(scene.spots[0].at.size() == 151);
    CHECK(scene.spots[1].at.size() == 2);
    CHECK(scene.plates.size() == 3);
    CHECK(scene.plates[0].rings.size() == 2);  // the bulkhead and its doorway
    CHECK(scene.high.x() - scene.low.x() > 1500);
    CHECK(scene_of(Computed{job::empty_job(), {}, {}}, {}, {}).empty());
}

TEST_CASE("the painted view shows the same things where there is no OpenGL", "[parts]") {
    driver::application();
    Camera camera;
    const Scene scene = scene_of(demo(), "B1", {Vec3::UnitX(), 2700});
    camera.look_at(scene);
    SceneView view(camera, SceneView::Draws::by_painter);
    view.resize(500, 360);
    const QImage blank = view.grab().toImage();
    view.show_scene(scene);
    const QImage full = view.grab().toImage();
    CHECK(full != blank);
    camera.orbit({120, 0});
    CHECK(view.grab().toImage() != full);
}

TEST_CASE("a printer gets the pages at 1:1 by its own resolution", "[parts]") {
    driver::application();
    const jobs::Folder folder;
    const auto drawing = exchange::drawing_of(demo().job, demo().results, "B2");
    REQUIRE(drawing.ok());
    QPrinter printer(QPrinter::HighResolution);
    printer.setResolution(600);
    printer.setFullPage(true);
    printer.setOutputFileName(QString::fromStdString(folder.file("printed.pdf")));
    paper::paint_pages(*drawing, {paper::Size::a4, 10}, printer);
    const std::string pdf = jobs::read(folder.file("printed.pdf"));
    CHECK(pdf.rfind("%PDF", 0) == 0);
    REQUIRE(std::system(
                ("pdftocairo -svg -f 1 -l 1 " + folder.file("printed.pdf") + " " + folder.file("p.svg")).c_str()) ==
            0);
    const std::string svg = jobs::read(folder.file("p.svg"));
    // The check line among all lines.
    int check_lines = 0;
    for (auto at = svg.find("<path style=\"fill:none;stroke-width"); at != std::string::npos;
         at = svg.find("<path style=\"fill:none;stroke-width", at + 1)) {
        const auto d = svg.find(" d=\"", at) + 4, matrix = svg.find("matrix(", at) + 7;
        const auto line = jobs::numbers_in(svg.substr(d, svg.find('"', d) - d));
        if (line.size() != 4) continue;
        const double scale = jobs::numbers_in(svg.substr(matrix, svg.find(')', matrix) - matrix)).at(0);
        check_lines += line[1] == line[3] && std::abs((line[2] - line[0]) * scale * 25.4 / 72 - 100) < 0.05;
    }
    CHECK(check_lines == 1);
}

TEST_CASE("tiles cover the drawing and overlap as asked", "[parts]") {
    const auto drawing = exchange::drawing_of(demo().job, demo().results, "B1");
    REQUIRE(drawing.ok());
    for (auto size : {paper::Size::a4, paper::Size::a3}) {
        const auto t = paper::tiling_for(*drawing, {size, 15});
        CHECK(t.tile_width_mm - t.step_x_mm == Approx(15));
        CHECK((t.columns - 1) * t.step_x_mm + t.tile_width_mm >= drawing->box.width());
        CHECK((t.rows - 1) * t.step_y_mm + t.tile_height_mm >= drawing->box.height());
        const auto printed = paper::printed_tiles(*drawing, t);
        CHECK(printed.size() < static_cast<std::size_t>(t.columns * t.rows));
        for (const auto& tile : printed) {
            CHECK(tile.column < t.columns);
            CHECK(tile.row < t.rows);
        }
    }
}
