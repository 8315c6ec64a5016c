// A page with what was said while it was written, as one HTML file that needs nothing else: it plays the sound and
// writes the ink along, tapped ink is heard, and what the page says stands below it.
#pragma once

#include <filesystem>
#include <string>

#include "base/cancel.h"
#include "base/result.h"
#include "document/file_source.h"
#include "document/page.h"
#include "sound/voice_track.h"
#include "transcript/reading.h"

namespace fernleaf {

struct SpokenPage {
    const Page& page;
    const Reading& reading;
    const VoiceTrack& track;
    std::string title;
    std::string language;  // of the page, "en"
};

// opus: the track's sound (exchange/track_file.h). Needs a QGuiApplication and load_fonts(). Safe on a worker thread.
std::string page_with_sound(const SpokenPage& spoken, const std::string& opus, const FileSource& files);

class Library;

// Of a page in a library, into a file that appears whole or not at all.
Status export_page_with_sound(const Library& library, PageId page, const VoiceTrack& track,
                              const std::filesystem::path& path, const Progress& progress = {},
                              const CancelToken& cancel = {});

}  // namespace fernleaf
