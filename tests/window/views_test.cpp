// The other views through the real window: shape, fixings, sheets, weight, what needs attention, looks.
#include <catch2/catch.hpp>

#include <QComboBox>
#include <QListView>
#include <QProgressBar>
#include <cmath>
#include <set>

#include "app/document/nest_search.h"
#include "app/look/theme.h"
#include "app/shape/scene_view.h"
#include "app/widgets/drawing_view.h"
#include "app/widgets/panel.h"
#include "support/jobs.h"
#include "units/places.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

void open(Window& w, StepId step, const QString& piece = "B1") {
    w.main.begin(jobs::ternlight());
    w.document.select_piece(piece);
    w.main.show_step(step);
    REQUIRE(w.settle());
    QTest::qWait(30);
}

/// How many clearly different colours a picture has.
std::size_t colours(const QImage& picture) {
    std::set<QRgb> out;
    for (int y = 0; y < picture.height(); y += 3)
        for (int x = 0; x < picture.width(); x += 3) out.insert(picture.pixel(x, y) & 0xf0f0f0);
    return out.size();
}

/// Contrast by WCAG 2: (L1 + 0.05)/(L2 + 0.05) of relative luminances.
double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& c) {
        const auto linear = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
        return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const double la = luminance(a), lb = luminance(b);
    return (std::max(la, lb) + 0.05) / (std::min(la, lb) + 0.05);
}

}  // namespace

TEST_CASE("the shape is drawn by OpenGL, turns with the mouse and the keys, and comes back", "[views][gl]") {
    Window w;
    open(w, StepId::shape);
    auto* view = w.step_drawing(StepId::shape);
    const auto picture = [&] { return view->grab().toImage(); };
    const QImage first = picture();
    REQUIRE(qobject_cast<SceneView*>(view));
    CHECK(static_cast<SceneView*>(view)->by_opengl());
    CHECK(colours(first) > 20);
    view->setFocus();
    QTest::keyClick(view, Qt::Key_Left);
    CHECK(picture() != first);
    QTest::keyClick(view, Qt::Key_Right);
    CHECK(picture() == first);
    QTest::mousePress(view, Qt::LeftButton, {}, {200, 200});
    QMouseEvent move(QEvent::MouseMove, QPointF(260, 220), QPointF(260, 220), Qt::LeftButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(view, &move);
    QTest::mouseRelease(view, Qt::LeftButton, {}, {260, 220});
    const QImage turned = picture();
    CHECK(turned != first);
    QTest::keyClick(view, Qt::Key_Plus);
    CHECK(picture() != turned);
}

TEST_CASE("a shelf lies as plans do: the bow at right, port up; a bulkhead stands", "[views]") {
    Window w;
    open(w, StepId::pieces, "S1");
    const auto* drawing = qobject_cast<DrawingView*>(w.step_drawing(StepId::pieces));
    REQUIRE(drawing);
    const auto* shelf = w.document.computed()->results.piece("S1");
    REQUIRE(shelf->shape());
    const auto& frame = shelf->shape()->frame;
    const auto on_screen = [&](const Vec3& in_boat) {
        return drawing->to_widget(frame.to_plane(frame.origin + in_boat)) -
               drawing->to_widget(frame.to_plane(frame.origin));
    };
    CHECK(on_screen(Vec3::UnitX()).x() > 0);
    CHECK(on_screen(Vec3::UnitX()).y() == Approx(0).margin(1e-9));
    CHECK(on_screen(Vec3::UnitY()).y() < 0);
    const QPointF there(drawing->width() / 3.0, drawing->height() / 4.0);
    CHECK((drawing->to_widget(drawing->to_drawing(there)) - there).manhattanLength() < 1e-6);
    w.document.select_piece("B1");
    w.settle();
    CHECK(drawing->to_widget({0, 1}).y() < drawing->to_widget({0, 0}).y());
    CHECK(drawing->to_widget({1, 0}).x() > drawing->to_widget({0, 0}).x());
}

TEST_CASE("the section follows the field, the ribbon and its keys", "[views]") {
    Window w;
    open(w, StepId::shape);
    auto* ribbon = w.named("section along the boat");
    REQUIRE(ribbon);
    REQUIRE(w.fill("section at, fwd", "2500"));
    ribbon->setFocus();
    QTest::keyClick(ribbon, Qt::Key_Right);
    CHECK(w.named<QLineEdit>("section at, fwd")->text() == "2510.0 mm");
    QTest::keyClick(ribbon, Qt::Key_Left, Qt::ShiftModifier);
    CHECK(w.named<QLineEdit>("section at, fwd")->text() == "2410.0 mm");
    QTest::mouseClick(ribbon, Qt::LeftButton, {}, {ribbon->width() - 30, 40});
    CHECK(w.named<QLineEdit>("section at, fwd")->text() != "2410.0 mm");
    REQUIRE(w.fill("section at, fwd", "99999"));
    CHECK(static_cast<QuantityEdit*>(w.named<QLineEdit>("section at, fwd"))->wrong());
}

TEST_CASE("a section that no readings surround says so, and too few readings say what is missing", "[views]") {
    Window w;
    open(w, StepId::shape);
    const auto figure = [&] {
        for (auto* f : w.main.findChildren<Figure*>())
            for (auto* label : f->findChildren<QLabel*>())
                if (f->isVisible() && label->text().startsWith("at this section")) return f->value();
        return QString();
    };
    REQUIRE(w.fill("section at, fwd", "2400"));
    CHECK(figure().contains("\u00b1"));
    const auto& points = w.document.computed()->results.surfaces[0].points;
    double fore = -1e9;
    for (const auto& p : points) fore = std::max(fore, p.position.x());
    REQUIRE(w.fill("section at, fwd", QString::number(fore - 1)));
    CHECK_FALSE(figure().contains("\u00b1 0.0"));
    // As the readings come in: none of them, one station, two.
    const auto whole = w.document.job();
    for (const std::size_t stations : {std::size_t{1}, std::size_t{2}}) {
        w.document.edit("Few", [&](job::Job& job) {
            job = whole;
            auto& set = job.readings[0];
            job.readings.resize(1);
            set = job::JobReadingSet();
            set.id = "R1", set.name = "Few", set.school = survey::School::direct, set.surface_id = job.surfaces[0].id;
            for (std::size_t k = 0; k < stations; ++k)
                for (int j = 0; j < 8; ++j)
                    set.readings.emplace_back().values = {1000.0 + 400 * static_cast<double>(k), 900.0 - 20 * j,
                                                          -100.0 * j};
        });
        REQUIRE(w.settle());
        QString words;
        for (auto* label : w.main.step_of(StepId::shape)->facts()->findChildren<QLabel*>())
            if (label->isVisible()) words += label->text() + "\n";
        INFO(words.toStdString());
        CHECK(words.contains("There is none yet: "));
        CHECK(words.contains(stations == 1 ? "reading" : "third station"));
        CHECK_FALSE(words.contains("Measure next"));
    }
}

TEST_CASE("another chart can be chosen for the surface, and undone", "[views]") {
    Window w;
    open(w, StepId::shape);
    auto* chart = w.named<QComboBox>("laid out");
    REQUIRE(chart);
    chart->setFocus();
    QTest::keyClicks(chart, "over");
    CHECK(w.document.job().surfaces[0].chart == hull::ChartChoice::plane);
    REQUIRE(w.settle());
    const auto kind = [&] { return w.document.computed()->results.surfaces[0].fitted()->surface.chart().kind; };
    CHECK(kind() == hull::Chart::Kind::plane);
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK(kind() == hull::Chart::Kind::axis);
}

TEST_CASE("a doorway is dragged on the drawing in one undo step", "[views]") {
    Window w;
    open(w, StepId::pieces);
    auto* view = static_cast<DrawingView*>(w.step_drawing(StepId::pieces));
    const auto before = w.document.job();
    const auto& door = before.pieces[0].openings[0];
    const Vec2 grip(door.left_mm + 120, door.bottom_mm + 300), to = grip + Vec2(0, 60);
    QTest::mousePress(view, Qt::LeftButton, {}, view->to_widget(grip).toPoint());
    for (int k = 1; k <= 4; ++k) {
        const QPointF at = view->to_widget(grip + (to - grip) * k / 4);
        QMouseEvent move(QEvent::MouseMove, at, at, Qt::LeftButton, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(view, &move);
    }
    QTest::mouseRelease(view, Qt::LeftButton, {}, view->to_widget(to).toPoint());
    CHECK(w.document.job().pieces[0].openings[0].bottom_mm == Approx(door.bottom_mm + 60).margin(6));
    CHECK(w.document.job().pieces[0].openings[0].left_mm == Approx(door.left_mm).margin(6));
    CHECK(w.document.undo_stack().count() == 1);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("the edge's ribbon and the drawing point at the same place", "[views]") {
    Window w;
    open(w, StepId::pieces);
    auto* ribbon = w.named("edge unrolled");
    REQUIRE(ribbon);
    auto* view = w.step_drawing(StepId::pieces);
    const QImage calm = view->grab().toImage(), flat = ribbon->grab().toImage();
    ribbon->setFocus();
    QTest::keyClick(ribbon, Qt::Key_Right);
    CHECK(view->grab().toImage() != calm);
    QTest::mouseMove(ribbon, {ribbon->width() / 2, 40});
    QTest::qWait(30);
    CHECK(ribbon->grab().toImage() != flat);
}

TEST_CASE("drawings zoom with the wheel and the keys, pan, and show everything again", "[views]") {
    Window w;
    open(w, StepId::pieces);
    auto* view = static_cast<DrawingView*>(w.step_drawing(StepId::pieces));
    const double scale = view->scale();
    view->setFocus();
    QTest::keyClick(view, Qt::Key_Plus);
    CHECK(view->scale() == Approx(1.25 * scale));
    const QPointF at(300, 200);
    const Vec2 under = view->to_drawing(at);
    QWheelEvent wheel(at, view->mapToGlobal(at), {}, {0, 240}, Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase,
                      false);
    QApplication::sendEvent(view, &wheel);
    CHECK(view->scale() > 1.3 * scale);
    CHECK((view->to_drawing(at) - under).norm() < 1e-6);  // the place under the pointer stays
    QTest::keyClick(view, Qt::Key_Right);
    CHECK((view->to_drawing(at) - under).norm() > 1);
    QTest::keyClick(view, Qt::Key_0);
    CHECK(view->scale() == Approx(scale));
}

TEST_CASE("the fixing is chosen against advice, and the checks say so", "[views]") {
    Window w;
    open(w, StepId::fix);
    auto* held = w.named<QComboBox>("held by");
    if (!held) {
        for (auto* box : w.main.findChildren<QComboBox*>())
            if (box->isVisible() && box->count() == 3 && box->itemText(1) == "tabbing") held = box;
    }
    REQUIRE(held);
    held->setFocus();
    QTest::keyClicks(held, "bonded");
    CHECK(w.document.job().pieces[0].fixing == fixing::Method::bonded_blocks);
    REQUIRE(w.settle());
    bool said = false;
    for (const auto& f : w.document.computed()->findings)
        said = said || f.check == review::CheckId::structural_on_blocks;
    CHECK(said);
    bool shown = false;
    for (auto* label : w.main.findChildren<QLabel*>())
        shown = shown || (label->isVisible() && label->text().startsWith("Stop: A removable fixing"));
    CHECK(shown);
}

TEST_CASE("a fixing rule is changed for the yard and every piece follows", "[views]") {
    Window w;
    open(w, StepId::fix, "B2");
    const auto blocks = w.document.computed()->results.piece("B2")->fixing.blocks.positions.size();
    REQUIRE(w.choose("showing", 1));
    REQUIRE(w.fill("blocks at most apart", "150"));
    CHECK(w.document.job().fixing_rules.block_spacing_mm == 150);
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.piece("B2")->fixing.blocks.positions.size() > blocks);
}

TEST_CASE("a part is dragged on its sheet: kept where it can lie, refused where it cannot", "[views]") {
    Window w;
    open(w, StepId::cut);
    auto* view = static_cast<DrawingView*>(w.step_drawing(StepId::cut));
    const auto& sheets = w.document.computed()->results.sheets[0];
    // One that has free room beside it, and where that is.
    std::size_t which = 0;
    Vec2 free(0, 0);
    const auto lies = [&](std::size_t k, const Vec2& by) {
        sheets::Layout moved = *sheets.layout;
        moved.placements[k].shift += by;
        return sheets::violations(*sheets.problem, moved).empty();
    };
    for (std::size_t k = 0; k < sheets.layout->placements.size() && free.isZero(); ++k)
        for (double x = -1400; x <= 1400 && free.isZero(); x += 20)
            for (double y = -420; y <= 420 && free.isZero(); y += 20)
                // A pixel is some millimetres: there must be room around it.
                if (sheets.layout->placements[k].sheet == 0 && Vec2(x, y).norm() > 30 && lies(k, {x, y}) &&
                    lies(k, {x + 5, y + 5}) && lies(k, {x - 5, y - 5}))
                    which = k, free = {x, y};
    REQUIRE_FALSE(free.isZero());
    const auto shape = sheets::placed(*sheets.problem, sheets.layout->placements[which]);
    const auto box = geometry::bounding_box(shape.outer);
    // A corner of the C-shaped half where there is wood.
    Vec2 grip = box.centre();
    for (double x = 0.05; x < 1; x += 0.05)
        for (double y = 0.05; y < 1; y += 0.05) {
            const Vec2 q = box.min + Vec2(box.width() * x, box.height() * y);
            if (geometry::contains(shape, q)) grip = q;
        }
    const auto drag = [&](const Vec2& by) {
        QTest::mousePress(view, Qt::LeftButton, {}, view->to_widget(grip).toPoint());
        const QPointF to = view->to_widget(grip + by);
        QMouseEvent move(QEvent::MouseMove, to, to, Qt::LeftButton, Qt::LeftButton, Qt::NoModifier);
        QApplication::sendEvent(view, &move);
        QTest::mouseRelease(view, Qt::LeftButton, {}, to.toPoint());
    };
    const auto before = w.document.job();
    drag({-3000, 0});
    CHECK(w.document.job() == before);
    drag(free);
    REQUIRE(w.document.job().layouts.size() == 1);
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.sheets[0].locked);
    REQUIRE(w.click("Keep it no more"));
    CHECK(w.document.job() == before);
}

TEST_CASE("sheets are added, described, chosen for a piece, and removed while nothing is cut from them", "[views]") {
    Window w;
    open(w, StepId::cut);
    const auto before = w.document.job();
    REQUIRE(w.choose("showing", 1));
    REQUIRE(w.click("Add another sheet"));
    REQUIRE(w.document.job().materials.size() == 3);
    REQUIRE(w.settle());
    REQUIRE(w.fill("sheet's name", "Marine ply 9 mm"));
    REQUIRE(w.fill("thickness, measured", "8.8"));
    CHECK(w.document.job().materials[2].name == "Marine ply 9 mm");
    CHECK(w.document.job().materials[2].thickness_mm == 8.8);
    CHECK(w.document.job().materials[0].thickness_mm == before.materials[0].thickness_mm);
    REQUIRE(w.settle());
    w.document.select_piece("S1");
    w.main.show_step(StepId::pieces);
    REQUIRE(w.choose("showing", 1));  // what it is made of
    auto* sheet = w.named<QComboBox>("sheet");
    REQUIRE(sheet);
    sheet->setFocus();
    QTest::keyClicks(sheet, "Marine ply 9");
    CHECK(w.document.job().pieces[2].material_id == w.document.job().materials[2].id);
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.piece("S1")->shape()->thickness_mm == 8.8);
    CHECK(w.document.computed()->results.sheets.size() == 3);
    w.main.show_step(StepId::cut);
    CHECK_FALSE(w.button("Remove this sheet"));  // something is cut from it
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    REQUIRE(w.click("Remove this sheet"));
    CHECK(w.document.job() == before);
}

TEST_CASE("an unused sheet is shown empty, in words", "[views]") {
    Window w;
    open(w, StepId::cut);
    REQUIRE(w.choose("showing", 1));
    REQUIRE(w.click("Add another sheet"));
    REQUIRE(w.settle());
    CHECK(w.named<QComboBox>("sheets of")->currentText().contains("another"));
    w.step_drawing(StepId::cut)->repaint();
    w.main.step_of(StepId::cut)->ribbon()->repaint();
    CHECK_FALSE(w.button("Look for better"));
}

TEST_CASE("job, boat and coating are named and weighed", "[views]") {
    Window w;
    open(w, StepId::weigh);
    const double kg = w.document.computed()->results.added.mass_kg;
    REQUIRE(w.fill("job", "Spring refit"));
    CHECK(w.document.job().name == "Spring refit");
    CHECK(w.main.windowTitle().startsWith("Spring refit"));
    REQUIRE(w.fill("coating a face, cured", "0.56"));
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.added.mass_kg > kg + 1);
}

TEST_CASE("a search for a better layout shows progress and stops when asked", "[views]") {
    Window w;
    open(w, StepId::cut);
    REQUIRE(w.click("Look for better"));
    auto* bar = w.main.findChild<QProgressBar*>();
    REQUIRE(bar);
    CHECK(bar->isVisible());
    REQUIRE(w.button("Stop"));
    REQUIRE(w.click("Stop"));
    // It was looking for minutes yet.
    REQUIRE(QTest::qWaitFor([&] { return w.button("Look for better") != nullptr; }, 20000));
    CHECK_FALSE(bar->isVisible());
}

TEST_CASE("the search runs beside the window and hands back a layout", "[views]") {
    driver::application();
    NestSearch search;
    auto problem = std::make_shared<sheets::Problem>();
    problem->stock.push_back({{geometry::rectangle({{0, 0}, {1000, 500}}), {}}, -1, 100});
    sheets::Part part;
    part.id = std::string("a");
    part.quantity = 6;
    part.shape.outer = geometry::rectangle({{0, 0}, {200, 120}});
    problem->parts.push_back(part);
    std::shared_ptr<const sheets::Layout> found;
    int reports = 0;
    QObject::connect(&search, &NestSearch::progressed, &search, [&] { ++reports; });
    QObject::connect(&search, &NestSearch::finished, &search, [&](auto layout) { found = layout; });
    search.start(problem, 0.3, 1);
    CHECK(search.running());
    REQUIRE(QTest::qWaitFor([&] { return found != nullptr; }, 5000));
    CHECK_FALSE(search.running());
    CHECK(found->placements.size() == 6);
    CHECK(reports > 0);
}

TEST_CASE("the boat's figures are typed and the list follows", "[views]") {
    Window w;
    open(w, StepId::weigh);
    const double list = w.document.computed()->results.attitude.list_rad;
    REQUIRE(w.fill("GM", "0.46 m"));
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.attitude.list_rad == Approx(2 * list).epsilon(0.01));
    REQUIRE(w.fill("displacement", "0"));
    REQUIRE(w.settle());
    CHECK_FALSE(w.document.computed()->results.attitude.known);
    bool said = false;
    for (auto* label : w.main.findChildren<QLabel*>("figure"))
        said = said || (label->isVisible() && label->text() == "not known");
    CHECK(said);
}

TEST_CASE("the reasons of list and trim say what was computed, with the mass that was added", "[views]") {
    Window w;
    open(w, StepId::weigh);
    const auto reason = [&](const QString& begins) {
        for (auto* label : w.main.findChildren<QLabel*>())
            if (label->text().startsWith(begins) && label->text().contains("added")) return label->text();
        return QString();
    };
    const auto& added = w.document.computed()->results.added;
    const auto& boat = w.document.job().boat.hydrostatics;
    const QString list = reason("tan(list)"), trim = reason("Moment about");
    INFO(list.toStdString() << trim.toStdString());
    CHECK(list.contains(QString("= %1").arg(w.document.mass(boat.displacement_kg + added.mass_kg))));
    CHECK(list.contains(
        QString::fromStdString(units::place_in_words(added.centre_mm.y(), units::Axis::port, w.document.unit()))));
    CHECK(trim.contains(w.document.length(std::abs(added.centre_mm.x() - boat.flotation_x_mm))));
    // The formula on those figures is what is shown.
    const double by_hand =
        std::atan(added.mass_kg * added.centre_mm.y() / 1000 / ((boat.displacement_kg + added.mass_kg) * boat.gm_m));
    CHECK(w.document.computed()->results.attitude.list_rad == Approx(by_hand));
    w.document.edit("Inches", [](job::Job& job) { job.unit = units::LengthUnit::inch; });
    REQUIRE(w.settle());
    CHECK(reason("tan(list)").contains(" lb"));
    CHECK(reason("tan(list)").contains(" ft"));
    CHECK(reason("Moment about").contains("ft lb/in"));
}

TEST_CASE("a finding is gone to, set aside with a reason, and taken up again", "[views]") {
    Window w;
    open(w, StepId::weigh);
    w.document.edit("test", [](job::Job& job) { job.pieces[1].limbers.clear(); });
    REQUIRE(w.settle());
    w.key(Qt::Key_K, Qt::ControlModifier);
    REQUIRE(w.main.side_panel());
    REQUIRE(w.click("Go to B2"));
    CHECK(w.document.selected_piece() == "B2");
    CHECK(w.main.step() == StepId::pieces);
    // The last "Set aside" belongs to the limber notch or the readings; one without a reason is not taken.
    REQUIRE(w.click("Set aside"));
    auto* reason = w.named<QLineEdit>("reason to set aside");
    REQUIRE(reason);
    QTest::keyClick(reason, Qt::Key_Return);
    CHECK(w.document.job().set_aside.empty());
    QTest::keyClicks(reason, "drains aft");
    QTest::keyClick(reason, Qt::Key_Return);
    REQUIRE(w.document.job().set_aside.size() == 1);
    CHECK(w.document.job().set_aside[0].reason == "drains aft");
    REQUIRE(w.settle());
    REQUIRE(w.click("Take it up again"));
    CHECK(w.document.job().set_aside.empty());
    w.main.side_panel()->setFocus();
    w.key(Qt::Key_Escape);
    CHECK_FALSE(w.main.side_panel());
}

TEST_CASE("a piece chosen in the column is the selection of every step", "[views]") {
    Window w;
    open(w, StepId::pieces);
    auto* list = w.named<QListView>("pieces");
    REQUIRE(list);
    list->setFocus();
    w.key(Qt::Key_Down);
    QTest::qWait(1);
    CHECK(w.document.selected_piece() == "B2");
    w.key(Qt::Key_Down);
    CHECK(w.document.selected_piece() == "S1");
    w.document.select_piece("B1");
    CHECK(list->currentIndex().data(Qt::UserRole).toString() == "B1");
}

TEST_CASE("units are switched for all figures at once, and the job stays the same", "[views]") {
    Window w;
    open(w, StepId::pieces, "B2");
    auto* unit = w.named<QComboBox>("unit of lengths");
    REQUIRE(unit);
    unit->setFocus();
    QTest::keyClicks(unit, "in");
    CHECK(w.document.unit() == units::LengthUnit::inch);
    CHECK(w.named<QLineEdit>("face A at, fwd")->text() == "80.709 in");
    REQUIRE(w.fill("face A at, fwd", "81"));
    CHECK(w.document.job().pieces[1].plane.d_mm == Approx(81 * 25.4));
    w.document.undo_stack().undo();
    w.document.undo_stack().undo();
    CHECK(w.document.job() == jobs::ternlight());
}

TEST_CASE("both looks reach 4.5:1 for all text", "[views]") {
    driver::application();
    for (bool night : {false, true}) {
        theme().set_night(night);
        const auto& c = theme().colours();
        for (const QColor& ground : {c.ground, c.paper, c.field})
            for (const QColor& text : {c.ink, c.faint, c.accent, c.certain, c.note, c.mind, c.stop}) {
                INFO((night ? "night " : "day ")
                     << text.name().toStdString() << " on " << ground.name().toStdString());
                CHECK(contrast(text, ground) >= 4.5);
            }
        CHECK(contrast(c.accent_ink, c.accent) >= 4.5);
    }
    theme().set_night(false);
}

TEST_CASE("severities differ by shape, not by colour alone", "[views]") {
    driver::application();
    const auto shape_of = [](review::Severity s) {
        QImage out = severity_sign(s, 32).toImage().convertToFormat(QImage::Format_ARGB32);
        for (int y = 0; y < out.height(); ++y)
            for (int x = 0; x < out.width(); ++x) out.setPixel(x, y, qAlpha(out.pixel(x, y)) > 128 ? 1 : 0);
        return out;
    };
    CHECK(shape_of(review::Severity::note) != shape_of(review::Severity::mind));
    CHECK(shape_of(review::Severity::mind) != shape_of(review::Severity::stop));
    CHECK(shape_of(review::Severity::note) != shape_of(review::Severity::stop));
}

TEST_CASE("no text is cut off at 1280 x 800 in any step, by day, in every unit", "[views]") {
    Window w;
    w.main.resize(1280, 800);
    open(w, StepId::pieces);
    for (int unit = 0; unit < units::length_unit_count; ++unit) {
        w.document.edit("unit", [&](job::Job& job) { job.unit = static_cast<units::LengthUnit>(unit); });
        REQUIRE(w.settle());
        for (const char* piece : {unit % 2 ? "B2" : "B1"})
            for (const StepId step : all_steps) {
                w.document.select_piece(piece);
                w.main.show_step(step);
                QTest::qWait(20);
                CHECK(w.main.width() == 1280);
                for (auto* label : w.main.findChildren<QLabel*>()) {
                    if (!label->isVisible() || label->text().isEmpty() || label->text() == " ") continue;
                    INFO(step_word(step) << ", " << piece << ": '" << label->text().toStdString() << "'");
                    if (label->wordWrap()) CHECK(label->height() + 1 >= label->heightForWidth(label->width()));
                    else CHECK(label->width() + 1 >= label->sizeHint().width());
                }
                const QRect facts(w.main.step_of(step)->facts()->mapToGlobal(QPoint(0, 0)),
                                  w.main.step_of(step)->facts()->size());
                for (auto* inside : w.main.step_of(step)->facts()->findChildren<QWidget*>()) {
                    if (!inside->isVisible() || !inside->inherits("QLabel")) continue;
                    INFO(step_word(step) << ": '" << static_cast<QLabel*>(inside)->text().toStdString() << "'");
                    CHECK(inside->mapToGlobal(QPoint(inside->width(), 0)).x() <= facts.right() + 2);
                }
                for (auto* button : w.main.findChildren<QPushButton*>()) {
                    if (!button->isVisible() || button->text().isEmpty()) continue;
                    INFO(step_word(step) << ": '" << button->text().toStdString() << "'");
                    CHECK(button->width() + 1 >= button->minimumSizeHint().width());
                }
            }
    }
}
