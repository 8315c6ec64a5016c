#include "store/codec.h"

#include <sodium.h>

#include <array>

#include "base/json.h"

namespace fernleaf {

std::string encode_words(const std::vector<ReadWord>& words) {
    auto list = Json::array();
    for (const ReadWord& word : words) {
        Json j{{"text", word.text}, {"certainty", word.certainty}, {"box", json_of(word.box)}};
        if (!word.strokes.empty()) j["strokes"] = word.strokes;
        for (const Alternative& a : word.alternatives) j["alternatives"].push_back({a.text, a.certainty});
        if (word.corrected) j["corrected"] = true;
        if (word.block != 0) j["block"] = {word.block, word.block_word};
        if (word.italic) j["italic"] = true;
        if (word.bold) j["bold"] = true;
        list.push_back(std::move(j));
    }
    return text_of(list);
}

Result<std::vector<ReadWord>> decode_words(const std::string& json) {
    try {
        std::vector<ReadWord> words;
        for (const auto& j : Json::parse(json)) {
            ReadWord word;
            word.text = j.at("text");
            word.certainty = share(j.at("certainty"));
            word.box = box_from(j.at("box"));
            if (j.contains("strokes")) word.strokes = ids_in(j["strokes"]);
            if (j.contains("alternatives"))
                for (const auto& a : j["alternatives"]) word.alternatives.push_back({a.at(0), share(a.at(1))});
            word.corrected = j.value("corrected", false);
            if (j.contains("block"))
                word.block = whole(j["block"].at(0), 0, INT64_MAX), word.block_word = small(j["block"].at(1));
            word.italic = j.value("italic", false);
            word.bold = j.value("bold", false);
            words.push_back(std::move(word));
        }
        return words;
    } catch (const std::exception&) {
        return Error{"A reading in the library is damaged."};
    }
}

std::string encode_shapes(const std::vector<ReadShape>& shapes) {
    auto list = Json::array();
    for (const ReadShape& shape : shapes) {
        auto candidates = Json::array();
        for (const ShapeCandidate& c : shape.candidates) {
            auto points = Json::array();
            for (const Point& p : c.shape.points) points.push_back({p.x, p.y});
            Json j{{"kind", name_of(c.shape.kind)}, {"points", points}, {"certainty", c.certainty}, {"error", c.error}};
            if (c.shape.radius > 0) j["radius"] = c.shape.radius;
            candidates.push_back(std::move(j));
        }
        list.push_back({{"strokes", shape.strokes}, {"candidates", std::move(candidates)}});
    }
    return text_of(list);
}

Result<std::vector<ReadShape>> decode_shapes(const std::string& json) {
    const Error damaged{"A reading in the library is damaged."};
    try {
        std::vector<ReadShape> out;
        for (const auto& j : Json::parse(json)) {
            ReadShape shape;
            shape.strokes = ids_in(j.at("strokes"));
            for (const auto& c : j.at("candidates")) {
                ShapeCandidate one;
                const auto kind = shape_kind(c.at("kind").get<std::string>());
                if (!kind) return damaged;
                one.shape.kind = *kind;
                for (const auto& p : c.at("points"))
                    one.shape.points.push_back({p.at(0).get<double>(), p.at(1).get<double>()});
                if (c.contains("radius")) one.shape.radius = c["radius"].get<double>();
                if (!is_valid(one.shape)) return damaged;
                one.certainty = share(c.at("certainty"));
                one.error = c.at("error").get<double>();
                shape.candidates.push_back(std::move(one));
            }
            if (shape.candidates.empty()) return damaged;
            out.push_back(std::move(shape));
        }
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::string encode_table(const TablePlace& place) {
    if (place.cell >= 0) return text_of({{"cell", place.cell}});
    if (!place.table) return {};
    auto cells = Json::array();
    for (const ReadCell& c : place.table->cells)
        cells.push_back({c.row, c.column, c.row_count, c.column_count, json_of(c.box)});
    return text_of({{"rows", place.table->rows},
                    {"columns", place.table->columns},
                    {"cells", std::move(cells)},
                    {"rules", place.table->rules}});
}

Result<TablePlace> decode_table(const std::string& json) {
    const Error damaged{"A reading in the library is damaged."};
    TablePlace out;
    if (json.empty()) return out;
    try {
        const Json j = Json::parse(json);
        if (j.contains("cell")) {
            out.cell = small(j["cell"]);
            if (out.cell < 0) return damaged;
            return out;
        }
        ReadTable table{small(j.at("rows")), small(j.at("columns")), {}, ids_in(j.at("rules"))};
        for (const auto& c : j.at("cells"))
            table.cells.push_back({small(c.at(0)), small(c.at(1)), small(c.at(2)), small(c.at(3)), box_from(c.at(4))});
        if (!is_valid(table)) return damaged;
        out.table = std::move(table);
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::string sha256(std::string_view bytes) {
    std::array<unsigned char, crypto_hash_sha256_BYTES> digest{};
    crypto_hash_sha256(digest.data(), reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size());
    std::string out;
    for (const unsigned char b : digest) {
        constexpr char kHex[] = "0123456789abcdef";
        out.push_back(kHex[b >> 4]);
        out.push_back(kHex[b & 15]);
    }
    return out;
}

}  // namespace fernleaf
