// Typing at the speed of a hand, in every form: what is typed arrives, whatever is computed meanwhile. And nothing of
// one job is left in the next.
#include <catch2/catch.hpp>

#include <clocale>

#include <QAbstractScrollArea>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QListView>
#include <QTableView>
#include <QTimer>
#include <QToolButton>

#include "app/guide/guide.h"
#include "app/pieces/boat_view.h"
#include "app/shape/scene_view.h"
#include "app/widgets/form.h"
#include "app/widgets/quantity_edit.h"
#include "job/in_full.h"
#include "support/jobs.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

constexpr int key_ms = 30;

/// A little beside the value that a field has, as it is typed into it; rounded so that it can be told apart.
QString beside(const QuantityEdit& edit, int turn) {
    const double now = edit.value();
    const double next = std::round(now * 1.01 * 10) / 10 + 0.1 * (1 + turn % 7);
    return QString::number(next, 'f', 1);
}

/// Goes through the fields of what `root` shows with Tab, as many times over as it takes for `count` entries, and
/// holds what was taken against what was typed. Entries out of a field's range do not count.
int type_through(Window& w, QWidget* root, int count, QStringList& wrong) {
    QApplication::processEvents();
    int arrived = 0, typed = 0, idle = 0;
    const auto first = [&]() -> QuantityEdit* {
        for (auto* edit : root->findChildren<QuantityEdit*>())
            if (edit->isVisible() && edit->isEnabled()) return edit;
        return nullptr;
    };
    if (!first()) return 0;
    first()->setFocus(Qt::TabFocusReason);
    while (typed < count && idle < 60) {
        auto* edit = qobject_cast<QuantityEdit*>(QApplication::focusWidget());
        if (!edit || !root->isAncestorOf(edit) || !edit->accessibleName().size()) {
            ++idle;
            if (idle % 20 == 0 && first()) first()->setFocus(Qt::TabFocusReason);
            else w.key(Qt::Key_Tab);
            continue;
        }
        idle = 0;
        const QString words = beside(*edit, typed), name = edit->accessibleName();
        std::optional<double> taken;
        const auto link = QObject::connect(edit, &QuantityEdit::taken, edit, [&](double v) { taken = v; });
        for (const QChar c : words) {
            QTest::keyClick(QApplication::focusWidget(), c.toLatin1());
            QTest::qWait(key_ms);
        }
        const QString stands = edit->text();
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
        QObject::disconnect(link);
        ++typed;
        if (edit->wrong()) {
            // Out of range: it stays, as it was typed.
            if (edit->text() != words) wrong << name + ": " + words + " became " + edit->text();
            QTest::keyClick(edit, Qt::Key_Escape);
            continue;
        }
        if (stands == words && taken) ++arrived;
        else wrong << name + ": typed " + words + ", there stands " + stands + (taken ? "" : ", nothing was taken");
    }
    return arrived;
}

int check_form(Window& w, QWidget* root, int count, const char* what) {
    QStringList wrong;
    const int arrived = type_through(w, root, count, wrong);
    INFO(what << ": " << wrong.join("; ").toStdString());
    CHECK(wrong.isEmpty());
    return arrived;
}

QWidget* facts_of(Window& w, StepId step) {
    return w.main.step_of(step)->facts();
}

}  // namespace

TEST_CASE("forty figures typed at the speed of a hand into a piece's facts arrive", "[typing]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    w.document.select_piece("B1");
    QStringList wrong;
    const int arrived = type_through(w, facts_of(w, StepId::pieces), 40, wrong);
    INFO(wrong.join("; ").toStdString());
    CHECK(wrong.isEmpty());
    CHECK(arrived >= 20);
}

TEST_CASE("typed at the speed of a hand, figures arrive in every other form", "[typing]") {
    Window w;
    w.main.begin(jobs::demo("ternlight"));
    REQUIRE(w.settle());
    w.main.show_step(StepId::pieces);
    const auto unit = w.document.job().units.front().id;
    for (const auto& piece : w.document.built().pieces)
        if (job::is_of(piece.id, unit)) {
            w.document.select_piece(QString::fromStdString(piece.id));
            break;
        }
    int all = check_form(w, facts_of(w, StepId::pieces), 6, "a unit's facts");
    w.main.show_step(StepId::measure);
    REQUIRE(w.click("Placing"));
    all += check_form(w, facts_of(w, StepId::measure), 6, "placing of a set");
    w.main.show_step(StepId::shape);
    all += check_form(w, facts_of(w, StepId::shape), 4, "a surface's facts");
    w.main.show_step(StepId::cut);
    all += check_form(w, facts_of(w, StepId::cut), 4, "how it is cut");
    w.main.show_step(StepId::weigh);
    all += check_form(w, facts_of(w, StepId::weigh), 4, "the boat's figures");
    for (const auto& sheet :
         std::vector<PanelRequest>{panel::Room{}, panel::NewPiece{}, panel::Together{}, panel::Obstacles{}}) {
        w.main.show_panel(sheet);
        REQUIRE(w.main.side_panel());
        all += check_form(w, w.main.side_panel(), 4, panel_id(sheet));
    }
    CHECK(all >= 24);
}

TEST_CASE("typed at the speed of a hand, figures arrive where fields come once something is chosen", "[typing]") {
    Window w;
    w.main.begin(jobs::demo("ternlight"));
    REQUIRE(w.settle());
    w.main.show_step(StepId::fix);
    REQUIRE(w.choose("showing", 1));
    CHECK(check_form(w, facts_of(w, StepId::fix), 5, "rules of blocks") >= 3);
    REQUIRE(w.choose("showing", 2));
    CHECK(check_form(w, facts_of(w, StepId::fix), 4, "rules of cloth") >= 2);
    w.main.show_panel(panel::Datum{});
    REQUIRE(w.choose("known from", 2));
    CHECK(check_form(w, w.main.side_panel(), 6, "the datum's points") >= 4);
    w.main.show_panel(panel::Stock{});
    REQUIRE(w.choose("of what", 1));
    REQUIRE(w.click("Add another"));
    CHECK(check_form(w, w.main.side_panel(), 4, "a bar") >= 2);
    REQUIRE(w.choose("of what", 2));
    REQUIRE(w.click("Add another"));
    CHECK(check_form(w, w.main.side_panel(), 3, "a length") >= 1);
}

TEST_CASE("an offered value that is worked out anew while it is entered stays selected", "[typing]") {
    driver::application();
    QuantityEdit* edit = length_edit([] { return units::LengthUnit::millimetre; });
    QWidget window;
    edit->setParent(&window);
    window.show();
    REQUIRE(QTest::qWaitForWindowExposed(&window));
    window.activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&window));
    edit->set_value(812);
    edit->setFocus(Qt::TabFocusReason);
    QApplication::processEvents();
    REQUIRE(edit->hasFocus());
    edit->selectAll();
    edit->set_value(818);
    QTest::keyClicks(edit, "900");
    CHECK(edit->text() == "900");
    edit->set_value(830);  // what is being typed is left alone
    CHECK(edit->text() == "900");
}

TEST_CASE("a form keeps the fields that it goes on having, and what is typed in them", "[typing]") {
    driver::application();
    Form form([] { return units::LengthUnit::millimetre; });
    double depth = 0;
    const auto fields = [&](bool more) {
        FieldList list;
        list.length("height", 700, [](const QVariant&) {});
        if (more) list.length("covering", 3, [](const QVariant&) {}).heading("Edges");
        list.length("depth", depth, [&](const QVariant& v) { depth = v.toDouble(); });
        return list.take();
    };
    form.show_fields(fields(false));
    form.show();
    REQUIRE(QTest::qWaitForWindowExposed(&form));
    form.activateWindow();
    REQUIRE(QTest::qWaitForWindowActive(&form));
    QWidget* edit = form.editor("depth");
    edit->setFocus();
    static_cast<QLineEdit*>(edit)->selectAll();
    QTest::keyClicks(edit, "45");
    form.show_fields(fields(true));
    CHECK(form.editor("depth") == edit);
    CHECK(form.editor("covering"));
    QTest::keyClicks(edit, "0");
    form.show_fields(fields(false));
    QTest::keyClick(edit, Qt::Key_Return);
    CHECK(depth == 450);
    CHECK_FALSE(form.editor("covering"));
}

TEST_CASE("placing a set and a meter leave its readings in sight at 1280 by 800", "[typing]") {
    Window w;
    w.main.resize(1280, 800);
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::measure);
    REQUIRE(w.settle());
    REQUIRE(w.click("Placing"));
    REQUIRE(w.click("Meter"));
    QTest::qWait(30);
    QWidget* facts = facts_of(w, StepId::measure);
    auto* table = facts->findChild<QTableView*>();
    QLineEdit* entry = nullptr;
    for (auto* edit : facts->findChildren<QLineEdit*>())
        if (!entry && edit->isVisibleTo(facts) && edit->accessibleName().startsWith("next ")) entry = edit;
    REQUIRE(table);
    REQUIRE(entry);
    const auto in_sight = [&](QWidget* one, int least) {
        const QRect seen = one->visibleRegion().boundingRect();
        return seen.height() >= least;
    };
    CHECK(in_sight(table, 100));
    CHECK(in_sight(entry, entry->height()));
}

TEST_CASE("nothing that was looked at or unfolded in one job is there in the next", "[typing]") {
    Window w;
    w.main.begin(jobs::demo("ternlight"));
    REQUIRE(w.settle());
    w.main.show_step(StepId::measure);
    REQUIRE(w.click("Placing"));
    w.main.step_of(StepId::measure)->show_reading(w.document.job().readings.back().id, -1);
    w.main.show_boat();
    REQUIRE(w.settle());
    auto* boat = w.named<BoatView>("in the boat");
    REQUIRE(boat);
    boat->show_only(exchange::Cut::plan);
    w.main.show_panel(panel::Stock{});
    REQUIRE(w.main.side_panel());
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    CHECK_FALSE(w.main.side_panel());
    CHECK_FALSE(boat->shown_alone());
    w.main.show_step(StepId::measure);
    QTest::qWait(10);
    CHECK_FALSE(w.button("Placing")->isChecked());
    CHECK(w.named<QComboBox>("set of readings")->currentIndex() == 0);
    w.main.show_step(StepId::pieces);
    CHECK_FALSE(boat->isVisible());
}

TEST_CASE("the guide tells of the station that is typed into, and lies over the drawing alone", "[typing]") {
    Window w;
    w.main.resize(1280, 800);
    w.main.begin_guide();
    REQUIRE(w.main.side_panel());
    REQUIRE(w.click("Begin with station 1"));
    QTest::qWait(10);
    INFO(w.main.guide()->words().toStdString());
    CHECK(w.main.guide()->words().startsWith("Station 1 of 4"));
    w.main.step_of(StepId::measure)->show_reading(w.document.job().readings[2].id, -1);
    CHECK(w.main.guide()->words().startsWith("Station 3 of 4"));
    w.main.guide()->go_on();
    CHECK(w.main.guide()->words().startsWith("Station 4 of 4"));
    w.main.guide()->go_on();
    CHECK(w.main.guide()->words().startsWith("Station 1 of 4"));
    QWidget* facts = facts_of(w, StepId::measure);
    const QRect strip(w.main.guide()->mapTo(&w.main, QPoint()), w.main.guide()->size());
    const QRect place(facts->mapTo(&w.main, QPoint()), facts->size());
    CHECK_FALSE(strip.intersects(place));
}

TEST_CASE("in 3-D what stands before hides what is behind it, lines and all", "[typing][gl]") {
    driver::application();
    Scene scene;
    const auto plate = [&](double x, double half, const QColor& fill, const QColor& edge) {
        Scene::Plate out;
        out.fill = fill, out.edge = edge, out.normal = Vec3::UnitX();
        out.rings = {{{x, -half, -half}, {x, half, -half}, {x, half, half}, {x, -half, half}}};
        auto ring = out.rings[0];
        ring.push_back(ring[0]);
        scene.lines.push_back({ring, edge, 2});
        scene.plates.push_back(out);
    };
    plate(400, 200, Qt::blue, Qt::green);  // behind
    plate(0, 400, Qt::red, Qt::black);
    scene.near_side_cut_away = true;
    scene.low = {0, -400, -400}, scene.high = {400, 400, 400};
    Camera camera;
    camera.turn = 0, camera.rise = 0;
    camera.look_at(scene);
    for (const auto draws : {SceneView::Draws::by_opengl, SceneView::Draws::by_painter}) {
        SceneView view(camera, draws);
        view.resize(400, 300);
        view.show_scene(scene);
        view.show();
        REQUIRE(QTest::qWaitForWindowExposed(&view));
        view.grab();
        const QImage seen = view.picture({400, 300});
        int red = 0, behind = 0;
        for (int y = 0; y < seen.height(); ++y)
            for (int x = 0; x < seen.width(); ++x) {
                const QColor c = seen.pixelColor(x, y);
                red += c.red() > 60 && c.green() < 40 && c.blue() < 40;
                behind += (c.blue() > 80 && c.red() < 40 && c.green() < 40) ||
                          (c.green() > 120 && c.red() < 60 && c.blue() < 60);
            }
        INFO((draws == SceneView::Draws::by_opengl ? "opengl" : "painter"));
        CHECK(red > 10000);
        CHECK(behind == 0);
    }
}

TEST_CASE("the boat's scene holds bodies, pipes and tanks, no readings, and the camera is where the work is",
          "[typing]") {
    driver::application();
    Window w;
    w.main.begin(jobs::demo("ternlight"));
    REQUIRE(w.settle());
    const Scene scene = boat_scene_of(*w.document.computed(), {}, [](const std::string&) { return false; });
    std::size_t shapes = 0;
    for (const auto& piece : w.document.computed()->results.pieces) shapes += piece.shape() != nullptr;
    CHECK(scene.plates.size() == 2 * shapes);
    CHECK(scene.spots.empty());
    CHECK(scene.near_side_cut_away);
    CHECK(scene.solids.size() > 20 * shapes);
    REQUIRE_FALSE(w.document.job().obstacles.empty());
    const Vec3 pipe = w.document.job().obstacles[0].path[0];
    CHECK(std::any_of(scene.solids.begin(), scene.solids.end(),
                      [&](const auto& t) { return (t.corner[0] - pipe).norm() < 1; }));
    const Scene fewer = boat_scene_of(*w.document.computed(), {}, [](const std::string& id) { return id == "B1"; });
    CHECK(fewer.plates.size() == scene.plates.size() - 2);
    // All that is built in is seen, and fills the view one way or the other.
    Camera camera;
    const double aspect = 1.4;
    camera.look_at(scene, aspect);
    const QMatrix4x4 matrix = camera.matrix({1400, 1000});
    double widest = 0;
    for (const auto& plate : scene.plates)
        for (const Vec3& p : plate.rings[0]) {
            const QVector4D clip = matrix * QVector4D(static_cast<float>(p.x()), static_cast<float>(p.y()),
                                                      static_cast<float>(p.z()), 1);
            widest = std::max({widest, static_cast<double>(std::abs(clip.x() / clip.w())),
                               static_cast<double>(std::abs(clip.y() / clip.w()))});
        }
    CHECK(widest <= 1);
    CHECK(widest > 0.7);
}

TEST_CASE("what a moved bulkhead takes away is told, with the way back", "[typing]") {
    Window w;
    w.main.begin(jobs::demo("ternlight"));
    REQUIRE(w.settle());
    const job::Job before = w.document.job();
    std::string unit, part;
    for (const auto& piece : w.document.built().pieces)
        if (part.empty() && piece.id.find(".divider 1") != std::string::npos)
            part = piece.id, unit = piece.id.substr(0, piece.id.find('.'));
    REQUIRE_FALSE(part.empty());
    const auto* spec = job::find_unit(const_cast<job::Job&>(w.document.job()), unit);
    REQUIRE_FALSE(spec->to_piece_id.empty());
    const std::string bulkhead = spec->to_piece_id;
    const double at = spec->dividers_mm.front();
    w.document.edit("Move a bulkhead", [&](job::Job& job) {
        auto* piece = job::find_plain_piece(job, bulkhead);
        piece->plane.d_mm = (at - 40) * (piece->plane.normal.x() > 0 ? 1 : -1);
    });
    REQUIRE_FALSE(job::find_piece(w.document.built(), part));
    CHECK(w.main.notice()->words().contains("gone"));
    REQUIRE(w.click("Undo it"));
    CHECK(w.document.job() == before);
}

TEST_CASE("on a small screen nothing lies off it: columns fold by themselves", "[typing]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    w.main.resize(1024, 620);
    QTest::qWait(30);
    CHECK(w.main.size() == QSize(1024, 620));
    const auto off_screen = [&] {
        QStringList out;
        for (auto* one : w.main.findChildren<QWidget*>()) {
            if (!one->isVisible() || one->isWindow() || one->objectName() == "qt_scrollarea_vcontainer") continue;
            bool scrolled = false;
            for (QWidget* up = one->parentWidget(); up; up = up->parentWidget())
                scrolled = scrolled || qobject_cast<QAbstractScrollArea*>(up);
            if (scrolled) continue;
            const QRect place(one->mapTo(&w.main, QPoint()), one->size());
            if (!w.main.rect().contains(place))
                out << QString("%1 '%2'").arg(one->metaObject()->className(), one->accessibleName());
        }
        return out;
    };
    for (const StepId step : all_steps) {
        w.main.show_step(step);
        QTest::qWait(10);
        INFO(step_word(step) << ": " << off_screen().join(", ").toStdString());
        CHECK(off_screen().isEmpty());
        CHECK(w.step_drawing(step)->width() >= 400);
    }
    for (const auto& sheet :
         std::vector<PanelRequest>{panel::NewPiece{}, panel::Papers{}, panel::Stock{}, panel::Findings{}}) {
        w.main.show_panel(sheet);
        QTest::qWait(10);
        INFO(panel_id(sheet) << ": " << off_screen().join(", ").toStdString());
        CHECK(off_screen().isEmpty());
    }
    w.main.resize(1280, 800);
    QTest::qWait(10);
    w.key(Qt::Key_Escape);
    CHECK(w.named<QListView>("pieces"));
}

TEST_CASE("job, boat, pieces, groups and openings are renamed where their names stand", "[typing]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    w.main.show_step(StepId::pieces);
    w.document.select_piece("B1");
    auto* list = w.named<QListView>("pieces");
    REQUIRE(list);
    list->setFocus();
    w.key(Qt::Key_F2);
    auto* name = w.named<QLineEdit>("new name");
    REQUIRE(name);
    QTest::keyClicks(name, "Main bulkhead");
    QTest::keyClick(name, Qt::Key_Return);
    QApplication::processEvents();
    CHECK(w.document.piece("B1")->name == "Main bulkhead");
    const std::string place = w.document.piece("B1")->place;
    list->setCurrentIndex(list->model()->index(0, 0));
    REQUIRE(list->model()->setData(list->model()->index(0, 0), "Saloon, forward", Qt::EditRole));
    QApplication::processEvents();
    CHECK(w.document.job().pieces.front().place == "Saloon, forward");
    for (QAction* action : w.main.actions())
        if (action->text() == "Name this job") action->trigger();
    auto* job = w.named<QLineEdit>("name of the job");
    REQUIRE(job);
    QTest::keyClicks(job, "Winter refit");
    QTest::keyClick(job, Qt::Key_Return);
    CHECK(w.document.job().name == "Winter refit");
    for (QAction* action : w.main.actions())
        if (action->text() == "Name the boat") action->trigger();
    auto* boat = w.named<QLineEdit>("name of the boat");
    REQUIRE(boat);
    QTest::keyClicks(boat, "Ternlight II");
    QTest::keyClick(boat, Qt::Key_Escape);
    CHECK(w.document.job().boat.name != "Ternlight II");
    // An opening in its facts.
    const auto openings = [&] { return w.document.piece("B1")->openings; };
    REQUIRE(!openings().empty());
    w.document.select_piece("B1");
    const QString called = QString::fromStdString(openings()[0].name);
    REQUIRE(QTest::qWaitFor([&] { return w.named<QComboBox>("showing") != nullptr; }, 2000));
    auto* showing = w.named<QComboBox>("showing");
    REQUIRE(w.choose("showing", showing->findText("opening: " + called)));
    REQUIRE(w.fill("name (" + called + ")", "Way to the forepeak"));
    CHECK(openings()[0].name == "Way to the forepeak");
}

TEST_CASE("under a locale with a decimal comma the window says and takes the same", "[typing]") {
    driver::application();
    const auto all_words = [] {
        Window w;
        w.main.resize(1280, 800);
        w.main.begin(jobs::ternlight());
        REQUIRE(w.settle());
        w.document.select_piece("B1");
        QStringList out;
        const auto take = [&](const QString& where) {
            QApplication::processEvents();
            for (auto* label : w.main.findChildren<QLabel*>())
                if (label->isVisible()) out << where + ": " + label->text();
            for (auto* edit : w.main.findChildren<QLineEdit*>())
                if (edit->isVisible()) out << where + ": " + edit->text();
        };
        for (const StepId step : all_steps) {
            w.main.show_step(step);
            QTest::qWait(10);
            take(step_word(step));
        }
        for (const auto& sheet :
             std::vector<PanelRequest>{panel::Findings{}, panel::Stock{}, panel::Papers{}, panel::Room{}}) {
            w.main.show_panel(sheet);
            take(panel_id(sheet));
        }
        w.key(Qt::Key_Escape);
        w.main.show_step(StepId::shape);
        QTest::qWait(1);
        for (const char* typed : {"2700.5", "2700,5"}) {
            REQUIRE(w.fill("section at, fwd", typed));
            out << w.named<QLineEdit>("section at, fwd")->text();
        }
        return out;
    };
    const QStringList plain = all_words();
    const std::string before = std::setlocale(LC_ALL, nullptr);
    QLocale::setDefault(QLocale(QLocale::German, QLocale::Germany));
    std::setlocale(LC_ALL, "de_DE.UTF-8");  // where the machine has it; Qt has its own
    const QStringList german = all_words();
    std::setlocale(LC_ALL, before.c_str());
    QLocale::setDefault(QLocale::c());
    REQUIRE(plain.size() == german.size());
    for (int k = 0; k < plain.size(); ++k) {
        INFO(plain[k].toStdString() << " | " << german[k].toStdString());
        CHECK(plain[k] == german[k]);
    }
    CHECK(german[german.size() - 1] == german[german.size() - 2]);
}

TEST_CASE("the picture for the owner is written: 3-D as PNG, the cuts as SVG", "[typing]") {
    const jobs::Folder folder;
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    w.main.show_boat();
    REQUIRE(w.settle());
    const auto press = [&](const QString& text) {
        QApplication::processEvents();
        for (auto* button : w.main.findChildren<QToolButton*>())
            if (button->isVisible() && button->text() == text) return button->click(), true;
        return false;
    };
    const auto answer = [](const QString& path) {
        // The dialog stops what is after it; it is answered from within.
        QTimer::singleShot(200, [path] {
            auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
            REQUIRE(dialog);
            dialog->findChild<QLineEdit*>()->setText(path);
            dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Save)->click();
        });
    };
    const QString svg = QString::fromStdString(folder.file("cuts.svg")),
                  png = QString::fromStdString(folder.file("boat.png"));
    answer(svg);
    REQUIRE(press("Picture"));
    const QString text = QString::fromStdString(jobs::read(svg.toStdString()));
    CHECK(text.contains("<svg"));
    CHECK(text.contains("plan at"));
    REQUIRE(press("in 3-D"));
    QTest::qWait(50);
    answer(png);
    REQUIRE(press("Picture for the owner"));
    const QImage picture(png);
    CHECK(picture.size() == QSize(3000, 1875));
    QSet<QRgb> colours;
    for (int x = 0; x < picture.width(); x += 20) colours.insert(picture.pixel(x, picture.height() / 2));
    CHECK(colours.size() > 5);
    CHECK(w.main.notice()->words() == "Written: boat.png");
}
