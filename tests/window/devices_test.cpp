// What comes into the program from outside through the real window: tables, scans, a meter on a serial line, photos.
#include <fmt/format.h>
#include <QRegularExpression>
#include <catch2/catch.hpp>
#include <random>

#include <QComboBox>
#include <QProcess>
#include <QStandardPaths>
#include <cmath>

#include "app/measure/cloud_picture.h"
#include "app/measure/meter_bar.h"
#include "app/measure/photo_view.h"
#include "support/jobs.h"
#include "support/photo.h"
#include "survey/instruments.h"
#include "window/driver.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

namespace {

/// A simulated meter, gone when it goes out of scope.
class Meter {
  public:
    explicit Meter(const QStringList& more) {
        process_.start(
            BEVELSMITH_METER_SIM,
            QStringList{QString::fromStdString(jobs::ternlight_path()), "--stand", "2400", "0", "0"} + more);
        REQUIRE(process_.waitForStarted());
        REQUIRE(process_.waitForReadyRead(10000));
        port = QString::fromUtf8(process_.readLine()).trimmed();
    }
    ~Meter() {
        process_.kill();
        process_.waitForFinished();
    }
    void stop() {
        process_.kill();
        process_.waitForFinished();
    }
    QString port;

  private:
    QProcess process_;
};

/// A new job at Measure with one set of `school`, without readings.
void begin(Window& w, survey::School school) {
    w.main.begin_new();
    w.document.edit("Make a set",
                    [&](job::Job& job) { job::add_readings(job, survey::usual_set(school)).name = "Set"; });
    w.main.show_step(StepId::measure);
    if (w.main.side_panel()) QTest::keyClick(w.main.side_panel(), Qt::Key_Escape);
    REQUIRE(w.settle());
}

void connect_meter(Window& w, const QString& port) {
    REQUIRE(w.click("Meter"));
    auto* box = w.named<QComboBox>("meter's port");
    REQUIRE(box);
    box->setFocus();
    box->lineEdit()->selectAll();
    QTest::keyClicks(box, port);
    QTest::keyClick(box, Qt::Key_Return);
}

QString bar_words(const Window& w) {
    QString out;
    for (auto* label : w.main.findChild<MeterBar*>()->findChildren<QLabel*>()) out += label->text();
    return out;
}

std::size_t readings(const Window& w) {
    return w.document.job().readings.front().readings.size();
}

}  // namespace

TEST_CASE("a meter's measurements become readings", "[devices]") {
    Meter meter({"--noise", "0", "--noise-deg", "0"});
    Window w;
    begin(w, survey::School::laser_meter);
    connect_meter(w, meter.port);
    for (int k = 1; k <= 4; ++k) {
        INFO(bar_words(w).toStdString());
        REQUIRE(QTest::qWaitFor([&] { return w.button("Measure (F7)")->isEnabled(); }));
        REQUIRE(w.click("Measure (F7)"));
        REQUIRE(QTest::qWaitFor([&] { return readings(w) == static_cast<std::size_t>(k); }, 5000));
    }
    // The simulated meter stands at (2400, 0, 0); so does the set, and the demo's own points come back.
    w.document.edit("Place it", [](job::Job& job) { job.readings[0].origin = {2400, 0, 0}; });
    const auto demo = jobs::ternlight();
    const auto truth = survey::points_of(job::readings_in_boat(demo).value(), "hull").value();
    for (std::size_t k = 0; k < 4; ++k) {
        const auto at = survey::locate(w.document.job().readings[0], w.document.job().readings[0].readings[k]);
        CHECK((at->position - truth[k].position).norm() < 0.2);
    }
}

TEST_CASE("a plain range goes where a length is waited for", "[devices]") {
    Meter meter({"--plain"});
    Window w;
    begin(w, survey::School::ordinates);
    connect_meter(w, meter.port);
    auto* station = w.named<QLineEdit>("next along");
    REQUIRE(station);
    station->setFocus();
    QTest::keyClicks(station, "100");
    QTest::keyClick(station, Qt::Key_Return);
    QTest::keyClick(&w.main, Qt::Key_F7);
    REQUIRE(QTest::qWaitFor([&] { return readings(w) == 1; }, 5000));
    CHECK(w.document.job().readings[0].readings[0].values[0] == 100);
    CHECK(w.document.job().readings[0].readings[0].values[1] > 100);
}

TEST_CASE("a shot with its angles is refused by a set that it does not fit, with the school that it fits",
          "[devices]") {
    Meter meter({"--noise", "0", "--noise-deg", "0"});
    Window w;
    begin(w, survey::School::ordinates);
    connect_meter(w, meter.port);
    const auto before = w.document.job();
    REQUIRE(QTest::qWaitFor([&] { return w.button("Measure (F7)")->isEnabled(); }));
    REQUIRE(w.click("Measure (F7)"));
    const auto said = [&] {
        for (auto* label : w.main.findChildren<QLabel*>())
            if (label->isVisible() && label->text().contains("Not taken: a measurement with its turn and rise"))
                return label->text();
        return QString();
    };
    REQUIRE(QTest::qWaitFor([&] { return !said().isEmpty(); }, 5000));
    CHECK(said().contains(QString::fromUtf8(survey::school_name(survey::School::laser_meter).data())));
    CHECK(w.document.job() == before);
    for (auto* field : w.main.findChildren<QLineEdit*>())
        if (field->accessibleName().startsWith("next ")) CHECK(field->text().isEmpty());
}

TEST_CASE("a damaged line, a refusal, silence and a meter that goes away are said and lose nothing", "[devices]") {
    Meter meter({"--garbage-every", "2", "--fail-every", "3", "--silent-after", "3"});
    Window w;
    begin(w, survey::School::laser_meter);
    connect_meter(w, meter.port);
    auto& link = w.main.findChild<MeterBar*>()->link();
    REQUIRE(QTest::qWaitFor([&] { return link.connected(); }));
    link.set_patience(300);
    const auto measure = [&](const QString& until) {
        REQUIRE(w.click("Measure (F7)"));
        const bool said = QTest::qWaitFor([&] { return bar_words(w).contains(until); }, 5000);
        INFO(bar_words(w).toStdString());
        CHECK(said);
    };
    measure(" mm");
    CHECK(readings(w) == 1);
    measure("damaged");
    measure("target too dark");
    measure("No answer");
    CHECK(readings(w) == 1);
    meter.stop();
    const bool gone = QTest::qWaitFor([&] { return !link.connected(); }, 5000);
    CHECK(gone);
    CHECK(bar_words(w).contains("has gone"));
    CHECK_FALSE(w.button("Measure (F7)")->isEnabled());
    CHECK(readings(w) == 1);
}

TEST_CASE("a port that is not there is said", "[devices]") {
    Window w;
    begin(w, survey::School::laser_meter);
    connect_meter(w, "/dev/no-such-meter");
    CHECK(bar_words(w).contains("cannot be opened"));
}

TEST_CASE("columns of a table are chosen for the set that they go into", "[devices]") {
    const jobs::Folder folder;
    Window w;
    begin(w, survey::School::ordinates);
    jobs::write(folder.file("line.csv"), "no;remark;off;along\n1;low;41;100\n2;;42.5;200\n");
    REQUIRE(w.click("Import"));
    auto* path = w.named<QLineEdit>("points file");
    path->setFocus();
    QTest::keyClicks(path, QString::fromStdString(folder.file("line.csv")));
    REQUIRE(w.choose("taken as", 1));
    REQUIRE(w.choose("file is in", 1));
    // Two numbers never come from one column: the one that had it gets the other's.
    REQUIRE(w.choose("along is", 4));
    REQUIRE(w.choose("distance is", 3));
    REQUIRE(w.choose("along is", 3));
    CHECK(w.named<QComboBox>("distance is")->currentIndex() == 4);
    REQUIRE(w.choose("along is", 4));
    CHECK(w.named<QComboBox>("distance is")->currentIndex() == 3);
    REQUIRE(w.choose("note is", 2));
    REQUIRE(w.click("Take the points over"));
    const auto& set = w.document.job().readings.front();
    REQUIRE(set.readings.size() == 2);
    CHECK(set.readings[0].values[0] == 1000);
    CHECK(set.readings[0].values[1] == 410);
    CHECK(set.readings[0].note == "low");
    CHECK(set.readings[1].values[1] == 425);
    w.document.undo_stack().undo();
    CHECK(w.document.job().readings.front().readings.empty());
}

TEST_CASE("a wrong column names its line, and nothing is taken", "[devices]") {
    const jobs::Folder folder;
    Window w;
    begin(w, survey::School::ordinates);
    jobs::write(folder.file("line.csv"), "along,off\n100,40\n200,4o\n");
    REQUIRE(w.click("Import"));
    const auto before = w.document.job();
    auto* path = w.named<QLineEdit>("points file");
    QTest::keyClicks(path, QString::fromStdString(folder.file("line.csv")));
    REQUIRE(w.choose("taken as", 1));
    CHECK(w.panel_words().contains("line 3: off: '4o' is not a number"));
    CHECK_FALSE(w.button("Take the points over")->isEnabled());
    QTest::keyClick(path, Qt::Key_Return);
    CHECK(w.document.job() == before);
}

TEST_CASE("a scan is cropped, thinned and taken over, and makes a surface", "[devices]") {
    const jobs::Folder folder;
    std::string ply =
        "ply\nformat ascii 1.0\nelement vertex 9000\nproperty float x\nproperty float y\nproperty float "
        "z\nend_header\n";
    for (int i = 0; i < 9000; ++i) {
        const double x = (i % 100) * 0.03, angle = -3.1 + (i / 100) * 3.0 / 90;
        ply += fmt::format("{:.6f} {:.6f} {:.6f}\n", x, std::cos(angle), std::sin(angle));
    }
    jobs::write(folder.file("scan.ply"), ply);
    Window w;
    begin(w, survey::School::ordinates);
    w.document.edit("No sets", [](job::Job& job) { job.readings.clear(); });
    REQUIRE(w.click("Import"));
    QTest::keyClicks(w.named<QLineEdit>("points file"), QString::fromStdString(folder.file("scan.ply")));
    REQUIRE(QTest::qWaitFor([&] { return w.panel_words().contains("in the box"); }, 10000));
    CHECK(w.panel_words().contains("9000 points"));
    REQUIRE(w.fill("fwd to", "2 m"));
    REQUIRE(w.fill("one point each", "80"));
    REQUIRE(QTest::qWaitFor([&] { return w.button("Take the points over")->isEnabled(); }, 10000));
    REQUIRE(w.choose("they lie on", 1));
    REQUIRE(QTest::qWaitFor([&] { return w.button("Take the points over")->isEnabled(); }, 10000));
    REQUIRE(w.click("Take the points over"));
    const auto& set = w.document.job().readings.back();
    CHECK(set.school == survey::School::scan);
    CHECK(set.readings.size() > 300);
    CHECK(set.readings.size() < 3000);
    for (const auto& r : set.readings) CHECK(r.values[0] <= 2000);
    REQUIRE(w.settle());
    const auto computed = w.document.computed();
    REQUIRE(computed->results.surfaces[0].fitted());
    CHECK(computed->results.surfaces[0].fitted()->report.rms_mm < 0.5);
}

TEST_CASE("points that lie alone are counted and left out, and a loop takes out what it encloses", "[devices]") {
    const jobs::Folder folder;
    std::string text;
    std::mt19937 random(2);
    std::uniform_real_distribution<double> far(-6, 6);
    for (int i = 0; i < 9000; ++i) {
        const double x = (i % 100) * 0.03, angle = -3.1 + (i / 100) * 3.0 / 90;
        text += fmt::format("{:.4f} {:.4f} {:.4f}\n", x, std::cos(angle), std::sin(angle));
        if (i % 50 == 0) text += fmt::format("{:.4f} {:.4f} {:.4f}\n", far(random), far(random), far(random));
    }
    jobs::write(folder.file("scan.xyz"), text);
    Window w;
    begin(w, survey::School::ordinates);
    REQUIRE(w.click("Import"));
    QTest::keyClicks(w.named<QLineEdit>("points file"), QString::fromStdString(folder.file("scan.xyz")));
    const auto ready = [&] {
        QTest::qWait(1);
        return QTest::qWaitFor([&] { return w.button("Take the points over")->isEnabled(); }, 10000);
    };
    REQUIRE(ready());
    const auto told = [&](const QString& pattern) {
        const auto found = QRegularExpression(pattern).match(w.panel_words());
        return found.hasMatch() ? found.captured(1).toInt() : -1;
    };
    CHECK(told("(\\d+) points") == 9180);
    const int alone = told("(\\d+) lie alone and are left out");
    CHECK(alone > 150);
    CHECK(alone <= 185);
    CHECK(told("(\\d+) in the box") == 9180 - alone);
    REQUIRE(w.choose("points that lie alone", 1));
    REQUIRE(ready());
    CHECK(told("(\\d+) of them alone") == alone);
    REQUIRE(w.choose("points that lie alone", 0));
    REQUIRE(ready());
    // A loop around the forward half, from above.
    auto* picture = w.main.findChild<CloudPicture*>();
    REQUIRE(w.click("Take out by a loop"));
    const auto at = [&](double x, double y) { return picture->place_of({x, y, 0}, 0).toPoint(); };
    QTest::mousePress(picture, Qt::LeftButton, {}, at(1500, -1100));
    for (const auto& [x, y] : {std::pair(3100, -1100), {3100, 1100}, {1500, 1100}, {1500, -1000}}) {
        QMouseEvent move(QEvent::MouseMove, at(x, y), picture->mapToGlobal(at(x, y)), Qt::NoButton, Qt::LeftButton,
                         {});
        QApplication::sendEvent(picture, &move);
    }
    QTest::mouseRelease(picture, Qt::LeftButton, {}, at(1500, -1000));
    REQUIRE(ready());
    const int half = told("(\\d+) in the box");
    CHECK(half > 4000);
    CHECK(half < 5000);
    REQUIRE(w.click("Bring the last loop back"));
    REQUIRE(ready());
    CHECK(told("(\\d+) in the box") == 9180 - alone);
}

TEST_CASE("a damaged scan changes nothing and says where", "[devices]") {
    const jobs::Folder folder;
    Window w;
    begin(w, survey::School::ordinates);
    const auto before = w.document.job();
    jobs::write(
        folder.file("cut.ply"),
        "ply\nformat binary_little_endian 1.0\nelement vertex 5\nproperty float x\nproperty float y\nproperty "
        "float z\nend_header\nabcdefghijkl");
    REQUIRE(w.click("Import"));
    QTest::keyClicks(w.named<QLineEdit>("points file"), QString::fromStdString(folder.file("cut.ply")));
    CHECK(w.panel_words().contains("the file ends at point 2 of 5"));
    CHECK_FALSE(w.button("Take the points over")->isEnabled());
    CHECK(w.document.job() == before);
}

TEST_CASE("a template is taken over from a photo by keys alone", "[devices]") {
    Window w;
    begin(w, survey::School::ordinates);
    REQUIRE(w.click("Photo"));
    REQUIRE(w.click("Sample photo"));
    auto* view = w.named<PhotoView>("photo");
    REQUIRE(view);
    REQUIRE(view->hasFocus());
    // The sample is rendered from this template as seen straight from above (tests/support/make_photos.cpp).
    const photos::Template card;
    const auto photo = photos::rendered(card, {0, 0, 0, 0, 0});
    Vec2 cursor(800, 600);
    const double screen = std::min(view->width() / 1600.0, view->height() / 1200.0);
    for (const Vec2& mark : photo.marks_px) {
        const auto go = [&](int axis, Qt::Key less, Qt::Key more) {
            const double step = 2 / screen;
            while (std::abs(mark[axis] - cursor[axis]) > step) {
                const bool up = mark[axis] > cursor[axis];
                const bool far = std::abs(mark[axis] - cursor[axis]) > 10 * step;
                QTest::keyClick(view, up ? more : less, far ? Qt::ShiftModifier : Qt::NoModifier);
                cursor[axis] += (up ? 1 : -1) * step * (far ? 10 : 1);
            }
        };
        go(0, Qt::Key_Left, Qt::Key_Right);
        go(1, Qt::Key_Up, Qt::Key_Down);
        QTest::keyClick(view, Qt::Key_Return);
    }
    REQUIRE(view->marks().size() == 4);
    for (std::size_t k = 0; k < 4; ++k) CHECK((view->marks()[k] - photo.marks_px[k]).norm() < 1);
    CHECK(w.panel_words().contains("agree"));
    auto* find = w.button("Find the edge");
    REQUIRE(find->isEnabled());
    find->setFocus();
    QTest::keyClick(find, Qt::Key_Space);
    REQUIRE(QTest::qWaitFor([&] { return view->points().size() > 200; }, 10000));
    const auto found = view->points().size();
    view->setFocus();
    QTest::keyClick(view, Qt::Key_PageDown);
    QTest::keyClick(view, Qt::Key_Delete);
    CHECK(view->points().size() == found - 1);
    auto* take = w.button("Take the outline over");
    take->setFocus();
    QTest::keyClick(take, Qt::Key_Space);
    const auto& set = w.document.job().readings.back();
    REQUIRE(set.school == survey::School::traced);
    REQUIRE(set.readings.size() == found - 1);
    for (const auto& r : set.readings) {
        // Mark 1 stands at (120, 60) on the card.
        CHECK(card.off_mm(Vec2(r.values[0] + 120, r.values[1] + 60)) < 1);
        CHECK(r.sigma_mm);
    }
}

TEST_CASE("a bowed photo is put right by pointing along an edge that is straight in truth", "[devices]") {
    Window w;
    begin(w, survey::School::ordinates);
    REQUIRE(w.click("Photo"));
    REQUIRE(w.click("Sample, aslant"));
    auto* view = w.named<PhotoView>("photo");
    const photos::Template card;
    photos::Shot shot{28, 250};  // as the sample was rendered (tests/support/make_photos.cpp)
    shot.bow = 0.02;
    const auto photo = photos::rendered(card, shot);
    const double screen = std::min(view->width() / 1600.0, view->height() / 1200.0);
    const QPointF corner((view->width() - 1600 * screen) / 2, (view->height() - 1200 * screen) / 2);
    const auto point_at = [&](const Vec2& pixel) {
        QTest::mouseClick(view, Qt::LeftButton, Qt::NoModifier,
                          (corner + screen * QPointF(pixel.x(), pixel.y())).toPoint());
    };
    for (const Vec2& mark : photo.marks_px) point_at(mark);
    REQUIRE(view->marks().size() == 4);
    const auto worst = [&] {
        REQUIRE(w.click("Find the edge"));
        REQUIRE(
            QTest::qWaitFor([&] { return w.button("Find the edge")->isEnabled() && !view->points().empty(); }, 9000));
        double out = 0;
        for (const auto& p : view->points())
            if (p.sure) out = std::max(out, card.off_mm(p.face + Vec2(120, 60)));
        return out;
    };
    const double before = worst();
    CHECK(before > 1);
    // A click is good to half a screen pixel, some two of the photo: an edge needs many places along it.
    REQUIRE(w.click("Point along a straight edge"));
    for (int k = 0; k <= 40; ++k) point_at(photo.pixel_of({30.0 * k, 0}));
    REQUIRE(w.click("Point along a straight edge"));
    CHECK(w.panel_words().contains("lens is put right"));
    const double after = worst();
    INFO("before " << before << ", after " << after);
    CHECK(after < 0.7 * before);
    REQUIRE(w.click("Forget them"));
    CHECK_FALSE(w.panel_words().contains("lens is put right"));
}

TEST_CASE("a file that is no photo is refused, and distances that cannot be are said", "[devices]") {
    const jobs::Folder folder;
    Window w;
    begin(w, survey::School::ordinates);
    REQUIRE(w.click("Photo"));
    jobs::write(folder.file("not.jpg"), "no photo");
    REQUIRE(w.fill("photo file", QString::fromStdString(folder.file("not.jpg"))));
    CHECK(w.panel_words().contains("no photo that can be read"));
    REQUIRE(w.click("Sample, aslant"));
    auto* view = w.named<PhotoView>("photo");
    for (const QPoint& at : {QPoint(150, 250), QPoint(300, 250), QPoint(300, 180), QPoint(150, 180)})
        QTest::mouseClick(view, Qt::LeftButton, Qt::NoModifier, at + QPoint(0, view->height() / 4));
    REQUIRE(view->marks().size() == 4);
    REQUIRE(w.fill("diagonal 1 to 3", "2000"));
    CHECK(w.panel_words().contains("cannot be"));
    CHECK_FALSE(w.button("Find the edge")->isEnabled());
    CHECK_FALSE(w.button("Take the outline over")->isEnabled());
}
