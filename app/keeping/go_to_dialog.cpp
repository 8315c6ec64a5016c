#include "keeping/go_to_dialog.h"

#include <QKeyEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>

#include "base/text.h"
#include "finding/go_to.h"
#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

constexpr size_t kMostShown = 40;
constexpr int kWidth = 560, kHeight = 420, kPlaceRowPx = 36;
// Added to how well a name fits: what is used most is meant most.
constexpr double kFavourite = 0.12, kNotebook = 0.08;
enum PlaceRole { place_where = Qt::UserRole, place_sign, place_entry };

class PlaceDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
        return {kWidth - 60, kPlaceRowPx};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        const QRect r = option.rect.adjusted(2, 1, -2, -1);
        if (option.state & (QStyle::State_Selected | QStyle::State_MouseOver)) {
            QColor wash = t.chosen;
            if (!(option.state & QStyle::State_Selected)) wash.setAlpha(120);
            painter->setPen(Qt::NoPen);
            painter->setBrush(wash);
            painter->drawRoundedRect(r, 6, 6);
        }
        icon(index.data(place_sign).toString()).paint(painter, QRect(r.left() + 10, r.center().y() - 8, 17, 17));
        QFont font(kInterfaceFace);
        font.setPixelSize(12);
        painter->setFont(font);
        const QFontMetrics small(font);
        const QString place = small.elidedText(index.data(place_where).toString(), Qt::ElideRight, r.width() / 2);
        const int wide = small.horizontalAdvance(place);
        painter->setPen(t.quiet_text);
        painter->drawText(r.adjusted(0, 0, -10, 0), Qt::AlignRight | Qt::AlignVCenter, place);
        font = QFont(kTextFace);
        font.setPixelSize(15);
        painter->setFont(font);
        painter->setPen(t.text);
        const QRect name = r.adjusted(38, 0, -24 - wide, 0);
        painter->drawText(name, Qt::AlignLeft | Qt::AlignVCenter,
                          QFontMetrics(font).elidedText(index.data().toString(), Qt::ElideRight, name.width()));
        painter->restore();
    }
};

}  // namespace

GoToDialog::GoToDialog(Session& session, std::vector<Command> commands, QWidget* parent)
    : QDialog(parent), session_(session), commands_(std::move(commands)) {
    setWindowTitle(tr("Go to"));
    resize(kWidth, kHeight);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 16, 16, 12);
    column->setSpacing(10);
    field_ = new QLineEdit;
    field_->setPlaceholderText(tr("Page, notebook or command"));
    field_->setAccessibleName(tr("Go to"));
    field_->installEventFilter(this);
    column->addWidget(field_);
    list_ = new QListWidget;
    list_->setItemDelegate(new PlaceDelegate(list_));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setMouseTracking(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setAccessibleName(tr("Matches"));
    column->addWidget(list_, 1);
    empty_ = remark(tr("No matches. To look for words on pages, use Find  (Ctrl+F)."));
    empty_->hide();
    column->addWidget(empty_, 1);
    for (size_t i = 0; i < commands_.size(); ++i) {
        Entry e{commands_[i].name, commands_[i].keys, fold(commands_[i].name.toStdString())};
        e.command = i;
        entries_.push_back(std::move(e));
    }
    connect(field_, &QLineEdit::textChanged, this, &GoToDialog::show_matches);
    connect(list_, &QListWidget::itemClicked, this, &GoToDialog::go);
    show_matches();
    session_.keeping().find_places([self = QPointer<GoToDialog>(this)](const std::vector<NamedPlace>& places) {
        if (self) self->add_places(places);
    });
    field_->setFocus();
}

void GoToDialog::add_places(const std::vector<NamedPlace>& places) {
    NotebookId before = 0;
    for (const auto& [place, folded, notebook_folded] : places) {
        const QString notebook = QString::fromStdString(place.notebook_title);
        if (std::exchange(before, place.notebook) != place.notebook) {
            Entry e{notebook, tr("Notebook"), notebook_folded};
            e.notebook = place.notebook;
            entries_.push_back(std::move(e));
        }
        Entry e{QString::fromStdString(place.title), tr("%1, page %2").arg(notebook).arg(place.page_number), folded};
        if (e.name.isEmpty()) e.name = tr("Page %1").arg(place.page_number);
        e.page = place.page, e.favourite = place.favourite, e.written_ms = place.written_ms;
        entries_.push_back(std::move(e));
    }
    show_matches();
}

void GoToDialog::show_matches() {
    const GoToQuery query(field_->text().toStdString());
    std::vector<std::pair<double, size_t>> fits;
    for (size_t i = 0; i < entries_.size(); ++i) {
        const Entry& e = entries_[i];
        // Before anything is typed: favourites, what was written last, and then what the window does.
        if (query.empty()) {
            const double first = e.favourite ? 1e15 : 0;
            if (e.page != 0) fits.emplace_back(first + static_cast<double>(e.written_ms), i);
            if (e.command != SIZE_MAX) fits.emplace_back(-static_cast<double>(e.command), i);
        } else if (const double fit = query.match(e.folded); fit != 0) {
            fits.emplace_back(fit + (e.favourite ? kFavourite : 0) + (e.notebook != 0 ? kNotebook : 0), i);
        }
    }
    const size_t shown = std::min(kMostShown, fits.size());
    std::ranges::partial_sort(
        fits, fits.begin() + static_cast<std::ptrdiff_t>(shown),
        [](const auto& a, const auto& b) { return a.first != b.first ? a.first > b.first : a.second < b.second; });
    list_->clear();
    for (size_t i = 0; i < shown; ++i) {
        const Entry& e = entries_[fits[i].second];
        auto* item = new QListWidgetItem(e.name);
        item->setData(place_where, e.where);
        item->setData(place_sign, e.favourite             ? QStringLiteral("favourite")
                                  : e.command != SIZE_MAX ? QStringLiteral("next")
                                  : e.notebook != 0       ? QStringLiteral("notebook")
                                                          : QStringLiteral("ink-leaf"));
        item->setData(place_entry, QVariant::fromValue<qulonglong>(fits[i].second));
        item->setData(Qt::AccessibleTextRole, tr("%1, %2").arg(e.name, e.where));
        list_->addItem(item);
    }
    if (shown > 0) list_->setCurrentRow(0);
    list_->setVisible(shown > 0 || query.empty());
    empty_->setVisible(shown == 0 && !query.empty());
}

void GoToDialog::go(const QListWidgetItem* item) {
    if (!item) return;
    const Entry& e = entries_[item->data(place_entry).toULongLong()];
    accept();
    if (e.command != SIZE_MAX) return commands_[e.command].run();
    if (e.page != 0) return session_.open_page(e.page);
    session_.model().open_notebook(e.notebook);
}

bool GoToDialog::eventFilter(QObject* object, QEvent* event) {
    if (object == field_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int by = key == Qt::Key_Down       ? 1
                       : key == Qt::Key_Up       ? -1
                       : key == Qt::Key_PageDown ? 8
                       : key == Qt::Key_PageUp   ? -8
                                                 : 0;
        if (by != 0 && list_->count() > 0) {
            list_->setCurrentRow(std::clamp(list_->currentRow() + by, 0, list_->count() - 1));
            return true;
        }
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            go(list_->currentItem());
            return true;
        }
    }
    return QDialog::eventFilter(object, event);
}

}  // namespace fernleaf
