// Renders the sample photos that ship with the program: make_photos FOLDER.
#include <QImage>
#include <cstdio>

#include "support/photo.h"

namespace {

bool write(const photos::Photo& photo, const QString& path) {
    const auto& grey = photo.image;
    QImage image(grey.width, grey.height, QImage::Format_RGB888);
    for (int y = 0; y < grey.height; ++y)
        for (int x = 0; x < grey.width; ++x) {
            // The warm light of a workshop.
            const int shade = grey.pixels[static_cast<std::size_t>(y * grey.width + x)];
            image.setPixel(x, y, qRgb(shade, shade * 94 / 100, shade * 82 / 100));
        }
    return image.save(path, "JPEG", 68);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc != 2) {
        std::fputs("usage: make_photos FOLDER\n", stderr);
        return 2;
    }
    const QString folder = argv[1];
    const photos::Template card;
    photos::Shot flat, aslant{28, 250};
    aslant.bow = 0.02;
    aslant.noise = 6;
    const bool done = write(photos::rendered(card, flat), folder + "/template-flat.jpg") &&
                      write(photos::rendered(card, aslant), folder + "/template-aslant.jpg");
    return done ? 0 : 1;
}
