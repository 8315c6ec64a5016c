// Examples to teach with: what was written on a page, as the reader sees it, with what it says.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "document/page.h"
#include "paper/page_reading.h"
#include "reading/teaching.h"
#include "transcript/reading.h"

namespace fernleaf {

// A corrected word as an example; nothing when its ink or picture is no longer there.
std::optional<Example> example_of(const Page& page, const FileSource& files, const ReadWord& word);

// The lines of a page that was copied from a known text: lines that were read are matched with those of the text, in
// order, by how alike they are; lines that match none are left out on either side.
std::vector<Example> copied_lines(const Page& page, const FileSource& files, const Reading& reading,
                                  const std::vector<std::string>& text);

// Eight lines that between them hold every letter, small and large, and the digits: what to copy to teach a hand.
const std::vector<std::string>& lines_to_copy();

}  // namespace fernleaf
