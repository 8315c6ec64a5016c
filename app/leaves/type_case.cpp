#include "leaves/type_case.h"

#include <QFontMetricsF>

#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr qsizetype kMostWords = 20'000;

}  // namespace

size_t qHash(const TypeCase::Style& style, size_t seed) {
    return ::qHash(4 * style.px + 2 * int{style.italic} + int{style.bold}, seed);
}

const TypeCase::Face& TypeCase::face(Style style) {
    const auto found = faces_.constFind(style);
    if (found != faces_.constEnd()) return *found;
    QFont font(kTextFace);
    font.setPixelSize(style.px);
    font.setItalic(style.italic);
    font.setBold(style.bold);
    const QFontMetricsF metrics(font);
    return *faces_.insert(style,
                          {font, metrics.ascent(), metrics.height(), metrics.horizontalAdvance(QStringLiteral(" "))});
}

const TypeCase::Word& TypeCase::word(const QString& text, Style style) {
    const std::pair key(style, text);
    const auto found = words_.constFind(key);
    if (found != words_.constEnd()) return *found;
    if (words_.size() >= kMostWords) words_.clear();
    Word word{QStaticText(text), QFontMetricsF(face(style).font).horizontalAdvance(text)};  // laid out when drawn
    word.glyphs.setTextFormat(Qt::PlainText);
    return *words_.insert(key, word);
}

}  // namespace fernleaf
