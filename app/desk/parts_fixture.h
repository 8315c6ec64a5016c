// For tests: the session's parts over a library of their own, without a window.
#pragma once

#include <gtest/gtest.h>

#include <QSettings>
#include <QSignalSpy>

#include "desk/session.h"
#include "reading/models_directory.h"
#include "store/temporary_library.h"

namespace fernleaf {

class Parts : public testing::Test {
protected:
    void SetUp() override { QSettings().clear(); }

    // With so many pages in one notebook; the first is open when it returns.
    void start(int pages = 1) {
        ids_ = {library_.page()};
        notebook_ = library_->load_page(ids_[0])->info.notebook;
        for (int i = 1; i < pages; ++i) ids_.push_back(*library_->add_page(notebook_, {}));
        session_ = std::make_unique<Session>(std::move(library_.library), models_directory());
        session_->open_page(ids_[0]);
        session_->wait_idle();
    }
    Page kept(size_t page = 0) { return *session_->library().load_page(ids_[page]); }

    TemporaryLibrary library_;
    std::vector<PageId> ids_;
    NotebookId notebook_ = 0;
    std::unique_ptr<Session> session_;
};

}  // namespace fernleaf
