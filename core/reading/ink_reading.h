// Reads the ink of a page: groups strokes into lines, reads those that changed, and ties words to their strokes.
#pragma once

#include "base/cancel.h"
#include "base/hash.h"
#include "document/page.h"
#include "reading/reader.h"
#include "transcript/reading.h"

namespace fernleaf {

// Reads the strokes of a page. Lines whose ink and settings are those of a line in earlier keep that line's words
// without being read again; pass an empty reading to read everything. On cancel what was read so far is returned.
// Boxes are in page mm; word boxes hold the ink of the word's strokes.
// said: what a person said of the kind of some strokes (corrections without a text); the later word holds.
std::vector<ReadLine> read_ink(const std::vector<Stroke>& strokes, const Reader& reader, const ReadSettings& settings,
                               const Reading& earlier, const CancelToken& cancel = {}, const Progress& progress = {},
                               const std::vector<Correction>& corrections = {});

// A number that tells settings apart, so that readings made with others are not kept.
uint64_t signature(const ReadSettings& settings);

}  // namespace fernleaf
