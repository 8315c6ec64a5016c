// Files and links on cards, without a window.
#include <gtest/gtest.h>

#include <QFile>
#include <QFileInfo>
#include <QSignalSpy>
#include <QTemporaryDir>

#include "desk/parts_fixture.h"
#include "wait_until.h"

namespace fernleaf {
namespace {

class CardsOnPages : public Parts {
protected:
    void begin(const std::filesystem::path& models = "/nowhere") {
        pages_ = {library_.page("Frost watch"), library_.page("Press house")};
        session_ = std::make_unique<Session>(std::move(library_.library), models);
        open(0);
    }
    void open(size_t page) {
        session_->open_page(pages_[page]);
        session_->wait_idle();
    }
    QString file(const char* name, const char* bytes) {
        QFile out(folder_.filePath(name));
        EXPECT_TRUE(out.open(QIODevice::WriteOnly));
        out.write(bytes);
        return out.fileName();
    }

    QTemporaryDir folder_;
    std::vector<PageId> pages_;
};

TEST_F(CardsOnPages, FilesAreKeptOpenedAndSaved) {
    begin();
    session_->cards().attach({file("Soil report.pdf", "the report"), file("plan.txt", "the plan")});
    WAIT_UNTIL(session_->page()->cards.size() == 2);
    const Card card = session_->page()->cards[0];
    EXPECT_EQ(card.name, "Soil report.pdf");
    EXPECT_EQ(card.bytes, 10);
    EXPECT_FALSE(card.box.meets(session_->page()->cards[1].box));
    QSignalSpy ready(&session_->cards(), &CardsDesk::file_ready);
    session_->cards().open(card);
    WAIT_UNTIL(ready.count() == 1);
    QFile opened(ready[0][0].toString());
    EXPECT_EQ(QFileInfo(opened).fileName(), "Soil report.pdf");
    ASSERT_TRUE(opened.open(QIODevice::ReadOnly));
    EXPECT_EQ(opened.readAll(), "the report");
    session_->cards().open(card);  // the same copy
    WAIT_UNTIL(ready.count() == 2);
    EXPECT_EQ(ready[0], ready[1]);
    QSignalSpy notices(&session_->messages(), &Messages::notice);
    session_->cards().save(card, folder_.filePath("copy.pdf"));
    WAIT_UNTIL(notices.count() == 1);
    EXPECT_EQ(QFileInfo(folder_.filePath("copy.pdf")).size(), 10);
    // One step of undo takes both away.
    session_->editing().undo();
    session_->wait_idle();
    WAIT_UNTIL(session_->page()->cards.empty());
}

TEST_F(CardsOnPages, AreRenamedOnTheTextLeaf) {
    begin(models_directory());
    session_->cards().attach({file("Soil report.pdf", "the report")});
    WAIT_UNTIL(session_->page()->cards.size() == 1);
    WAIT_UNTIL(session_->word({0, 1}) != nullptr);
    EXPECT_EQ(session_->word({0, 1})->text, "report.pdf");
    session_->correcting().correct({0, 1}, "survey.pdf");
    session_->wait_idle();
    ASSERT_EQ(session_->page()->cards.size(), 1U);
    EXPECT_EQ(session_->page()->cards[0].name, "Soil survey.pdf");
    EXPECT_EQ(session_->word({0, 1})->text, "survey.pdf");
}

TEST_F(CardsOnPages, ManyFindRoomAndLongNamesAreCutBetweenLetters) {
    begin();
    const QByteArray name = QString(60, QChar(0xFC)).toUtf8() + ".txt";
    QStringList paths;
    for (int i = 0; i < 9; ++i) paths << file((QByteArray::number(i) + name).constData(), "x");
    session_->cards().attach(paths);
    WAIT_UNTIL(session_->page()->cards.size() == 9);
    const auto& cards = session_->page()->cards;
    for (size_t i = 0; i < cards.size(); ++i) {
        EXPECT_LE(cards[i].box.bottom, session_->page()->info.height_mm);
        EXPECT_EQ(QString::fromStdString(cards[i].name).toUtf8().toStdString(), cards[i].name);
        for (size_t j = 0; j < i; ++j) EXPECT_FALSE(cards[i].box.meets(cards[j].box));
    }
}

TEST_F(CardsOnPages, ANameLeadsOutOfNoFolder) {
    begin();
    session_->cards().attach({file("plan.txt", "the plan")});
    WAIT_UNTIL(session_->page()->cards.size() == 1);
    Card card = session_->page()->cards[0];
    QSignalSpy ready(&session_->cards(), &CardsDesk::file_ready);
    for (const char* name : {"../../../etc/passwd", "/etc/passwd", "..", ".bashrc", ""}) {
        card.name = name;
        const auto before = ready.count();
        session_->cards().open(card);
        WAIT_UNTIL(ready.count() == before + 1);
        const QString path = ready.back()[0].toString();
        EXPECT_TRUE(path.contains("/attachments/" + QString::fromStdString(card.file.substr(0, 16)) + "/")) << name;
        EXPECT_FALSE(path.contains(".."));
        EXPECT_FALSE(QFileInfo(path).fileName().startsWith('.'));
    }
}

TEST_F(CardsOnPages, WhatIsNoFileIsToldAndNothingIsAttached) {
    begin();
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    session_->cards().attach({folder_.path()});
    WAIT_UNTIL(problems.count() == 1);
    EXPECT_TRUE(session_->page()->cards.empty());
}

TEST_F(CardsOnPages, LinksLeadToTheirPageAndBack) {
    begin();
    const Card link = session_->cards().link_here();
    EXPECT_EQ(link.name, "Frost watch, page 1");
    open(1);
    Elements put;
    put.cards = {link};
    put.cards[0].id = session_->editing().new_id();
    session_->editing().add(put, "Paste");
    session_->wait_idle();
    std::vector<PagePlace> from;
    bool found = false;
    session_->cards().find_linked_from(pages_[0], [&](const std::vector<PagePlace>& places) {
        from = places;
        found = true;
    });
    WAIT_UNTIL(found);
    ASSERT_EQ(from.size(), 1U);
    EXPECT_EQ(from[0].page, pages_[1]);
    session_->cards().open(session_->page()->cards[0]);
    session_->wait_idle();
    WAIT_UNTIL(session_->page()->info.id == pages_[0]);
    // A page in the bin, and one of another library, are told.
    QSignalSpy problems(&session_->messages(), &Messages::problem);
    Card elsewhere = link;
    elsewhere.page_made_ms += 1;
    session_->cards().open(elsewhere);
    WAIT_UNTIL(problems.count() == 1);
    open(1);
    session_->model().bin_notebook(session_->library().load_page(pages_[0])->info.notebook);
    session_->wait_idle();
    session_->cards().open(link);
    WAIT_UNTIL(problems.count() == 2);
    EXPECT_TRUE(problems[1][0].toString().contains("Frost watch, page 1"));
}

}  // namespace
}  // namespace fernleaf
