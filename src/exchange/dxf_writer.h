// A drawing file in DXF, entity by entity, by dxflib.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "geometry/polygon.h"
#include "units/quantity.h"
#include "units/result.h"

namespace bevelsmith::exchange {

/// Writes beside the wanted file and puts it in its place when it is whole. Release 12, the form that cutters'
/// programs read; in inches for jobs in inches, else in millimetres, which its header says ($INSUNITS) and a line of
/// text. What is given here is always in millimetres. Runs of chords that lie on a circle are written as arcs.
class DxfWriter {
  public:
    struct Layer {
        const char* name;
        int colour;  ///< by the format's own numbers: 1 red, 3 green, 5 blue, 6 magenta, 7 black, 8 grey
    };
    /// Fails where the file cannot be made.
    static Result<std::unique_ptr<DxfWriter>> open(const std::string& path, const std::vector<Layer>& layers,
                                                   units::LengthUnit unit);
    virtual ~DxfWriter() = default;

    virtual void ring(const geometry::Ring& ring, const char* layer) = 0;
    virtual void line(const Vec2& a, const Vec2& b, const char* layer) = 0;
    virtual void circle(const Vec2& centre, double radius_mm, const char* layer) = 0;
    enum class Lies { left, middle };  ///< where its place is: at its left, or in its middle
    virtual void text(const Vec2& at, double height_mm, const std::string& words, Lies lies, const char* layer) = 0;
    /// The outline into one layer, its holes into another.
    void shape(const geometry::Polygon& shape, const char* outer, const char* inner) {
        ring(shape.outer, outer);
        for (const auto& hole : shape.holes) ring(hole, inner);
    }
    /// Only now is the file in its place. Fails, with the file before untouched, where that is not to be had.
    virtual Result<bool> finish() = 0;
};

}  // namespace bevelsmith::exchange
