// A small PDF, written for tests.
#pragma once

#include <cstdio>
#include <string>
#include <vector>

namespace fernleaf {

// A page of 400 by 300 points a content stream; every page has a typeface /F and, on request, a red square of 40 points
// at (300, 200) as an annotation.
inline std::string pdf_of(const std::vector<std::string>& contents, bool annotated = false) {
    std::vector<std::string> objects(3);
    const auto stream = [](const std::string& head, const std::string& data) {
        return "<<" + head + "/Length " + std::to_string(data.size()) + ">>\nstream\n" + data + "\nendstream";
    };
    objects[2] = "<</Type/Font/Subtype/Type1/BaseFont/Helvetica>>";
    std::string kids;
    for (const std::string& content : contents) {
        const size_t page = objects.size() + 1;
        kids += std::to_string(page) + " 0 R ";
        std::string annotations;
        if (annotated) annotations = "/Annots[" + std::to_string(page + 2) + " 0 R]";
        objects.push_back("<</Type/Page/Parent 2 0 R/MediaBox[0 0 400 300]/Resources<</Font<</F 3 0 R>>>>/Contents " +
                          std::to_string(page + 1) + " 0 R" + annotations + ">>");
        objects.push_back(stream("", content));
        if (!annotated) continue;
        objects.push_back("<</Type/Annot/Subtype/Square/Rect[300 200 340 240]/C[1 0 0]/IC[1 0 0]/F 4/AP<</N " +
                          std::to_string(page + 3) + " 0 R>>>>");
        objects.push_back(stream("/Type/XObject/Subtype/Form/BBox[0 0 40 40]", "1 0 0 rg 0 0 40 40 re f"));
    }
    objects[0] = "<</Type/Catalog/Pages 2 0 R>>";
    objects[1] = "<</Type/Pages/Kids[" + kids + "]/Count " + std::to_string(contents.size()) + ">>";
    std::string out = "%PDF-1.4\n", xref;
    for (size_t i = 0; i < objects.size(); ++i) {
        char entry[24];
        std::snprintf(entry, sizeof entry, "%010zu 00000 n \n", out.size());
        xref += entry;
        out += std::to_string(i + 1) + " 0 obj\n" + objects[i] + "\nendobj\n";
    }
    const std::string count = std::to_string(objects.size() + 1), at = std::to_string(out.size());
    return out + "xref\n0 " + count + "\n0000000000 65535 f \n" + xref + "trailer\n<</Size " + count +
           "/Root 1 0 R>>\nstartxref\n" + at + "\n%%EOF\n";
}

}  // namespace fernleaf
