// Drives the real window as a person would: waits, finds widgets by their accessible names, clicks, types.
#pragma once

#include <QApplication>
#include <QElapsedTimer>
#include <QPushButton>
#include <QTest>
#include <functional>
#include <memory>

#include "app/shell/main_window.h"

namespace driver {

using namespace bevelsmith;
using namespace bevelsmith::app;

/// A window with a document of its own, shown and active.
class Window {
  public:
    Window() : main(document) {
        main.show();
        (void)QTest::qWaitForWindowExposed(&main, 5000);
        main.activateWindow();
        (void)QTest::qWaitForWindowActive(&main, 2000);
    }
    /// Until everything is computed from the job as it is.
    bool settle(int milliseconds = 20000) {
        return QTest::qWaitFor([this] { return !document.computing(); }, milliseconds) && (QTest::qWait(1), true);
    }
    /// The visible widget with this accessible name; null when there is none.
    template <class T = QWidget>
    T* named(const QString& name) const {
        for (T* w : main.findChildren<T*>())
            if (w->isVisible() && w->accessibleName() == name) return w;
        return nullptr;
    }
    /// The visible button with this text.
    QPushButton* button(const QString& text) const {
        for (auto* b : main.findChildren<QPushButton*>())
            if (b->isVisible() && b->text() == text) return b;
        return nullptr;
    }
    bool click(const QString& button_text) const {
        auto* b = button(button_text);
        if (!b || !b->isEnabled()) return false;
        QTest::mouseClick(b, Qt::LeftButton);
        return true;
    }
    /// Types into the widget that has the focus.
    void type(const QString& text) const { QTest::keyClicks(QApplication::focusWidget(), text); }
    void key(Qt::Key k, Qt::KeyboardModifiers modifiers = Qt::NoModifier) const {
        QWidget* to = QApplication::focusWidget() ? QApplication::focusWidget() : const_cast<MainWindow*>(&main);
        QTest::keyClick(to, k, modifiers);
    }
    /// Replaces what stands in a field and confirms it with Enter.
    bool fill(const QString& accessible_name, const QString& text) const {
        auto* field = named<QLineEdit>(accessible_name);
        if (!field) return false;
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        return true;
    }

    Document document;
    MainWindow main;
};

}  // namespace driver
