#include "paper/print_teller.h"

#include <cmath>
#include <fstream>

#include "paper/baseline.h"

namespace fernleaf {
namespace {

constexpr char kHeader[] = "fernleaf print 3";
constexpr double kColumnsPerRow = 2 * kColumnsPerStep;
constexpr int kMostUnits = 4096;
constexpr int kRounds = 30;
constexpr double kDoubt = 4;     // words of each kind that every page is taken to have besides its own
constexpr double kMostOdds = 4;  // a single word's voice is no louder

bool read_row(std::ifstream& in, cv::Mat row) {
    for (int i = 0; i < row.cols; ++i)
        if (!(in >> row.at<float>(i))) return false;
    return true;
}

}  // namespace

Result<PrintTeller> PrintTeller::load(const std::filesystem::path& models) {
    const Error damaged{"The data that tells print from writing (" + (models / "print.head").string() +
                        ") is missing or damaged."};
    std::ifstream in(models / "print.head");
    std::string header;
    int units = 0, channels = 0;
    if (!std::getline(in, header) || header != kHeader || !(in >> units >> channels) || units < 1 ||
        units > kMostUnits || channels < 1 || channels > kMostUnits)
        return damaged;
    cv::Mat hidden(units, channels + 1, CV_32F), last(1, 2 * units + 1, CV_32F), offsets(1, kOffsetBins, CV_32F);
    for (int i = 0; i < units; ++i)
        if (!read_row(in, hidden.row(i))) return damaged;
    if (!read_row(in, last) || !read_row(in, offsets)) return damaged;
    return PrintTeller(hidden, last, offsets);
}

double PrintTeller::printed(const cv::Mat& rows, const std::vector<double>& offsets) const {
    double sum = last_.at<float>(last_.cols - 1);
    for (const double offset : offsets) sum += offsets_.at<float>(offset_bin(offset));
    if (rows.cols + 1 != hidden_.cols) return sum;
    cv::Mat seen = rows * hidden_.colRange(0, rows.cols).t();  // a row a column of the line
    for (int unit = 0; unit < hidden_.rows; ++unit) {
        cv::Mat column = seen.col(unit);
        column += hidden_.at<float>(unit, rows.cols);
        column.setTo(0, column < 0);
        cv::Scalar mean, deviation;
        cv::meanStdDev(column, mean, deviation);
        sum += static_cast<double>(last_.at<float>(unit)) * mean[0] +
               static_cast<double>(last_.at<float>(hidden_.rows + unit)) * deviation[0];
    }
    return sum;
}

int offset_bin(double offset) {
    const double part = std::sqrt(std::min(1.0, std::abs(offset) / kMostOffset));
    return std::min(kOffsetBins - 1, static_cast<int>(kOffsetBins * part));
}

cv::Mat word_rows(const cv::Mat& features, const WordReading& word) {
    if (features.empty()) return {};
    const int begin = std::clamp(static_cast<int>(word.begin / kColumnsPerRow), 0, features.rows - 1);
    const int end = std::clamp(static_cast<int>(std::ceil(word.end / kColumnsPerRow)), begin + 1, features.rows);
    return features.rowRange(begin, end);
}

double page_prior(const std::vector<double>& odds) {
    double prior = 0;
    for (int round = 0; round < kRounds; ++round) {
        double printed = kDoubt;
        for (const double o : odds) printed += 1 / (1 + std::exp(-std::clamp(o, -kMostOdds, kMostOdds) - prior));
        prior = std::log(printed / (static_cast<double>(odds.size()) + 2 * kDoubt - printed));
        prior = std::clamp(prior, -kMostPrior, kMostPrior);
    }
    return prior;
}

}  // namespace fernleaf
