// What a person has in hand in the cuts, and how it is moved: dragged, nudged by keys, or put by a typed figure.
#pragma once

#include <QString>
#include <optional>
#include <string>

#include "app/document/document.h"
#include "geometry/vec.h"
#include "job/unit_numbers.h"

namespace bevelsmith::app {

class BoatHand {
  public:
    /// How finely a drag goes.
    struct Grain {
        double step_mm = 5;   ///< places are whole multiples of it
        double reach_mm = 0;  ///< faces of other pieces as near as this are gone to
    };
    /// A length that can be typed for what is in hand.
    struct Figure {
        QString words;  ///< "the front, from the centre line"
        double value_mm = 0;
        units::Way way = units::Way::none;
    };

    explicit BoatHand(Document& document) : document_(document) {}

    /// Takes hold, as it is seen in the direction `look`; nothing is in hand where it cannot be moved in that view.
    void take_piece(const std::string& id, const Vec3& look);
    void take_obstacle(const std::string& id);
    void let_go();
    bool empty() const { return kind_ == Kind::nothing; }
    const std::string& obstacle() const { return obstacle_; }

    /// Pulled on by so much of the boat, from where it was pulled to before.
    void pull(const Vec3& by, const Grain& grain);
    /// Moved exactly by so much. False where it does not go that way.
    bool nudge(const Vec3& by);
    std::optional<Figure> figure() const;
    /// Put where the figure says.
    void put(double value_mm);
    bool has_moved() const { return moved_any_; }
    /// Where it is now, and what it is flush with.
    const QString& words() const { return words_; }

  private:
    enum class Kind { nothing, number, plane, whole };
    struct Snap {
        double at_mm = 0;
        QString words;
    };

    void begin(Kind kind);
    /// Its place along `way_`, counted as the figure is.
    double place_now() const;
    void place_at(double at_mm, const QString& words);
    void move_whole(const Vec3& to);
    Snap snapped(double value, const Grain& grain) const;
    QString told(double at_mm) const;
    QString key() const;

    Document& document_;
    Kind kind_ = Kind::nothing;
    job::UnitNumber number_;
    std::string piece_, obstacle_;
    Vec3 way_ = Vec3::UnitX();    ///< along which a number or a plane goes
    double base_mm_ = 0;          ///< of a number
    double pulled_mm_ = 0;        ///< where a drag has it, before it goes to whole steps
    Vec3 pulled_ = Vec3::Zero();  ///< the same of what is moved as a whole, from where it was
    Vec3 moved_ = Vec3::Zero();   ///< where that stands, from where it was
    bool moved_any_ = false;
    int taken_ = 0;  ///< one step of undo for each time that something is taken hold of
    QString words_;
};

}  // namespace bevelsmith::app
