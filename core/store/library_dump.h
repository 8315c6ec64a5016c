// For tests: a library as lines of text, to be compared with what another release made of it.
#pragma once

#include <sstream>
#include <string>

#include "store/codec.h"
#include "store/library.h"

namespace fernleaf {

inline void dump(std::ostream& out, const Box& box) {
    out << box.left << ' ' << box.top << ' ' << box.right << ' ' << box.bottom;
}

inline void dump(std::ostream& out, const Sheet& s) {
    out << "sheet " << s.width_mm << ' ' << s.height_mm << ' ' << static_cast<int>(s.paper) << ' ' << s.spacing_mm
        << ' ' << s.colour << ' ' << s.picture << ' ' << s.endless << (s.errands ? " errands" : "") << '\n';
}

inline void dump(std::ostream& out, const Stroke& s) {
    out << "stroke " << s.id << " z " << s.z << " pen " << s.pen.colour << ' ' << s.pen.width_mm << ' '
        << static_cast<int>(s.pen.kind) << ' ' << static_cast<int>(s.pen.tip) << ' ' << s.pen.opacity << ' '
        << s.pen.by_pressure << " start " << s.start_ms << " points";
    for (const InkPoint& p : s.points)
        out << ' ' << p.at.x << ',' << p.at.y << ',' << p.pressure << ',' << p.tilt_x << ',' << p.tilt_y << ','
            << p.time_ms;
    out << '\n';
}

inline void dump(std::ostream& out, const Picture& p) {
    out << "picture " << p.id << " z " << p.z << ' ' << p.file << ' ' << p.name << ' ' << p.frame << " box ";
    dump(out, p.box);
    out << " turned " << p.angle << " crop ";
    dump(out, p.crop);
    out << ' ' << p.locked << ' ' << encode_treatment(p.treatment) << '\n';
}

inline void dump(std::ostream& out, const TextBlock& t) {
    out << "text " << t.id << " z " << t.z << " at " << t.at.x << ' ' << t.at.y << " size " << t.width_mm << ' '
        << t.height_mm << ' ' << t.angle << ' ' << t.pitch_mm << " fill " << t.fill.value_or(1) << " ink";
    for (const StrokeId id : t.ink) out << ' ' << id;
    const Affine& a = t.transform_since_set;
    out << " moved " << a.xx << ' ' << a.xy << ' ' << a.dx << ' ' << a.yx << ' ' << a.yy << ' ' << a.dy << '\n';
    for (const Paragraph& p : t.paragraphs) {
        out << "  paragraph " << static_cast<int>(p.align) << ' ' << static_cast<int>(p.list) << ' ' << p.heading << ' '
            << p.indent_mm << ' ' << p.before_mm << '\n';
        for (const TextRun& r : p.runs)
            out << "    " << r.style.family << ' ' << r.style.size_mm << ' ' << r.style.bold << r.style.italic
                << r.style.underline << r.style.strike << r.style.unsure << ' ' << r.style.colour << ' '
                << r.style.highlight.value_or(1) << " |" << r.text << "|\n";
    }
    for (const PlacedWord& w : t.words) {
        out << "  word " << w.text << ' ' << w.line << ' ';
        dump(out, w.box);
        out << '\n';
    }
}

inline void dump(std::ostream& out, const Page& page) {
    out << "page " << page.info.id << " of " << page.info.notebook << " number " << page.info.number << " created "
        << page.info.created_ms << " damaged " << page.damaged << '\n';
    dump(out, static_cast<const Sheet&>(page.info));
    for (const Stroke& s : page.strokes) dump(out, s);
    for (const Picture& p : page.pictures) dump(out, p);
    for (const TextBlock& t : page.texts) dump(out, t);
}

inline void dump_corrections(std::ostream& out, const Library& library, PageId page) {
    const auto corrections = library.corrections(page);
    for (const Correction& c : *corrections) {
        out << "correction " << static_cast<int>(c.kind) << " |" << c.text << "| ";
        dump(out, c.box);
        for (const StrokeId id : c.strokes) out << ' ' << id;
        out << '\n';
    }
}

// Pages and all that undo and redo make of them; the library is as it was afterwards but for its marks of what is
// unread.
inline std::string dump_with_history(Library& library, const std::vector<PageId>& pages) {
    std::ostringstream out;
    out.precision(9);
    const auto notebooks = library.notebooks();
    for (const Notebook& n : *notebooks) {
        out << "notebook " << n.id << ' ' << n.title << ' ' << n.cover << ' ' << language_list(n.languages) << ' '
            << n.language_weight << ' ' << n.hand << '\n';
        dump(out, n.sheet);
    }
    for (const PageId id : pages) {
        const auto show = [&](const std::string& when) {
            const auto steps = library.undo_state(id);
            out << "-- " << when << ", undo " << steps->undo.value_or("none") << ", redo "
                << steps->redo.value_or("none") << '\n';
            dump(out, *library.load_page(id));
            dump_corrections(out, library, id);
        };
        show("as left");
        int back = 0;
        while (*library.undo(id)) show("undone " + std::to_string(++back));
        for (int n = 0; *library.redo(id); ++n) show("redone " + std::to_string(n + 1));
        for (int n = 0; n < 2 && id == pages.front(); ++n) static_cast<void>(*library.undo(id));  // as it was left
        const auto reading = library.reading(id);
        for (const ReadLine& line : reading->lines) out << "line " << line.region << " |" << line.text() << "|\n";
    }
    const auto bin = library.bin();
    for (const Binned& b : *bin)
        out << "bin " << b.notebook << ' ' << b.page << ' ' << b.title << ' ' << b.number << ' ' << b.pages << '\n';
    return out.str();
}

}  // namespace fernleaf
