#include "desk/transfers.h"

#include <QFileInfo>
#include <algorithm>

#include "base/file.h"
#include "desk/text_of.h"
#include "exchange/bundle.h"
#include "exchange/import.h"
#include "exchange/inkml.h"
#include "render/export.h"
#include "render/text_look.h"

namespace fernleaf {

void Transfers::import_files(const QStringList& paths, std::optional<NotebookId> into, const QString& passphrase) {
    if (!editing_.may_change()) return;
    const QString label = paths.size() == 1 ? tr("Importing %1").arg(QFileInfo(paths[0]).fileName())
                                            : tr("Importing %n file(s)", nullptr, static_cast<int>(paths.size()));
    tasks_.run(label, [this, paths, into, passphrase](const CancelToken& cancel, const Progress& progress) {
        std::optional<NotebookId> notebook = into;
        std::vector<PageId> all;
        QStringList failures;
        for (qsizetype i = 0; i < paths.size() && !cancel.cancelled(); ++i) {
            const auto part = [&](double p) {
                progress((static_cast<double>(i) + p) / static_cast<double>(paths.size()));
            };
            if (is_bundle(paths[i].toStdString())) {
                if (passphrase.isEmpty() && is_sealed_bundle(paths[i].toStdString())) {
                    QMetaObject::invokeMethod(
                        this, [this, path = paths[i]] { emit passphrase_wanted(path); }, Qt::QueuedConnection);
                    continue;
                }
                const auto brought = add_bundle(
                    library_, paths[i].toStdString(), {},
                    passphrase.isEmpty() ? std::nullopt : std::optional(passphrase.toStdString()), cancel, part);
                if (brought)
                    all.insert(all.end(), brought->pages.begin(), brought->pages.end());
                else if (!cancel.cancelled())
                    failures << text_of(brought.error());
                continue;
            }
            auto source =
                read_source(paths[i].toStdString(), PictureUse::sheets, cancel, part,
                            [&](const cv::Mat& page) { return readings_.upright(page, notebook.value_or(0)); });
            if (!source) {
                if (!cancel.cancelled()) failures << text_of(source.error());
                continue;
            }
            for (FilledPage& page : source->pages) lay_out_fresh(page.content);
            if (cancel.cancelled()) break;
            const bool addressed = source->all_addressed();
            if (!notebook && !addressed) {  // not before there is something to put in
                Notebook fresh;
                fresh.title = QFileInfo(paths[i]).completeBaseName().toStdString();
                fresh.sheet.paper = Paper::plain;
                if (const auto id = library_.add_notebook(fresh)) notebook = *id;
            }
            const auto pages = notebook || addressed ? add_source(library_, notebook.value_or(0), *std::move(source))
                                                     : Result<std::vector<PageId>>(Error{"the notebook can't be made"});
            if (pages)
                all.insert(all.end(), pages->begin(), pages->end());
            else
                failures << QFileInfo(paths[i]).fileName() + ": " + text_of(pages.error());
        }
        QMetaObject::invokeMethod(
            this,
            [this, all, failures, cancelled = cancel.cancelled()] {
                if (!all.empty()) {
                    readings_.read_later({all.begin() + 1, all.end()});
                    emit imported(all.front());
                }
                if (!failures.isEmpty())
                    messages_.tell_problem(tr("Not imported: %1").arg(failures.join(QStringLiteral("\n"))));
                else if (cancelled)
                    messages_.tell(all.empty() ? tr("Import cancelled. Nothing was changed.")
                                               : tr("Import cancelled. The files before it were imported."));
            },
            Qt::QueuedConnection);
    });
}

void Transfers::export_pages(const std::vector<PageId>& pages, const QString& path) {
    readings_.save_now();
    tasks_.run(tr("Exporting to %1").arg(QFileInfo(path).fileName()),
               [this, pages, path](const CancelToken& cancel, const Progress& progress) {
                   disk_.wait_idle();  // what was just written belongs into the export
                   const Status status = fernleaf::export_pages(library_, pages, path.toStdString(),
                                                                DrawingsAs::they_are, cancel, progress);
                   tell_exported(path, status, cancel.cancelled());
               });
}

void Transfers::save_file(const QString& path, const std::string& bytes) {
    tasks_thread_.post([this, path, bytes] {
        const Status status = write_whole(path.toStdString(), bytes);
        QMetaObject::invokeMethod(
            this,
            [this, path, status] {
                if (status)
                    messages_.tell(tr("Saved as %1.").arg(path));
                else
                    messages_.tell_problem(status.error());
            },
            Qt::QueuedConnection);
    });
}

void Transfers::export_notebook(const QString& path) {
    if (!document_.page()) return;
    disk_.ask(
        this,
        [this, id = document_.sheaf() ? document_.sheaf()->notebook : document_.notebook().id] {
            return library_.pages(id);
        },
        [this, path](const Result<std::vector<PageInfo>>& infos) {
            if (!infos) return messages_.tell_problem(infos.error());
            std::vector<PageId> ids;
            for (const PageInfo& info : *infos) ids.push_back(info.id);
            export_pages(ids, path);
        });
}

void Transfers::export_bundle(const QString& path, const QString& passphrase) {
    if (!document_.page()) return;
    readings_.save_now();
    const NotebookId notebook = document_.sheaf() ? document_.sheaf()->notebook : document_.notebook().id;
    tasks_.run(tr("Exporting to %1").arg(QFileInfo(path).fileName()),
               [this, path, passphrase, notebook](const CancelToken& cancel, const Progress& progress) {
                   disk_.wait_idle();  // what was just written belongs into it
                   const Status status = write_bundle(
                       library_, notebook, path.toStdString(),
                       passphrase.isEmpty() ? std::nullopt : std::optional(passphrase.toStdString()), cancel, progress);
                   tell_exported(path, status, cancel.cancelled());
               });
}

// From any thread.
void Transfers::tell_exported(const QString& path, const Status& status, bool cancelled) {
    QMetaObject::invokeMethod(
        this,
        [this, path, status, cancelled] {
            if (cancelled)
                messages_.tell(tr("Export cancelled. No file was written."));
            else if (!status)
                messages_.tell_problem(status.error());
            else
                messages_.tell(tr("Exported to %1.").arg(path));
        },
        Qt::QueuedConnection);
}

void Transfers::paste(const QByteArray& inkml, const QByteArray& elements, Point middle) {
    if (!document_.page() || !editing_.may_change_page()) return;
    tasks_thread_.post([this, inkml, elements, middle, page = document_.page()->info.id] {
        Elements put;
        Status status = Done{};
        if (!inkml.isEmpty()) {
            auto sheets = read_inkml(std::string_view(inkml.constData(), static_cast<size_t>(inkml.size())));
            if (!sheets)
                status = sheets.error();
            else
                for (InkSheet& sheet : *sheets) std::ranges::move(sheet.strokes, std::back_inserter(put.strokes));
        }
        if (status && !elements.isEmpty()) {
            auto others = decode_elements(elements.toStdString());
            if (!others)
                status = others.error();
            else
                others->strokes = std::move(put.strokes), put = *std::move(others);
        }
        for_each_element(put, [&]<typename E>(const E& e) {
            for (const std::string& file : ElementTraits<E>::files(e))
                if (status && !library_.file(file)) status = Error{"the picture belongs to another library."};
        });
        auto result = std::make_shared<Result<Elements>>(status ? Result<Elements>(std::move(put)) : status.error());
        QMetaObject::invokeMethod(
            this, [this, result, middle, page] { editing_.put(std::move(*result), middle, page, "Paste"); },
            Qt::QueuedConnection);
    });
}

}  // namespace fernleaf
