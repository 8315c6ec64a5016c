#include "store/page_file.h"

#include <sodium.h>

#include <type_traits>

#include "document/sheet_json.h"

namespace fernleaf {
namespace {

std::string base64(std::string_view bytes) {
    std::string out(sodium_base64_ENCODED_LEN(bytes.size(), sodium_base64_VARIANT_ORIGINAL), '\0');
    sodium_bin2base64(out.data(), out.size(), reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size(),
                      sodium_base64_VARIANT_ORIGINAL);
    out.pop_back();  // its zero
    return out;
}

std::string from_base64(const std::string& text) {
    std::string out(text.size() / 4 * 3 + 3, '\0');
    size_t length = 0;
    if (sodium_base642bin(reinterpret_cast<unsigned char*>(out.data()), out.size(), text.data(), text.size(), nullptr,
                          &length, nullptr, sodium_base64_VARIANT_ORIGINAL) != 0)
        throw std::out_of_range("base64");
    out.resize(length);
    return out;
}

constexpr int kStrokes = static_cast<int>(ElementTraits<Stroke>::kKind);

Json json_of(const Elements& elements) {
    Json out = Json::array();
    for_each_element(elements, [&]<typename E>(const E& e) {
        const std::string body = ElementTraits<E>::encode(e);
        out.push_back({{"id", e.id},
                       {"z", e.z},
                       {"kind", static_cast<int>(ElementTraits<E>::kKind)},
                       {"body", std::is_same_v<E, Stroke> ? base64(body) : body}});
    });
    return out;
}

void put_elements(Elements& out, const Json& list) {
    for (const Json& j : list) {
        const int kind = small(j.at("kind"));
        const std::string body = j.at("body").get<std::string>();
        const Status put =
            decode_into(out, kind, whole(j.at("id"), INT64_MIN, INT64_MAX), whole(j.at("z"), INT64_MIN, INT64_MAX),
                        kind == kStrokes ? from_base64(body) : body);
        if (!put) throw std::out_of_range(put.error().message);
    }
}

}  // namespace

std::string encode_page(const PageCopy& page) {
    Json corrections = Json::array();
    for (const Correction& c : page.corrections)
        corrections.push_back({{"strokes", c.strokes},
                               {"box", c.box.empty() ? Json() : json_of(c.box)},
                               {"text", c.text},
                               {"kind", static_cast<int>(c.kind)}});
    const PageInfo& info = page.page.info;
    return text_of({{"sheet", json_of(static_cast<const Sheet&>(info))},
                    {"created_ms", info.created_ms},
                    {"title", info.title},
                    {"favourite", info.favourite},
                    {"tags", page.tags},
                    {"elements", json_of(static_cast<const Elements&>(page.page))},
                    {"ink", json_of(page.ink)},
                    {"corrections", corrections}});
}

Result<PageCopy> decode_page(const std::string& json) {
    try {
        const Json j = Json::parse(json);
        PageCopy out;
        static_cast<Sheet&>(out.page.info) = sheet_from(j.at("sheet"));
        out.page.info.created_ms = whole(j.at("created_ms"), INT64_MIN, INT64_MAX);
        out.page.info.title = j.at("title").get<std::string>();
        out.page.info.favourite = j.at("favourite").get<bool>();
        out.tags = j.at("tags").get<std::vector<std::string>>();
        put_elements(out.page, j.at("elements"));
        put_elements(out.ink, j.at("ink"));
        for (const Json& c : j.at("corrections")) {
            Correction correction{ids_in(c.at("strokes")),
                                  {},
                                  c.at("text").get<std::string>(),
                                  static_cast<InkClass>(small(c.at("kind"), 0, static_cast<int>(InkClass::sign)))};
            if (!c.at("box").is_null()) correction.box = box_from(c.at("box"));
            if (!is_place(correction.box) && !correction.box.empty()) throw std::out_of_range("box");
            out.corrections.push_back(std::move(correction));
        }
        for (const Elements* elements : {static_cast<const Elements*>(&out.page), &std::as_const(out.ink)})
            if (const auto why = validation_error(*elements)) return Error{*why};
        const Sheet& sheet = out.page.info;
        const bool sound = sheet.width_mm >= kLeastSheetMm && sheet.width_mm <= kMostSheetMm &&
                           sheet.height_mm >= kLeastSheetMm && sheet.height_mm <= kFarthestMm &&
                           sheet.spacing_mm >= kLeastSpacingMm && sheet.spacing_mm <= kMostSpacingMm;
        if (!sound) return Error{"It has a page of an impossible size."};
        return out;
    } catch (const std::exception&) {
        return Error{"A page of it is damaged."};
    }
}

}  // namespace fernleaf
