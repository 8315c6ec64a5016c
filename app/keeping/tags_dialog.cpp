#include "keeping/tags_dialog.h"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QMenu>
#include <QMessageBox>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>

#include "base/text.h"
#include "look/dialog_parts.h"
#include "look/tag_look.h"

namespace fernleaf {
namespace {

constexpr int kTagRowPx = 36;
enum TagRole { tag_id = Qt::UserRole, tag_ground, tag_says };

class TagDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex&) const override {
        return {option.rect.width(), kTagRowPx};
    }
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        const QRect r = option.rect.adjusted(2, 1, -2, -1);
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        if (option.state & QStyle::State_Selected) {
            painter->setPen(Qt::NoPen);
            painter->setBrush(t.chosen);
            painter->drawRoundedRect(r, 6, 6);
        }
        paint_tag(*painter, r.adjusted(10, 0, -150, 0), index.data().toString(), index.data(tag_ground).toUInt());
        painter->setFont(tag_font());
        painter->setPen(t.quiet_text);
        painter->drawText(r.adjusted(0, 0, -12, 0), Qt::AlignRight | Qt::AlignVCenter, index.data(tag_says).toString());
        painter->restore();
    }
};

QPushButton* button(const QString& text) {
    auto* out = new QPushButton(text);
    out->setProperty("secondary", true);
    out->setAutoDefault(false);
    return out;
}

}  // namespace

TagsDialog::TagsDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("Tags"));
    resize(520, 440);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Tags")));
    empty_ = remark(tr("No tags yet. Add one to a page with Ctrl+Shift+T."));
    column->addWidget(empty_);
    list_ = new QListWidget;
    list_->setItemDelegate(new TagDelegate(list_));
    list_->setAccessibleName(tr("Tags"));
    column->addWidget(list_, 1);
    auto* row = new QHBoxLayout;
    rename_ = button(tr("Rename …"));
    colour_ = button(tr("Colour"));
    colour_->setMenu(new QMenu(colour_));
    remove_ = button(tr("Delete …"));
    for (QPushButton* b : {rename_, colour_, remove_}) row->addWidget(b);
    row->addStretch();
    auto* close = button(tr("Close"));
    row->addWidget(close);
    find_ = button(tr("Find pages"));
    find_->setProperty("secondary", false);
    find_->setProperty("primary", true);
    row->addWidget(find_);
    column->addLayout(row);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(rename_, &QPushButton::clicked, this, &TagsDialog::rename);
    connect(remove_, &QPushButton::clicked, this, &TagsDialog::remove);
    connect(colour_->menu(), &QMenu::aboutToShow, this, &TagsDialog::fill_colours);
    const auto find = [this] {
        if (const Tag* tag = chosen()) emit tag_wanted(QString::fromStdString(tag->name));
        accept();
    };
    connect(find_, &QPushButton::clicked, this, find);
    connect(list_, &QListWidget::itemActivated, this, find);
    connect(&session_.keeping(), &KeepingDesk::changed, this, &TagsDialog::refresh);
    refresh();
}

const Tag* TagsDialog::chosen() const {
    const QListWidgetItem* item = list_->currentItem();
    if (!item) return nullptr;
    const auto& tags = session_.keeping().tags();
    const auto found = std::ranges::find(tags, item->data(tag_id).toLongLong(), &Tag::id);
    return found == tags.end() ? nullptr : &*found;
}

void TagsDialog::refresh() {
    const int row = list_->currentRow();
    list_->clear();
    for (const Tag& tag : session_.keeping().tags()) {
        auto* item = new QListWidgetItem(QString::fromStdString(tag.name));
        item->setData(tag_id, QVariant::fromValue<qlonglong>(tag.id));
        item->setData(tag_ground, tag.colour);
        item->setData(tag_says, tr("%n page(s)", nullptr, static_cast<int>(tag.pages)));
        list_->addItem(item);
    }
    const bool any = list_->count() > 0;
    if (any) list_->setCurrentRow(std::clamp(row, 0, list_->count() - 1));
    list_->setVisible(any);
    empty_->setVisible(!any);
    find_->setEnabled(any);
    for (QPushButton* b : {rename_, colour_, remove_}) b->setEnabled(any && !session_.read_only());
}

void TagsDialog::rename() {
    const Tag* tag = chosen();
    if (!tag) return;
    const TagId id = tag->id;
    bool named = false;
    const QString name = QInputDialog::getText(this, tr("Rename tag"), tr("Name"), QLineEdit::Normal,
                                               QString::fromStdString(tag->name), &named);
    if (!named || name.trimmed().isEmpty()) return;
    const auto& tags = session_.keeping().tags();
    const auto other = std::ranges::find_if(
        tags, [&](const Tag& t) { return t.id != id && fold(t.name) == fold(name.trimmed().toStdString()); });
    if (other != tags.end()) {
        QMessageBox ask(QMessageBox::Question, tr("Merge tags"),
                        tr("A tag “%1” already exists. Merge the two?").arg(QString::fromStdString(other->name)),
                        QMessageBox::NoButton, this);
        auto* yes = ask.addButton(tr("Merge"), QMessageBox::AcceptRole);
        ask.addButton(QMessageBox::Cancel);
        ask.exec();
        if (ask.clickedButton() != yes) return;
    }
    session_.keeping().rename_tag(id, name);
}

void TagsDialog::fill_colours() {
    QMenu* menu = colour_->menu();
    menu->clear();
    const Tag* tag = chosen();
    if (!tag) return;
    const QString names[] = {tr("Moss, dot"),        tr("Plum, diamond"), tr("Blue, ring"),
                             tr("Orange, triangle"), tr("Olive, square"), tr("Grey, bars")};
    size_t i = 0;
    for (const uint32_t colour : tag_colours()) {
        QPixmap sign(32, 32);
        sign.setDevicePixelRatio(2);
        sign.fill(Qt::transparent);
        QPainter painter(&sign);
        paint_tag_sign(painter, {8, 8}, colour);
        QAction* action = menu->addAction(QIcon(sign), names[std::min(i++, std::size(names) - 1)], this,
                                          [this, id = tag->id, colour] { session_.keeping().colour_tag(id, colour); });
        action->setCheckable(true);
        action->setChecked(tag->colour == colour);
    }
}

void TagsDialog::remove() {
    const Tag* tag = chosen();
    if (!tag) return;
    QMessageBox ask(QMessageBox::Warning, tr("Delete tag"),
                    tr("Delete the tag “%1” from %n page(s)? The pages stay.", nullptr, static_cast<int>(tag->pages))
                        .arg(QString::fromStdString(tag->name)),
                    QMessageBox::NoButton, this);
    const TagId id = tag->id;
    auto* yes = ask.addButton(tr("Delete"), QMessageBox::DestructiveRole);
    ask.setDefaultButton(ask.addButton(tr("Keep"), QMessageBox::RejectRole));
    ask.exec();
    if (ask.clickedButton() == yes) session_.keeping().remove_tag(id);
}

}  // namespace fernleaf
