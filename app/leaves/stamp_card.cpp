#include "leaves/stamp_card.h"

#include <QInputDialog>
#include <QKeyEvent>
#include <QMenu>
#include <QVBoxLayout>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr int kCellPx = 64, kIconPx = 52, kColumns = 5, kRows = 6;
constexpr int kBarPx = 36;  // for the scroll bar and the frame
constexpr int kStampRole = Qt::UserRole;

}  // namespace

StampCard::StampCard(StampsDesk& stamps, QWidget* leaf)
    : LeafCard(leaf), stamps_(stamps), search_(new QLineEdit), list_(new QListWidget), none_(new QLabel) {
    setObjectName(QStringLiteral("stampCard"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 12, 12, 12);
    column->setSpacing(8);
    search_->setPlaceholderText(tr("Find a stamp: sun, tool, face …"));
    search_->setAccessibleName(tr("Find a stamp"));
    search_->setClearButtonEnabled(true);
    search_->installEventFilter(this);
    column->addWidget(search_);
    list_->setAccessibleName(tr("Stamps"));
    list_->setViewMode(QListView::IconMode);
    list_->setMovement(QListView::Static);
    list_->setResizeMode(QListView::Adjust);
    list_->setIconSize({kIconPx, kIconPx});
    list_->setGridSize({kCellPx, kCellPx});
    list_->setUniformItemSizes(true);
    list_->setFrameShape(QFrame::NoFrame);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setFixedSize(kColumns * kCellPx + kBarPx, kRows * kCellPx);
    list_->setContextMenuPolicy(Qt::CustomContextMenu);
    column->addWidget(list_);
    none_->setText(
        tr("No stamps found. To add your own, lasso something and choose “Keep as a stamp” from the Copy menu."));
    none_->setWordWrap(true);
    none_->setFixedSize(list_->size());
    none_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    none_->hide();
    column->addWidget(none_);
    connect(search_, &QLineEdit::textChanged, this, &StampCard::fill);
    connect(search_, &QLineEdit::returnPressed, this, [this] { take(list_->item(0)); });
    connect(list_, &QListWidget::itemClicked, this, &StampCard::take);
    connect(list_, &QListWidget::itemActivated, this, &StampCard::take);
    connect(list_, &QWidget::customContextMenuRequested, this, &StampCard::offer);
    connect(&stamps_, &StampsDesk::changed, this, &StampCard::fill);
    adjustSize();
    hide();
}

void StampCard::open() {
    search_->clear();
    stamps_.refresh(theme().page);
    show();
    raise();
    search_->setFocus();
}

void StampCard::restyle() {
    if (isVisible()) stamps_.refresh(theme().page);
}

// Arrows go from the words to the stamps.
bool StampCard::eventFilter(QObject* watched, QEvent* event) {
    if (watched == search_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down && list_->count() > 0) {
            list_->setFocus();
            list_->setCurrentRow(0);
            return true;
        }
        if (key == Qt::Key_Escape) {
            emit closed();
            return true;
        }
    }
    return LeafCard::eventFilter(watched, event);
}

void StampCard::fill() {
    list_->clear();
    for (const size_t i : stamps_.found(search_->text())) {
        const ShownStamp& shown = stamps_.all()[i];
        QPixmap pixmap = QPixmap::fromImage(shown.picture);
        pixmap.setDevicePixelRatio(2);
        auto* item = new QListWidgetItem(QIcon(pixmap), {}, list_);
        const QString name = QString::fromStdString(shown.stamp.name);
        item->setToolTip(name);
        item->setData(Qt::AccessibleTextRole, name);
        item->setData(kStampRole, QVariant::fromValue(static_cast<qulonglong>(i)));
    }
    list_->setVisible(list_->count() > 0);
    none_->setVisible(list_->count() == 0 && !search_->text().isEmpty());
}

void StampCard::take(const QListWidgetItem* item) {
    if (item) emit wanted(static_cast<size_t>(item->data(kStampRole).toULongLong()));
}

// The person's own can be renamed and deleted.
void StampCard::offer(const QPoint& at) {
    const QListWidgetItem* item = list_->itemAt(at);
    if (!item) return;
    const auto stamp = static_cast<size_t>(item->data(kStampRole).toULongLong());
    const bool own = stamps_.all()[stamp].stamp.id != 0;
    QMenu menu(this);
    menu.addAction(tr("Rename …"), this,
                   [this, stamp] {
                       bool taken = false;
                       const QString name =
                           QInputDialog::getText(this, tr("Rename the stamp"), tr("Name:"), QLineEdit::Normal,
                                                 QString::fromStdString(stamps_.all()[stamp].stamp.name), &taken);
                       if (taken) stamps_.rename(stamp, name);
                   })
        ->setEnabled(own);
    menu.addAction(tr("Delete"), this, [this, stamp] { stamps_.remove(stamp); })->setEnabled(own);
    menu.exec(list_->viewport()->mapToGlobal(at));
}

}  // namespace fernleaf
