#include "pages/templates_dialog.h"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QLineEdit>
#include <QPointer>
#include <QVBoxLayout>

#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

constexpr int kListPx = 220;
constexpr QSize kPreviewPx(230, 326);

QPushButton* quiet_button(const QString& text) {
    auto* out = new QPushButton(text);
    out->setProperty("secondary", true);
    out->setAutoDefault(false);
    return out;
}

}  // namespace

TemplatesDialog::TemplatesDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("Templates"));
    setMinimumWidth(540);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Templates")));
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    list_ = new QListWidget;
    list_->setFixedWidth(kListPx);
    list_->setAccessibleName(tr("Templates"));
    row->addWidget(list_);
    preview_ = new QLabel;
    preview_->setFixedSize(kPreviewPx);
    preview_->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    row->addWidget(preview_, 0, Qt::AlignTop);
    row->addStretch();
    column->addLayout(row);
    empty_ =
        remark(tr("No templates yet. Any page can be kept as one and begin others. Forms such as a week, minutes "
                  "or a checklist are among the papers."));
    column->addWidget(empty_);
    auto* foot = new QHBoxLayout;
    keep_ = quiet_button(tr("Keep this page …"));
    rename_ = quiet_button(tr("Rename …"));
    remove_ = quiet_button(tr("Delete"));
    for (QPushButton* b : {keep_, rename_, remove_}) foot->addWidget(b);
    foot->addStretch();
    auto* close = quiet_button(tr("Close"));
    foot->addWidget(close);
    use_ = new QPushButton(tr("Add page"));
    use_->setProperty("primary", true);
    use_->setDefault(true);
    foot->addWidget(use_);
    column->addLayout(foot);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(list_, &QListWidget::currentRowChanged, this, &TemplatesDialog::show_chosen);
    connect(list_, &QListWidget::itemActivated, use_, &QPushButton::click);
    connect(use_, &QPushButton::clicked, this, [this] {
        if (const auto id = chosen()) session_.templates().add_page(*id);
        accept();
    });
    connect(keep_, &QPushButton::clicked, this, [this] {
        if (const auto name = ask_name(tr("Keep as a template"), {})) session_.templates().keep_page(*name);
    });
    connect(rename_, &QPushButton::clicked, this, [this] {
        const auto id = chosen();
        if (!id) return;
        if (const auto name = ask_name(tr("Rename template"), list_->currentItem()->text()))
            session_.templates().rename(*id, *name);
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (const auto id = chosen()) session_.templates().remove(*id);
    });
    connect(&session_.templates(), &TemplatesDesk::changed, this, &TemplatesDialog::refresh);
    show_all({});
    refresh();
}

void TemplatesDialog::refresh() {
    session_.templates().find([self = QPointer(this)](const std::vector<PageTemplate>& found) {
        if (self) self->show_all(found);
    });
}

void TemplatesDialog::show_all(const std::vector<PageTemplate>& found) {
    const int before = list_->currentRow();
    list_->clear();
    for (const PageTemplate& t : found) {
        auto* item = new QListWidgetItem(QString::fromStdString(t.name), list_);
        item->setData(Qt::UserRole, QVariant::fromValue(t.id));
    }
    empty_->setVisible(found.empty());
    list_->setVisible(!found.empty());
    preview_->setVisible(!found.empty());
    adjustSize();
    list_->setCurrentRow(std::clamp(before, 0, list_->count() - 1));
    keep_->setEnabled(session_.page() && !session_.read_only());
    show_chosen();
}

std::optional<TemplateId> TemplatesDialog::chosen() const {
    const QListWidgetItem* item = list_->currentItem();
    return item ? std::optional(item->data(Qt::UserRole).value<TemplateId>()) : std::nullopt;
}

void TemplatesDialog::show_chosen() {
    const auto id = chosen();
    const bool may = id && !session_.read_only();
    for (QPushButton* b : {rename_, remove_, use_}) b->setEnabled(may);
    if (!id) return preview_->clear();
    session_.templates().draw(*id, kPreviewPx, [self = QPointer(this), id](const QImage& picture) {
        if (self && self->chosen() == id) self->preview_->setPixmap(QPixmap::fromImage(picture));
    });
}

std::optional<QString> TemplatesDialog::ask_name(const QString& title, const QString& now) {
    bool named = false;
    const QString name = QInputDialog::getText(this, title, tr("Name"), QLineEdit::Normal, now, &named).simplified();
    return named && !name.isEmpty() ? std::optional(name) : std::nullopt;
}

}  // namespace fernleaf
