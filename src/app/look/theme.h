// How the program looks: one set of tokens for colours, sizes and spacing, by day and by night.
#pragma once

#include <QColor>
#include <QFont>
#include <QObject>
#include <QString>

#include "review/review.h"

namespace bevelsmith::app {

/// Colours of one look. All text colours reach 4.5:1 on `ground` and `paper`.
struct Colours {
    QColor ground;      ///< columns, bands
    QColor paper;       ///< the stage's drawing ground
    QColor field;       ///< where something can be typed
    QColor ink, faint;  ///< text and lines; what matters less
    QColor line;        ///< hairlines between places
    QColor accent;      ///< what can be acted on
    QColor accent_ink;  ///< text on accent
    QColor certain;     ///< geometry that is known
    QColor wood;        ///< fill of pieces
    QColor halo;        ///< the 95 % band
    QColor note, mind, stop;
};

/// Sizes (px): a 4 px grid.
namespace size {
inline constexpr int unit = 4, gap = 8, pad = 12, radius = 6;
inline constexpr int band = 52, pieces = 228, facts = 300, ribbon = 116;
inline constexpr int text_small = 11, text = 13, text_large = 21;
}  // namespace size

/// The look in use; changing it repaints everything.
class Theme : public QObject {
    Q_OBJECT
  public:
    explicit Theme(QObject* parent = nullptr);

    const Colours& colours() const;
    bool night() const { return night_; }
    void set_night(bool night);
    /// Puts the style sheet on, once the first window is built: widgets put together under one are styled anew with
    /// every parent they get.
    void dress();

    /// The bundled typeface at one of the three sizes.
    static QFont font(int pixels, bool strong = false);
    QColor severity(review::Severity s) const;

  signals:
    void changed();

  private:
    void apply() const;
    bool night_ = false, dressed_ = false;
};

/// The one theme of the running program.
Theme& theme();

}  // namespace bevelsmith::app
