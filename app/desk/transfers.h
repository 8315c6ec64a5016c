// What comes from files and the clipboard, and what goes there.
#pragma once

#include <QByteArray>
#include <QObject>
#include <QStringList>
#include <optional>
#include <string>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

// UI thread only.
class Transfers : public Desk {
    Q_OBJECT

public:
    explicit Transfers(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // Bundles become notebooks of their own. passphrase: of locked ones; without it, wrong or right,
    // passphrase_wanted() asks for it.
    void import_files(const QStringList& paths, std::optional<NotebookId> into, const QString& passphrase = {});
    void export_pages(const std::vector<PageId>& pages, const QString& path);
    void export_notebook(const QString& path);
    // As a bundle; an empty passphrase leaves it open.
    void export_bundle(const QString& path, const QString& passphrase);
    void save_file(const QString& path, const std::string& bytes);
    // Puts ink (InkML) and other elements (encode_elements) onto the open page with their middle at a place in mm.
    void paste(const QByteArray& inkml, const QByteArray& elements, Point middle);

signals:
    void imported(PageId first);
    void passphrase_wanted(const QString& path);  // of a locked bundle

private:
    void tell_exported(const QString& path, const Status& status, bool cancelled);
};

}  // namespace fernleaf
