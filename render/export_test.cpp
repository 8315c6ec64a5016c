#include "render/export.h"

#include <gtest/gtest.h>

#include <QImage>
#include <QXmlStreamReader>

#include <fstream>
#include <iterator>

#include "drawing/fair_drawing.h"
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
    EXPECT_FALSE(
        export_pages(*library.library, {page}, library.directory / "a.txt", DrawingsAs::they_are, cancel.token()));
    EXPECT_FALSE(std::filesystem::exists(library.directory / "a.txt"));
}

TEST(Export, OnePageIsAPictureSeveralAreNot) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Edit edit{"Write", {{test_stroke(10, 20)}}};
    ASSERT_TRUE(library->commit(page, edit));
    const auto to = [&](const char* name) { return library.directory / name; };
    ASSERT_TRUE(export_pages(*library.library, {page}, to("a.png")));
    const QImage picture(QString::fromStdString(to("a.png").string()));
    const PageInfo info = library->load_page(page)->info;
    EXPECT_NEAR(picture.width(), info.width_mm / kMmPerInch * 200, 2);
    EXPECT_NEAR(picture.dotsPerMeterX(), 200 / 0.0254, 20);
    ASSERT_TRUE(export_pages(*library.library, {page}, to("a.svg")));
    QXmlStreamReader svg(QString::fromStdString(contents(to("a.svg"))));
    size_t paths = 0;
    while (!svg.atEnd())
        if (svg.readNext() == QXmlStreamReader::StartElement) paths += svg.name() == QStringLiteral("path");
    EXPECT_FALSE(svg.hasError()) << svg.errorString().toStdString();
    EXPECT_GT(paths, 0U);
    const Status both = export_pages(*library.library, {page, page}, to("b.svg"));
    ASSERT_FALSE(both);
    EXPECT_NE(both.error().message.find("one page"), std::string::npos);
}

// A box drawn in one stroke, and the reading that knows it.
TEST(Export, DrawingsAreTakenAwayAsTheyAreAsDrawnOrFair) {
    TemporaryLibrary library;
    const PageId page = library.page();
    Stroke box = test_stroke(20, 20);
    box.points.clear();
    for (const Point p : {Point{20, 20}, {60, 21}, {60, 40}, {20, 39}, {20, 20}}) box.points.push_back({p});
    Edit edit{"Write", {{box}}};
    ASSERT_TRUE(library->commit(page, edit));
    const StrokeId id = library->load_page(page)->strokes.at(0).id;
    ReadLine drawing;
    drawing.kind = RegionKind::drawing;
    drawing.box = Box::of(20, 20, 40, 20);
    drawing.shapes = {{{id}, {{{ShapeKind::rectangle, {{20, 20}, {60, 20}, {60, 40}, {20, 40}}}, 0.9, 0.2}}}};
    ASSERT_TRUE(library->save_reading(page, {{drawing}}));
    const auto exported = [&](DrawingsAs drawings) {
        EXPECT_TRUE(export_pages(*library.library, {page}, library.directory / "a.svg", drawings));
        return contents(library.directory / "a.svg");
    };
    const std::string ink = exported(DrawingsAs::they_are);
    EXPECT_EQ(exported(DrawingsAs::drawn), ink);
    const std::string fair = exported(DrawingsAs::fair);
    EXPECT_NE(fair, ink);
    EXPECT_EQ(library->load_page(page)->strokes.size(), 1U) << "nothing on the page changes";
    // Once it is drawn fair on the page it is the other way round.
    const auto loaded = library->load_page(page);
    FairDrawing drawn = drawn_fair(loaded->strokes, *library->reading(page), nullptr, {}, [] { return int64_t{1}; });
    Edit draw{"Draw fair"};
    draw.added.shapes = drawn.shapes, draw.removed.strokes = drawn.ink;
    draw.added.shapes[0].id = library->new_element_id();
    ASSERT_TRUE(library->commit(page, draw));
    EXPECT_EQ(exported(DrawingsAs::they_are), fair);
    EXPECT_EQ(exported(DrawingsAs::drawn), ink);
}

}  // namespace
}  // namespace fernleaf
