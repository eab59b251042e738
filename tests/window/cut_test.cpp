// Cut through the real window: a sheet is marked as cut, its rest kept and used, parts pinned, lengths and costs
// told, papers of the whole job written.
#include <catch2/catch.hpp>

#include <QCheckBox>
#include <QFileInfo>
#include <QLineEdit>
#include <QToolButton>

#include "app/cut/catalogue.h"
#include "app/cut/cost_panel.h"
#include "window/cut_window.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using cutting::laid, cutting::open_cut, cutting::says;
using driver::Window;

namespace {

/// A place of the first sheet on which nothing lies, as far from every part as one of a grid.
Vec2 bare_place(const Window& w) {
    const auto& s = laid(w);
    for (double x = 20; x < 2420; x += 40)
        for (double y = 20; y < 1200; y += 40) {
            bool bare = true;
            for (const auto& at : s.layout->placements)
                bare = bare && (at.sheet != 0 || !geometry::contains(sheets::placed(*s.problem, at), {x, y}));
            if (bare) return {x, y};
        }
    FAIL("the sheet is full");
    return {0, 0};
}

/// A place with wood on the first part of the first sheet, and the part's id.
std::pair<Vec2, std::string> on_a_part(const Window& w) {
    const auto& s = laid(w);
    for (const auto& at : s.layout->placements) {
        if (at.sheet != 0) continue;
        const auto shape = sheets::placed(*s.problem, at);
        const auto box = geometry::bounding_box(shape.outer);
        for (double x = 0.1; x < 1; x += 0.1)
            for (double y = 0.1; y < 1; y += 0.1) {
                const Vec2 q = box.min + box.size().cwiseProduct(Vec2(x, y));
                if (geometry::contains(shape, q)) return {q, s.problem->parts[static_cast<std::size_t>(at.part)].id};
            }
    }
    FAIL("there is no part");
    return {};
}

void click_at(SheetDrawing* view, const Vec2& mm) {
    QTest::mouseClick(view, Qt::LeftButton, {}, view->to_widget(mm).toPoint());
}

}  // namespace

TEST_CASE("a job that is wholly cut still says what was cut", "[cut]") {
    Window w;
    auto* view = open_cut(w);
    const auto words = [&] {
        QString out;
        for (auto* label : w.main.step_of(StepId::cut)->facts()->findChildren<QLabel*>())
            if (label->isVisible()) out += label->text() + "\n";
        return out;
    };
    auto* ribbon = w.main.step_of(StepId::cut)->ribbon();
    int sheets = 0;
    for (; sheets < 30 && !laid(w).layout->sheet_stock.empty(); ++sheets) {
        click_at(view, bare_place(w));
        if (!w.click("It has been cut")) break;
        REQUIRE(w.settle());
    }
    REQUIRE(sheets > 0);
    REQUIRE(laid(w).layout->sheet_stock.empty());
    QTest::keyClick(view, Qt::Key_Escape);
    INFO(words().toStdString());
    CHECK(words().contains(QString("%1 cut already").arg(sheets)));
    // The ribbon shows them: it is not the same as that of a job without pieces.
    const QImage full = ribbon->grab().toImage();
    w.document.edit("None", [](job::Job& job) { job.cut_sheets.clear(), job.pieces.clear(), job.units.clear(); });
    REQUIRE(w.settle());
    CHECK(ribbon->grab().toImage() != full);
}

TEST_CASE("a sheet is marked as cut, what is left of it is kept, and one step undoes each", "[cut]") {
    Window w;
    auto* view = open_cut(w);
    const auto before = w.document.job();
    click_at(view, bare_place(w));
    CHECK(says(w, "Sheet 1"));
    auto* it_is_cut = w.button("It has been cut");
    REQUIRE(it_is_cut);
    it_is_cut->setFocus();
    QTest::keyClick(it_is_cut, Qt::Key_Space);
    REQUIRE(w.document.job().cut_sheets.size() == 1);
    const auto cut = w.document.job();
    REQUIRE(w.settle());
    // The button is gone: the keys are with what was chosen, and an arrow goes on from there.
    CHECK(QApplication::focusWidget() == view);
    CHECK(laid(w).problem->parts.size() < before.pieces.size() + 10);
    for (const auto& part : w.document.job().cut_sheets[0].parts)
        for (const auto& p : laid(w).problem->parts) CHECK(p.id != part.part_id);
    CHECK(w.button("Keep what is left"));
    // It is drawn behind those that are still to be cut, and can be chosen there.
    const int drawn = static_cast<int>(laid(w).layout->sheet_stock.size());
    bool chosen = false;
    for (double x = -2000; x < 9000 && !chosen; x += 300)
        for (double y = -4000; y < 1300 && !chosen; y += 200) {
            const QPointF at = view->to_widget({x, y});
            if (!view->rect().contains(at.toPoint())) continue;
            QTest::mouseClick(view, Qt::LeftButton, {}, at.toPoint());
            chosen = w.button("Keep what is left") != nullptr;
        }
    INFO("beside " << drawn);
    REQUIRE(chosen);
    REQUIRE(w.click("Keep what is left"));
    CHECK_FALSE(w.document.job().offcuts.empty());
    REQUIRE(w.settle());
    CHECK_FALSE(w.button("Keep what is left"));
    w.document.undo_stack().undo();
    CHECK(w.document.job() == cut);
    w.document.undo_stack().undo();
    CHECK(w.document.job() == before);
}

TEST_CASE("a part is pinned where it lies: it stays when the rest is laid anew", "[cut]") {
    Window w;
    auto* view = open_cut(w);
    const auto [place, id] = on_a_part(w);
    click_at(view, place);
    CHECK(w.document.selected_piece().toStdString() == id.substr(0, id.find('/')));
    REQUIRE(w.click("Pin it where it lies"));
    REQUIRE(w.settle());
    CHECK(w.button("Unpin it"));
    REQUIRE(w.click("Keep it no more"));
    REQUIRE(w.settle());
    REQUIRE(w.document.job().layouts.size() == 1);
    CHECK(w.document.job().layouts[0].placements.size() == 1);
    CHECK(w.document.job().layouts[0].placements[0].part_id == id);
    CHECK(laid(w).problem->locked.placements.size() == 1);
}

TEST_CASE("a part that is dragged onto another is shown to collide, slides along it, or goes back", "[cut]") {
    Window w;
    auto* view = open_cut(w);
    const auto [place, id] = on_a_part(w);
    const auto send = [&](QEvent::Type type, const Vec2& mm, Qt::MouseButtons held) {
        const QPointF at = view->to_widget(mm);
        QMouseEvent event(type, at, view->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          held, Qt::NoModifier);
        QApplication::sendEvent(view, &event);
    };
    const auto before = w.document.job();
    const auto red = [&] {
        // The red of a collision is drawn round the part and in the words.
        const QImage picture = view->grab().toImage();
        int count = 0;
        for (int x = 0; x < picture.width(); ++x)
            for (int y = 0; y < picture.height(); ++y) {
                const QColor c = picture.pixelColor(x, y);
                count += c.red() > 150 && c.green() < 90 && c.blue() < 90;
            }
        return count;
    };
    const int plain = red();
    send(QEvent::MouseButtonPress, place, Qt::LeftButton);
    send(QEvent::MouseMove, place + Vec2(0, 2500), Qt::LeftButton);
    CHECK(red() > plain + 50);
    send(QEvent::MouseButtonRelease, place + Vec2(0, 2500), Qt::NoButton);
    CHECK(w.document.job() == before);
    // A nudge into its neighbour or over the edge by a few pixels slides back to where it can lie.
    send(QEvent::MouseButtonPress, place, Qt::LeftButton);
    send(QEvent::MouseMove, place + Vec2(-12, -12), Qt::LeftButton);
    send(QEvent::MouseButtonRelease, place + Vec2(-12, -12), Qt::NoButton);
    REQUIRE(w.settle());
    CHECK(laid(w).broken_lock.empty());
    CHECK(sheets::violations(*laid(w).problem, *laid(w).layout).empty());
}

TEST_CASE("bars and lengths are entered, the plan follows, and a bar in use is not taken away", "[cut]") {
    Window w;
    open_cut(w);
    REQUIRE(w.click("Stock"));
    CHECK(says(w, "No offcuts yet"));
    REQUIRE(w.choose("of what", 2));
    REQUIRE(w.click("Add another"));
    CHECK(says(w, "Add a bar first"));
    REQUIRE(w.choose("of what", 1));
    REQUIRE(w.click("Add another"));
    REQUIRE(w.fill("long", "3000"));
    REQUIRE(w.fill("timber", "oak"));
    REQUIRE(w.choose("of what", 2));
    REQUIRE(w.click("Add another"));
    REQUIRE(w.fill("length over long points", "950"));
    REQUIRE(w.fill("how many", "4"));
    REQUIRE(w.settle());
    REQUIRE(w.document.computed()->results.lengths.size() == 1);
    CHECK(w.document.computed()->results.lengths[0].plan->bars.size() == 2);  // three of 950 and two cuts in 3000
    CHECK(says(w, "oak 40 x 20 mm: 2 bars"));
    // Mitred they lie in one another: the same four of 770 mm in one bar, which over their long points would be two.
    REQUIRE(w.fill("length over long points", "770"));
    REQUIRE(w.settle());
    CHECK(says(w, "oak 40 x 20 mm: 2 bars"));
    REQUIRE(w.fill("left end off square", "45"));
    CHECK(says(w, "Its long points: left on the near edge."));
    REQUIRE(w.fill("right end off square", "-45"));
    CHECK(says(w, "left on the near edge, right on the far edge"));
    REQUIRE(w.settle());
    CHECK(says(w, "oak 40 x 20 mm: 1 bar"));
    REQUIRE(w.choose("seen on its", 1));
    REQUIRE(w.settle());
    CHECK(w.document.job().lengths[0].ends_seen == sheets::EndsSeen::narrow_side);
    CHECK(says(w, "oak 40 x 20 mm: 2 bars"));
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    CHECK(says(w, "oak 40 x 20 mm: 1 bar"));
    QCheckBox* moulding = nullptr;
    for (auto* box : w.main.side_panel()->findChildren<QCheckBox*>())
        if (box->text() == "a moulding: lies only as drawn") moulding = box;
    REQUIRE(moulding);
    moulding->click();
    REQUIRE(w.settle());
    CHECK(says(w, "oak 40 x 20 mm: 2 bars"));
    // Ends that meet before the other edge: told, and no other length is lost.
    REQUIRE(w.fill("length over long points", "30"));
    REQUIRE(w.settle());
    CHECK(says(w, "'bearer' cannot be cut: its ends meet"));
    w.document.undo_stack().undo();
    REQUIRE(w.choose("of what", 1));
    REQUIRE(w.click("Remove it"));
    CHECK(says(w, "remove that first"));
    CHECK(w.document.job().bars.size() == 1);
    // Nonsense stays in its field and changes nothing.
    const auto before = w.document.job();
    w.fill("long", "as long as the shed");
    CHECK(w.document.job() == before);
}

TEST_CASE("an offcut is described by its corners, and a crossed outline is refused in words", "[cut]") {
    Window w;
    open_cut(w);
    w.main.show_panel(panel::Stock{});
    REQUIRE(w.click("Add another"));
    REQUIRE(w.document.job().offcuts.size() == 1);
    REQUIRE(w.fill("corners (along, across; …)", "0, 0; 900, 0; 900, 300; 400, 300; 400, 700; 0, 700"));
    CHECK(w.document.job().offcuts[0].shape.outer.size() == 6);
    const auto before = w.document.job();
    w.fill("corners (along, across; …)", "0, 0; 500, 500; 500, 0; 0, 500");
    CHECK(w.document.job() == before);
    CHECK(says(w, "crosses itself"));
    REQUIRE(w.settle());
    const auto& s = laid(w);
    CHECK(s.stock_names.size() == 2);
}

TEST_CASE("choices of material are compared by finished cost and weight", "[cut]") {
    Window w;
    open_cut(w);
    REQUIRE(w.click("Cost and shopping"));
    REQUIRE(w.click("Begin with three usual choices"));
    REQUIRE(w.document.job().choices.size() == 3);
    REQUIRE(QTest::qWaitFor([&] { return says(w, "Together"); }, driver::patience_ms));
    auto* picture = w.named<CostPicture>("cost against weight");
    REQUIRE(picture);
    CHECK(picture->isVisible());
    REQUIRE(w.fill("an hour", "100"));
    CHECK(w.document.job().costs.hour_rate == 100);
    REQUIRE(w.click("Remove this choice"));
    CHECK(w.document.job().choices.size() == 2);
}

TEST_CASE("papers of the whole job and of a sheet are written", "[cut]") {
    Window w;
    open_cut(w);
    const jobs::Folder folder;
    const auto write = [&](int what, int format, const char* name) {
        w.main.show_panel(panel::Papers{});
        REQUIRE(w.choose("piece or part", what));
        REQUIRE(w.choose("written as", format));
        auto* path = w.named<QLineEdit>("file");
        REQUIRE(path);
        path->setFocus();
        path->selectAll();
        QTest::keyClicks(path, QString::fromStdString(folder.file(name)));
        REQUIRE(w.click("Write it"));
        const QFileInfo file(QString::fromStdString(folder.file(name)));
        REQUIRE(QTest::qWaitFor([&] { return QFileInfo::exists(file.filePath()) && !w.main.side_panel(); },
                                driver::patience_ms));
        CHECK(QFileInfo(file.filePath()).size() > 200);
    };
    write(0, 0, "cut.xlsx");
    write(0, 1, "cut.pdf");
    write(0, 2, "labels.pdf");
    write(0, 3, "cut.csv");
    write(0, 6, "saw.csv");
    w.main.show_panel(panel::Papers{});
    auto* what = w.named<QComboBox>("piece or part");
    REQUIRE(what);
    const int sheet = what->findText("Sheet 1 of", Qt::MatchStartsWith);
    REQUIRE(sheet > 0);
    write(sheet, 0, "sheet.dxf");
    write(sheet, 1, "sheet.svg");
    // By poppler: the cut list and every sheet.
    REQUIRE(std::system(("pdftotext -layout " + folder.file("cut.pdf") + " " + folder.file("cut.txt")).c_str()) == 0);
    const std::string text = jobs::read(folder.file("cut.txt"));
    CHECK(text.find("Cut list") != std::string::npos);
    CHECK(text.find("Sheet 1") != std::string::npos);
    for (const auto& part : laid(w).problem->parts) CHECK(text.find(part.id) != std::string::npos);
    REQUIRE(std::system(
                ("pdftotext -layout " + folder.file("labels.pdf") + " " + folder.file("labels.txt")).c_str()) == 0);
    CHECK(jobs::read(folder.file("labels.txt")).find("good face") != std::string::npos);
}

TEST_CASE("a sheet comes from the catalogue with its figures, and one's own is kept there", "[cut]") {
    Window w;
    open_cut(w);
    REQUIRE(w.choose("showing", 1));
    const auto ships = catalogue();
    REQUIRE(ships.ok());
    CHECK(ships->materials.size() > 15);
    REQUIRE(w.fill("price of a sheet", "77.5"));
    CHECK(w.document.job().materials[0].price == 77.5);
    REQUIRE(w.click("Keep it in my catalogue"));
    REQUIRE(QFileInfo::exists(own_catalogue_path()));
    CHECK(says(w, "Kept in your catalogue"));
    const auto own = catalogue();
    REQUIRE(own.ok());
    CHECK(own->materials.size() == ships->materials.size() + 1);
    CHECK(own->materials.back().price == 77.5);
    // Damaged, it is said where; the step stays alive.
    jobs::write(own_catalogue_path().toStdString(), "{\n \"bevelsmith\": 2,\n \"name\": 7\n}\n");
    CHECK_FALSE(catalogue().ok());
    CHECK(catalogue().error().message.find("catalogue.json:3") != std::string::npos);
    REQUIRE(w.click("Keep it in my catalogue"));
    CHECK(says(w, "Not kept: "));
    REQUIRE(QFile::remove(own_catalogue_path()));
}

TEST_CASE("in inches every length of stock, lengths and cost is told in inches, and nonsense changes nothing",
          "[cut]") {
    Window w;
    auto job = jobs::ternlight();
    job.unit = units::LengthUnit::inch;
    w.main.begin(job);
    w.main.show_step(StepId::cut);
    REQUIRE(w.settle());
    REQUIRE(w.fill("between parts", "0.25"));
    CHECK(w.document.job().cutting.spacing_mm == Approx(6.35));
    w.main.show_panel(panel::Stock{});
    REQUIRE(w.choose("of what", 1));
    REQUIRE(w.click("Add another"));
    REQUIRE(w.fill("long", "96"));
    CHECK(w.document.job().bars[0].length_mm == Approx(96 * 25.4));
    REQUIRE(w.choose("of what", 2));
    REQUIRE(w.click("Add another"));
    REQUIRE(w.fill("length over long points", "30 1/2"));
    CHECK(w.document.job().lengths[0].length_mm == Approx(30.5 * 25.4));
    REQUIRE(w.settle());
    CHECK(says(w, "timber 1.57"));
    // Ends that meet are told in inches, and nothing is said of bars when none is cut.
    REQUIRE(w.fill("left end off square", "45"));
    REQUIRE(w.fill("length over long points", "1"));
    REQUIRE(w.settle());
    CHECK(says(w, "it must be longer than 1.575 in"));
    CHECK_FALSE(says(w, "0 bars"));
    w.document.undo_stack().undo();
    REQUIRE(w.settle());
    const auto before = w.document.job();
    for (const char* field : {"length over long points", "how many", "left end off square"}) {
        w.fill(field, "rhubarb");
        CHECK(w.document.job() == before);
    }
    w.fill("how many", "-4");
    CHECK(w.document.job() == before);
    w.main.show_panel(panel::Cost{});
    REQUIRE(w.settle());
    for (auto* label : w.main.side_panel()->findChildren<QLabel*>())
        if (label->isVisible()) CHECK_FALSE(label->text().contains(" mm"));
}

TEST_CASE("what cannot be had is told: parts without a place, edge to edge with shapes, pieces said to be cut",
          "[cut]") {
    Window w;
    open_cut(w);
    REQUIRE(w.document.job().cutting.guillotine == false);
    w.document.edit("From edge to edge", [](job::Job& job) { job.cutting.guillotine = true; });
    REQUIRE(w.settle());
    CHECK(says(w, "From edge to edge goes with rectangles alone"));
    CHECK(says(w, "all are laid out freely"));
    w.document.edit("A small sheet", [](job::Job& job) { job.materials[0].sheet_width_mm = 250; });
    REQUIRE(w.settle());
    CHECK(says(w, "without a place"));
    w.main.show_panel(panel::Cost{});
    REQUIRE(w.settle());
    CHECK(w.panel_words().contains("no place on a sheet: counted by"));
    CHECK(w.panel_words().contains("price not known"));
    QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    w.document.edit("It is cut", [](job::Job& job) { job.pieces[0].stage = "cut"; });
    REQUIRE(w.settle());
    CHECK(says(w, "said to be cut, laid out no more"));
}

TEST_CASE("a field stays where it stands while sheets are laid out and findings come and go", "[cut]") {
    Window w;
    open_cut(w);
    REQUIRE(w.choose("showing", 1));
    QTest::qWait(20);
    auto* across = w.named<QLineEdit>("across the grain");
    REQUIRE(across);
    across->setFocus();
    QTest::qWait(20);
    const auto stands = [&] { return across->mapTo(&w.main, QPoint()).y(); };
    const int before = stands();
    int farthest = 0;
    const auto watch = [&] {
        do {
            QTest::qWait(1);
            if (w.document.computing()) farthest = std::max(farthest, std::abs(stands() - before));
        } while (w.document.computing());
        // The findings are put in, and the column finds its height.
        (void)QTest::qWaitFor([&] { return stands() == before; }, 5000);
        QTest::qWait(50);
        farthest = std::max(farthest, std::abs(stands() - before));
    };
    // Too small for its parts: findings come; and large again: they go.
    for (const double wide : {250.0, 2440.0, 260.0}) {
        w.document.edit("Another sheet", [&](job::Job& job) { job.materials[0].sheet_width_mm = wide; });
        watch();
        CHECK(QApplication::focusWidget() == across);
        CAPTURE(wide);
        CHECK(farthest <= 2);
    }
    // What is typed next goes where it was typed.
    across->selectAll();
    QTest::keyClicks(across, "1250");
    QTest::keyClick(across, Qt::Key_Return);
    watch();
    CHECK(w.document.job().materials[0].sheet_height_mm == 1250);
    CHECK(w.document.job().materials[0].sheet_width_mm == 260);
}
