#include "paper/fonts.h"

#include <QFontDatabase>
#include <QStringList>

// A resource in a static library is linked in only when it is named, and only outside of namespaces.
static void init_fonts() {
    Q_INIT_RESOURCE(fonts);
}

namespace bevelsmith::paper {

QString bundled_family() {
    static const QString family = [] {
        init_fonts();
        QFontDatabase::addApplicationFont(":/fonts/Inter-SemiBold.otf");
        const int id = QFontDatabase::addApplicationFont(":/fonts/Inter-Regular.otf");
        const auto families = QFontDatabase::applicationFontFamilies(id);
        return families.isEmpty() ? QString("sans-serif") : families.front();
    }();
    return family;
}

}  // namespace bevelsmith::paper
