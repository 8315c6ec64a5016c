#include "reading/models_directory.h"

#include <cstdlib>

namespace fernleaf {

std::filesystem::path models_directory() {
    const char* chosen = std::getenv("FERNLEAF_MODELS");
    return chosen && *chosen ? chosen : FERNLEAF_MODELS_DIRECTORY;
}

}  // namespace fernleaf
