#include "exchange/bundle.h"

#include <fcntl.h>
#include <unistd.h>
#include <zip.h>

#include <algorithm>
#include <fstream>
#include <memory>
#include <set>

#include "base/file.h"
#include "base/json.h"
#include "document/sheet_json.h"
#include "exchange/inkml.h"
#include "store/codec.h"
#include "store/page_file.h"
#include "store/sealing.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr char kBundleType[] = "application/vnd.fernleaf.bundle+zip";
constexpr char kTypeEntry[] = "mimetype", kIndexEntry[] = "bundle.json";
constexpr int kBundleFormat = 1;
constexpr uint64_t kMostPageBytes = 256'000'000, kMostFileBytes = 2'000'000'000, kMostBundleBytes = 8'000'000'000;
constexpr uint64_t kMostTimesPacked = 1100;  // deflate packs nothing tighter than 1 to 1032
constexpr int kAtTheEnd = 1 << 20;
constexpr size_t kHeadBytes = 128;

struct CloseZip {
    void operator()(zip_t* zip) const { zip_discard(zip); }
};
using Zip = std::unique_ptr<zip_t, CloseZip>;

std::string page_name(size_t number, const char* ending) {
    std::string digits = std::to_string(number);
    digits.insert(0, digits.size() < 4 ? 4 - digits.size() : 0, '0');
    return "pages/" + digits + ending;
}

std::string head_of(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    std::string out(kHeadBytes, '\0');
    in.read(out.data(), static_cast<std::streamsize>(out.size()));
    out.resize(static_cast<size_t>(std::max<std::streamsize>(0, in.gcount())));
    return out;
}

// Writes beside its target and takes its place when all is there.
class ZipFile {
public:
    explicit ZipFile(const fs::path& path) : path_(path), part_(path.string() + ".part") {
        std::error_code ignored;
        fs::remove(part_, ignored);
        int problem = 0;
        zip_.reset(zip_open(part_.c_str(), ZIP_CREATE | ZIP_EXCL, &problem));
    }
    ~ZipFile() {
        zip_.reset();
        std::error_code ignored;
        fs::remove(part_, ignored);
    }
    ZipFile(const ZipFile&) = delete;
    ZipFile& operator=(const ZipFile&) = delete;

    bool open() const { return zip_ != nullptr; }
    // packed: whether it gets smaller by packing.
    Status add(const std::string& name, std::string bytes, bool packed) {
        contents_.push_back(std::make_unique<std::string>(std::move(bytes)));  // read when all is written
        const std::string& kept = *contents_.back();
        return add(name, zip_source_buffer(zip_.get(), kept.data(), kept.size(), 0), packed);
    }
    Status add_from(const std::string& name, const fs::path& file) {
        return add(name, zip_source_file(zip_.get(), file.c_str(), 0, -1), false);
    }
    Status finish(const std::optional<std::string>& passphrase, const CancelToken& cancel, const Progress& progress) {
        struct Watch {
            const CancelToken& cancel;
            const Progress& progress;
        } watch{cancel, progress};
        zip_register_cancel_callback_with_state(
            zip_.get(), [](zip_t*, void* data) { return static_cast<Watch*>(data)->cancel.cancelled() ? 1 : 0; },
            nullptr, &watch);
        zip_register_progress_callback_with_state(
            zip_.get(), 0.01,
            [](zip_t*, double part, void* data) {
                const Watch& w = *static_cast<Watch*>(data);
                if (w.progress) w.progress(part);
            },
            nullptr, &watch);
        if (zip_close(zip_.get()) != 0) {
            if (cancel.cancelled()) return Error{"The export was cancelled."};
            return failed();
        }
        static_cast<void>(zip_.release());
        if (passphrase) {
            const auto bytes = read_regular(part_, kMostBundleBytes);
            if (!bytes) return bytes.error();
            const auto sealed = seal(*bytes, *passphrase);
            return sealed ? write_whole(path_, *sealed) : sealed.error();
        }
        if (const int fd = ::open(part_.c_str(), O_RDONLY | O_CLOEXEC); fd >= 0) {
            ::fsync(fd);
            ::close(fd);
        }
        std::error_code problem;
        fs::rename(part_, path_, problem);
        if (problem) return Error{path_.string() + " can't be written: " + problem.message() + "."};
        return keep_names(path_.has_parent_path() ? path_.parent_path() : fs::path("."));
    }
    Error failed() const {
        const std::string why = zip_ ? zip_strerror(zip_.get()) : "the folder allows no writing";
        return Error{path_.string() + " can't be written: " + why + "."};
    }

private:
    Status add(const std::string& name, zip_source_t* source, bool packed) {
        const zip_int64_t at = source ? zip_file_add(zip_.get(), name.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
        if (at < 0) {
            if (source) zip_source_free(source);
            return failed();
        }
        if (zip_set_file_compression(zip_.get(), static_cast<zip_uint64_t>(at), packed ? ZIP_CM_DEFLATE : ZIP_CM_STORE,
                                     0) != 0)
            return failed();
        return Done{};
    }

    fs::path path_, part_;
    std::vector<std::unique_ptr<std::string>> contents_;
    Zip zip_;
};

Json notebook_json(const Notebook& n) {
    return {{"title", n.title},
            {"cover", n.cover},
            {"cover_pattern", static_cast<int>(n.cover_pattern)},
            {"cover_picture", n.cover_picture},
            {"languages", n.languages},
            {"lean", n.language_weight},
            {"sheet", json_of(n.sheet)},
            {"working",
             {{"angle", static_cast<int>(n.working.angle)},
              {"digits", n.working.digits},
              {"exact", n.working.exact},
              {"earlier_values", n.working.earlier_values}}}};
}

Notebook notebook_from(const Json& j) {
    Notebook out;
    out.title = j.at("title").get<std::string>();
    out.cover = colour_in(j.at("cover"));
    out.cover_pattern = static_cast<CoverPattern>(small(j.at("cover_pattern"), 0, static_cast<int>(kLastCoverPattern)));
    out.cover_picture = j.at("cover_picture").get<std::string>();
    out.languages = j.at("languages").get<std::vector<std::string>>();
    out.language_weight = share(j.at("lean"));
    out.sheet = sheet_from(j.at("sheet"));
    const Json& working = j.at("working");
    out.working.angle = static_cast<AngleUnit>(small(working.at("angle"), 0, 2));
    out.working.digits = small(working.at("digits"), WorkingManner::kFewestDigits, WorkingManner::kMostDigits);
    out.working.exact = working.at("exact").get<bool>();
    out.working.earlier_values = working.at("earlier_values").get<bool>();
    return out;
}

// Pieces name sounds by their place in the list of files.
Json track_json(const VoiceTrack& track, const std::vector<SoundId>& sounds) {
    Json pieces = Json::array(), bookmarks = Json::array();
    for (const TrackPiece& p : track.pieces)
        pieces.push_back({{"sound", std::ranges::find(sounds, p.sound) - sounds.begin()},
                          {"from_ms", p.from_ms},
                          {"length_ms", p.length_ms},
                          {"began_ms", p.began_ms}});
    for (const Bookmark& b : track.bookmarks) bookmarks.push_back({{"at_ms", b.at_ms}, {"name", b.name}});
    return {{"name", track.name}, {"pieces", pieces}, {"bookmarks", bookmarks}};
}

VoiceTrack track_from(const Json& j, size_t sounds) {
    constexpr int64_t kMost = int64_t{1} << 50;
    VoiceTrack out;
    out.name = j.at("name").get<std::string>();
    for (const Json& p : j.at("pieces"))
        out.pieces.push_back({whole(p.at("sound"), 0, static_cast<int64_t>(sounds) - 1),
                              whole(p.at("from_ms"), 0, kMost), whole(p.at("length_ms"), 1, kMost),
                              whole(p.at("began_ms"), 0, kMost)});
    for (const Json& b : j.at("bookmarks"))
        out.bookmarks.push_back({whole(b.at("at_ms"), 0, kMost), b.at("name").get<std::string>()});
    return out;
}

// What is read of an archive, by the names this program gives.
class Entries {
public:
    static Result<Entries> open(const fs::path& path, const std::optional<std::string>& passphrase) {
        Entries out;
        std::error_code problem;
        out.size_ = fs::file_size(path, problem);
        if (problem) return Error{"it can't be read: " + problem.message()};
        if (looks_sealed(head_of(path))) {
            if (!passphrase) return Error{"it is locked; its passphrase is needed"};
            const auto sealed = read_regular(path, kMostBundleBytes);
            if (!sealed) return sealed.error();
            auto bytes = unseal(*sealed, *passphrase);
            if (!bytes) return bytes.error();
            *out.bytes_ = *std::move(bytes);
            zip_error_t error;
            zip_error_init(&error);
            zip_source_t* source = zip_source_buffer_create(out.bytes_->data(), out.bytes_->size(), 0, &error);
            if (source) {
                out.zip_.reset(zip_open_from_source(source, ZIP_RDONLY, &error));
                if (!out.zip_) zip_source_free(source);
            }
            zip_error_fini(&error);
        } else {
            int why = 0;
            out.zip_.reset(zip_open(path.c_str(), ZIP_RDONLY, &why));
        }
        if (!out.zip_) return Error{"it is damaged or cut off"};
        const auto type = out.get(kTypeEntry, kHeadBytes);
        if (!type || *type != kBundleType) return Error{"it is no bundle"};
        return out;
    }

    Result<std::string> get(const std::string& name, uint64_t most_bytes) {
        zip_stat_t stat;
        if (zip_stat(zip_.get(), name.c_str(), 0, &stat) != 0 || !(stat.valid & ZIP_STAT_SIZE))
            return Error{"“" + name + "” is missing in it"};
        const Error too_large{"“" + name + "” in it is larger than it can be"};
        if (stat.size > most_bytes) return too_large;
        taken_ += stat.size;
        if (taken_ > kMostBundleBytes || taken_ > kMostTimesPacked * (size_ + kHeadBytes)) return too_large;
        const std::unique_ptr<zip_file_t, int (*)(zip_file_t*)> file(zip_fopen(zip_.get(), name.c_str(), 0),
                                                                     &zip_fclose);
        std::string out(stat.size, '\0');
        // One byte more than there may be tells an entry that says less than it holds; its sum is checked at its end.
        char more = 0;
        if (!file || zip_fread(file.get(), out.data(), out.size()) != static_cast<zip_int64_t>(out.size()) ||
            zip_fread(file.get(), &more, 1) != 0)
            return Error{"“" + name + "” in it is damaged"};
        return out;
    }

private:
    Entries() = default;

    std::unique_ptr<std::string> bytes_ = std::make_unique<std::string>();  // unsealed
    Zip zip_;
    uint64_t size_ = 0, taken_ = 0;
};

void collect_files(const PageCopy& page, std::set<std::string>& files) {
    for (const Elements* elements : {static_cast<const Elements*>(&page.page), &page.ink})
        for_each_element(*elements, [&]<typename E>(const E& e) {
            for (const std::string& file : ElementTraits<E>::files(e)) files.insert(file);
        });
    if (!page.page.info.picture.empty()) files.insert(page.page.info.picture);
}

// Tracks heard while something on the pages was written.
std::vector<VoiceTrack> tracks_of(const std::vector<VoiceTrack>& tracks, const std::vector<int64_t>& written) {
    std::vector<VoiceTrack> out;
    for (const VoiceTrack& track : tracks)
        if (std::ranges::any_of(written, [&](int64_t when) { return position_of(track, when).has_value(); }))
            out.push_back(track);
    return out;
}

void collect_times(const Elements& elements, std::vector<int64_t>& out) {
    for (const Stroke& s : elements.strokes)
        if (s.start_ms > 0) out.push_back(s.start_ms);
}

Result<BroughtBundle> brought(Library& library, Entries& entries, const std::string& title, const CancelToken& cancel,
                              const Progress& progress) {
    const auto index = entries.get(kIndexEntry, kMostPageBytes);
    if (!index) return index.error();
    const Json j = Json::parse(*index);
    if (small(j.at("format")) > kBundleFormat)
        return Error{"it was made by a newer Fernleaf; update Fernleaf to open it"};
    Notebook notebook = notebook_from(j.at("notebook"));
    if (!title.empty()) notebook.title = title;
    for (const Json& file : j.at("files")) {
        const std::string name = file.get<std::string>();
        const auto bytes = entries.get("files/" + name, kMostFileBytes);
        if (!bytes) return bytes.error();
        if (sha256(*bytes) != name) return Error{"“" + name + "” in it is not what it was"};
        if (const auto added = library.add_file(*bytes); !added) return added.error();
    }
    BroughtBundle out;
    const auto made = library.add_notebook(notebook);
    if (!made) return made.error();
    out.notebook = *made;
    const auto fill = [&]() -> Status {
        const size_t count = j.at("pages").size();
        for (size_t i = 0; i < count; ++i) {
            if (cancel.cancelled()) return Error{"The import was cancelled."};
            const auto json = entries.get(j.at("pages")[i].get<std::string>(), kMostPageBytes);
            if (!json) return json.error();
            auto page = decode_page(*json);
            if (!page) return page.error();
            // A file that is not there would be missed later.
            std::set<std::string> files;
            collect_files(*page, files);
            for (const std::string& file : files)
                if (!library.file(file)) return Error{"a picture of it is missing"};
            const auto added = library.add_copy(*std::move(page), out.notebook, kAtTheEnd);
            if (!added) return added.error();
            out.pages.push_back(*added);
            if (progress) progress(static_cast<double>(i + 1) / static_cast<double>(count));
        }
        if (out.pages.empty()) return Error{"it has no page"};
        if (Status set = library.set_words(out.notebook, j.at("words").get<std::vector<std::string>>()); !set)
            return set;
        if (const auto tags = library.tags_named(j.at("tags").get<std::vector<std::string>>())) {
            std::vector<TagMark> marks;
            for (const TagId tag : *tags) marks.push_back({tag, 0, out.notebook});
            if (const auto set = library.set_tags(marks, true); !set) return set.error();
        }
        const auto known = library.tracks();
        if (!known) return known.error();
        for (const Json& t : j.at("tracks")) {
            const auto names = t.at("sounds").get<std::vector<std::string>>();
            const VoiceTrack track = track_from(t, names.size());
            const auto same = [&](const VoiceTrack& k) {
                return k.name == track.name && !k.pieces.empty() && !track.pieces.empty() &&
                       k.pieces.front().began_ms == track.pieces.front().began_ms && length_ms(k) == length_ms(track);
            };
            if (std::ranges::any_of(*known, same)) continue;  // it is the library's own
            std::vector<NewSound> sounds;
            for (const std::string& name : names) {
                auto bytes = entries.get("sound/" + name, kMostFileBytes);
                if (!bytes) return bytes.error();
                auto levels = entries.get("sound/" + name + ".levels", kMostPageBytes);
                if (!levels) return levels.error();
                sounds.push_back({fs::path(name).extension().string(), *std::move(bytes), *std::move(levels)});
            }
            if (const auto added = library.add_track(track, sounds); !added) return added.error();
        }
        return Done{};
    };
    const auto filled_or_damaged = [&]() -> Status {
        try {
            return fill();
        } catch (const std::exception&) {
            return Error{"it is damaged"};
        }
    };
    if (Status filled = filled_or_damaged(); !filled) {
        static_cast<void>(library.bin_notebook(out.notebook));
        return filled.error();
    }
    return out;
}

}  // namespace

bool is_sealed_bundle(const fs::path& path) { return looks_sealed(head_of(path)); }

bool is_bundle(const fs::path& path) {
    const std::string head = head_of(path);
    return looks_sealed(head) || (head.starts_with("PK") && head.find(kBundleType) != std::string::npos);
}

Status write_bundle(const Library& library, NotebookId id, const fs::path& path,
                    const std::optional<std::string>& passphrase, const CancelToken& cancel, const Progress& progress) {
    const auto notebook = library.notebook(id);
    if (!notebook) return notebook.error();
    const auto infos = library.pages(id);
    if (!infos) return infos.error();
    const auto words = library.words(id);
    if (!words) return words.error();
    const auto tags = library.tags_of_notebook(id);
    if (!tags) return tags.error();
    const auto tracks = library.tracks();
    if (!tracks) return tracks.error();
    ZipFile zip(path);
    if (!zip.open()) return zip.failed();
    if (Status added = zip.add(kTypeEntry, kBundleType, false); !added) return added;
    Json index{{"format", kBundleFormat}, {"notebook", notebook_json(*notebook)}, {"words", *words}};
    index["tags"] = Json::array();
    for (const Tag& tag : *tags) index["tags"].push_back(tag.name);
    std::set<std::string> files;
    std::vector<int64_t> written;
    for (const std::string& picture : {notebook->sheet.picture, notebook->cover_picture})
        if (!picture.empty()) files.insert(picture);
    index["pages"] = Json::array();
    for (size_t i = 0; i < infos->size(); ++i) {
        if (cancel.cancelled()) return Error{"The export was cancelled."};
        const auto page = library.take_copy((*infos)[i].id);
        if (!page) return page.error();
        collect_files(*page, files);
        collect_times(page->page, written);
        collect_times(page->ink, written);
        const std::string name = page_name(i + 1, ".json");
        index["pages"].push_back(name);
        if (Status added = zip.add(name, encode_page(*page), true); !added) return added;
        // For other programs: the ink in W3C's form.
        if (!page->page.strokes.empty())
            if (Status added = zip.add(page_name(i + 1, ".inkml"), write_inkml({page->page}), true); !added)
                return added;
    }
    index["files"] = Json::array();
    for (const std::string& file : files) {
        index["files"].push_back(file);
        auto bytes = library.file(file);
        if (!bytes) return bytes.error();
        if (Status added = zip.add("files/" + file, *std::move(bytes), false); !added) return added;
    }
    index["tracks"] = Json::array();
    std::set<std::string> sounds_added;
    for (const VoiceTrack& track : tracks_of(*tracks, written)) {
        std::vector<SoundId> sounds;
        for (const TrackPiece& piece : track.pieces)
            if (std::ranges::find(sounds, piece.sound) == sounds.end()) sounds.push_back(piece.sound);
        Json t = track_json(track, sounds);
        t["sounds"] = Json::array();
        for (const SoundId sound : sounds) {
            const auto at = library.sound_file(sound);
            if (!at) return at.error();
            const auto levels = library.sound_levels(sound);
            if (!levels) return levels.error();
            const std::string name = at->filename().string();
            t["sounds"].push_back(name);
            if (!sounds_added.insert(name).second) continue;
            if (Status added = zip.add_from("sound/" + name, *at); !added) return added;
            if (Status added = zip.add("sound/" + name + ".levels", *levels, true); !added) return added;
        }
        index["tracks"].push_back(std::move(t));
    }
    if (Status added = zip.add(kIndexEntry, index.dump(1, ' ', false, Json::error_handler_t::replace), true); !added)
        return added;
    return zip.finish(passphrase, cancel, progress);
}

Result<BroughtBundle> add_bundle(Library& library, const fs::path& path, const std::string& title,
                                 const std::optional<std::string>& passphrase, const CancelToken& cancel,
                                 const Progress& progress) {
    const auto named = [&](const Error& error) { return Error{path.filename().string() + ": " + error.message}; };
    auto entries = Entries::open(path, passphrase);
    if (!entries) return named(entries.error());
    try {
        auto out = brought(library, *entries, title, cancel, progress);
        if (!out) return named(out.error());
        return out;
    } catch (const std::exception&) {
        return named(Error{"it is damaged"});
    }
}

}  // namespace fernleaf
