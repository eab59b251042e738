// The piece that is offered up: its edge with numbered stations, what was seen at them, what is to come off.
#pragma once

#include <optional>
#include <vector>

#include "app/pieces/piece_picture.h"
#include "piece/fitting.h"

namespace bevelsmith::app {

class FittingPicture : public PiecePicture {
    Q_OBJECT
  public:
    explicit FittingPicture(Document& document);

    struct Shown {
        int edge = 0;          ///< whose stations are numbered
        double next_mm = 0;    ///< where the next reading is taken
        double step_mm = 100;  ///< between stations
        std::vector<piece::FitReading> readings;
        std::vector<piece::Shaving> guide;  ///< once it was offered up
    };
    void show_fitting(Shown shown);

  signals:
    /// A press near the edge: so far along it.
    void pointed(int edge, double along_mm);

  protected:
    void draw(Pencil& pencil) override;
    bool press(const Vec2& mm) override;

  private:
    std::optional<Vec2> on_edge(int edge, double along_mm) const;
    void draw_stations(Pencil& pencil) const;
    void draw_readings(Pencil& pencil) const;
    void draw_guide(Pencil& pencil) const;

    Shown shown_;
};

}  // namespace bevelsmith::app
