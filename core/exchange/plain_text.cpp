#include "exchange/plain_text.h"

namespace fernleaf {

std::string plain_text(const Reading& reading) {
    std::string out;
    int region = 0;
    for (const ReadLine& line : reading.lines) {
        const bool divider = line.kind == RegionKind::divider;
        if (!divider && (line.kind != RegionKind::text || line.words.empty())) continue;
        if (!out.empty() && line.region != region) out += '\n';
        region = line.region;
        out += (divider ? ElementTraits<Divider>::plain_text({}) : line.text()) + '\n';
    }
    return out;
}

std::string plain_text(const std::vector<Reading>& pages) {
    std::string out;
    for (size_t i = 0; i < pages.size(); ++i) {
        if (i > 0) out += '\f';
        out += plain_text(pages[i]);
    }
    return out;
}

}  // namespace fernleaf
