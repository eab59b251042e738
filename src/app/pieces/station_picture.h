// A piece's face A with the stations numbered at which its lines are set out at the boat.
#pragma once

#include <optional>

#include "app/pieces/piece_picture.h"
#include "piece/at_boat.h"

namespace bevelsmith::app {

class StationPicture : public PiecePicture {
    Q_OBJECT
  public:
    explicit StationPicture(Document& document) : PiecePicture(document, "the piece and its stations", 200) {}
    void show_stations(std::optional<piece::AtBoat> at) {
        at_ = std::move(at);
        content_changed();
    }

  protected:
    void draw(Pencil& pencil) override;

  private:
    std::optional<piece::AtBoat> at_;
};

}  // namespace bevelsmith::app
