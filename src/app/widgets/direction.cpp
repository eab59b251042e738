#include "app/widgets/direction.h"

namespace bevelsmith::app {

Vec3 direction(int choice) {
    return Vec3::Unit(choice / 2) * (choice % 2 == 0 ? 1.0 : -1.0);
}

int direction_choice(const Vec3& d) {
    for (int k = 0; k < 6; ++k)
        if ((direction(k) - d).norm() < 1e-6) return k;
    return 6;
}

QStringList direction_words(const Vec3& d) {
    QStringList words{"forward", "aft", "port", "starboard", "up", "down"};
    if (direction_choice(d) == 6) words << "aslant";
    return words;
}

}  // namespace bevelsmith::app
