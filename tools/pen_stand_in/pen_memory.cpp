#include "pen_stand_in/pen_memory.h"

#include <fstream>
#include <iterator>
#include <random>

#include "capture/pen_messages.h"

namespace fernleaf {
namespace {

std::string framed(const CapturedStroke& stroke) {
    return encoded(Frame{FrameKind::stroke, 0, encoded(PenStroke{stroke})});
}
std::string framed_number(uint64_t number) {
    return encoded(Frame{FrameKind::state, 0, encoded(PenState{.memory = number})});
}
std::string framed(const KeptUpTo& kept) { return encoded(Frame{FrameKind::kept, 0, encoded(kept)}); }

}  // namespace

Result<std::unique_ptr<PenMemory>> PenMemory::open(const std::filesystem::path& path) {
    const Error unwritable{"The pen's memory " + path.string() + " can't be written."};
    std::unique_ptr<PenMemory> out(new PenMemory(nullptr));
    {
        std::ifstream in(path, std::ios::binary);
        FrameReader reader;
        reader.feed(std::string(std::istreambuf_iterator<char>(in), {}));
        while (const auto frame = reader.next()) {
            if (const auto stroke = decoded<PenStroke>(frame->body); frame->kind == FrameKind::stroke && stroke) {
                out->last_ = std::max(out->last_, stroke->stroke.number);
                out->bytes_ += frame->body.size();
                out->strokes_.push_back(stroke->stroke);
            } else if (const auto state = decoded<PenState>(frame->body); frame->kind == FrameKind::state && state) {
                out->number_ = state->memory;
            } else if (const auto kept = decoded<KeptUpTo>(frame->body); frame->kind == FrameKind::kept && kept) {
                out->last_ = std::max(out->last_, kept->number);
                out->forget(kept->number);
            }
        }
    }
    // Written anew without what is forgotten, and put in the old one's place.
    const std::filesystem::path next = path.string() + ".next";
    out->file_ = std::fopen(next.c_str(), "wb");
    if (!out->file_) return unwritable;
    const uint64_t forgotten = out->strokes_.empty() ? out->last_ : out->strokes_.front().number - 1;
    if (out->number_ == 0) {
        std::random_device random;
        out->number_ = std::uniform_int_distribution<uint64_t>(1)(random);
    }
    bool written = out->append(framed_number(out->number_)) && out->append(framed(KeptUpTo{forgotten}));
    for (const CapturedStroke& s : out->strokes_) written = written && out->append(framed(s));
    std::error_code failed;
    std::filesystem::rename(next, path, failed);
    if (!written || failed) return unwritable;
    return out;
}

PenMemory::~PenMemory() {
    if (file_) std::fclose(file_);
}

bool PenMemory::append(const std::string& frame) {
    return std::fwrite(frame.data(), 1, frame.size(), file_) == frame.size() && std::fflush(file_) == 0;
}

Status PenMemory::add(CapturedStroke stroke) {
    stroke.number = last_ + 1;
    if (!append(framed(stroke))) return Error{"The pen's memory can't be written."};
    ++last_;
    bytes_ += encoded(PenStroke{stroke}).size();
    strokes_.push_back(std::move(stroke));
    return Done{};
}

void PenMemory::forget(uint64_t up_to) {
    const size_t before = strokes_.size();
    while (!strokes_.empty() && strokes_.front().number <= up_to) {
        bytes_ -= encoded(PenStroke{strokes_.front()}).size();
        strokes_.pop_front();
    }
    if (file_ && strokes_.size() < before) append(framed(KeptUpTo{up_to}));
}

}  // namespace fernleaf
