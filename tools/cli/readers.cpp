#include "cli/readers.h"

#include <fstream>
#include <iostream>

#include "base/text.h"
#include "cli/commands.h"
#include "reading/models_directory.h"

namespace fernleaf {

int fail(const Error& error) {
    std::cerr << "fernleaf-cli: " << error.message << '\n';
    return kSomeFailed;
}

Result<std::unique_ptr<Reader>> ready_reader(const std::vector<std::string>& languages) {
    auto reader = Reader::load(models_directory());
    if (!reader) return reader.error();
    for (const std::string& language : languages)
        if (Status status = (*reader)->load_language(language); !status) return status.error();
    return reader;
}

Result<std::vector<std::string>> lines_of_file(const std::filesystem::path& path) {
    std::vector<std::string> lines;
    if (path.empty()) return lines;
    std::ifstream in(path);
    if (!in || std::filesystem::is_directory(path)) return Error{path.string() + " can't be read."};
    for (std::string line; std::getline(in, line);) {
        if (!valid_utf8(line)) return Error{path.string() + " is not UTF-8 text."};
        if (std::string text = trimmed(line); !text.empty()) lines.push_back(std::move(text));
    }
    return lines;
}

std::unique_ptr<PrintSkills> print_skills() {
    auto print = PrintSkills::load(models_directory());
    if (print) return *std::move(print);
    std::cerr << "fernleaf-cli: " << print.error().message << " Print is read as handwriting.\n";
    return nullptr;
}

std::unique_ptr<FormulaSkills> formula_skills() {
    auto formulas = FormulaSkills::load(models_directory());
    if (formulas) return *std::move(formulas);
    std::cerr << "fernleaf-cli: " << formulas.error().message << " Formulas can't be read.\n";
    return nullptr;
}

}  // namespace fernleaf
