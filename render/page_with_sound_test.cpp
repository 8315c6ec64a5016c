#include "render/page_with_sound.h"

#include <gtest/gtest.h>

#include <QByteArray>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <fstream>

#include "exchange/track_file.h"
#include "sound/test_sound.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

class PageWithSound : public ::testing::Test {
protected:
    PageWithSound() {
        auto writer = SoundWriter::create(directory_ / "said.wav", SoundFormat::wav);
        EXPECT_TRUE((*writer)->write(test_tone(400, 3000)));
        EXPECT_TRUE((*writer)->finish());
        const auto id = import_sound(*library_.library, directory_ / "said.wav");
        EXPECT_TRUE(id);
        track_ = *library_->track(*id);
        page_ = library_.page("Row 3 </script> & @sound@");
        Edit edit{"Write"};
        for (const int64_t late : {-5000, 1000}) {
            Stroke s = test_stroke(20, late > 0 ? 40 : 20);
            s.start_ms = track_.pieces[0].began_ms + late;
            edit.added.strokes.push_back(s);
        }
        EXPECT_TRUE(library_->commit(page_, edit));
        EXPECT_TRUE(library_->save_reading(page_, test_reading({{"<frost>", "front"}})));
    }
    QByteArray exported() {
        const Status done = export_page_with_sound(*library_.library, page_, track_, directory_ / "page.html");
        EXPECT_TRUE(done) << done.error().message;
        std::ifstream in(directory_ / "page.html", std::ios::binary);
        return QByteArray::fromStdString({std::istreambuf_iterator<char>(in), {}});
    }
    static QByteArray between(const QByteArray& text, const char* from, const char* to) {
        const qsizetype begin = text.indexOf(from) + static_cast<qsizetype>(strlen(from));
        return text.mid(begin, text.indexOf(to, begin) - begin);
    }

    SoundDirectory directory_;
    TemporaryLibrary library_;
    VoiceTrack track_;
    PageId page_ = 0;
};

TEST_F(PageWithSound, HoldsTheSoundAndWhenEachStrokeWasWritten) {
    const QByteArray html = exported();
    std::ofstream(directory_ / "out.opus", std::ios::binary)
        << QByteArray::fromBase64(between(html, "audio/ogg;base64,", "\"")).toStdString();
    const auto sound = heard(directory_ / "out.opus");
    ASSERT_TRUE(sound);
    EXPECT_NEAR(static_cast<double>(sound->length_ms), 3000, 30);
    const QJsonArray strokes = QJsonDocument::fromJson(between(html, "const strokes = ", ", width =")).array();
    ASSERT_EQ(strokes.size(), 2);
    EXPECT_EQ(strokes[0].toObject()["b"].toInt(), -1) << "was there before";
    EXPECT_EQ(strokes[1].toObject()["b"].toInt(), 1000);
    EXPECT_EQ(strokes[1].toObject()["p"].toArray()[0].toInt(), 2000);
    EXPECT_EQ(strokes[1].toObject()["p"].toArray()[1].toInt(), 4000);
}

TEST_F(PageWithSound, NeedsNothingElseAndNoTextBecomesMarkup) {
    const QByteArray html = exported();
    for (const char* outside : {"http:", "https:", "src=\"/", "@paper@"})
        EXPECT_FALSE(html.contains(outside)) << outside;
    EXPECT_TRUE(html.contains("<title>Row 3 &lt;/script&gt; &amp; @sound@, page 1</title>"));
    EXPECT_TRUE(html.contains("&lt;frost&gt;"));
    EXPECT_EQ(html.count("</script>"), 1);
    EXPECT_FALSE(export_page_with_sound(*library_.library, page_, track_, "/nowhere/page.html"));
}

}  // namespace
}  // namespace fernleaf
