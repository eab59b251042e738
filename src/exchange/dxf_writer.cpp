#include "exchange/dxf_writer.h"

#include <dl_creationadapter.h>
#include <dl_dxf.h>

#include "exchange/plain_text.h"
#include "geometry/arcs.h"
#include "job/file_io.h"

namespace bevelsmith::exchange {
namespace {

class Dxflib : public DxfWriter {
  public:
    Dxflib(job::BesideFile beside, units::LengthUnit unit)
        : beside_(std::move(beside)), inches_(units::in_inches(unit)), one_mm_(inches_ ? 1 / units::mm_per_inch : 1) {
        out_.reset(dxf_.out(beside_.path().c_str(), DL_Codes::AC1009));
    }
    ~Dxflib() override {
        if (!finished_ && is_open()) out_->close();
    }
    bool is_open() const { return out_ && !out_->openFailed(); }

    void begin(const std::vector<Layer>& layers) {
        dxf_.writeHeader(*out_);
        constexpr int in_inches = 1, in_millimetres = 4;  // by the format's own numbers
        out_->dxfString(9, "$INSUNITS");
        out_->dxfInt(70, inches_ ? in_inches : in_millimetres);
        out_->sectionEnd();
        out_->sectionTables();
        out_->tableLinetypes(1);
        dxf_.writeLinetype(*out_, DL_LinetypeData("CONTINUOUS", "Continuous", 0, 0, 0.0));
        out_->tableEnd();
        out_->tableLayers(static_cast<int>(layers.size()) + 1);
        const auto add = [this](const char* name, int colour) {
            dxf_.writeLayer(*out_, DL_LayerData(name, 0), DL_Attributes("", colour, 0x000000, 100, "CONTINUOUS"));
        };
        add("0", DL_Codes::black);
        for (const Layer& layer : layers) add(layer.name, layer.colour);
        out_->tableEnd();
        out_->sectionEnd();
        out_->sectionEntities();
    }

    void ring(const geometry::Ring& ring, const char* layer) override {
        const auto corners = geometry::with_arcs(ring);
        dxf_.writePolyline(*out_, DL_PolylineData(static_cast<int>(corners.size()), 0, 0, 1), on(layer));
        for (const auto& c : corners)
            dxf_.writeVertex(*out_, DL_VertexData(own(c.at.x()), own(c.at.y()), 0.0, c.bulge));
        dxf_.writePolylineEnd(*out_);
    }
    void line(const Vec2& a, const Vec2& b, const char* layer) override {
        dxf_.writeLine(*out_, DL_LineData(own(a.x()), own(a.y()), 0, own(b.x()), own(b.y()), 0), on(layer));
    }
    void circle(const Vec2& centre, double radius_mm, const char* layer) override {
        dxf_.writeCircle(*out_, DL_CircleData(own(centre.x()), own(centre.y()), 0, own(radius_mm)), on(layer));
    }
    void text(const Vec2& at, double height_mm, const std::string& words, Lies lies, const char* layer) override {
        const int align = lies == Lies::middle ? 1 : 0;
        dxf_.writeText(*out_,
                       DL_TextData(own(at.x()), own(at.y()), 0, own(at.x()), own(at.y()), 0, own(height_mm), 1, 0,
                                   align, 0, without_controls(words), "STANDARD", 0),
                       on(layer));
    }

    Result<bool> finish() override {
        out_->sectionEnd();
        out_->dxfEOF();
        out_->close();
        finished_ = true;
        return beside_.put_in_place();
    }

  private:
    static DL_Attributes on(const char* layer) { return DL_Attributes(layer, 256, -1, "BYLAYER", 1.0); }
    double own(double mm) const { return mm * one_mm_; }
    job::BesideFile beside_;
    bool inches_;
    double one_mm_;  ///< in the file's unit
    DL_Dxf dxf_;
    std::unique_ptr<DL_WriterA> out_;
    bool finished_ = false;
};

}  // namespace

Result<std::unique_ptr<DxfWriter>> DxfWriter::open(const std::string& path, const std::vector<Layer>& layers,
                                                   units::LengthUnit unit) {
    auto beside = job::BesideFile::make(path);
    if (!beside) return beside.error();
    auto out = std::make_unique<Dxflib>(std::move(beside.value()), unit);
    if (!out->is_open()) return Error{"cannot be written: the folder is missing or closed to you"};
    out->begin(layers);
    return std::unique_ptr<DxfWriter>(std::move(out));
}

}  // namespace bevelsmith::exchange
