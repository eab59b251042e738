// Furniture in a window of its own, for the tests that build and drag it.
#pragma once

#include <catch2/catch.hpp>

#include <QToolButton>

#include "app/pieces/boat_view.h"
#include "support/jobs.h"
#include "window/driver.h"

namespace fitting {

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

/// The demo with the sheet for a new piece at its side; the silhouette of a kind on it.
inline QToolButton* ask_for_kind(Window& w, const QString& name) {
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::pieces);
    REQUIRE(w.settle());
    w.main.show_panel(panel::NewPiece{});
    auto* kind = w.named<QToolButton>(name);
    REQUIRE(kind);
    return kind;
}

inline void add_settee(Window& w) {
    QTest::mouseClick(ask_for_kind(w, "settee"), Qt::LeftButton);
    REQUIRE(w.click("Add it"));
    REQUIRE(w.settle());
}

inline BoatView* boat(const Window& w) {
    return w.named<BoatView>("in the boat");
}

inline void drag(Window& w, const QPointF& from, const QPointF& to) {
    auto* view = boat(w);
    const auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButtons held) {
        QMouseEvent event(type, at, view->mapToGlobal(at), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton,
                          held, Qt::NoModifier);
        QApplication::sendEvent(view, &event);
    };
    send(QEvent::MouseMove, from, Qt::NoButton);
    send(QEvent::MouseButtonPress, from, Qt::LeftButton);
    for (int k = 1; k <= 8; ++k) send(QEvent::MouseMove, from + (to - from) * k / 8.0, Qt::LeftButton);
    send(QEvent::MouseButtonRelease, to, Qt::NoButton);
}

inline const piece::Outline& shape(const Window& w, const std::string& id) {
    const auto* r = w.document.computed()->results.piece(id);
    INFO(id);
    REQUIRE(r);
    INFO((r->outline && !r->outline->ok() ? r->outline->error().message : std::string()));
    REQUIRE(r->shape());
    return *r->shape();
}

}  // namespace fitting
