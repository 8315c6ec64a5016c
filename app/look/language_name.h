// Languages by their names. Any thread; for codes the reader has.
#pragma once

#include <QString>
#include <string>

namespace fernleaf {

// The name of a language in the language of the interface, "Czech" for "cs".
QString language_name(const std::string& code);

}  // namespace fernleaf
