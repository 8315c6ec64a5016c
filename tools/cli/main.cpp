// fernleaf-cli: the command line to the same core as the window. `fernleaf-cli --help` tells its use.
#include <malloc.h>

#include <CLI/CLI.hpp>
#include <QGuiApplication>
#include <algorithm>
#include <iostream>
#include <map>
#include <tuple>

#include "base/barrier.h"
#include "cli/commands.h"
#include "render/fonts.h"

using namespace fernleaf;

namespace {

// Pictures of some megabytes come and go by the dozen for each page: the allocator keeps their memory rather than give
// it back and have it cleared again each time.
constexpr int kKeptPictureBytes = 16 << 20, kKeptBytes = 128 << 20;

}  // namespace

int main(int argc, char** argv) {
    mallopt(M_MMAP_THRESHOLD, kKeptPictureBytes);
    mallopt(M_TRIM_THRESHOLD, kKeptBytes);
    CLI::App app("Reads, keeps, finds and exports handwriting.", "fernleaf-cli");
    app.require_subcommand(1);
    ReadOptions read;
    LibraryOptions library;
    std::string format = "text";

    const auto add_format = [&](CLI::App* command) {
        command->add_option("--format", format, "text or json")->check(CLI::IsMember({"text", "json"}));
    };
    const auto add_library = [&](CLI::App* command) {
        command->add_option("--library", library.library, "The library's directory")->required();
    };
    const auto add_resolution = [](CLI::App* command, int& dpi) {
        command->add_option("--dpi", dpi, "How finely the pages of a PDF are drawn, dots an inch")
            ->check(CLI::Range(kLeastDpi, kMostDpi))
            ->capture_default_str();
    };

    CLI::App* read_app =
        app.add_subcommand("read", "Print what files say: InkML, PNG, JPEG, TIFF, WebP, PDF, DOT, GraphML, OPML");
    read_app->add_option("INPUT", read.inputs, "Files to read")->required();
    read_app->add_option("--language", read.languages, "Languages of the writing, e.g. en or en,de");
    read_app->add_option("--words", read.words, "A word list: one word a line, UTF-8");
    read_app->add_option("--hand", read.hand, "A hand that teach has learnt");
    read_app
        ->add_option("--lean", read.language_weight,
                     "How far to lean on the language: 0 spells what is seen, 1 prefers known words")
        ->check(CLI::Range(0.0, 1.0));
    const std::map<std::string, ReadAs> kinds{{"auto", ReadAs::automatic},  {"text", ReadAs::text},
                                              {"math", ReadAs::math},       {"drawing", ReadAs::drawing},
                                              {"diagram", ReadAs::diagram}, {"table", ReadAs::table}};
    read_app->add_option("--as", read.as, "What everything on a page is: auto, text, drawing, diagram or table")
        ->transform(CLI::CheckedTransformer(kinds));
    add_resolution(read_app, read.dpi);
    add_format(read_app);

    TeachOptions teach;
    CLI::App* teach_app = app.add_subcommand("teach", "Learn a hand from writing whose words are known");
    teach_app->add_option("INPUT", teach.input, "A file with some ten lines or more in that hand")->required();
    teach_app->add_option("WORDS", teach.words, "What it says: a text file, line by line, UTF-8")->required();
    teach_app->add_option("--to", teach.to, "The file to write what was learnt to (.fernhand)")->required();
    teach_app->add_option("--from", teach.from, "What was learnt before, to go on from");
    teach_app->add_option("--language", teach.languages, "Languages of the writing, e.g. en or en,de");
    add_resolution(teach_app, teach.dpi);

    CLI::App* import_app = app.add_subcommand("import", "Bring files into a library and read them");
    add_library(import_app);
    import_app->add_option("--notebook", library.notebook, "The notebook's title; made when there is none");
    import_app->add_option("INPUT", library.inputs, "Files to import")->required();
    add_resolution(import_app, library.dpi);
    const auto add_passphrase = [&library](CLI::App* command, const char* says) {
        command->add_option("--passphrase-file", library.passphrase_file, says);
    };
    add_passphrase(import_app, "A file whose first line opens locked bundles");

    CLI::App* bundle_app = app.add_subcommand("bundle", "Write a notebook as one file that import takes again");
    add_library(bundle_app);
    bundle_app->add_option("--notebook", library.notebook, "The notebook's title")->required();
    bundle_app->add_option("--to", library.to, "The file to write (.fernleaf)")->required();
    add_passphrase(bundle_app, "A file whose first line is to open it; without one it is open");

    CLI::App* list_app = app.add_subcommand("list", "List notebooks and pages");
    add_library(list_app);
    add_format(list_app);

    CLI::App* find_app = app.add_subcommand("find", "Find words in the whole library");
    add_library(find_app);
    find_app
        ->add_option(
            "QUERY", library.query,
            "Words, \"a phrase\", -word, OR, tag:, notebook:, folder:, lang:, day:, before:, after:2026-05-01, "
            "has:sound, drawing, math, table, picture or todo")
        ->required();
    find_app->add_option("--limit", library.limit, "At most this many hits")->check(CLI::Range(1, 1000000));
    add_format(find_app);

    CLI::App* export_app = app.add_subcommand("export",
                                              "Write pages as .pdf, .txt or .inkml, one as .png or .svg, their "
                                              "diagrams as .dot, .mmd, .graphml or .opml, their tables as .csv, "
                                              "their formulas as .tex, a notebook as .fernleaf");
    add_library(export_app);
    auto* by_title = export_app->add_option("--notebook", library.notebook, "The notebook's title");
    export_app->add_option("--pages", library.pages, "Numbers of its pages, e.g. 1-3,7; all when left out")
        ->needs(by_title);
    auto* by_id = export_app->add_option("--page", library.page, "A page's id, as list tells it")->excludes(by_title);
    export_app->add_option("--to", library.to, "The file to write; its ending chooses the format")->required();
    const std::map<std::string, DrawingsAs> drawings{{"as-drawn", DrawingsAs::drawn}, {"fair", DrawingsAs::fair}};
    export_app
        ->add_option("--drawings", library.drawings,
                     "Drawings as ink or drawn fair; when left out, as they are on the page")
        ->transform(CLI::CheckedTransformer(drawings));

    ScanOptions scan;
    CLI::App* scan_app = app.add_subcommand("scan", "Scan into the intake tray of a library");
    auto* into = scan_app->add_option("--library", scan.library, "The library's directory");
    auto* listed = scan_app->add_flag("--list", scan.list, "Print the scanners there are instead");
    scan_app->add_option("--device", scan.device, "What SANE calls the scanner; test:0 needs none");
    scan_app->add_option("--language", scan.languages, "Languages of the sheets, e.g. en or en,de");
    scan_app->add_option("--dpi", scan.dpi, "Dots an inch")->check(CLI::Range(50, 1200));
    scan_app->add_flag("--grey", scan.grey, "Without colours");
    scan_app->add_flag("--feeder", scan.feeder, "All sheets in its feeder");

    PenOptions pen;
    CLI::App* pen_app = app.add_subcommand("pen", "Take what smart pens captured, or tell what is known of them");
    pen_app->require_subcommand(1);
    const auto add_pen_library = [&](CLI::App* command) {
        command->add_option("--library", pen.library, "The library's directory")->required();
    };
    CLI::App* sync_app = pen_app->add_subcommand("sync", "Take all that the pens near hold");
    add_pen_library(sync_app);
    sync_app->add_option("--socket", pen.socket, "The one pen's socket");
    sync_app->add_option("--passcode-file", pen.passcode_file, "A file with the passcode, to pair a new pen");
    CLI::App* status_app = pen_app->add_subcommand("status", "List the pens that are paired");
    add_pen_library(status_app);
    CLI::App* forget_app = pen_app->add_subcommand("forget", "Unpair a pen; what it wrote stays");
    add_pen_library(forget_app);
    forget_app->add_option("PEN", pen.pen, "Its name or serial number; not needed where one pen is paired");
    for (CLI::App* command : {status_app, forget_app}) {
        command->add_option("--socket", pen.socket, "The one pen's socket");
        command->add_option("--passcode-file", pen.passcode_file)->group("");  // as for sync
    }

    NotebookOptions notebook;
    CLI::App* notebook_app = app.add_subcommand("notebook", "Make, rename, move, archive or bin a notebook");
    notebook_app->require_subcommand(1);
    const std::vector<std::tuple<const char*, NotebookAction, const char*>> notebook_actions{
        {"new", NotebookAction::create, "Make a notebook with one page"},
        {"rename", NotebookAction::rename, "Give it another title"},
        {"move", NotebookAction::move, "Put it into a folder"},
        {"archive", NotebookAction::archive, "Put it into the archive, where it can only be read"},
        {"unarchive", NotebookAction::unarchive, "Take it out of the archive"},
        {"bin", NotebookAction::bin, "Put it into the bin"},
        {"restore", NotebookAction::restore, "Take it out of the bin"}};
    for (const auto& [name, action, help] : notebook_actions) {
        CLI::App* one = notebook_app->add_subcommand(name, help);
        one->add_option("--library", notebook.library, "The library's directory")->required();
        one->add_option("--notebook", notebook.notebook, "Its title")->required();
        if (action == NotebookAction::rename) one->add_option("--to", notebook.to, "Its new title")->required();
        if (action == NotebookAction::create)
            one->add_option("--language", notebook.languages, "Languages it is written in, e.g. en or en,de");
        if (action == NotebookAction::create || action == NotebookAction::move) {
            auto* folder = one->add_option("--folder", notebook.folder,
                                           "Where it goes, e.g. \"Orchard/Old\"; missing folders are made");
            if (action == NotebookAction::move) folder->required();
        }
        one->callback([&notebook, action = action] { notebook.action = action; });
    }

    TagOptions tag;
    CLI::App* tag_app = app.add_subcommand("tag", "Tag notebooks and pages, or list their tags");
    tag_app->require_subcommand(1);
    const std::vector<std::tuple<const char*, TagAction, const char*>> tag_actions{
        {"add", TagAction::add, "Add tags"},
        {"remove", TagAction::remove, "Take tags away"},
        {"list", TagAction::list, "List the library's tags, or those of a notebook or its pages"}};
    for (const auto& [name, action, help] : tag_actions) {
        CLI::App* one = tag_app->add_subcommand(name, help);
        one->add_option("--library", tag.library, "The library's directory")->required();
        auto* of = one->add_option("--notebook", tag.notebook, "The notebook's title");
        one->add_option("--pages", tag.pages, "Numbers of its pages, e.g. 1-3,7; without it, the notebook itself")
            ->needs(of);
        if (action == TagAction::list) {
            add_format(one);
        } else {
            of->required();
            one->add_option("TAG", tag.tags, "Names of tags")->required();
        }
        one->callback([&tag, action = action] { tag.action = action; });
    }

    TemplateOptions page_template;
    CLI::App* template_app = app.add_subcommand("template", "Keep a page as a template, and begin pages with it");
    template_app->require_subcommand(1);
    const std::vector<std::tuple<const char*, TemplateAction, const char*>> template_actions{
        {"list", TemplateAction::list, "List the library's templates"},
        {"keep", TemplateAction::keep, "Keep what is on a page as a template"},
        {"use", TemplateAction::use, "Add a page to a notebook, begun with a template"},
        {"remove", TemplateAction::remove, "Delete a template"}};
    for (const auto& [name, action, help] : template_actions) {
        CLI::App* one = template_app->add_subcommand(name, help);
        one->add_option("--library", page_template.library, "The library's directory")->required();
        if (action != TemplateAction::list)
            one->add_option("--name", page_template.name, "The template's name")->required();
        if (action == TemplateAction::keep)
            one->add_option("--page", page_template.page, "The page's id, as list tells it")->required();
        if (action == TemplateAction::use)
            one->add_option("--notebook", page_template.notebook, "The notebook's title")->required();
        one->callback([&page_template, action = action] { page_template.action = action; });
    }

    BackupOptions backup;
    CLI::App* backup_app = app.add_subcommand("backup", "Back a library up into a folder; list or verify its backups");
    backup_app->add_option("--library", backup.library, "The library's directory")->required();
    backup_app->add_option("--in", backup.in, "The folder of the backups")->required();
    bool list_backups = false, verify_backup = false;
    backup_app->add_flag("--list", list_backups, "List the backups that are there instead");
    backup_app->add_flag("--verify", verify_backup, "Read all of a backup again instead, the newest or that of --at");
    CLI::App* restore_app = app.add_subcommand(
        "restore", "Restore a library into a new directory, or a notebook or a page into one that is there");
    restore_app->add_option("--library", backup.library, "The library's directory")->required();
    restore_app->add_option("--in", backup.in, "The folder of the backups")->required();
    auto* restored_title = restore_app->add_option("--notebook", backup.notebook, "The notebook's title");
    restore_app->add_option("--page", backup.page, "A page's id, as list tells it")->excludes(restored_title);
    for (CLI::App* command : {backup_app, restore_app})
        command->add_option("--at", backup.at,
                            "The newest not younger than 2026-05-01, or 2026-05-01T14:30; else the newest of all");

    TodoOptions todo;
    CLI::App* todo_app = app.add_subcommand("todo", "List the boxes to tick that stand on pages");
    todo_app->add_option("--library", todo.library, "The library's directory")->required();
    todo_app->add_flag("--done-too", todo.done_too, "Those that are ticked, too");
    add_format(todo_app);

    CLI::App* check_app = app.add_subcommand("check", "Verify a library");
    add_library(check_app);
    check_app->add_flag("--repair", library.repair,
                        "Save what can be saved into the same place, the damaged one beside it; read what is unread");

    CLI::App* demo_app = app.add_subcommand("demo", "Make the demonstration library");
    add_library(demo_app);

    ComputeOptions compute;
    CLI::App* compute_app = app.add_subcommand("compute", "Work formulas out: LaTeX, or plain as x^2-16=0");
    compute_app->add_option("LATEX", compute.formulas, "Formulas, each one argument")->required();
    const std::map<std::string, AngleUnit> units{
        {"degree", AngleUnit::degree}, {"radian", AngleUnit::radian}, {"gon", AngleUnit::gon}};
    compute_app
        ->add_option("--angle", compute.manner.angle,
                     "What angles without a unit are in: degree, radian (without it) or gon")
        ->transform(CLI::CheckedTransformer(units));
    compute_app->add_option("--digits", compute.manner.digits, "Significant digits of decimals")
        ->check(CLI::Range(1, 30))
        ->capture_default_str();
    compute_app->add_flag("--exact", compute.manner.exact, "Without decimals beside exact results");
    compute_app->add_option("--with", compute.values, "The value of a name, e.g. a=3")->allow_extra_args(false);

    // A formula may begin with a minus, which no option here does with one letter but -h.
    std::vector<std::string> words(argv + 1, argv + argc);
    if (!words.empty() && words[0] == "compute")
        for (std::string& word : words)
            if (word.size() > 1 && word[0] == '-' && word[1] != '-' && word != "-h") word.insert(0, " ");
    try {
        std::ranges::reverse(words);
        app.parse(std::move(words));
        if (*export_app && by_title->empty() && by_id->empty()) throw CLI::RequiredError("--notebook or --page");
        if (*scan_app && into->empty() && listed->empty()) throw CLI::RequiredError("--library or --list");
        for (const std::string& pages : {library.pages, tag.pages})
            if (!pages.empty() && page_numbers(pages).empty())
                throw CLI::ValidationError("--pages", "\"" + pages + "\" is not a list such as 1-3,7");
    } catch (const CLI::ParseError& problem) {
        return app.exit(problem) == 0 ? kAllDone : kWrongUsage;
    }

    // Qt draws PDF pages; no display is needed for that, and its remarks about the desktop are no one's business here.
    qputenv("QT_QPA_PLATFORM", "offscreen");
    qInstallMessageHandler([](QtMsgType type, const QMessageLogContext&, const QString& text) {
        if (type == QtCriticalMsg || type == QtFatalMsg) std::cerr << text.toStdString() << '\n';
    });
    const QGuiApplication qt(argc, argv);
    load_fonts();
    read.json = library.json = tag.json = todo.json = format == "json";
    const auto done = guarded([&]() -> Result<int> {
        if (*read_app) return read_command(read);
        if (*compute_app) return compute_command(compute);
        if (*teach_app) return teach_command(teach);
        if (*import_app) return import_command(library);
        if (*list_app) return list_command(library);
        if (*find_app) return find_command(library);
        if (*export_app) return export_command(library);
        if (*bundle_app) return bundle_command(library);
        if (*scan_app) return scan_command(scan);
        if (*pen_app) {
            pen.action = *forget_app ? PenAction::forget : *status_app ? PenAction::status : PenAction::sync;
            return pen_command(pen);
        }
        if (*notebook_app) return notebook_command(notebook);
        if (*tag_app) return tag_command(tag);
        if (*template_app) return template_command(page_template);
        if (*backup_app || *restore_app) {
            backup.action = *restore_app    ? BackupAction::restore
                            : list_backups  ? BackupAction::list
                            : verify_backup ? BackupAction::verify
                                            : BackupAction::make;
            return backup_command(backup);
        }
        if (*todo_app) return todo_command(todo);
        if (*check_app) return check_command(library);
        return demo_command(library);
    });
    if (done) return *done;
    std::cerr << "fernleaf-cli: " << done.error().message << '\n';
    return kSomeFailed;
}
