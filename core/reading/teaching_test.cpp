#include "reading/teaching.h"

#include <gtest/gtest.h>

#include <unistd.h>

#include <fstream>
#include <opencv2/imgproc.hpp>

#include "reading/ctc.h"

namespace fernleaf {
namespace {

// A hand nobody has: upright letters of a stroke font turned upside down.
cv::Mat odd_line(const std::string& text) {
    cv::Mat picture = cv::Mat::zeros(40, 17 * static_cast<int>(text.size()) + 20, CV_8U);
    cv::putText(picture, text, {8, 28}, cv::FONT_HERSHEY_SIMPLEX, 0.7, 255, 2, cv::LINE_AA);
    cv::flip(picture, picture, 0);
    return picture;
}

std::vector<Example> odd_examples() {
    std::vector<Example> examples;
    for (const char* text : {"grafting trial of the pear", "frost in the low orchard", "a press full of apples",
                             "the pump ran all night", "seven trees on the hill", "walk to the far station",
                             "rain and wind from west", "cider in the third tank", "a gale broke two trees",
                             "the north wall is mended", "wasps in the press house", "early blossom on the slope"})
        examples.push_back({odd_line(text), text});
    return examples;
}

class Teaching : public testing::Test {
protected:
    static void SetUpTestSuite() {
        auto loaded = Network::load(std::string(FERNLEAF_SOURCE_DIR) + "/models");
        ASSERT_TRUE(loaded) << loaded.error().message;
        network_ = *std::move(loaded);
        auto lines = load_rehearsal(std::string(FERNLEAF_SOURCE_DIR) + "/models");
        ASSERT_TRUE(lines) << lines.error().message;
        rehearsal_ = *std::move(lines);
    }
    static void TearDownTestSuite() {
        network_.reset();
        rehearsal_.clear();
    }
    static std::unique_ptr<Network> network_;
    static std::vector<Example> rehearsal_;
};
std::unique_ptr<Network> Teaching::network_;
std::vector<Example> Teaching::rehearsal_;

TEST_F(Teaching, ReadsHeldBackLinesOfTheHandBetterAndOtherHandsStill) {
    std::vector<double> parts;
    const auto taught = teach(*network_, odd_examples(), rehearsal_, {}, [&](double part) { parts.push_back(part); });
    ASSERT_TRUE(taught) << taught.error().message;
    EXPECT_TRUE(taught->better());
    EXPECT_LT(taught->errors_after, 0.7 * taught->errors_before);
    EXPECT_TRUE(std::ranges::is_sorted(parts));
    EXPECT_NEAR(parts.back(), 1, 1e-9);

    const auto after = Network::make(with_head(*network_->weights(), taught->head));
    ASSERT_TRUE(after);
    const cv::Mat line = odd_line("pears on the north hill");
    EXPECT_GT(cv::norm((*after)->log_probabilities(line), network_->log_probabilities(line), cv::NORM_INF), 0.1);

    // Upright letters are still read.
    double before_loss = 0;
    double after_loss = 0;
    for (const char* text : {"pears on the north hill", "frost at six in the morning", "two tanks of cider"}) {
        cv::Mat upright;
        cv::flip(odd_line(text), upright, 0);
        std::vector<int> symbols;
        for (const char* c = text; *c; ++c)
            symbols.push_back(network_->alphabet().symbol(static_cast<unsigned char>(*c)));
        before_loss += ctc_loss(network_->log_probabilities(upright), symbols).loss;
        after_loss += ctc_loss((*after)->log_probabilities(upright), symbols).loss;
    }
    EXPECT_LT(after_loss, before_loss + 20);  // of 68 characters' logarithms: hardly any is lost
}

TEST_F(Teaching, DamagedLinesToRehearseAreRefused) {
    EXPECT_EQ(rehearsal_.size(), 96U);
    const auto folder = std::filesystem::temp_directory_path() / ("fernleaf-rehearsal-" + std::to_string(getpid()));
    std::filesystem::create_directories(folder);
    EXPECT_FALSE(load_rehearsal(folder));
    for (const char* bytes : {"", "something else", "fernleaf lines 1\n12 frost\nshort", "fernleaf lines 1\n-4 frost\n",
                              "fernleaf lines 1\n9999999 frost\n", "fernleaf lines 1\n12\n"}) {
        std::ofstream(folder / "rehearsal.gz") << bytes;
        EXPECT_EQ(load_rehearsal(folder) ? load_rehearsal(folder)->size() : 0U, 0U) << bytes;
    }
    std::filesystem::remove_all(folder);
}

TEST_F(Teaching, WrongTextsTeachNothing) {
    std::vector<Example> examples = odd_examples();
    for (size_t i = 0; i < examples.size(); ++i) {  // no two texts have anything to do with their pictures
        std::string& text = examples[i].text;
        for (size_t k = 0; k < text.size(); ++k) text[k] = static_cast<char>('a' + (7 * k * k + 3 * i + k) % 26);
    }
    const auto taught = teach(*network_, examples, rehearsal_);
    ASSERT_TRUE(taught);
    EXPECT_GT(taught->errors_after, 60);  // it may find out which letters are frequent, no more
}

TEST_F(Teaching, NeedsTenShortLines) {
    std::vector<Example> examples = odd_examples();
    examples.resize(9);
    EXPECT_FALSE(enough_to_teach(examples));
    EXPECT_FALSE(teach(*network_, examples, rehearsal_));
    for (Example& e : examples) e.text = "語";  // nothing the alphabet can spell
    examples.resize(40, examples.front());
    EXPECT_FALSE(teach(*network_, examples, rehearsal_));
}

TEST_F(Teaching, CanBeCancelled) {
    CancelSource cancel;
    const auto taught = teach(*network_, odd_examples(), rehearsal_, cancel.token(), [&](double) { cancel.cancel(); });
    ASSERT_FALSE(taught);
    EXPECT_NE(taught.error().message.find("cancelled"), std::string::npos);
}

TEST_F(Teaching, LearntHandsSurviveTheirFileAndDamageIsRefused) {
    const Weights& weights = *network_->weights();
    ReaderHead head{weights.layers.back().weights.clone(), weights.layers.back().bias.clone()};
    head.bias.at<float>(0, 3) = 1.5F;
    const std::string bytes = encode_head(head, weights);
    const auto back = decode_head(bytes, weights);
    ASSERT_TRUE(back) << back.error().message;
    EXPECT_EQ(back->bias.at<float>(0, 3), 1.5F);
    EXPECT_LT(cv::norm(back->weights, head.weights, cv::NORM_INF), 2e-3);

    EXPECT_FALSE(decode_head("", weights));
    EXPECT_FALSE(decode_head("a letter from a friend", weights));
    EXPECT_FALSE(decode_head(bytes.substr(0, bytes.size() - 1), weights));
    EXPECT_FALSE(decode_head(bytes + "x", weights));
    Weights other = weights;
    other.layers[2].weights = other.layers[2].weights * 1.01;
    const auto foreign = decode_head(bytes, other);
    ASSERT_FALSE(foreign);
    EXPECT_NE(foreign.error().message.find("another version"), std::string::npos);
}

}  // namespace
}  // namespace fernleaf
