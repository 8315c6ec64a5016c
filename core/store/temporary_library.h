// For tests: a library in a directory that goes away with the test.
#pragma once

#include <gtest/gtest.h>

#include <unistd.h>
#include <atomic>

#include "store/library.h"

namespace fernleaf {

class TemporaryLibrary {
public:
    TemporaryLibrary()
        : directory(std::filesystem::temp_directory_path() /
                    ("fernleaf-test-" + std::to_string(getpid()) + "-" + std::to_string(count_++))) {
        reopen();
    }
    ~TemporaryLibrary() {
        library.reset();
        std::filesystem::remove_all(directory);
    }
    TemporaryLibrary(const TemporaryLibrary&) = delete;
    TemporaryLibrary& operator=(const TemporaryLibrary&) = delete;

    void reopen() {
        library.reset();
        auto opened = Library::open(directory);
        if (!opened) {
            ADD_FAILURE() << opened.error().message;
            return;
        }
        library = *std::move(opened);
    }
    PageId page(const std::string& title = "Grafting trials") {
        Notebook notebook;
        notebook.title = title;
        return *library->add_page(*library->add_notebook(notebook), {});
    }
    // Keeps a correction, as a step of undo.
    void say(PageId page, const Correction& correction) {
        Edit edit{"Correct"};
        edit.corrections_added = {correction};
        EXPECT_TRUE(library->commit(page, edit));
    }
    Library* operator->() { return library.get(); }

    std::filesystem::path directory;
    std::unique_ptr<Library> library;

private:
    inline static std::atomic<int> count_ = 0;
};

inline Stroke test_stroke(double x, double y) {
    Stroke s;
    s.points = {{{x, y}, 0.4F, 3, -4, 0}, {{x + 1.23, y + 2.34}, 0.8F, 3, -4, 7}};
    return s;
}

inline Reading test_reading(const std::vector<std::pair<std::string, std::string>>& words_and_rivals) {
    Reading reading;
    ReadLine line;
    double x = 10;
    for (const auto& [word, rival] : words_and_rivals) {
        line.words.push_back({word, 0.8, Box::of(x, 20, 12, 5), {}, {{rival, 0.15}}, false});
        x += 15;
    }
    line.box = Box::of(10, 20, x - 10, 5);
    reading.lines.push_back(line);
    return reading;
}

// A line of words that can be nothing else.
inline Reading sure_reading(const std::vector<std::string>& words) {
    std::vector<std::pair<std::string, std::string>> with_rivals;
    for (const std::string& word : words) with_rivals.emplace_back(word, "");
    return test_reading(with_rivals);
}

}  // namespace fernleaf
