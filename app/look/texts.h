// The window's texts are English as they stand in the code; only those with a number have two forms, kept in
// assets/language (scripts/texts brings that up to date).
#pragma once

namespace fernleaf {

// To be called once, on the UI thread, before there is a window.
void load_texts();

}  // namespace fernleaf
