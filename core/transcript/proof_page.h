// For tests: a page with written and typed lines, and what is read on it.
#pragma once

#include <string>

#include "document/page.h"
#include "ink/test_stroke.h"
#include "transcript/reading.h"

namespace fernleaf {

// Letters are 2 mm wide and 3 mm high; an "l" is 5 mm high.
class ProofPage {
public:
    ProofPage() { page.info.width_mm = 148, page.info.height_mm = 210, page.info.spacing_mm = 8; }

    // Words of ink, 4 mm apart; each letter is a stroke.
    void write(Point at, const std::vector<std::string>& words) {
        ReadLine line;
        double x = at.x;
        for (const std::string& text : words) {
            ReadWord word{text, 0.9, {}, {}, {}, false};
            for (const char c : text) {
                const double top = at.y - (c == 'l' ? 5 : 3);
                Stroke s = stroke_along(++id, {{x, top}, {x + 0.8, at.y}, {x + 1.6, top + 0.3}});
                word.strokes.push_back(s.id);
                word.box.include(s.box());
                page.strokes.push_back(std::move(s));
                x += 2;
            }
            line.box.include(word.box);
            line.words.push_back(std::move(word));
            x += 4;
        }
        line.region = static_cast<int>(reading.lines.size());
        reading.lines.push_back(line);
    }

    // A block of paragraphs, one line each, 8 mm apart; letters 2 mm wide, words 2 mm apart.
    TextId type(Point at, const std::vector<std::string>& paragraphs) {
        TextBlock block;
        block.id = ++id;
        block.at = at;
        block.width_mm = 100;
        block.height_mm = 8.0 * static_cast<double>(paragraphs.size());
        for (size_t p = 0; p < paragraphs.size(); ++p) {
            block.paragraphs.push_back({{{paragraphs[p], {}}}});
            const std::string& text = paragraphs[p];
            for (size_t i = 0; i < text.size();) {
                const size_t end = std::min(text.find(' ', i), text.size());
                block.words.push_back({text.substr(i, end - i),
                                       Box::of(at.x + 2.0 * static_cast<double>(i), at.y + 8.0 * static_cast<double>(p),
                                               2.0 * static_cast<double>(end - i), 5),
                                       static_cast<int>(p)});
                i = end + 1;
            }
        }
        page.texts.push_back(block);
        add_typed(reading, {{}, {}, {block}});
        return block.id;
    }

    const ReadWord& word(size_t line, size_t n) const { return reading.lines.at(line).words.at(n); }
    // A stroke as the newest on the page.
    Stroke mark(const std::vector<Point>& corners) {
        Stroke s = stroke_along(++id, corners);
        page.strokes.push_back(s);
        return s;
    }

    Page page;
    Reading reading;
    StrokeId id = 0;
};

}  // namespace fernleaf
