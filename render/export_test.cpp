#include "render/export.h"

#include <gtest/gtest.h>

#include <fstream>
#include <iterator>

#include "exchange/inkml.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

std::string contents(const std::filesystem::path& path) {
    std::ifstream in(path, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}

TEST(Export, TheEndingChoosesTheFormat) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit edit{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library->commit(page, edit));
    ASSERT_TRUE(library->save_reading(page, test_reading({{"late", "lote"}, {"frost", "first"}})));
    const auto to = [&](const char* name) { return library.directory / name; };
    for (const char* name : {"a.pdf", "a.txt", "a.inkml"})
        ASSERT_TRUE(export_pages(*library.library, {page, page}, to(name))) << name;
    EXPECT_TRUE(contents(to("a.pdf")).starts_with("%PDF-"));
    EXPECT_EQ(contents(to("a.txt")), "late frost\n\flate frost\n");
    EXPECT_EQ(read_inkml(contents(to("a.inkml")))->size(), 2U);
}

TEST(Export, OtherEndingsNoPagesAndCancellingWriteNothing) {
    TemporaryLibrary library;
    const PageId page = library.page();
    EXPECT_FALSE(export_pages(*library.library, {page}, library.directory / "a.xyz"));
    EXPECT_FALSE(export_pages(*library.library, {}, library.directory / "a.txt"));
    EXPECT_FALSE(export_pages(*library.library, {999}, library.directory / "a.txt"));
    CancelSource cancel;
    cancel.cancel();
    EXPECT_FALSE(export_pages(*library.library, {page}, library.directory / "a.txt", cancel.token()));
    EXPECT_FALSE(std::filesystem::exists(library.directory / "a.txt"));
}

}  // namespace
}  // namespace fernleaf
