// The database's layout as the steps that lead to it. A step, once released, never changes; the database's user_version
// counts the steps it has been through.
#pragma once

#include <array>

namespace fernleaf {

// Lengths are mm, times ms since 1970 (UTC), colours 0xRRGGBB. `live` tells whether an element is on its page now;
// elements taken off stay, so that undo has no end.
constexpr std::array kMigrations = {
    // 1: notebooks, pages, ink, pictures, undo
    R"(
    CREATE TABLE notebook (id INTEGER PRIMARY KEY, title TEXT NOT NULL, cover INTEGER NOT NULL, language TEXT NOT NULL,
                           paper INTEGER NOT NULL, width REAL NOT NULL, height REAL NOT NULL);
    CREATE TABLE page (id INTEGER PRIMARY KEY, notebook INTEGER NOT NULL REFERENCES notebook, number INTEGER NOT NULL,
                       width REAL NOT NULL, height REAL NOT NULL, paper INTEGER NOT NULL, spacing REAL NOT NULL,
                       created INTEGER NOT NULL);
    CREATE INDEX page_by_notebook ON page (notebook, number);
    CREATE TABLE stroke (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, live INTEGER NOT NULL,
                         colour INTEGER NOT NULL, width REAL NOT NULL, start INTEGER NOT NULL, points BLOB NOT NULL);
    CREATE INDEX stroke_by_page ON stroke (page, live);
    CREATE TABLE picture (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, live INTEGER NOT NULL,
                          file TEXT NOT NULL REFERENCES file (hash), name TEXT NOT NULL, frame INTEGER NOT NULL,
                          x REAL NOT NULL, y REAL NOT NULL, width REAL NOT NULL, height REAL NOT NULL);
    CREATE INDEX picture_by_page ON picture (page, live);
    CREATE TABLE file (hash TEXT PRIMARY KEY, bytes INTEGER NOT NULL);
    CREATE TABLE edit (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, label TEXT NOT NULL,
                       undone INTEGER NOT NULL, strokes_added TEXT NOT NULL, strokes_removed TEXT NOT NULL,
                       pictures_added TEXT NOT NULL, pictures_removed TEXT NOT NULL);
    CREATE INDEX edit_by_page ON edit (page, undone, id);
    )",
    // 2: readings, what people corrected, and the index
    R"(
    CREATE TABLE reading_line (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, number INTEGER NOT NULL,
                               region INTEGER NOT NULL, kind INTEGER NOT NULL, certainty REAL NOT NULL,
                               box_left REAL NOT NULL, box_top REAL NOT NULL, box_right REAL NOT NULL,
                               box_bottom REAL NOT NULL, source INTEGER NOT NULL, words TEXT NOT NULL);
    CREATE INDEX reading_line_by_page ON reading_line (page, number);
    CREATE TABLE term (word TEXT NOT NULL, line INTEGER NOT NULL REFERENCES reading_line ON DELETE CASCADE,
                       position INTEGER NOT NULL, certainty REAL NOT NULL, PRIMARY KEY (word, line, position)) WITHOUT ROWID;
    CREATE INDEX term_by_line ON term (line, position);
    CREATE TABLE correction (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, strokes TEXT NOT NULL,
                             box_left REAL NOT NULL, box_top REAL NOT NULL, box_right REAL NOT NULL,
                             box_bottom REAL NOT NULL, text TEXT NOT NULL, made INTEGER NOT NULL);
    CREATE INDEX correction_by_page ON correction (page, id);
    )",
    // 3: word lists (notebook 0: the person's own), hands and what they are taught with
    R"(
    CREATE TABLE own_word (notebook INTEGER NOT NULL, word TEXT NOT NULL, PRIMARY KEY (notebook, word)) WITHOUT ROWID;
    CREATE TABLE hand (id INTEGER PRIMARY KEY, name TEXT NOT NULL, taught BLOB, examples INTEGER NOT NULL DEFAULT 0,
                       errors_before REAL NOT NULL DEFAULT 0, errors_after REAL NOT NULL DEFAULT 0);
    INSERT INTO hand (id, name) VALUES (1, '');
    CREATE TABLE example (id INTEGER PRIMARY KEY, hand INTEGER NOT NULL REFERENCES hand ON DELETE CASCADE,
                          width INTEGER NOT NULL, pixels BLOB NOT NULL, text TEXT NOT NULL, made INTEGER NOT NULL);
    CREATE INDEX example_by_hand ON example (hand, id);
    ALTER TABLE notebook ADD COLUMN lean REAL NOT NULL DEFAULT 0.6;
    ALTER TABLE notebook ADD COLUMN hand INTEGER NOT NULL DEFAULT 1;
    )",
    // 4: kinds of pens, and the order in which strokes lie upon one another
    R"(
    ALTER TABLE stroke ADD COLUMN kind INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE stroke ADD COLUMN tip INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE stroke ADD COLUMN opacity REAL NOT NULL DEFAULT 1;
    ALTER TABLE stroke ADD COLUMN by_pressure INTEGER NOT NULL DEFAULT 1;
    ALTER TABLE stroke ADD COLUMN place INTEGER NOT NULL DEFAULT 0;
    )",
    // 5: kinds of paper (ruled paper had a margin line until now), typed text, pictures turned and cropped, the bin
    // (`binned`: when, or 0)
    R"(
    UPDATE page SET paper = 4 WHERE paper = 1;
    UPDATE notebook SET paper = 4 WHERE paper = 1;
    ALTER TABLE page ADD COLUMN colour INTEGER NOT NULL DEFAULT 16513265;
    ALTER TABLE page ADD COLUMN picture TEXT NOT NULL DEFAULT '';
    ALTER TABLE page ADD COLUMN endless INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE page ADD COLUMN binned INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN spacing REAL NOT NULL DEFAULT 8;
    ALTER TABLE notebook ADD COLUMN colour INTEGER NOT NULL DEFAULT 16513265;
    ALTER TABLE notebook ADD COLUMN picture TEXT NOT NULL DEFAULT '';
    ALTER TABLE notebook ADD COLUMN endless INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE notebook ADD COLUMN binned INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN angle REAL NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN crop_left REAL NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN crop_top REAL NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN crop_right REAL NOT NULL DEFAULT 1;
    ALTER TABLE picture ADD COLUMN crop_bottom REAL NOT NULL DEFAULT 1;
    ALTER TABLE picture ADD COLUMN locked INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN place INTEGER NOT NULL DEFAULT 0;
    CREATE TABLE text_block (id INTEGER PRIMARY KEY, page INTEGER NOT NULL REFERENCES page, live INTEGER NOT NULL,
                             data TEXT NOT NULL);
    CREATE INDEX text_block_by_page ON text_block (page, live);
    ALTER TABLE edit ADD COLUMN texts_added TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE edit ADD COLUMN texts_removed TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE edit ADD COLUMN sheet TEXT NOT NULL DEFAULT '';
    ALTER TABLE edit ADD COLUMN page_added INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE correction ADD COLUMN kind INTEGER NOT NULL DEFAULT 0;
    )",
    // 6: corrections are steps of undo; lines marked as headings
    R"(
    ALTER TABLE correction ADD COLUMN live INTEGER NOT NULL DEFAULT 1;
    ALTER TABLE edit ADD COLUMN corrections TEXT NOT NULL DEFAULT '[]';
    ALTER TABLE reading_line ADD COLUMN heading INTEGER NOT NULL DEFAULT 0;
    )",
    // 7: what is done to photographs of paper; those that wait to be filed
    R"(
    ALTER TABLE picture ADD COLUMN treatment TEXT NOT NULL DEFAULT '';
    CREATE TABLE intake (id INTEGER PRIMARY KEY, place INTEGER NOT NULL, file TEXT NOT NULL REFERENCES file (hash),
                         name TEXT NOT NULL, frame INTEGER NOT NULL, treatment TEXT NOT NULL, looked_at INTEGER NOT NULL,
                         width REAL NOT NULL, height REAL NOT NULL, faults INTEGER NOT NULL, added INTEGER NOT NULL);
    )",
    // 8: a checksum a row (checksum(), a function of store/database); pages of which something is still to be read
    // (`mark`: another for every change; `tries`: readings begun that came to no end); why an entry of the tray could
    // not be looked at. The index is made anew with it: words are folded otherwise.
    R"(
    ALTER TABLE stroke ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE picture ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE text_block ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE edit ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    ALTER TABLE correction ADD COLUMN sum INTEGER NOT NULL DEFAULT 0;
    UPDATE stroke SET sum = checksum(page, live, colour, width, kind, tip, opacity, by_pressure, place, start, points);
    UPDATE picture SET sum = checksum(page, live, file, name, frame, x, y, width, height, angle, crop_left, crop_top,
                                      crop_right, crop_bottom, locked, place, treatment);
    UPDATE text_block SET sum = checksum(page, live, data);
    UPDATE edit SET sum = checksum(page, label, undone, strokes_added, strokes_removed, pictures_added,
                                   pictures_removed, texts_added, texts_removed, sheet, page_added, corrections);
    UPDATE correction SET sum = checksum(page, live, strokes, box_left, box_top, box_right, box_bottom, text, made,
                                         kind);
    CREATE TABLE unread (page INTEGER PRIMARY KEY REFERENCES page ON DELETE CASCADE, mark INTEGER NOT NULL,
                         tries INTEGER NOT NULL DEFAULT 0);
    INSERT INTO unread (page, mark) SELECT id, id FROM page;
    ALTER TABLE intake ADD COLUMN failure TEXT NOT NULL DEFAULT '';
    )",
};

}  // namespace fernleaf
