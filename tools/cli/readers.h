// What commands that read need: the reader and its data, and how a failure is told.
#pragma once

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

#include "paper/page_reading.h"
#include "reading/reader.h"

namespace fernleaf {

// Tells an error on stderr; gives the exit status for it.
int fail(const Error& error);

// Fails when the reader's data or a language's is missing.
Result<std::unique_ptr<Reader>> ready_reader(const std::vector<std::string>& languages);

// A text file's lines without blank ones, UTF-8; none for an empty path.
Result<std::vector<std::string>> lines_of_file(const std::filesystem::path& path);

// Null where its data is missing, which is told: then print is read as handwriting.
std::unique_ptr<PrintSkills> print_skills();

// Likewise: then formulas are not read.
std::unique_ptr<FormulaSkills> formula_skills();

}  // namespace fernleaf
