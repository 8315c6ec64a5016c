// Reads a whole page: its ink, and the handwriting in its pictures.
#pragma once

#include "base/cancel.h"
#include "document/file_source.h"
#include "document/page.h"
#include "drawing/shape_memory.h"
#include "math/formula_skills.h"
#include "paper/printed_text.h"
#include "reading/ink_reading.h"
#include "transcript/reading.h"

namespace fernleaf {

// The page's reading with corrections laid over it. Lines unchanged since the reading before are not read again.
// Pictures whose file can't be read are left out; one in which nothing was found is a line of kind picture without
// words. A cancelled reading keeps the lines and the whole pictures that it has. print: reads what is printed in
// pictures; without it all is read as handwriting. shapes: what earlier readings fitted to ink, and this one does.
// formulas: finds and reads formulas, and works them out; without it regions of math are shown as ink, and others read
// as words.
Reading read_page(const Page& page, const FileSource& files, const Reader& reader, const ReadSettings& settings,
                  const Reading& before, const std::vector<Correction>& corrections, const CancelToken& cancel = {},
                  const Progress& progress = {}, PrintSkills* print = nullptr, ShapeMemory* shapes = nullptr,
                  FormulaSkills* formulas = nullptr);

}  // namespace fernleaf
