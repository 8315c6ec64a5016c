#include "demo/sheet_mesh.h"

#include <array>
#include <opencv2/imgproc.hpp>

namespace fernleaf {
namespace {

constexpr int kMesh = 48;  // cells across and down a sheet

}  // namespace

void map_sheet(cv::Size sheet, const SeenAt& seen_at, cv::Mat& map_x, cv::Mat& map_y) {
    for (int row = 0; row < kMesh; ++row)
        for (int column = 0; column < kMesh; ++column) {
            std::array<cv::Point2f, 4> seen, on;
            const int steps[4][2] = {{0, 0}, {1, 0}, {1, 1}, {0, 1}};
            for (size_t k = 0; k < 4; ++k) {
                const double u = static_cast<double>(column + steps[k][0]) / kMesh,
                             v = static_cast<double>(row + steps[k][1]) / kMesh;
                const Point p = seen_at(u, v);
                seen[k] = {static_cast<float>(p.x), static_cast<float>(p.y)};
                on[k] = {static_cast<float>(u * sheet.width), static_cast<float>(v * sheet.height)};
            }
            const cv::Rect box = cv::boundingRect(std::vector<cv::Point2f>(seen.begin(), seen.end())) &
                                 cv::Rect(0, 0, map_x.cols, map_x.rows);
            if (box.empty()) continue;
            const cv::Matx33d back = cv::getPerspectiveTransform(seen.data(), on.data());
            const double left = on[0].x, top = on[0].y, right = on[2].x, bottom = on[2].y;
            for (int y = box.y; y < box.br().y; ++y)
                for (int x = box.x; x < box.br().x; ++x) {
                    const cv::Vec3d p = back * cv::Vec3d(x, y, 1);
                    const double u = p[0] / p[2], v = p[1] / p[2];
                    if (u < left - 0.01 || u > right + 0.01 || v < top - 0.01 || v > bottom + 0.01) continue;
                    map_x.at<float>(y, x) = static_cast<float>(u - 0.5);
                    map_y.at<float>(y, x) = static_cast<float>(v - 0.5);
                }
        }
}

std::vector<Point> outline_seen(const SeenAt& seen_at) {
    std::vector<Point> out;
    for (int side = 0; side < 4; ++side)
        for (int i = 0; i < kMesh; ++i) {
            const double t = static_cast<double>(i) / kMesh;
            out.push_back(side == 0   ? seen_at(t, 0)
                          : side == 1 ? seen_at(1, t)
                          : side == 2 ? seen_at(1 - t, 1)
                                      : seen_at(0, 1 - t));
        }
    return out;
}

}  // namespace fernleaf
