// An error's message for the person.
#pragma once

#include <QString>

#include "base/result.h"

namespace fernleaf {

inline QString text_of(const Error& error) { return QString::fromStdString(error.message); }

}  // namespace fernleaf
