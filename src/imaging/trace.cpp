#include "imaging/trace.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <optional>

namespace bevelsmith::imaging {
namespace {

/// Without a copy: OpenCV reads from the picture's own pixels.
cv::Mat view_of(const GreyImage& image) {
    return {image.height, image.width, CV_8UC1, const_cast<std::uint8_t*>(image.pixels.data())};
}

double shade(const cv::Mat& image, const Vec2& at) {
    const double x = std::clamp(at.x(), 0.0, image.cols - 1.001), y = std::clamp(at.y(), 0.0, image.rows - 1.001);
    const int i = static_cast<int>(x), j = static_cast<int>(y);
    const double u = x - i, v = y - j;
    const auto p = [&](int row, int column) { return static_cast<double>(image.at<std::uint8_t>(row, column)); };
    return (1 - v) * ((1 - u) * p(j, i) + u * p(j, i + 1)) + v * ((1 - u) * p(j + 1, i) + u * p(j + 1, i + 1));
}

bool inside(const GreyImage& image, const Vec2& p, double margin) {
    return p.x() >= margin && p.y() >= margin && p.x() <= image.width - 1 - margin &&
           p.y() <= image.height - 1 - margin;
}

/// White where the template is: marks, writing and shadows on it filled up.
cv::Mat template_mask(const cv::Mat& blurred, const std::array<Vec2, 4>& marks) {
    cv::Mat light;
    cv::threshold(blurred, light, 0, 255, cv::THRESH_BINARY | cv::THRESH_OTSU);
    // The template is what most of the ground between the marks is made of.
    int votes = 0, all = 0;
    for (int i = 1; i < 10; ++i)
        for (int j = 1; j < 10; ++j) {
            const double u = i / 10.0, v = j / 10.0;
            const Vec2 p = (1 - v) * ((1 - u) * marks[0] + u * marks[1]) + v * ((1 - u) * marks[3] + u * marks[2]);
            votes += light.at<std::uint8_t>(static_cast<int>(p.y()), static_cast<int>(p.x())) > 0 ? 1 : 0;
            ++all;
        }
    if (2 * votes < all) cv::bitwise_not(light, light);
    cv::morphologyEx(light, light, cv::MORPH_CLOSE, cv::getStructuringElement(cv::MORPH_ELLIPSE, {5, 5}));
    return light;
}

/// The longest outline that holds the marks' middle.
std::optional<std::vector<cv::Point>> outline_around(const cv::Mat& mask, const std::array<Vec2, 4>& marks) {
    std::vector<std::vector<cv::Point>> outlines;
    cv::findContours(mask.clone(), outlines, cv::RETR_EXTERNAL, cv::CHAIN_APPROX_NONE);
    const Vec2 middle = (marks[0] + marks[1] + marks[2] + marks[3]) / 4;
    const cv::Point2f at(static_cast<float>(middle.x()), static_cast<float>(middle.y()));
    const std::vector<cv::Point>* best = nullptr;
    for (const auto& outline : outlines)
        if (cv::pointPolygonTest(outline, at, false) > 0 && (!best || outline.size() > best->size())) best = &outline;
    if (!best) return std::nullopt;
    return *best;
}

/// Moves a place across the edge to where the shade is halfway between its two sides.
bool settle_on_edge(const cv::Mat& image, Vec2& at, const Vec2& across, const TraceOptions& options) {
    constexpr double fine = 0.25;
    const int steps = static_cast<int>(options.reach_px / fine);
    std::vector<double> shades;
    for (int k = -steps; k <= steps; ++k) shades.push_back(shade(image, at + k * fine * across));
    const auto mean = [&](std::size_t from) {
        double sum = 0;
        for (std::size_t k = from; k < from + 8; ++k) sum += shades[k];
        return sum / 8;
    };
    const double low = mean(0), high = mean(shades.size() - 8), half = (low + high) / 2;
    if (std::abs(high - low) < options.least_contrast) return false;
    // Of several crossings the one nearest to the outline found.
    double best = 1e9;
    for (std::size_t k = 0; k + 1 < shades.size(); ++k) {
        if ((shades[k] - half) * (shades[k + 1] - half) > 0 || shades[k] == shades[k + 1]) continue;
        const double place =
            (static_cast<double>(k) + (half - shades[k]) / (shades[k + 1] - shades[k]) - steps) * fine;
        if (std::abs(place) < std::abs(best)) best = place;
    }
    if (best > 1e8) return false;
    at += best * across;
    return true;
}

}  // namespace

Vec2 settled_mark(const GreyImage& image, const Vec2& pointed, double reach_px) {
    const cv::Mat all = view_of(image);
    const int reach = static_cast<int>(std::ceil(reach_px));
    const cv::Rect window =
        cv::Rect(static_cast<int>(std::round(pointed.x())) - reach, static_cast<int>(std::round(pointed.y())) - reach,
                 2 * reach + 1, 2 * reach + 1) &
        cv::Rect(0, 0, image.width, image.height);
    if (window.area() < 9) return pointed;
    cv::Mat patch;
    cv::GaussianBlur(all(window), patch, {3, 3}, 0);
    // The ground is what the window's rim shows.
    std::vector<double> rim;
    for (int j = 0; j < patch.rows; ++j)
        for (int i = 0; i < patch.cols; ++i)
            if (i == 0 || j == 0 || i == patch.cols - 1 || j == patch.rows - 1)
                rim.push_back(patch.at<std::uint8_t>(j, i));
    std::nth_element(rim.begin(), rim.begin() + static_cast<std::ptrdiff_t>(rim.size() / 2), rim.end());
    const double ground = rim[rim.size() / 2];
    double least = 0, most = 0;
    cv::minMaxLoc(patch, &least, &most);
    const bool dark = ground - least > most - ground;
    const double contrast = dark ? ground - least : most - ground;
    if (contrast < 12) return pointed;
    Vec2 sum = Vec2::Zero();
    double weight = 0;
    for (int j = 0; j < patch.rows; ++j)
        for (int i = 0; i < patch.cols; ++i) {
            const double off = (dark ? 1 : -1) * (ground - patch.at<std::uint8_t>(j, i)) - 0.3 * contrast;
            if (off <= 0) continue;
            sum += off * Vec2(window.x + i, window.y + j);
            weight += off;
        }
    return weight > 0 ? Vec2(sum / weight) : pointed;
}

Result<std::vector<TracedPoint>> trace_template(const GreyImage& image, const Rectifier& rectifier,
                                                const std::array<Vec2, 4>& marks, const TraceOptions& options) {
    if (image.empty()) return Error{"there is no photo"};
    for (const Vec2& mark : marks)
        if (!inside(image, mark, 0)) return Error{"a mark lies outside the photo"};
    cv::Mat blurred;
    cv::GaussianBlur(view_of(image), blurred, {5, 5}, 1.0);
    const auto outline = outline_around(template_mask(blurred, marks), marks);
    if (!outline)
        return Error{"no outline stands out around the marks: photograph the template on a ground of another shade"};
    std::vector<TracedPoint> out;
    const auto n = static_cast<int>(outline->size());
    constexpr int beside = 6;
    const auto pixel = [&](int k) {
        const cv::Point& p = (*outline)[static_cast<std::size_t>(((k % n) + n) % n)];
        return Vec2(p.x, p.y);
    };
    int at_rim = 0;
    double walked = options.step_mm;
    for (int k = 0; k < n; ++k) {
        if (k > 0) walked += (rectifier.to_face(pixel(k)) - rectifier.to_face(pixel(k - 1))).norm();
        if (walked < options.step_mm) continue;
        walked = 0;
        Vec2 at = pixel(k);
        if (!inside(image, at, 2)) {
            ++at_rim;
            continue;
        }
        const Vec2 along = (pixel(k + beside) - pixel(k - beside)).normalized();
        TracedPoint point;
        point.sure = along.allFinite() && settle_on_edge(blurred, at, {along.y(), -along.x()}, options);
        point.pixel = at;
        point.face = rectifier.to_face(at);
        point.sigma_mm = rectifier.sigma_mm(at, options.edge_px, options.mark_px) * (point.sure ? 1 : 5);
        out.push_back(point);
    }
    if (at_rim > 3) return Error{"the template runs out of the picture: step back and photograph all of it"};
    if (out.size() < 8) return Error{"the outline found is shorter than eight points: point at the marks again"};
    double area = 0;
    for (std::size_t k = 0; k < out.size(); ++k) {
        const Vec2 &a = out[k].face, &b = out[(k + 1) % out.size()].face;
        area += a.x() * b.y() - a.y() * b.x();
    }
    if (area < 0) std::reverse(out.begin(), out.end());
    return out;
}

TracedPoint point_by_hand(const Rectifier& rectifier, const Vec2& pixel, const TraceOptions& options) {
    // A hand points to about a pixel.
    return {pixel, rectifier.to_face(pixel), rectifier.sigma_mm(pixel, 1.0, options.mark_px), true};
}

}  // namespace bevelsmith::imaging
