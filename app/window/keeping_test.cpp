// Order in the library, in the real window: tags, titles, folders, going to, boxes to tick.
#include <QCompleter>
#include <QInputDialog>
#include <QLineEdit>
#include <QMimeData>
#include <QSignalSpy>

#include "keeping/tags_dialog.h"
#include "render/text_look.h"
#include "wait_until.h"
#include "window/notebook_dialog.h"
#include "window/replace_dialog.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class KeepingInWindow : public Window {
protected:
    void begin() {
        for (const char* title : {"Frost watch", "Press house"}) {
            Notebook n;
            n.title = title;
            notebooks_.push_back(*library_->add_notebook(n));
            pages_.push_back(*library_->add_page(notebooks_.back(), {}));
        }
        open();
        ASSERT_TRUE(session_->page());
        session_->open_page(pages_[0]);
        session_->wait_idle();
        // On a slow machine the first answer may still be on its way.
        WAIT_UNTIL(window_->page_line()->isVisible());
    }
    QStringList slips() {
        QStringList out;
        for (const TagSlip* slip : window_->page_line()->slips()) out << slip->text();
        return out;
    }
    void type_tag(const QString& names) {
        window_->page_line()->ask_for_tag();
        QLineEdit* field = window_->page_line()->tag_field();
        QTest::keyClicks(field, names);
        QTest::keyClick(field, Qt::Key_Return);
    }
    QStringList rows() {
        QStringList out;
        const NotebookModel& model = window_->notebook_list()->model();
        for (int i = 0; i < model.rowCount(); ++i) out << model.index(i).data().toString();
        return out;
    }
    QModelIndex row(const QString& text) {
        const NotebookModel& model = window_->notebook_list()->model();
        for (int i = 0; i < model.rowCount(); ++i)
            if (model.index(i).data().toString() == text) return model.index(i);
        return {};
    }
    template <typename Dialog>
    Dialog* opened() {
        Dialog* dialog = window_->findChild<Dialog*>();
        EXPECT_TRUE(dialog);
        return dialog;
    }

    std::vector<NotebookId> notebooks_;
    std::vector<PageId> pages_;
};

TEST_F(KeepingInWindow, TagsAreTypedSeenAndTakenAway) {
    ASSERT_NO_FATAL_FAILURE(begin());
    type_tag("cold, #rime");
    WAIT_UNTIL(slips() == (QStringList{"cold", "rime"}));
    EXPECT_TRUE(window_->page_line()->tag_field()->isVisible()) << "the next can be typed at once";
    QTest::keyClick(window_->page_line()->tag_field(), Qt::Key_Escape);
    EXPECT_FALSE(window_->page_line()->tag_field()->isVisible());
    session_->keeping().tag_notebook(notebooks_[0], "weather");
    WAIT_UNTIL(slips() == (QStringList{"cold", "rime", "weather"}));
    EXPECT_TRUE(window_->page_line()->slips().back()->of_notebook());
    std::function<void()> take_back;
    QObject::connect(&session_->messages(), &Messages::undoable, window_.get(),
                     [&](const QString&, const std::function<void()>& back) { take_back = back; });
    session_->keeping().untag({window_->page_line()->slips()[0]->tag().id, pages_[0]});
    WAIT_UNTIL(slips() == (QStringList{"rime", "weather"}));
    ASSERT_TRUE(take_back);
    take_back();
    WAIT_UNTIL(slips().size() == 3);
    session_->open_page(pages_[1]);
    WAIT_UNTIL(slips().isEmpty());
}

TEST_F(KeepingInWindow, ATagFindsItsPages) {
    ASSERT_NO_FATAL_FAILURE(begin());
    type_tag("cold room");
    WAIT_UNTIL(slips().size() == 1);
    emit window_->page_line()->tag_wanted("cold room");
    EXPECT_EQ(window_->notebook_list()->find_field()->text(), "tag:\"cold room\"");
    WAIT_UNTIL(rows().contains("Frost watch") && !rows().contains("Press house"));
}

TEST_F(KeepingInWindow, ManyTagsMakeRoomForOneAnother) {
    ASSERT_NO_FATAL_FAILURE(begin());
    QStringList names;
    for (int i = 0; i < 20; ++i) names << QStringLiteral("a rather long tag %1").arg(i);
    session_->keeping().tag({pages_[0]}, names.join(','));
    WAIT_UNTIL(slips().size() == 20);
    window_->resize(820, 700);
    QCoreApplication::processEvents();
    EXPECT_FALSE(window_->page_line()->slips().back()->isVisible());
    EXPECT_EQ(window_->width(), 820) << "the window is not pushed open";
}

TEST_F(KeepingInWindow, APageIsNamedInPlace) {
    ASSERT_NO_FATAL_FAILURE(begin());
    QLineEdit* title = window_->page_line()->title();
    title->setFocus();
    QTest::keyClicks(title, "Ice on the pond");
    QTest::keyClick(title, Qt::Key_Return);
    WAIT_UNTIL(rows().contains("Ice on the pond"));
    title->setFocus();
    QTest::keyClicks(title, " (half)");
    QTest::keyClick(title, Qt::Key_Escape);
    EXPECT_EQ(title->text(), "Ice on the pond");
    title->setFocus();
    QTest::keyClicks(title, ", half");
    session_->open_page(pages_[1]);
    WAIT_UNTIL(title->text().isEmpty());
    session_->wait_idle();
    EXPECT_EQ(session_->library().load_page(pages_[0])->info.title, "Ice on the pond, half") << "what was begun there";
}

TEST_F(KeepingInWindow, GoToFindsPagesNotebooksAndCommands) {
    ASSERT_NO_FATAL_FAILURE(begin());
    session_->keeping().name_page(pages_[1], "Third pressing");
    session_->wait_idle();
    window_->go_to();
    auto* dialog = opened<GoToDialog>();
    WAIT_UNTIL(!dialog->list()->findItems("Third pressing", Qt::MatchExactly).isEmpty());
    QTest::keyClicks(dialog->field(), "thi pre");
    ASSERT_EQ(dialog->list()->count(), 1);
    EXPECT_EQ(dialog->list()->item(0)->text(), "Third pressing");
    QTest::keyClick(dialog->field(), Qt::Key_Return);
    WAIT_UNTIL(session_->page() && session_->page()->info.id == pages_[1]);
    window_->go_to();
    dialog = window_->findChildren<GoToDialog*>().back();
    QTest::keyClicks(dialog->field(), "to-dos");
    ASSERT_GE(dialog->list()->count(), 1);
    QTest::keyClick(dialog->field(), Qt::Key_Return);
    EXPECT_TRUE(window_->showing_todos());
    window_->go_to();
    dialog = window_->findChildren<GoToDialog*>().back();
    QTest::keyClicks(dialog->field(), "xyzzy");
    EXPECT_EQ(dialog->list()->count(), 0);
    QTest::keyClick(dialog->field(), Qt::Key_Return);
    EXPECT_TRUE(dialog->isVisible());
}

TEST_F(KeepingInWindow, AnEmptyLibraryHasCommandsToGoToAndNothingToDo) {
    open();
    window_->go_to();
    auto* dialog = opened<GoToDialog>();
    EXPECT_GT(dialog->list()->count(), 20);
    EXPECT_TRUE(dialog->list()->isVisible());
    dialog->reject();
    window_->show_todos(true);
    session_->wait_idle();
    ASSERT_TRUE(window_->showing_todos());
    QWidget* keys = window_->focusWidget();
    ASSERT_TRUE(keys && window_->todos()->isAncestorOf(keys)) << "not whatever comes next";
    QTest::keyClick(keys, Qt::Key_Escape);
    EXPECT_FALSE(window_->showing_todos());
}

TEST_F(KeepingInWindow, EveryCommandHasAName) {
    ASSERT_NO_FATAL_FAILURE(begin());
    std::set<QString> names, keys;
    for (const Command& command : window_->commands()) {
        EXPECT_FALSE(command.name.isEmpty());
        EXPECT_TRUE(names.insert(command.name).second) << command.name.toStdString();
        EXPECT_TRUE(keys.insert(command.keys).second) << command.keys.toStdString();
    }
}

TEST_F(KeepingInWindow, NotebooksAreKeptInFoldersThatClose) {
    ASSERT_NO_FATAL_FAILURE(begin());
    session_->keeping().add_folder(
        "Hill", kNoFolder, [this](FolderId folder) { session_->keeping().place_notebook(notebooks_[1], folder, 0); });
    WAIT_UNTIL(rows().value(0) == "Hill" && rows().value(1) == "Press house");
    emit window_->notebook_list()->list()->clicked(row("Hill"));
    EXPECT_FALSE(rows().contains("Press house"));
    emit window_->notebook_list()->list()->clicked(row("Hill"));
    EXPECT_TRUE(rows().contains("Press house"));
    session_->keeping().remove_folder(session_->keeping().folders().at(0).id);
    WAIT_UNTIL(!rows().contains("Hill") && rows().contains("Press house"));
}

TEST_F(KeepingInWindow, NotebooksAreDraggedAndMovedByKeys) {
    ASSERT_NO_FATAL_FAILURE(begin());
    QListView* list = window_->notebook_list()->list();
    list->setFocus();
    list->setCurrentIndex(row("Press house"));
    QTest::keyClick(list, Qt::Key_Up, Qt::ControlModifier);
    WAIT_UNTIL(rows().value(0) == "Press house");
    session_->keeping().add_folder("Hill", kNoFolder, {});
    WAIT_UNTIL(rows().value(0) == "Hill");
    auto& model = const_cast<NotebookModel&>(window_->notebook_list()->model());
    const std::unique_ptr<QMimeData> dragged(model.mimeData({row("Press house")}));
    EXPECT_TRUE(model.dropMimeData(dragged.get(), Qt::MoveAction, -1, -1, row("Hill")));
    WAIT_UNTIL(session_->library().notebook(notebooks_[1])->folder != kNoFolder);
    const QMimeData foreign;
    EXPECT_FALSE(model.dropMimeData(&foreign, Qt::MoveAction, 0, 0, {}));
}

TEST_F(KeepingInWindow, AnArchivedNotebookIsReadOnlyAndAtTheFoot) {
    ASSERT_NO_FATAL_FAILURE(begin());
    session_->model().archive_notebook(notebooks_[0], true);
    WAIT_UNTIL(rows().contains("Archive") && session_->document().notebook().archived);
    take(Tool::pen);
    mouse_stroke({{20, 30}, {40, 35}});
    session_->wait_idle();
    EXPECT_TRUE(session_->page()->strokes.empty());
    EXPECT_TRUE(window_->notice()->isVisible()) << "it says why";
    session_->model().archive_notebook(notebooks_[0], false);
    WAIT_UNTIL(!session_->document().notebook().archived);
    mouse_stroke({{20, 30}, {40, 35}});
    EXPECT_EQ(session_->page()->strokes.size(), 1U);
}

TEST_F(KeepingInWindow, FindSuggestsTagsAndNotebooks) {
    ASSERT_NO_FATAL_FAILURE(begin());
    type_tag("cold room");
    WAIT_UNTIL(slips().size() == 1);
    QLineEdit* find = window_->notebook_list()->find_field();
    WAIT_UNTIL(find->completer() != nullptr);
    find->completer()->setWidget(find);
    find->setText("frost tag:co");
    find->completer()->setCompletionPrefix("frost tag:co");
    ASSERT_EQ(find->completer()->completionCount(), 1);
    EXPECT_EQ(find->completer()->currentCompletion(), "frost tag:\"cold room\"");
    find->completer()->setCompletionPrefix("frost co");
    EXPECT_EQ(find->completer()->completionCount(), 0);
}

TEST_F(KeepingInWindow, TagsAreRenamedAndJoined) {
    ASSERT_NO_FATAL_FAILURE(begin());
    session_->keeping().tag({pages_[0]}, "cold, rime");
    WAIT_UNTIL(slips().size() == 2);
    window_->show_tags();
    auto* dialog = opened<TagsDialog>();
    ASSERT_EQ(dialog->list()->count(), 2);
    session_->keeping().rename_tag(session_->keeping().tags()[0].id, "Rime");
    WAIT_UNTIL(dialog->list()->count() == 1);
    EXPECT_EQ(slips(), QStringList{"rime"});
    QSignalSpy wanted(dialog, &TagsDialog::tag_wanted);
    emit dialog->list()->itemActivated(dialog->list()->item(0));
    EXPECT_EQ(wanted.value(0).value(0).toString(), "rime");
}

TEST_F(KeepingInWindow, BoxesAreTickedWhereTheyAreAndHere) {
    ASSERT_NO_FATAL_FAILURE(begin());
    // On the page that is not open.
    TextBlock list;
    list.at = {20, 30};
    list.paragraphs = {{{{"prune the pears"}}}};
    list.paragraphs[0].list = ListKind::check;
    close();
    library_.reopen();
    lay_out(list);
    Edit edit{"Type", {{}, {}, {list}}};
    ASSERT_TRUE(library_->commit(pages_[1], edit));
    open();
    session_->open_page(pages_[0]);
    session_->wait_idle();
    window_->show_todos(true);
    TodoView* todos = window_->todos();
    ASSERT_TRUE(wait_until([&] { return todos->list()->model()->rowCount() == 2; })) << "it is read and listed";
    const QModelIndex line = todos->list()->model()->index(1, 0);
    EXPECT_EQ(line.data().toString(), "prune the pears");
    todos->list()->setCurrentIndex(line);
    QTest::keyClick(todos->list(), Qt::Key_Space);
    WAIT_UNTIL(todos->list()->model()->rowCount() == 0);
    const auto page = session_->library().load_page(pages_[1]);
    ASSERT_EQ(page->texts.size(), 1U);
    EXPECT_EQ(page->texts[0].paragraphs[0].list, ListKind::checked);
    todos->done_too()->setChecked(true);
    WAIT_UNTIL(todos->list()->model()->rowCount() == 2);
    QSignalSpy wanted(todos, &TodoView::page_wanted);
    todos->list()->setCurrentIndex(todos->list()->model()->index(1, 0));
    QTest::keyClick(todos->list(), Qt::Key_Return);
    EXPECT_EQ(wanted.value(0).value(0).toLongLong(), pages_[1]);
    WAIT_UNTIL(session_->page()->info.id == pages_[1]);
}

TEST_F(KeepingInWindow, SearchesAreKeptAndHitsSteppedThrough) {
    const PageId first = library_.page(), second = library_.page("Frost watch");
    ASSERT_TRUE(library_->save_reading(first, sure_reading({"gate", "and", "gate"})));
    Reading two = sure_reading({"gate"});
    two.lines.push_back(sure_reading({"the", "gate"}).lines[0]);
    two.lines[1].box = Box::of(20, 80, 40, 6);
    ASSERT_TRUE(library_->save_reading(second, two));
    open("/nowhere");  // nothing is read anew
    NotebookList* list = window_->notebook_list();
    EXPECT_FALSE(list->keep_action()->isVisible());
    list->find_field()->setText("gate");
    EXPECT_TRUE(list->keep_action()->isVisible());
    WAIT_UNTIL(list->model().rowCount() > 4);
    QSignalSpy chosen(list, &NotebookList::hit_chosen);
    for (int i = 0; i < 3; ++i) QTest::keyClick(window_.get(), Qt::Key_G, Qt::ControlModifier);
    ASSERT_EQ(chosen.count(), 3);
    EXPECT_NE(chosen[0][0].value<PageId>(), chosen[2][0].value<PageId>()) << "over pages";
    QTest::keyClick(window_.get(), Qt::Key_G, Qt::ControlModifier);
    EXPECT_EQ(chosen[3][0].value<PageId>(), chosen[0][0].value<PageId>()) << "round and round";
    QTest::keyClick(window_.get(), Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(chosen[4][0].value<PageId>(), chosen[2][0].value<PageId>());
    list->keep_action()->trigger();
    WAIT_UNTIL(session_->keeping().kept_searches() == std::vector<std::string>{"gate"});
    list->find_field()->clear();
    emit window_->findChild<QLineEdit*>("findField")->actions().front()->triggered();
    ASSERT_EQ(list->kept_menu()->actions().front()->text(), "gate");
    list->kept_menu()->actions().front()->trigger();
    EXPECT_EQ(list->find_field()->text(), "gate");
    list->kept_menu()->close();
    session_->keeping().keep_search("gate", false);
    WAIT_UNTIL(session_->keeping().kept_searches().empty());
}

TEST_F(KeepingInWindow, NotebooksAreSorted) {
    library_.page("Press house");
    const PageId written = library_.page("Frost watch");
    library_.page("Äpfel");
    Stroke stroke = test_stroke(20, 30);
    stroke.start_ms = 1'790'000'000'000;
    Edit edit{"Write", {{stroke}}};
    ASSERT_TRUE(library_->commit(written, edit));
    open();
    const auto titles = [&] {
        QStringList out;
        const NotebookModel& model = window_->notebook_list()->model();
        for (int i = 0; i < model.rowCount(); ++i)
            if (model.kind_at(model.index(i)) == NotebookModel::Kind::notebook) out << model.index(i).data().toString();
        return out;
    };
    EXPECT_EQ(titles(), (QStringList{"Press house", "Frost watch", "Äpfel"}));
    window_->notebook_list()->set_order(NotebookModel::Order::title);
    EXPECT_EQ(titles(), (QStringList{"Äpfel", "Frost watch", "Press house"}));
    window_->notebook_list()->set_order(NotebookModel::Order::written);
    EXPECT_EQ(titles().front(), "Frost watch");
    // What is sorted is not arranged by hand.
    QSignalSpy notices(&session_->messages(), &Messages::notice);
    QListView* list = window_->notebook_list()->list();
    list->setCurrentIndex(list->model()->index(0, 0));
    QTest::keyClick(list, Qt::Key_Down, Qt::ControlModifier);
    EXPECT_EQ(notices.count(), 1);
    window_->notebook_list()->set_order(NotebookModel::Order::own);
    EXPECT_EQ(titles().front(), "Press house");
}

TEST_F(KeepingInWindow, TypedTextIsReplacedOnThePageAndInTheNotebook) {
    start_with_page();
    write_text(20, 40, "the old gate");
    session_->model().add_page();
    session_->wait_idle();
    write_text(20, 40, "another gate, a gate");
    const auto typed = [&](int page) {
        const auto pages = *session_->library().pages(session_->page()->info.notebook);
        return plain_text(session_->library().load_page(pages[static_cast<size_t>(page - 1)].id)->texts.at(0));
    };
    ReplaceDialog dialog(*session_);
    dialog.show();
    EXPECT_FALSE(dialog.decide_button()->isEnabled());
    QTest::keyClicks(dialog.find_field(), "gate");
    QTest::keyClicks(dialog.by_field(), "door");
    QTest::mouseClick(dialog.decide_button(), Qt::LeftButton);
    session_->wait_idle();
    EXPECT_EQ(typed(2), "another door, a door");
    EXPECT_EQ(typed(1), "the old gate");
    session_->editing().undo();
    session_->wait_idle();
    EXPECT_EQ(typed(2), "another gate, a gate") << "one step of undo";
    QSignalSpy notices(&session_->messages(), &Messages::notice);
    session_->replacing().replace_in_notebook("gate", "door");
    WAIT_UNTIL(notices.count() == 1);
    EXPECT_EQ(typed(1), "the old door");
    EXPECT_EQ(typed(2), "another door, a door");
    session_->replacing().replace_on_page("no such thing", "x");
    EXPECT_EQ(notices.count(), 2);
    session_->replacing().replace_in_notebook("no such thing", "x");
    WAIT_UNTIL(notices.count() == 3);
}

TEST_F(KeepingInWindow, WrittenTagsAreOffered) {
    const PageId page = library_.page();
    ASSERT_TRUE(library_->save_reading(page, sure_reading({"gate", "#frost", "and", "#Weather"})));
    ASSERT_TRUE(library_->set_tags({{library_->tags_named({"weather"})->front(), page}}, true));
    open("/nowhere");  // nothing is read anew
    const auto* line = window_->findChild<PageLine*>();
    WAIT_UNTIL(line->offered().size() == 1);
    EXPECT_EQ(line->offered()[0]->text(), "#frost") << "the other is its tag already";
    QTest::mouseClick(line->offered()[0], Qt::LeftButton);
    WAIT_UNTIL(session_->library().tags_of(page)->size() == 2);
    WAIT_UNTIL(line->offered().empty());
}

TEST_F(KeepingInWindow, CoversAreChosen) {
    Notebook notebook;
    notebook.title = "Frost watch";
    notebook.cover_pattern = CoverPattern::rain;
    NotebookDialog dialog(notebook);
    EXPECT_EQ(dialog.pattern()->currentText(), "Rain");
    dialog.pattern()->setCurrentIndex(static_cast<int>(CoverPattern::hills));
    EXPECT_EQ(dialog.notebook().cover_pattern, CoverPattern::hills);
    // One's own picture: what is kept of it, or the pattern where none was taken.
    QSignalSpy wanted(&dialog, &NotebookDialog::picture_wanted);
    dialog.pattern()->setCurrentIndex(dialog.pattern()->count() - 1);
    emit dialog.pattern()->activated(dialog.pattern()->count() - 1);
    EXPECT_EQ(wanted.count(), 1);
    dialog.set_cover_picture("");
    EXPECT_EQ(dialog.pattern()->currentIndex(), 0);
    dialog.pattern()->setCurrentIndex(dialog.pattern()->count() - 1);
    dialog.set_cover_picture(std::string(64, 'a'));
    EXPECT_EQ(dialog.notebook().cover_picture, std::string(64, 'a'));
}

TEST_F(KeepingInWindow, ErrandsOfAPenAreDoneWhenTheyCome) {
    KeepingDesk::set_errand_tag(Errand::tag_a, "weather");
    library_.page();
    const auto ticks = [](Errand errand) {
        Sheet sheet;
        sheet.width_mm = 148, sheet.height_mm = 210, sheet.errands = true;
        const Box box = errand_boxes(sheet)[static_cast<size_t>(errand)].box;
        std::vector<CapturedPoint> out;
        for (int i = 0; i <= 4; ++i)
            out.push_back(
                {static_cast<int32_t>(100 * (box.left + i)), static_cast<int32_t>(100 * (box.top + i)), 128, 10, 0, 0});
        return out;
    };
    uint64_t number = 0;
    std::vector<CapturedStroke> strokes;
    for (const Errand errand : {Errand::important, Errand::tag_a, Errand::todo, Errand::send, Errand::todo})
        strokes.push_back({++number, {2, 5, 1}, 1'790'000'000'000, ticks(errand)});
    const auto kept = library_->keep_captures("FL-1", strokes);
    ASSERT_TRUE(kept);
    EXPECT_TRUE(kept->pages[0].errands);
    const PageId page = kept->pages[0].page;
    open();
    WAIT_UNTIL(session_->library().load_page(page)->info.favourite);
    WAIT_UNTIL(session_->library().tags_of(page)->size() == 1);
    EXPECT_EQ(session_->library().tags_of(page)->at(0).name, "weather");
    session_->wait_idle();
    const auto todos = session_->library().todos(false);
    ASSERT_EQ(todos->size(), 2U) << "to be sent and to do, each once";
    session_->keeping().tick(todos->at(0), true);
    WAIT_UNTIL(session_->library().todos(false)->size() == 1);
    EXPECT_TRUE(session_->library().reading(page)->lines.empty()) << "ticks are no words";
}

}  // namespace
}  // namespace fernleaf
