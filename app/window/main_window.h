// The window: the notebooks, the running head, and the spread; or, in a library without notebooks, the way to the first
// one. UI thread only.
#pragma once

#include <QMainWindow>
#include <QStackedWidget>

#include "days/days_view.h"
#include "intake/intake_tray.h"
#include "keeping/go_to_dialog.h"
#include "keeping/page_line.h"
#include "keeping/todo_view.h"
#include "leaves/spread.h"
#include "notebooks/notebook_list.h"
#include "pages/page_strip.h"
#include "voice/recording_bar.h"
#include "voice/voice_strip.h"
#include "window/notice_bar.h"
#include "window/running_head.h"
#include "window/welcome.h"

namespace fernleaf {

class NotebookDialog;

class MainWindow : public QMainWindow {
    Q_OBJECT

public:
    explicit MainWindow(Session& session, QWidget* parent = nullptr);
    ~MainWindow() override;

    Spread* spread() const { return spread_; }
    NotebookList* notebook_list() const { return notebook_list_; }
    NoticeBar* notice() const { return notice_; }
    PageStrip* strip() const { return strip_; }
    void show_leaves(Shown shown);
    void show_strip(bool shown);
    void show_settings();
    void show_proof_sheet();
    void show_bin();
    void show_pens();
    void show_intake(bool shown);
    bool showing_intake() const { return stack_->currentIndex() == 2; }
    IntakeTray* intake() const { return intake_; }
    void show_days(bool shown);
    bool showing_days() const { return stack_->currentIndex() == 3; }
    DaysView* days() const { return days_; }
    void show_todos(bool shown);
    bool showing_todos() const { return stack_->currentIndex() == 4; }
    TodoView* todos() const { return todos_; }
    PageLine* page_line() const { return page_line_; }
    void show_tags();
    void show_backups();
    void go_to();  // by typing a name
    void find(const QString& text);
    const std::vector<Command>& commands() const { return commands_; }
    void show_tracks();
    VoiceStrip* voice_strip() const { return voice_strip_; }
    RecordingBar* recording_bar() const { return recording_bar_; }
    // Pictures go into the intake tray, ink and PDFs become pages at once.
    void bring_in(const QStringList& paths);
    void ask_for_paper();
    void set_dark(bool dark);
    bool showing_welcome() const { return stack_->currentIndex() == 0; }

protected:
    void closeEvent(QCloseEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void add_shortcuts();
    void find_tag(const QString& name);
    void restyle();
    void show_title();
    void ask_for_notebook();
    void ask_for_import();
    void ask_how_to_read();
    void ask_for_picture();
    void ask_which_type(const QString& edited, const QString& read);
    void tell_pens();
    bool may_lose_unsaved();
    void ask_for_export(bool whole_notebook);
    void show_templates();
    void ask_for_replacing();
    void give_cover_pictures(NotebookDialog& dialog);
    void ask_for_bundle();
    void ask_passphrase(const QString& bundle);
    void mail_pages(const std::vector<PageId>& pages);
    void restore();
    void fit_on_screen();
    void show_page_again();
    void open_at(PageId page, const std::vector<Box>& boxes);

    Session& session_;
    NotebookList* notebook_list_;
    QStackedWidget* stack_;
    Spread* spread_;
    NoticeBar* notice_;
    RunningHead* head_;
    Welcome* welcome_;
    PageStrip* strip_;
    IntakeTray* intake_;
    DaysView* days_;
    TodoView* todos_;
    PageLine* page_line_;
    VoiceStrip* voice_strip_;
    RecordingBar* recording_bar_;
    std::vector<Box> hits_to_show_;
    PageId hits_page_ = 0;
    bool restored_ = false;
    bool strip_shown_ = false;
    std::vector<Notebook> notebooks_;  // in the list
    std::vector<Command> commands_;
};

}  // namespace fernleaf
