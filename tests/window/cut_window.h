// The step Cut in a window of its own, for the tests that work in it.
#pragma once

#include <catch2/catch.hpp>

#include "app/cut/sheet_drawing.h"
#include "support/jobs.h"
#include "window/driver.h"

namespace cutting {

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

inline SheetDrawing* open_cut(Window& w) {
    w.main.begin(jobs::ternlight());
    w.main.show_step(StepId::cut);
    REQUIRE(w.settle());
    QTest::qWait(30);
    auto* view = static_cast<SheetDrawing*>(w.step_drawing(StepId::cut));
    REQUIRE(view);
    return view;
}

inline const job::SheetResult& laid(const Window& w) {
    return w.document.computed()->results.sheets.front();
}

inline bool says(const Window& w, const QString& words) {
    QApplication::processEvents();
    for (auto* label : w.main.findChildren<QLabel*>())
        if (label->isVisible() && label->text().contains(words)) return true;
    return false;
}

}  // namespace cutting
