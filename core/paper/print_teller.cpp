#include "paper/print_teller.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fstream>

namespace fernleaf {
namespace {

constexpr char kHeader[] = "fernleaf print 4";
constexpr double kColumnsPerRow = 2 * kColumnsPerStep;
constexpr int kMostUnits = 4096;
constexpr std::array<double, kOffsetClasses - 1> kUncertain{0.004, 0.012, 0.03};  // between the classes
constexpr double kEnoughPieces = 12;
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
    Weights weights{cv::Mat(units, channels + 1, CV_32F), cv::Mat(1, 2 * units + 1, CV_32F),
                    cv::Mat(kOffsetClasses, kOffsetBins, CV_32F)};
    for (cv::Mat* rows : {&weights.hidden, &weights.last, &weights.offsets})
        for (int i = 0; i < rows->rows; ++i)
            if (!read_row(in, rows->row(i))) return damaged;
    if (!(in >> weights.steadiness)) return damaged;
    return PrintTeller(std::move(weights));
}

double PrintTeller::printed(const cv::Mat& rows, const std::vector<BaselineOffset>& offsets) const {
    const auto& [hidden, last, said, steadiness] = weights_;
    double sum = last.at<float>(last.cols - 1);
    if (rows.cols + 1 == hidden.cols) {
        cv::Mat seen = rows * hidden.colRange(0, rows.cols).t();  // a row a column of the line
        for (int unit = 0; unit < hidden.rows; ++unit) {
            cv::Mat column = seen.col(unit);
            column += hidden.at<float>(unit, rows.cols);
            column.setTo(0, column < 0);
            cv::Scalar mean, deviation;
            cv::meanStdDev(column, mean, deviation);
            sum += static_cast<double>(last.at<float>(unit)) * mean[0] +
                   static_cast<double>(last.at<float>(hidden.rows + unit)) * deviation[0];
        }
    }
    // A hand unlike all that it has learnt from misleads the network in every word: it is never quite certain.
    sum = std::clamp(sum, -kMostOdds, kMostOdds);
    if (offsets.empty()) return sum;
    // Pieces of one line mislead together, too.
    double steady = 0;
    for (const BaselineOffset& offset : offsets) steady += said.at<float>(place_of(offset));
    const auto count = static_cast<double>(offsets.size());
    return sum + steadiness * steady / std::max(kEnoughPieces, count);
}

cv::Point place_of(const BaselineOffset& offset) {
    const double part = std::sqrt(std::min(1.0, std::abs(offset.offset) / kMostOffset));
    const auto uncertain = std::ranges::upper_bound(kUncertain, offset.uncertainty);
    return {std::min(kOffsetBins - 1, static_cast<int>(kOffsetBins * part)),
            static_cast<int>(uncertain - kUncertain.begin())};
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
