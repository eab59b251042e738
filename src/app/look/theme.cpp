#include "app/look/theme.h"

#include <QApplication>
#include <QPalette>
#include <QStyleFactory>
#include <QToolTip>

#include "paper/fonts.h"

namespace bevelsmith::app {
namespace {

const Colours day{QColor("#efe9dd"), QColor("#fbf8f1"), QColor("#fffdf8"),        QColor("#26221d"),
                  QColor("#6b6459"), QColor("#d5ccbb"), QColor("#96481c"),        QColor("#fffaf3"),
                  QColor("#2f546e"), QColor("#ead9bd"), QColor(70, 115, 145, 60), QColor("#2f546e"),
                  QColor("#7d5600"), QColor("#98282a")};
const Colours night{QColor("#20272b"), QColor("#171d20"), QColor("#2a3237"),         QColor("#e8e2d6"),
                    QColor("#a5aaa8"), QColor("#3b454b"), QColor("#e39a66"),         QColor("#20160f"),
                    QColor("#93bcd9"), QColor("#4a4234"), QColor(130, 175, 205, 60), QColor("#93bcd9"),
                    QColor("#e2b95b"), QColor("#f08f8a")};

const char* style_sheet = R"(
* { font-family: "$family"; font-size: $textpx; color: $ink; }
QWidget#ground, QMainWindow, QScrollArea#ground, QScrollArea#ground > QWidget > QWidget { background: $ground; }
QWidget#band { background: $ground; border-bottom: 1px solid $line; }
QWidget#ribbon { background: $ground; border-top: 1px solid $line; }
QWidget#pieces { background: $ground; border-right: 1px solid $line; }
QWidget#facts { background: $ground; border-left: 1px solid $line; }
QWidget#side { background: $ground; border-left: 1px solid $line; }
QWidget#card { background: $ground; border: 1px solid $line; border-radius: 6px; }
QWidget#notice { background: $wood; border: 1px solid $line; border-radius: 4px; }
QLabel { background: transparent; }
QLabel#title { font-size: $text_largepx; font-weight: 600; }
QLabel#heading { font-weight: 600; }
QLabel#small, QLabel#unit { color: $faint; font-size: $text_smallpx; }
QLabel#figure { font-size: $text_largepx; font-weight: 600; }
QLabel#fault { color: $stop; font-size: $text_smallpx; }
QLineEdit, QComboBox, QSpinBox { background: $field; border: 1px solid $line; border-radius: 4px; padding: 3px 6px;
  min-height: 20px; selection-background-color: $accent; selection-color: $accent_ink; }
QLineEdit#narrow { padding: 3px 2px; }
QLineEdit:focus, QComboBox:focus, QAbstractItemView:focus { border: 1px solid $accent; }
QLineEdit[wrong="true"] { border: 1px solid $stop; color: $stop; }
QComboBox::drop-down { border: 0; width: 18px; }
QComboBox::down-arrow { image: url(:/icons/chevron-$look.svg); width: 10px; height: 10px; }
QComboBox QAbstractItemView { background: $field; border: 1px solid $line; selection-background-color: $accent; selection-color: $accent_ink; outline: 0; }
QPushButton { background: transparent; border: 1px solid $line; border-radius: 6px; padding: 5px 12px; min-height: 18px; }
QPushButton:hover { border-color: $accent; color: $accent; }
QPushButton:focus { border-color: $accent; }
QPushButton:disabled { color: $faint; border-style: dashed; }
QPushButton#act { background: $accent; color: $accent_ink; border: 1px solid $accent; font-weight: 600; padding: 8px 12px; }
QPushButton#act:focus { border: 2px solid $ink; padding: 7px 11px; }
QPushButton#act:disabled { background: transparent; color: $faint; border: 1px dashed $line; }
QPushButton#quiet, QToolButton { background: transparent; border: 1px solid transparent; border-radius: 4px; padding: 2px 6px; color: $accent; }
QPushButton#quiet:hover, QToolButton:hover, QPushButton#quiet:focus, QToolButton:focus { border-color: $accent; }
QPushButton#quiet:checked { background: $paper; border-color: $line; }
QPushButton#quiet:disabled, QToolButton:disabled { color: $faint; }
QPushButton#card { border: 1px solid transparent; border-radius: 4px; padding: 2px 6px; min-height: 40px; }
QPushButton#card:hover, QPushButton#card:focus { border-color: $accent; }
QToolButton#choice { padding: 4px 2px; color: $ink; }
QToolButton#kind { padding: 3px 0; color: $ink; font-size: 11px; }
QToolButton#choice:checked, QToolButton#kind:checked { background: $paper; border-color: $accent; }
QToolButton::menu-indicator { image: none; }
QPushButton#step { border: 0; border-bottom: 3px solid transparent; border-radius: 0; padding: 5px 9px 3px 9px; color: $ink; text-align: center; }
QPushButton#step:hover { color: $accent; }
QPushButton#step:focus { color: $accent; border-bottom-color: $line; }
QPushButton#step:checked { border-bottom: 3px solid $accent; font-weight: 600; }
QCheckBox { background: transparent; spacing: 8px; }
QCheckBox:focus { color: $accent; }
QCheckBox::indicator { width: 14px; height: 14px; border: 1px solid $faint; border-radius: 3px; background: $field; }
QCheckBox::indicator:checked { background: $accent; border-color: $accent; image: url(:/icons/tick-$look.svg); }
QTableView, QListView { background: $field; border: 1px solid $line; border-radius: 4px; gridline-color: transparent; outline: 0;
  alternate-background-color: $paper; selection-background-color: $accent; selection-color: $accent_ink; }
QListView#rows { background: transparent; border: 0; }
QHeaderView { background: transparent; }
QTableCornerButton::section { background: transparent; border: 0; }
QHeaderView::section:vertical { border: 0; }
QHeaderView::section { background: transparent; border: 0; border-bottom: 1px solid $line; color: $faint; font-size: $text_smallpx; padding: 3px 6px; }
QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
QScrollBar::handle { background: $line; border-radius: 4px; min-height: 24px; min-width: 24px; margin: 1px; }
QScrollBar::handle:hover { background: $faint; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QMenu { background: $field; border: 1px solid $line; padding: 4px; }
QMenu::item { padding: 5px 20px 5px 12px; border-radius: 4px; background: transparent; }
QMenu::item:selected { background: $accent; color: $accent_ink; }
QMenu::separator { height: 1px; background: $line; margin: 4px 8px; }
QProgressBar { background: $field; border: 1px solid $line; border-radius: 4px; height: 8px; text-align: center; }
QProgressBar::chunk { background: $accent; border-radius: 3px; }
QSplitter::handle { background: $line; }
QSlider::groove:horizontal { height: 2px; background: $line; }
QSlider::handle:horizontal { width: 12px; margin: -6px 0; border-radius: 6px; background: $accent; }
QToolTip { background: $field; color: $ink; border: 1px solid $line; padding: 4px; }
)";

QString sheet_for(const Colours& c, bool is_night) {
    // Longer names first, so that $text does not eat $text_large.
    const std::pair<const char*, QString> tokens[] = {{"$text_small", QString::number(size::text_small)},
                                                      {"$text_large", QString::number(size::text_large)},
                                                      {"$text", QString::number(size::text)},
                                                      {"$family", paper::bundled_family()},
                                                      {"$ground", c.ground.name()},
                                                      {"$paper", c.paper.name()},
                                                      {"$field", c.field.name()},
                                                      {"$ink", c.ink.name()},
                                                      {"$faint", c.faint.name()},
                                                      {"$line", c.line.name()},
                                                      {"$look", is_night ? "night" : "day"},
                                                      {"$accent_ink", c.accent_ink.name()},
                                                      {"$accent", c.accent.name()},
                                                      {"$wood", c.wood.name()},
                                                      {"$stop", c.stop.name()}};
    QString out = style_sheet;
    for (const auto& [token, value] : tokens) out.replace(token, value);
    return out;
}

}  // namespace

Theme::Theme(QObject* parent) : QObject(parent) {}

const Colours& Theme::colours() const {
    return night_ ? app::night : day;
}

void Theme::set_night(bool night) {
    night_ = night;
    apply();
    emit changed();
}

void Theme::dress() {
    if (dressed_) return;
    dressed_ = true;
    apply();
}

QFont Theme::font(int pixels, bool strong) {
    QFont out(paper::bundled_family());
    out.setPixelSize(pixels);
    out.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    return out;
}

QColor Theme::severity(review::Severity s) const {
    return s == review::Severity::stop   ? colours().stop
           : s == review::Severity::mind ? colours().mind
                                         : colours().note;
}

void Theme::apply() const {
    const Colours& c = colours();
    QPalette p;
    p.setColor(QPalette::Window, c.ground);
    p.setColor(QPalette::Base, c.field);
    p.setColor(QPalette::Text, c.ink);
    p.setColor(QPalette::WindowText, c.ink);
    p.setColor(QPalette::ButtonText, c.ink);
    p.setColor(QPalette::Button, c.ground);
    p.setColor(QPalette::Highlight, c.accent);
    p.setColor(QPalette::HighlightedText, c.accent_ink);
    p.setColor(QPalette::PlaceholderText, c.faint);
    QApplication::setPalette(p);
    QToolTip::setPalette(p);
    if (dressed_) qApp->setStyleSheet(sheet_for(c, night_));
}

Theme& theme() {
    static Theme the_theme;
    return the_theme;
}

}  // namespace bevelsmith::app
