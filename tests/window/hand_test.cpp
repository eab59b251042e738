// What is in hand in the cuts through the real window: dragged, nudged by keys, put by a typed figure.
#include <catch2/catch.hpp>

#include <QWheelEvent>
#include <set>

#include "window/furniture_window.h"

using namespace bevelsmith;
using namespace bevelsmith::app;
using namespace fitting;

namespace {

/// Takes hold with the button down; release() lets go.
struct Pull {
    BoatView* view;
    QPointF at;
    Pull(BoatView* v, const QPointF& from) : view(v), at(from) {
        send(QEvent::MouseMove, Qt::NoButton, {});
        send(QEvent::MouseButtonPress, Qt::LeftButton, {});
    }
    void send(QEvent::Type type, Qt::MouseButtons held, Qt::KeyboardModifiers with) const {
        QMouseEvent event(type, at, view->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          held, with);
        QApplication::sendEvent(view, &event);
    }
    void by(const QPointF& px, Qt::KeyboardModifiers with = {}) {
        at += px;
        send(QEvent::MouseMove, Qt::LeftButton, with);
    }
    void wheel(int turn) const {
        QWheelEvent event(at, view->mapToGlobal(at), {}, {0, turn}, Qt::LeftButton, {}, Qt::NoScrollPhase, false);
        QApplication::sendEvent(view, &event);
    }
    void release() const { send(QEvent::MouseButtonRelease, Qt::NoButton, {}); }
};

}  // namespace

TEST_CASE("what is in hand goes by the millimetre: Shift, the wheel, arrow keys and a typed figure", "[hand]") {
    Window w;
    add_settee(w);
    auto* view = boat(w);
    const auto unit = w.document.job().units[0];
    const double out = unit.side == furniture::Side::port ? 1 : -1;
    const auto front_mm = [&] { return w.document.job().units[0].front_mm; };
    const auto& front = shape(w, unit.id + ".front");
    const auto box = geometry::bounding_box(front.face_a.outer);
    const Vec3 in_front = front.frame.to_space(box.centre()) + front.thickness_mm / 2 * front.frame.normal;
    view->move_cut(exchange::Cut::section, in_front.x());
    const auto place = [&](double off) {
        return view->to_widget(exchange::Cut::section, in_front + Vec3(0, out * off, 0));
    };
    const double mm_a_pixel = 100 / std::abs(place(100).x() - place(0).x());
    const QPointF outwards((place(100).x() > place(0).x()) ? 1 : -1, 0);
    REQUIRE(mm_a_pixel > 3);  // a pixel is too coarse for a millimetre
    Pull pull(view, place(0));
    pull.by(20 * outwards);
    const double coarse = front_mm();
    CHECK(std::fmod(coarse, 5) == Approx(0).margin(1e-9));
    // With Shift a pixel is a tenth, and every whole millimetre can be met.
    std::set<double> met;
    for (int k = 0; k < 20; ++k) {
        pull.by(outwards, Qt::ShiftModifier);
        met.insert(std::round(front_mm()));
        CHECK(front_mm() == Approx(std::round(front_mm())).margin(1e-9));
    }
    CHECK(static_cast<double>(met.size()) >= std::min(19.0, 2 * mm_a_pixel) - 2);
    CHECK(std::abs(front_mm() - coarse) < 2 * mm_a_pixel + 5);
    // The wheel draws it larger about the pointer while it is held; nothing leaps.
    const double before = front_mm();
    for (int k = 0; k < 12; ++k) pull.wheel(120);
    CHECK(100 / std::abs(place(100).x() - place(0).x()) < mm_a_pixel / 5);
    pull.by(outwards, Qt::ShiftModifier);
    CHECK(std::abs(front_mm() - before) <= 1.001);
    pull.release();
    REQUIRE_FALSE(view->hand().empty());
    // What was moved stays in hand: arrow keys, then a figure.
    const auto way = outwards.x() > 0 ? Qt::Key_Right : Qt::Key_Left;
    view->setFocus();
    const double held = front_mm();
    const double cut = view->at_mm(exchange::Cut::section);
    QTest::keyClick(view, way);
    CHECK(front_mm() == Approx(held + 1));
    QTest::keyClick(view, way, Qt::ShiftModifier);
    CHECK(front_mm() == Approx(held + 11));
    CHECK(view->at_mm(exchange::Cut::section) == cut);
    QTest::keyClick(view, Qt::Key_5);
    REQUIRE(QApplication::focusWidget() != view);
    QTest::keyClicks(QApplication::focusWidget(), "23.5");
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
    CHECK(front_mm() == 523.5);
    CHECK(QApplication::focusWidget() == view);
    // Nonsense changes nothing, and says so.
    QTest::keyClick(view, Qt::Key_5);
    QTest::keyClicks(QApplication::focusWidget(), "x");
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
    CHECK(front_mm() == 523.5);
    for (int k = 0; k < 3; ++k) QTest::keyClick(QApplication::focusWidget(), Qt::Key_Escape);
    CHECK(view->hand().empty());
    // Now the keys are the cut's again.
    view->setFocus();
    QTest::keyClick(view, Qt::Key_Right);
    CHECK(view->at_mm(exchange::Cut::section) == Approx(cut + 10));
    CHECK(front_mm() == 523.5);
    // Taken in hand by the keyboard alone.
    QTest::keyClick(view, Qt::Key_Return);
    REQUIRE_FALSE(view->hand().empty());
    w.document.undo_stack().undo();
    CHECK(w.document.job().units[0] == unit);
}
