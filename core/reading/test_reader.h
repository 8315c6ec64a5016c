// For tests: the reader as it is shipped, loaded once for a suite, with English.
#pragma once

#include <gtest/gtest.h>

#include <memory>
#include <string>

#include "reading/reader.h"

namespace fernleaf {

class WithReader : public testing::Test {
protected:
    static void SetUpTestSuite() {
        auto loaded = Reader::load(std::string(FERNLEAF_SOURCE_DIR) + "/models");
        ASSERT_TRUE(loaded) << loaded.error().message;
        reader_ = *std::move(loaded);
        ASSERT_TRUE(reader_->load_language("en"));
    }
    static void TearDownTestSuite() { reader_.reset(); }

    inline static std::unique_ptr<Reader> reader_;
};

}  // namespace fernleaf
