// Collects the form fields of one piece, each wired to an undo step. For this folder alone.
#pragma once

#include <functional>
#include <utility>
#include <vector>

#include "app/document/document.h"
#include "app/widgets/form.h"
#include "app/widgets/step.h"
#include "units/ranges.h"

namespace bevelsmith::app {

class PieceFields {
  public:
    using Kind = FormField::Kind;
    PieceFields(Document& document, QString id) : document_(document), id_(std::move(id)) {}

    template <class Change>
    void add(Kind kind, const QString& label, const QVariant& value, const QString& what, Change change,
             QStringList choices = {}, double least = units::range::place.least,
             double most = units::range::place.most) {
        Document& document = document_;
        const QString id = id_;
        out.push_back({kind,
                       label,
                       value,
                       [&document, id, what, change](const QVariant& v) {
                           edit_piece(document, id, what, [&](job::JobPiece& p) { change(p, v); });
                       },
                       std::move(choices),
                       {},
                       least,
                       most});
    }
    /// Text that `read` turns into a value or says what is wrong with it; only a right one is taken.
    template <class Value, class Change>
    void add_text(const QString& label, const QString& shown, const QString& what,
                  const std::function<Result<Value>(const QString&)>& read, Change change) {
        add(Kind::text, label, shown, what, [read, change](job::JobPiece& p, const QVariant& v) {
            if (const auto value = read(v.toString())) change(p, *value);
        });
        out.back().check = [read](const QString& text) {
            const auto value = read(text);
            return value ? QString() : QString::fromStdString(value.error().message);
        };
    }
    /// One that changes more than the piece.
    void add_own(FormField field) { out.push_back(std::move(field)); }
    void heading(const QString& text) { out.push_back({Kind::heading, text, {}, {}, {}, {}}); }
    Document& document() const { return document_; }
    const QString& id() const { return id_; }

    std::vector<FormField> out;

  private:
    Document& document_;
    QString id_;
};

/// In edge_fields.cpp: what an edge meets and what is left for it; adding one.
void add_edge(PieceFields& f, const job::JobPiece& piece, std::size_t i);
void add_new_edges(PieceFields& f, const job::JobPiece& piece, const job::PieceResult* result, const job::Job& job);
/// The pins of a free line, one at a time; `line_of` finds it in the piece.
void add_pins(PieceFields& f, const std::vector<piece::FreePoint>& pins,
              const std::function<std::vector<piece::FreePoint>&(job::JobPiece&)>& line_of);

/// In feature_fields.cpp: what is cut into a piece; adding it.
void add_opening(PieceFields& f, const job::JobPiece& piece, std::size_t i);
void add_notch(PieceFields& f, const job::JobPiece& piece, std::size_t i);
void add_row(PieceFields& f, const job::JobPiece& piece, std::size_t i);
void add_crossing(PieceFields& f, const job::JobPiece& piece, std::size_t i, const job::Job& job);
void add_limber(PieceFields& f, const job::JobPiece& piece, std::size_t i);
void add_joint(PieceFields& f, const job::JobPiece& piece, std::size_t i, const job::Job& job);
/// In pattern_fields.cpp: patterns of holes.
void add_pattern(PieceFields& f, const job::JobPiece& piece, std::size_t i, const job::Job& job);
void add_new_pattern(PieceFields& f, const job::JobPiece& piece, const job::PieceResult* result, const job::Job& job);
/// In standing_fields.cpp: an upright face told from a mark; what becomes of it, how thick it was measured; plies and
/// coverings.
void add_from_mark(PieceFields& f, const job::JobPiece& piece, const job::Job& job);
QStringList role_choices();
void add_role(PieceFields& f, const job::JobPiece& piece, const job::Job& job);
void add_layup(PieceFields& f, const job::JobPiece& piece);
void add_new_features(PieceFields& f, const job::JobPiece& piece, const job::PieceResult* result);

}  // namespace bevelsmith::app
