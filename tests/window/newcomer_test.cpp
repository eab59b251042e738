// What a person meets who has never seen the program: a guided first piece by keyboard alone, on a hollow-flared
// side; the wheel, the unit, the focus; an edge dragged into failure and back.
#include <catch2/catch.hpp>

#include <QAbstractSpinBox>
#include <QFile>
#include <QScrollBar>
#include <QSvgGenerator>
#include <QTableView>
#include <QToolButton>
#include <QWheelEvent>
#include <cmath>
#include <set>

#include "app/guide/guide.h"
#include "app/measure/measure_drawing.h"
#include "app/pieces/piece_drawing.h"
#include "support/jobs.h"
#include "survey/points.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

/// Half the breadth of a hollow-flared starboard side, inside (mm).
double half_breadth(double x, double z) {
    return 550 - 0.00002 * std::pow(x - 1700, 2) + (150 + 0.1 * (x - 1000)) * std::pow(z / 1000, 2);
}

/// Keys counted as they are pressed.
struct Hands {
    Window& w;
    int keys = 0;
    void key(Qt::Key k, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        ++keys;
        w.key(k, modifiers);
    }
    void type(const QString& text) {
        keys += static_cast<int>(text.size());
        w.type(text);
    }
    bool tab_to(const std::function<bool(QWidget*)>& wanted) {
        for (int k = 0; k < 60; ++k) {
            if (QApplication::focusWidget() && wanted(QApplication::focusWidget())) return true;
            key(Qt::Key_Tab);
        }
        return false;
    }
    bool tab_to_button(const QString& text) {
        return tab_to([&](QWidget* now) {
            auto* button = qobject_cast<QAbstractButton*>(now);
            return button && button->text() == text;
        });
    }
};

/// Four stations of six readings, typed; the station's steps are proposed from the third on.
void type_stations(Hands& hands, double wrong_by = 0) {
    for (int k = 0; k < 4; ++k) {
        for (int i = 0; i < 6; ++i) {
            const double x = 1000 + 500 * k, z = 180 * i;
            const double off = k == 2 && i == 3 ? wrong_by : 0;
            if (i < 2) hands.type(QString::number(z));
            hands.key(Qt::Key_Return);
            hands.type(QString::number(half_breadth(x, z) - 300 + off, 'f', 1));
            hands.key(Qt::Key_Return);
        }
        if (k < 3) hands.key(Qt::Key_Return, Qt::ControlModifier);
    }
}

/// Every corner of the piece lies within the hull that was read.
void check_inside_the_hull(const piece::Outline& shape) {
    for (const Vec2& q : shape.face_a.outer) {
        const Vec3 p = shape.frame.to_space(q);
        CHECK(p.y() <= 1);  // starboard of the centre line
        CHECK(-p.y() <= half_breadth(p.x(), p.z()) + 6);
    }
}

std::vector<std::string> stops(const Window& w) {
    std::vector<std::string> out;
    for (const auto& f : w.document.computed()->findings)
        if (f.severity == review::Severity::stop)
            out.push_back(std::string(review::check_of(f.check).id) + ": " + f.evidence);
    return out;
}

void begin_guided(Hands& hands) {
    hands.w.main.show_first_page();
    REQUIRE(hands.tab_to_button("Measure a first piece"));
    hands.key(Qt::Key_Return);
    REQUIRE(hands.w.main.side_panel());
    REQUIRE(hands.tab_to([](QWidget* now) { return now->accessibleName() == "side"; }));
    hands.key(Qt::Key_Down);  // starboard
    REQUIRE(hands.tab_to_button("Begin with station 1"));
    hands.key(Qt::Key_Return);
    QTest::qWait(1);
    REQUIRE(QApplication::focusWidget()->accessibleName() == "next along");
}

/// Words that are painted or written on a widget, and where they begin.
struct Written {
    QString words;
    QPointF at;
};

std::vector<Written> written_on(QWidget& widget) {
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    QSvgGenerator svg;
    svg.setOutputDevice(&buffer);
    svg.setSize(widget.size());
    svg.setResolution(widget.logicalDpiX());
    QPainter painter(&svg);
    widget.render(&painter);
    painter.end();
    std::vector<Written> out;
    const QString text = QString::fromUtf8(buffer.data());
    static const QRegularExpression element(
        "matrix\\(([^)]*)\\)\"[^>]*>\\s*<text[^>]* x=\"([^\"]*)\" y=\"([^\"]*)\"[^>]*>([^<]*)</text>");
    for (auto it = element.globalMatch(text); it.hasNext();) {
        const auto found = it.next();
        const QStringList m = found.captured(1).split(',');
        const QTransform turned(m[0].toDouble(), m[1].toDouble(), m[2].toDouble(), m[3].toDouble(), m[4].toDouble(),
                                m[5].toDouble());
        out.push_back(
            {found.captured(4), turned.map(QPointF(found.captured(2).toDouble(), found.captured(3).toDouble()))});
    }
    return out;
}

QStringList words_on(QWidget& widget) {
    QStringList out;
    for (const Written& one : written_on(widget)) out << one.words;
    return out;
}

}  // namespace

TEST_CASE("the guided first piece, by keyboard alone: 24 readings lead to a PDF", "[newcomer]") {
    const jobs::Folder folder;
    Window w;
    Hands hands{w};
    begin_guided(hands);
    REQUIRE(w.document.job().readings.size() == 4);
    type_stations(hands);
    REQUIRE(w.settle());
    std::size_t read = 0;
    for (const auto& set : w.document.job().readings) read += set.readings.size();
    REQUIRE(read == 24);
    INFO(w.main.guide()->words().toStdString());
    CHECK(w.main.guide()->words().contains(
        QRegularExpression("Enough for 3.* mm, about \\d+ more for 1.* mm: the surface is known")));
    hands.key(Qt::Key_Return, Qt::ControlModifier);
    REQUIRE(w.settle());
    CHECK(w.main.step() == StepId::pieces);
    REQUIRE(w.document.job().pieces.size() == 1);
    const auto* shape = w.document.computed()->results.pieces.front().shape();
    REQUIRE(shape);
    check_inside_the_hull(*shape);
    CHECK(stops(w).empty());
    hands.key(Qt::Key_P, Qt::ControlModifier);
    const QString path = QString::fromStdString(folder.file("first.pdf"));
    REQUIRE(hands.tab_to([](QWidget* now) { return now->accessibleName() == "file"; }));
    hands.key(Qt::Key_A, Qt::ControlModifier);
    hands.type(path);
    hands.key(Qt::Key_Return);
    CHECK(QTest::qWaitFor([&] { return QFile::exists(path); }, driver::patience_ms));
    INFO("keys " << hands.keys - path.size());
    // Counted in docs/first-piece.md; a practised hand types two a second, a new one about one.
    CHECK(hands.keys - path.size() < 300);
}

TEST_CASE("of a boat that was read on one side, Weigh shows the centre line and all that is weighed", "[newcomer]") {
    Window w;
    Hands hands{w};
    begin_guided(hands);
    type_stations(hands);
    hands.key(Qt::Key_Return, Qt::ControlModifier);
    REQUIRE(w.settle());
    w.main.show_step(StepId::weigh);
    REQUIRE(w.settle());
    auto* drawing = w.step_drawing(StepId::weigh);
    const auto written = written_on(*drawing);
    for (const char* words :
         {"centre line", "datum", "fwd →", "from above, port up", "from starboard", "all added"}) {
        INFO(words);
        const auto at =
            std::find_if(written.begin(), written.end(), [&](const auto& one) { return one.words == words; });
        REQUIRE(at != written.end());
        CHECK(QRectF(drawing->rect()).contains(at->at));
    }
}

TEST_CASE("a wrong reading on a newcomer's hull is named in the set's terms, and one comes to it", "[newcomer]") {
    Window w;
    Hands hands{w};
    begin_guided(hands);
    type_stations(hands, 50);
    REQUIRE(w.settle());
    const auto& findings = w.document.computed()->findings;
    const auto f = std::find_if(findings.begin(), findings.end(),
                                [](const auto& one) { return one.check == review::CheckId::suspect_readings; });
    REQUIRE(f != findings.end());
    CHECK(f->evidence.find("along 540 mm") != std::string::npos);
    CHECK(f->evidence.find("too large") != std::string::npos);
    w.main.show_panel(panel::Findings{});
    REQUIRE(w.click("See the readings"));
    CHECK_FALSE(w.main.side_panel());
    CHECK(w.main.step() == StepId::measure);
    auto* table = w.named<QTableView>("readings");
    REQUIRE(table);
    CHECK(table->currentIndex().row() == 3);
    CHECK(table->model()->rowCount() == 6);
    CHECK(w.document.job().readings[2].readings[3].values[1] ==
          Approx(std::round(10 * (half_breadth(2000, 540) - 250)) / 10));
}

TEST_CASE("the first reading is in view, with the line that it was read from", "[newcomer]") {
    Window w;
    Hands hands{w};
    begin_guided(hands);
    auto* view = static_cast<MeasureDrawing*>(w.step_drawing(StepId::measure));
    for (const char* number : {"0", "250.5"}) {
        hands.type(number);
        hands.key(Qt::Key_Return);
    }
    REQUIRE(w.settle());
    const auto points = survey::points_of(std::vector<survey::ReadingSet>{w.document.job().readings[0]}, "hull");
    REQUIRE(points.ok());
    const auto frame = geometry::upright_frame(survey::plane_of(w.document.job().readings[0]));
    CHECK(view->rect().contains(view->to_widget(frame.to_plane(points->front().position)).toPoint()));
    // A person who moves the view keeps it so, until all is asked for.
    QTest::mousePress(view, Qt::LeftButton, {}, {300, 300});
    QTest::mouseMove(view, {500, 300});
    QTest::mouseRelease(view, Qt::LeftButton, {}, {500, 300});
    REQUIRE(w.button("all"));
    REQUIRE(w.click("all"));
    CHECK(view->rect().contains(view->to_widget(frame.to_plane(points->front().position)).toPoint()));
    CHECK_FALSE(w.button("all"));
}

TEST_CASE("after a set is made, by mouse or by key, the keys are in its first entry", "[newcomer]") {
    for (const bool by_mouse : {true, false}) {
        Window w;
        w.main.begin_new();
        if (by_mouse) {
            REQUIRE(w.click("Make this set"));
        } else {
            w.button("Make this set")->setFocus();
            w.key(Qt::Key_Return);
        }
        QTest::qWait(1);
        REQUIRE(QApplication::focusWidget());
        CHECK(QApplication::focusWidget()->accessibleName() == "next along");
    }
}

TEST_CASE("a field that is entered offers its value selected; a wrong one is not passed over", "[newcomer]") {
    Window w;
    w.main.begin_new();
    auto* field = w.named<QLineEdit>("zero mark at, fwd");
    REQUIRE(field);
    QTest::mouseClick(field, Qt::LeftButton);
    CHECK(field->selectedText() == field->text());
    w.type("1200");
    CHECK(field->text() == "1200");
    w.key(Qt::Key_Tab);
    auto* next = qobject_cast<QLineEdit*>(QApplication::focusWidget());
    REQUIRE(next);
    CHECK(next->accessibleName() == "zero mark at, port");
    CHECK(next->selectedText() == next->text());
    w.type("no length");
    w.key(Qt::Key_Return);
    REQUIRE(w.click("Make this set"));
    CHECK(w.document.job().readings.empty());
    CHECK(QApplication::focusWidget() == next);
    CHECK(next->text() == "no length");
}

TEST_CASE("the wheel over every field of every screen changes nothing", "[newcomer]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    const auto before = w.document.job();
    int tried = 0;
    const auto sweep = [&] {
        QApplication::processEvents();
        for (auto* widget : w.main.findChildren<QWidget*>()) {
            const bool holds = qobject_cast<QComboBox*>(widget) || qobject_cast<QAbstractSpinBox*>(widget);
            if (!holds || !widget->isVisible()) continue;
            auto* box = qobject_cast<QComboBox*>(widget);
            const int shown = box ? box->currentIndex() : 0;
            for (const int way : {120, -120}) {
                const QPointF at(widget->width() / 2.0, widget->height() / 2.0);
                QWheelEvent wheel(at, widget->mapToGlobal(at), {}, {0, way}, Qt::NoButton, Qt::NoModifier,
                                  Qt::NoScrollPhase, false);
                QApplication::sendEvent(widget, &wheel);
            }
            ++tried;
            if (box) CHECK(box->currentIndex() == shown);
        }
    };
    for (const StepId step : all_steps) {
        w.main.show_step(step);
        sweep();
    }
    for (const auto& sheet :
         std::vector<PanelRequest>{panel::NewSet{}, panel::NewPiece{}, panel::Papers{}, panel::Import{},
                                   panel::Photo{}, panel::Datum{}, panel::Guide{}}) {
        w.main.show_panel(sheet);
        sweep();
    }
    CHECK(tried > 30);
    CHECK(w.document.job() == before);
}

TEST_CASE("in inches no screen says millimetres, nor metres, litres or kilograms", "[newcomer]") {
    Window w;
    w.main.begin(jobs::ternlight());
    w.document.edit("Change the unit", [](job::Job& job) {
        job.unit = units::LengthUnit::inch;
        // Names are a person's own words.
        for (auto& m : job.materials) m.name = "Sheet";
    });
    REQUIRE(w.settle());
    static const QRegularExpression millimetres("\\b(mm|kg|t m/cm|kg/m²)\\b|m²|\\d (m|l)\\b");
    std::set<std::string> seen;
    const auto sweep = [&](const QString& where) {
        QApplication::processEvents();
        QStringList words;
        for (auto* label : w.main.findChildren<QLabel*>())
            if (label->isVisible()) words << label->text();
        for (auto* field : w.main.findChildren<QLineEdit*>())
            if (field->isVisible()) words << field->text() << field->placeholderText();
        for (auto* view : w.main.findChildren<DrawingView*>())
            if (view->isVisible()) words << words_on(*view);
        words << words_on(*w.main.step_of(w.main.step())->ribbon());
        for (const QString& text : words)
            if (text.contains(millimetres)) seen.insert((where + ": " + text).toStdString());
    };
    for (const char* piece : {"B1", "B2", "S1"}) {
        w.document.select_piece(piece);
        for (const StepId step : all_steps) {
            w.main.show_step(step);
            sweep(step_word(step));
        }
    }
    for (const auto& sheet : std::vector<PanelRequest>{panel::NewSet{}, panel::NewPiece{}, panel::Findings{},
                                                       panel::Datum{}, panel::Guide{}}) {
        w.main.show_panel(sheet);
        sweep(panel_id(sheet));
    }
    for (const auto& text : seen) UNSCOPED_INFO(text);
    CHECK(seen.empty());
}

TEST_CASE("the guide's first page follows the unit while it is open", "[newcomer]") {
    Window w;
    w.main.begin({});
    w.main.show_panel(panel::Guide{});
    const auto with_mm = [&] {
        int out = 0;
        for (auto* field : w.main.side_panel()->findChildren<QLineEdit*>()) out += field->text().endsWith("mm");
        return out;
    };
    REQUIRE(with_mm() > 1);
    w.document.edit("Change the unit", [](job::Job& job) { job.unit = units::LengthUnit::inch; });
    CHECK(with_mm() == 0);
}

TEST_CASE("what a drag breaks is drawn with its open end, and a drag mends it", "[newcomer]") {
    Window w;
    Hands hands{w};
    begin_guided(hands);
    type_stations(hands);
    // At once: the piece waits for the surface.
    hands.key(Qt::Key_Return, Qt::ControlModifier);
    REQUIRE(QTest::qWaitFor([&] { return !w.document.job().pieces.empty(); }, 20000));
    REQUIRE(w.settle());
    auto* view = static_cast<PieceDrawing*>(w.step_drawing(StepId::pieces));
    const auto piece = [&]() -> const job::JobPiece& { return w.document.job().pieces.front(); };
    const auto top = [&] {
        const auto& edges = piece().edges;
        return std::find_if(edges.begin(), edges.end(), [](const auto& e) { return e.name == "top"; });
    };
    REQUIRE(top() != piece().edges.end());
    const double was = top()->at_mm;
    const auto drag = [&](double from, double to) {
        const auto computed = w.document.computed();
        const auto& now = computed->results.pieces.front();
        const double u =
            geometry::bounding_box(now.shape() ? now.shape()->face_a.outer : now.sketch->lines.front().points)
                .centre()
                .x();
        const QPoint start = view->to_widget({u, from}).toPoint();
        QTest::mousePress(view, Qt::LeftButton, {}, start);
        for (int k = 1; k <= 5; ++k) {
            QTest::mouseMove(view, view->to_widget({u, from + (to - from) * k / 5}).toPoint());
            QTest::qWait(2);
        }
        QTest::mouseRelease(view, Qt::LeftButton, {}, view->to_widget({u, to}).toPoint());
    };
    drag(was, was + 300);
    REQUIRE(w.settle());
    CHECK(top()->at_mm > was + 200);
    const auto& broken = w.document.computed()->results.pieces.front();
    REQUIRE_FALSE(broken.shape());
    REQUIRE(broken.sketch);
    REQUIRE_FALSE(broken.sketch->open.empty());
    CHECK(broken.sketch->next.size() >= 3);
    CHECK(broken.outline->error().message.find("'top'") != std::string::npos);
    drag(top()->at_mm, was);
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.pieces.front().shape());
}

TEST_CASE("all clear is said only when there is something to be clear about", "[newcomer]") {
    Window w;
    w.main.begin_new();
    REQUIRE(w.settle());
    CHECK_FALSE(w.button("all clear"));
    CHECK(w.button("nothing yet"));
}

TEST_CASE("a template from a photo lies on no surface until it is placed", "[newcomer]") {
    Window w;
    w.main.begin(jobs::ternlight());
    REQUIRE(w.settle());
    const auto before = w.document.computed()->results.surfaces.front().fit;
    w.document.edit("Take a template over from a photo", [](job::Job& job) {
        survey::ReadingSet set = survey::usual_set(survey::School::traced);
        set.name = "Card";
        for (int k = 0; k < 300; ++k) set.readings.emplace_back().values = {k * 1.0, 200 * std::sin(k / 40.0)};
        job::add_readings(job, set, job::Placed::not_yet);
    });
    REQUIRE(w.settle());
    CHECK(w.document.computed()->results.surfaces.front().fit == before);
    for (const auto& piece : w.document.computed()->results.pieces) CHECK(piece.shape());
}

TEST_CASE("the first page shows the jobs worked on last, and a new one is named after boat and job", "[newcomer]") {
    const jobs::Folder folder;
    const std::string path = folder.file("recent.job.json");
    {
        Window w;
        w.main.begin(jobs::ternlight());
        CHECK(w.main.proposed_name() == "Ternlight, Fit-out of Ternlight.job.json");
        REQUIRE(w.main.keeper().save_to(QString::fromStdString(path)));
    }
    Window w;
    w.main.show_first_page();
    auto* card = w.named<QPushButton>("open Fit-out of Ternlight");
    REQUIRE(card);
    QApplication::processEvents();
    for (auto* words : card->findChildren<QLabel*>()) CHECK(words->height() >= words->sizeHint().height());
    QTest::mouseClick(card, Qt::LeftButton);
    CHECK(w.document.job().boat.name == "Ternlight");
    CHECK(w.document.path() == QString::fromStdString(path));
}

TEST_CASE("guided by a strip pattern on starboard, across counts outboard and a shelf stands in the boat",
          "[newcomer]") {
    GuidePlan plan;
    plan.kind = job::StartingKind::shelf;
    plan.school = survey::School::strip_pattern;
    plan.port = false;
    Window w;
    w.main.begin_new();
    w.document.edit("Stations and their readings", [&](job::Job& job) {
        for (auto set : sets_of(plan)) {
            for (double z = 0; z < 1000; z += 160)
                set.readings.emplace_back().values = {half_breadth(set.origin.x(), z), z};
            job::add_readings(job, set);
        }
    });
    REQUIRE(w.settle());
    const auto computed = w.document.computed();
    REQUIRE(computed->results.surfaces.front().fitted());
    w.document.edit("Add the shelf", [&](job::Job& job) {
        job.pieces.push_back(job::starting_piece(job, computed->results, plan.kind));
    });
    REQUIRE(w.settle());
    const auto done = w.document.computed();
    const auto* shape = done->results.pieces.front().shape();
    REQUIRE(shape);
    check_inside_the_hull(*shape);
    CHECK(stops(w).empty());
}

TEST_CASE("a file that was chosen in the wrong place is told what it is and where it belongs", "[newcomer]") {
    const jobs::Folder folder;
    jobs::write(folder.file("table.csv"), "station,height,half breadth\n0,100,700\n");
    Window w;
    w.main.begin(jobs::ternlight());
    w.main.show_panel(panel::Import{});
    REQUIRE(w.fill("points file", QString::fromStdString(jobs::demo_path("ketch"))));
    CHECK(QTest::qWaitFor([&] { return w.panel_words().contains("this is a job"); }, 10000));
    CHECK(w.panel_words().contains("Ctrl+O takes it"));
    CHECK_FALSE(w.button("Take the points over")->isEnabled());
    w.main.show_panel(panel::Outlines{});
    REQUIRE(w.fill("drawing file", QString::fromStdString(folder.file("table.csv"))));
    CHECK(w.panel_words().contains("this is a table of readings"));
    const auto before = w.document.job();
    CHECK_FALSE(w.main.open(QString::fromStdString(folder.file("table.csv"))));
    CHECK(w.document.job() == before);
}

TEST_CASE("names that look like markup are shown as they are", "[newcomer]") {
    Window w;
    job::Job job = jobs::ternlight();
    const std::string name = "<b>bold</b>";
    for (auto& piece : job.pieces) piece.name = name;
    for (auto& set : job.readings) set.name = name;
    job.surfaces[0].name = name;
    job.readings[0].readings[3].values[0] += 60;
    w.main.begin(job);
    REQUIRE(w.settle());
    w.main.findChild<Notice*>()->say(QString::fromStdString("Noted: " + name));
    int seen = 0;
    const auto look = [&] {
        QApplication::processEvents();
        for (auto* label : w.main.findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains("<b>bold")) {
                INFO(label->text().toStdString());
                CHECK(label->textFormat() == Qt::PlainText);
                ++seen;
            }
    };
    for (const StepId step : all_steps) w.main.show_step(step), look();
    for (const PanelRequest& request : std::vector<PanelRequest>{panel::Findings{}, panel::Papers{}, panel::Datum{}})
        w.main.show_panel(request), look();
    CHECK(seen >= 2);
}
