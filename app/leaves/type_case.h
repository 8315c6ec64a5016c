// Words set in the text face, measured and laid out once each: a page full of words is measured and drawn in more time
// than an event may take.
//
//   TypeCase type;
//   const TypeCase::Word& word = type.word("frost", {18});
//   painter.setFont(type.face({18}).font);
//   painter.drawStaticText(at, word.glyphs);   // at: the upper left corner; the baseline is face.ascent below
//
// UI thread only.
#pragma once

#include <QFont>
#include <QHash>
#include <QStaticText>

namespace fernleaf {

class TypeCase {
public:
    struct Style {
        int px = 16;
        bool italic = false, bold = false;
        friend bool operator==(const Style&, const Style&) = default;
    };
    struct Face {
        QFont font;
        double ascent = 0, height = 0, space = 0;  // px
    };
    struct Word {
        QStaticText glyphs;
        double advance = 0;  // px
    };

    const Face& face(Style style);
    // Valid until the next call.
    const Word& word(const QString& text, Style style);

private:
    QHash<Style, Face> faces_;
    QHash<std::pair<Style, QString>, Word> words_;
};

size_t qHash(const TypeCase::Style& style, size_t seed = 0);

}  // namespace fernleaf
