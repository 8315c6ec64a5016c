// Where the reader's weights and languages are: FERNLEAF_MODELS if it is set, else the directory built in.
#pragma once

#include <filesystem>

namespace fernleaf {

std::filesystem::path models_directory();

}  // namespace fernleaf
