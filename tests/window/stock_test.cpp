// What comes into stock from outside, layouts side by side, and parts sent about, through the real window.
#include <catch2/catch.hpp>

#include <QFileInfo>
#include <QLineEdit>
#include <QToolButton>

#include "app/cut/part_picture.h"
#include "app/measure/photo_view.h"
#include "job/file_io.h"
#include "support/photo.h"
#include "window/cut_window.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using cutting::laid, cutting::open_cut, cutting::says;
using driver::Window;

namespace {

/// Presses on wood of a part of the first sheet; its place in the layout.
std::size_t choose_a_part(Window& w, SheetDrawing* view) {
    const auto& s = laid(w);
    for (std::size_t k = 0; k < s.layout->placements.size(); ++k) {
        const auto& at = s.layout->placements[k];
        if (at.sheet != 0) continue;
        const auto shape = sheets::placed(*s.problem, at);
        const auto box = geometry::bounding_box(shape.outer);
        for (double x = 0.1; x < 1; x += 0.1)
            for (double y = 0.1; y < 1; y += 0.1) {
                const Vec2 q = box.min + box.size().cwiseProduct(Vec2(x, y));
                if (!geometry::contains(shape, q)) continue;
                QTest::mouseClick(view, Qt::LeftButton, {}, view->to_widget(q).toPoint());
                return k;
            }
    }
    FAIL("there is no part");
    return 0;
}

/// An L of 900 by 700 with a round hole, and a triangle, in a drawing of another's hand.
std::string drawing_file(const jobs::Folder& folder) {
    const std::string path = folder.file("yard.dxf");
    const std::string text =
        "0\nSECTION\n2\nENTITIES\n0\nLWPOLYLINE\n8\nPANELS\n90\n6\n70\n1\n10\n0\n20\n0\n10\n900\n20\n0\n10\n900\n20\n"
        "300\n"
        "10\n400\n20\n300\n10\n400\n20\n700\n10\n0\n20\n700\n0\nCIRCLE\n8\nHOLES\n10\n200\n20\n200\n40\n60\n"
        "0\nLWPOLYLINE\n8\nPANELS\n90\n3\n70\n1\n10\n1000\n20\n0\n10\n1500\n20\n0\n10\n1000\n20\n400\n"
        "0\nENDSEC\n0\nEOF\n";
    REQUIRE(job::write_file_atomically(path, text));
    return path;
}

void open_drawing(Window& w, const std::string& path) {
    w.main.show_panel(panel::Outlines{});
    REQUIRE(w.fill("drawing file", QString::fromStdString(path)));
}

}  // namespace

TEST_CASE("panels come into stock from a drawing, with their openings", "[stock]") {
    Window w;
    open_cut(w);
    const jobs::Folder folder;
    w.main.show_panel(panel::Stock{});
    REQUIRE(w.click("From a DXF"));
    QTest::qWait(20);
    REQUIRE(w.fill("drawing file", QString::fromStdString(drawing_file(folder))));
    CHECK(w.panel_words().contains("2 outlines"));
    CHECK(w.panel_words().contains("does not say its unit"));
    REQUIRE(w.choose("openings", 2));
    const auto before = w.document.job();
    REQUIRE(w.click("Take them over"));
    REQUIRE(w.document.job().offcuts.size() == 2);
    CHECK(geometry::area_mm2(w.document.job().offcuts[0].shape) ==
          Approx(900 * 300 + 400 * 400 - M_PI * 60 * 60).epsilon(1e-3));
    CHECK(geometry::area_mm2(w.document.job().offcuts[1].shape) == Approx(500 * 400 / 2.0));
    REQUIRE(w.settle());
    CHECK(laid(w).problem->stock.size() == 3);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("a drawing is read when its field is left, as on Enter, and not again for nothing", "[stock]") {
    Window w;
    open_cut(w);
    const jobs::Folder folder;
    const std::string drawing = drawing_file(folder);
    w.main.show_panel(panel::Outlines{});
    auto* path = w.named<QLineEdit>("drawing file");
    REQUIRE(path);
    path->setFocus();
    QTest::keyClicks(path, QString::fromStdString(drawing));
    CHECK_FALSE(w.panel_words().contains("2 outlines"));
    QTest::keyClick(path, Qt::Key_Tab);
    CHECK(w.panel_words().contains("2 outlines"));
    REQUIRE(w.choose("openings", 2));
    path->setFocus();
    QTest::keyClick(path, Qt::Key_Tab);
    CHECK(w.named<QComboBox>("openings")->currentIndex() == 2);
}

TEST_CASE("a drawing becomes a piece of its own, and a bad one is refused with its line", "[stock]") {
    Window w;
    open_cut(w);
    const jobs::Folder folder;
    open_drawing(w, drawing_file(folder));
    REQUIRE(w.choose("taken over as", 1));
    REQUIRE(w.choose("openings", 2));
    const auto pieces = w.document.job().pieces.size();
    REQUIRE(w.click("Take them over"));
    REQUIRE(w.document.job().pieces.size() == pieces + 2);
    CHECK(w.main.step() == StepId::pieces);
    REQUIRE(w.settle());
    const auto& piece = w.document.job().pieces[pieces];
    bool seen = false;
    for (const auto& result : w.document.computed()->results.pieces)
        if (result.id == piece.id) {
            INFO((result.shape() ? std::string() : result.outline->error().message));
            REQUIRE(result.shape());
            CHECK(geometry::area_mm2(result.shape()->face_a) ==
                  Approx(900 * 300 + 400 * 400 - M_PI * 60 * 60).epsilon(1e-3));
            seen = true;
        }
    CHECK(seen);
    const auto job = w.document.job();
    const std::string bad = folder.file("bad.dxf");
    REQUIRE(job::write_file_atomically(bad, "0\nSECTION\nbanana\n"));
    open_drawing(w, bad);
    CHECK(says(w, "bad.dxf, line 3"));
    CHECK_FALSE(w.button("Take them over")->isEnabled());
    open_drawing(w, folder.file("none.dxf"));
    CHECK(says(w, "none.dxf"));
    CHECK(w.document.job() == job);
}

TEST_CASE("a panel is traced in a photo and comes into stock at its true size", "[stock]") {
    Window w;
    open_cut(w);
    w.main.show_panel(panel::Stock{});
    REQUIRE(w.click("Trace in a photo"));
    QTest::qWait(20);
    REQUIRE(w.click("Sample photo"));
    auto* view = w.named<PhotoView>("photo");
    REQUIRE(view);
    const photos::Template card;
    const auto photo = photos::rendered(card, {0, 0, 0, 0, 0});
    const double screen = std::min(view->width() / 1600.0, view->height() / 1200.0);
    const QPointF corner((view->width() - 1600 * screen) / 2, (view->height() - 1200 * screen) / 2);
    for (const Vec2& mark : photo.marks_px)
        QTest::mouseClick(view, Qt::LeftButton, {},
                          (corner + QPointF(mark.x() + 0.5, mark.y() + 0.5) * screen).toPoint());
    REQUIRE(view->marks().size() == 4);
    REQUIRE(w.click("Find the edge"));
    REQUIRE(QTest::qWaitFor([&] { return view->points().size() > 200; }, driver::patience_ms));
    REQUIRE(w.click("Take the outline over"));
    REQUIRE(w.document.job().offcuts.size() == 1);
    double area = 0;
    for (double x = 0.5; x < card.length_mm; ++x) area += card.height_mm(x);
    const auto& shape = w.document.job().offcuts[0].shape;
    CHECK(geometry::area_mm2(shape) == Approx(area).epsilon(0.01));
    CHECK(geometry::bounding_box(shape.outer).width() == Approx(card.length_mm).margin(5));
    CHECK(geometry::bounding_box(shape.outer).min.norm() < 1e-6);
}

TEST_CASE("a part is sent to another sheet where there is room, and stays where there is none", "[stock]") {
    Window w;
    auto* view = open_cut(w);
    const auto k = choose_a_part(w, view);
    const std::string id = laid(w).problem->parts[static_cast<std::size_t>(laid(w).layout->placements[k].part)].id;
    const auto sheets_before = laid(w).layout->sheet_stock.size();
    auto* menu_button = w.button("Send it to another sheet");
    REQUIRE(menu_button);
    REQUIRE(menu_button->menu());
    const auto actions = menu_button->menu()->actions();
    REQUIRE(actions.size() == static_cast<qsizetype>(sheets_before));
    const auto before = w.document.job();
    actions.back()->trigger();  // a sheet of its own
    REQUIRE(w.settle());
    REQUIRE_FALSE(w.document.job() == before);
    CHECK(laid(w).layout->sheet_stock.size() >= sheets_before);
    CHECK(laid(w).broken_lock.empty());
    CHECK(sheets::violations(*laid(w).problem, *laid(w).layout).empty());
    for (const auto& at : laid(w).layout->placements)
        if (laid(w).problem->parts[static_cast<std::size_t>(at.part)].id == id) CHECK(at.sheet != 0);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("the chosen part is shown in its piece and in the boat, and leads there", "[stock]") {
    Window w;
    auto* view = open_cut(w);
    choose_a_part(w, view);
    auto* picture = w.named<PartPicture>("the part in its piece and in the boat");
    REQUIRE(picture);
    // Both pictures have the part's wood in them.
    const QImage image = picture->grab().toImage();
    const double dots = image.devicePixelRatio();
    for (const bool boat : {false, true}) {
        std::map<QRgb, int> colours;
        const int from = boat ? image.width() / 2 : 0;
        for (int x = from; x < from + image.width() / 2; ++x)
            for (int y = static_cast<int>(22 * dots); y < image.height(); ++y) ++colours[image.pixel(x, y)];
        CHECK(colours.size() > 5);
    }
    QTest::mouseClick(picture, Qt::LeftButton, {}, QPoint(picture->width() * 3 / 4, picture->height() / 2));
    CHECK(w.main.step() == StepId::pieces);
    w.main.show_step(StepId::cut);
    picture = w.named<PartPicture>("the part in its piece and in the boat");
    REQUIRE(picture);
    QTest::mouseClick(picture, Qt::LeftButton, {}, QPoint(picture->width() / 4, picture->height() / 2));
    CHECK(w.main.step() == StepId::pieces);
}

TEST_CASE("layouts are kept beside the one in use, compared, taken up and forgotten", "[stock]") {
    Window w;
    auto* view = open_cut(w);
    REQUIRE(w.click("Layouts"));
    CHECK_FALSE(w.button("Use the kept one")->isEnabled());
    REQUIRE(w.click("Keep the one in use"));
    REQUIRE(w.settle());
    const auto kept = w.document.job();
    REQUIRE(kept.layouts.size() == 1);
    CHECK_FALSE(kept.layouts[0].in_use);
    // The same again is not kept twice.
    REQUIRE(w.click("Keep the one in use"));
    REQUIRE(w.settle());
    CHECK(w.document.job().layouts.size() == 1);
    const auto placements = laid(w).layout->placements;
    // Another one is in use.
    REQUIRE(w.click("Close"));
    choose_a_part(w, view);
    auto* send = w.button("Send it to another sheet");
    REQUIRE(send);
    send->menu()->actions().back()->trigger();
    REQUIRE(w.settle());
    REQUIRE_FALSE(laid(w).layout->placements == placements);
    REQUIRE(w.click("Layouts"));
    CHECK(w.named<QComboBox>("kept layout")->currentText() == "Layout 1");
    REQUIRE(w.click("Use the kept one"));
    REQUIRE(w.settle());
    CHECK(laid(w).layout->placements == placements);
    CHECK(laid(w).locked);
    REQUIRE(w.click("Forget the kept one"));
    REQUIRE(w.settle());
    REQUIRE(w.document.job().layouts.size() == 1);
    CHECK(w.document.job().layouts[0].in_use);
    CHECK(laid(w).layout->placements == placements);
}

TEST_CASE("while a search runs its best is drawn and nothing moves; stopped, the best stays", "[stock]") {
    Window w;
    auto* view = open_cut(w);
    const auto before = w.document.job();
    REQUIRE(w.click("Look for better"));
    REQUIRE(w.button("Stop"));
    QTest::qWait(700);
    const auto place = view->rect().center();
    QTest::mousePress(view, Qt::LeftButton, {}, place);
    QTest::mouseMove(view, place + QPoint(60, 40));
    QTest::mouseRelease(view, Qt::LeftButton, {}, place + QPoint(60, 40));
    CHECK(w.document.job() == before);
    REQUIRE(w.click("Stop"));
    REQUIRE(QTest::qWaitFor([&] { return w.button("Look for better") != nullptr; }, driver::patience_ms));
    REQUIRE(w.settle());
    CHECK(sheets::violations(*laid(w).problem, *laid(w).layout).empty());
    CHECK((says(w, "Nothing better was found") || says(w, "and kept it")));
}

TEST_CASE("templates on a roll and ordinates at a chosen step are written from the window", "[stock]") {
    Window w;
    open_cut(w);
    const jobs::Folder folder;
    const auto write = [&](int format, const QString& field, const char* value, const char* name) {
        w.main.show_panel(panel::Papers{});
        auto* what = w.named<QComboBox>("piece or part");
        REQUIRE(what);
        REQUIRE(w.choose("piece or part", what->findText("B2  ", Qt::MatchStartsWith)));
        REQUIRE(w.choose("written as", format));
        if (format == 0) REQUIRE(w.choose("paper", 4));
        REQUIRE(w.fill(field, value));
        const QString words = w.panel_words();
        const QString file = QString::fromStdString(folder.file(name));
        REQUIRE(w.fill("file", file));
        REQUIRE(
            QTest::qWaitFor([&] { return QFileInfo::exists(file) && !w.main.side_panel(); }, driver::patience_ms));
        return words;
    };
    CHECK(write(0, "roll, wide", "610", "roll.pdf").contains("strip"));
    CHECK(QFileInfo(QString::fromStdString(folder.file("roll.pdf"))).size() > 2000);
    const auto rows = [&](const char* step, const char* name) {
        write(4, "rows every", step, name);
        const std::string text = jobs::read(folder.file(name));
        CHECK(text.find("batten_error_mm") != std::string::npos);
        return std::count(text.begin(), text.end(), '\n');
    };
    CHECK(rows("50", "close.csv") > 2 * rows("200", "wide.csv"));
}
