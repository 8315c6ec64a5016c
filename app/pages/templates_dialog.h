// The person's templates, seen beside their names: a page is begun with one, they are renamed and deleted. UI thread
// only.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <optional>

#include "desk/session.h"

namespace fernleaf {

class TemplatesDialog : public QDialog {
    Q_OBJECT

public:
    explicit TemplatesDialog(Session& session, QWidget* parent = nullptr);

    QListWidget* list() const { return list_; }
    QPushButton* keep_button() const { return keep_; }
    QPushButton* rename_button() const { return rename_; }
    QPushButton* remove_button() const { return remove_; }
    QPushButton* use_button() const { return use_; }

private:
    void refresh();
    void show_all(const std::vector<PageTemplate>& found);
    void show_chosen();
    std::optional<TemplateId> chosen() const;
    std::optional<QString> ask_name(const QString& title, const QString& now);

    Session& session_;
    QListWidget* list_;
    QLabel *preview_, *empty_;
    QPushButton *keep_, *rename_, *remove_, *use_;
};

}  // namespace fernleaf
