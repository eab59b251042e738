#include "app/steps/set_fields.h"

#include <cmath>

#include "app/widgets/direction.h"

namespace bevelsmith::app {
namespace {

/// Turns one direction, and the other with it where the two would no longer be square.
FieldList::Set turn(const ChangeSet& change, Vec3 survey::ReadingSet::*one, Vec3 survey::ReadingSet::*other) {
    return [=](const QVariant& v) {
        if (v.toInt() >= 6) return;  // "aslant" is what it was
        change("Turn a set", [&](survey::ReadingSet& s) {
            s.*one = direction(v.toInt());
            if (std::abs((s.*one).dot(s.*other)) > 1e-9) s.*other = direction(v.toInt() < 4 ? 4 : 2);
        });
    };
}

}  // namespace

void add_set_fields(FieldList& fields, const survey::ReadingSet& set, const ChangeSet& change) {
    fields
        .text("name", set.name,
              [=](const QVariant& v) {
                  change("Rename a set", [&](survey::ReadingSet& s) { s.name = v.toString().toStdString(); });
              })
        .length(
            "one reading ±", set.sigma_mm,
            [=](const QVariant& v) {
                change("Change the readings' uncertainty", [&](survey::ReadingSet& s) { s.sigma_mm = v.toDouble(); });
            },
            0.01, 1000);
    if (set.school == survey::School::direct) return;
    const char* axes[] = {"fwd", "port", "up"};
    for (int k = 0; k < 3; ++k)
        fields.length(QString("zero at, %1").arg(axes[k]), set.origin[k], [=](const QVariant& v) {
            change("Move a set", [&](survey::ReadingSet& s) { s.origin[k] = v.toDouble(); });
        });
    const bool line = set.school == survey::School::ordinates;
    using S = survey::ReadingSet;
    fields
        .choice(line ? "line runs" : "across is", direction_choice(set.along), direction_words(set.along),
                turn(change, &S::along, &S::toward))
        .choice(line ? "measured to" : "up is", direction_choice(set.toward), direction_words(set.toward),
                turn(change, &S::toward, &S::along));
}

}  // namespace bevelsmith::app
