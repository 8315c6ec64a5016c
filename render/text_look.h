// Typed text laid out and drawn. Everything that shows a block - screen, paper, the editor on the page - goes through
// the same document, so that words stand in the same places.
//
//   lay_out(block);                       // now block.height_mm and block.words are known
//   draw_text(painter, block, scheme);    // the painter's unit is the millimetre
#pragma once

#include <QPainter>
#include <QTextBlock>
#include <QTextCharFormat>
#include <QTextDocument>
#include <memory>

#include "document/elements.h"

namespace fernleaf {

struct PageScheme;

constexpr double kTextUnitsPerMm = 10;  // of the documents below

// Computes the block's height and where each word stands.
void lay_out(TextBlock& block);
// Those that have not been laid out yet, as from a file.
void lay_out_fresh(Elements& elements);

// The same for a block whose first line is meant to stand in the middle of its pitch, as ink does on its line.
void lay_out_level(TextBlock& block);

void draw_text(QPainter& painter, const TextBlock& block, const PageScheme& scheme);

// The width of a text in a style, mm.
double text_width(const std::string& text, const TextStyle& style);

// A block as a document in units of 1/10 mm, in the colours in which it shows; and a document's paragraphs.
std::unique_ptr<QTextDocument> document_of(const TextBlock& block, const PageScheme& scheme);
std::vector<Paragraph> paragraphs_of(const QTextDocument& document);

// A run's style as a document has it, and back. Colours are kept as they were chosen, however they show.
QTextCharFormat format_of(const TextStyle& style, const PageScheme& scheme);
TextStyle style_of(const QTextCharFormat& format);

// Makes the paragraphs a cursor selects items of a list, or none; sets their heading (0: none).
void set_list(QTextCursor cursor, ListKind kind);
void set_heading(QTextCursor cursor, int level);
ListKind list_of(const QTextBlock& block);
int heading_of(const QTextBlock& block);

}  // namespace fernleaf
