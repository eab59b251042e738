// Drives the real window as a person would: waits, finds widgets by their accessible names, clicks, types.
#pragma once

#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QLabel>
#include <QPushButton>
#include <QTemporaryDir>
#include <QTest>
#include <functional>
#include <memory>

#include "app/setup.h"
#include "app/shell/main_window.h"

namespace driver {

using namespace bevelsmith;
using namespace bevelsmith::app;

/// The one QApplication of a test program, made when it is first needed.
inline QApplication& application() {
    static int argc = 1;
    static char name[] = "window_tests";
    static char* argv[] = {name, nullptr};
    // Left alive at the end: Qt's own statics must not outlive it.
    static QApplication* the_application = [] {
        // Unsaved work of tests is kept in a folder of their own.
        static QTemporaryDir state;
        if (!qEnvironmentVariableIsSet("BEVELSMITH_DRIVEN")) {
            qputenv("XDG_STATE_HOME", state.path().toUtf8());
            qputenv("XDG_CONFIG_HOME", state.filePath("config").toUtf8());
        }
        auto* made = new Application(argc, argv);
        set_up(*made);
        return made;
    }();
    return *the_application;
}

/// Under sanitizers everything takes ten to twenty times as long.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
inline constexpr int patience_ms = 400'000;
#else
inline constexpr int patience_ms = 20'000;
#endif

/// What was computed for an earlier window of this process is kept for the next: most show the same few jobs. Two
/// windows at once have one each.
inline std::shared_ptr<job::Pipeline> kept_pipeline() {
    static const auto kept = std::make_shared<job::Pipeline>();
    return kept.use_count() > 1 ? nullptr : kept;
}

/// A window with a document of its own, shown and active.
class Window {
  public:
    Window() {
        main.show();
        (void)QTest::qWaitForWindowExposed(&main, 5000);
        main.activateWindow();
        (void)QTest::qWaitForWindowActive(&main, 2000);
    }
    /// Until everything is computed from the job as it is.
    bool settle(int milliseconds = patience_ms) {
        return QTest::qWaitFor([this] { return !document.computing(); }, milliseconds) && (QTest::qWait(1), true);
    }
    /// The visible widget with this accessible name; null when there is none.
    template <class T = QWidget>
    T* named(const QString& name) const {
        QApplication::processEvents();  // what was just built is shown by the event loop
        for (T* w : main.findChildren<T*>())
            if (w->isVisible() && w->accessibleName() == name) return w;
        return nullptr;
    }
    /// The visible button with this text.
    QPushButton* button(const QString& text) const {
        QApplication::processEvents();
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

    /// What stands to be read on the side panel.
    QString panel_words() const {
        QString out;
        for (auto* label : main.side_panel()->findChildren<QLabel*>())
            if (label->isVisible()) out += label->text() + "\n";
        return out;
    }
    /// Goes to a choice by its arrow keys; a choice may build its form anew, so it is looked up at each step.
    bool choose(const QString& label, int index) const {
        for (int step = 0; step < 40; ++step) {
            auto* box = named<QComboBox>(label);
            if (!box) return false;
            if (box->currentIndex() == index) return true;
            box->setFocus();
            QTest::keyClick(box, box->currentIndex() < index ? Qt::Key_Down : Qt::Key_Up);
        }
        return false;
    }

    /// Goes to the last choice that begins so.
    bool choose_starting(const QString& label, const QString& start) const {
        auto* box = named<QComboBox>(label);
        int at = -1;
        for (int k = 0; box && k < box->count(); ++k)
            if (box->itemText(k).startsWith(start)) at = k;
        return at >= 0 && choose(label, at);
    }

    QWidget* step_drawing(StepId id) const { return main.step_of(id)->drawing(); }

  private:
    QApplication& application_ = application();

  public:
    Document document{nullptr, kept_pipeline()};
    MainWindow main{document};
};

}  // namespace driver
