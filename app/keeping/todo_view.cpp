#include "keeping/todo_view.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QSettings>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

constexpr int kPagePx = 40, kTodoPx = 38, kBoxPx = 17, kIndentPx = 30, kMostPx = 760;
constexpr char kDoneToo[] = "todos/done too";
enum TodoRole { todo_number = Qt::UserRole, todo_done };  // no number: the name of a page

QRect box_in(const QRect& row) { return {row.left() + kIndentPx, row.center().y() - kBoxPx / 2, kBoxPx, kBoxPx}; }

class TodoDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        return {option.rect.width(), index.data(todo_number).isNull() ? kPagePx : kTodoPx};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        QRect r = option.rect;
        r.setWidth(std::min(r.width(), kMostPx));
        QFont font(kTextFace);
        if (index.data(todo_number).isNull()) {
            font.setPixelSize(16);
            font.setWeight(QFont::DemiBold);
            painter->setFont(font);
            painter->setPen(t.text);
            painter->drawText(r.adjusted(22, 8, -18, 0), Qt::AlignLeft | Qt::AlignVCenter, index.data().toString());
            painter->restore();
            return;
        }
        const bool chosen = option.state & QStyle::State_Selected;
        if (chosen || option.state & QStyle::State_MouseOver) {
            QColor wash = t.chosen;
            if (!chosen) wash.setAlpha(120);
            painter->setPen(Qt::NoPen);
            painter->setBrush(wash);
            painter->drawRoundedRect(r.adjusted(14, 1, -14, -1), 6, 6);
        }
        const bool ticked = index.data(todo_done).toBool();
        const QRectF box = QRectF(box_in(r)).adjusted(0.5, 0.5, -0.5, -0.5);
        painter->setPen(QPen(ticked ? t.act : t.quiet_text, 1.5));
        painter->setBrush(t.card);
        painter->drawRoundedRect(box, 2, 2);
        if (ticked) {
            painter->setPen(QPen(t.act, 2.2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
            painter->drawPolyline(QPolygonF(
                {box.topLeft() + QPointF(3, 8), box.topLeft() + QPointF(7, 12.5), box.topLeft() + QPointF(16, -2)}));
        }
        font.setPixelSize(16);
        font.setStrikeOut(ticked);
        painter->setFont(font);
        painter->setPen(ticked ? t.quiet_text : t.text);
        const QRect words = r.adjusted(kIndentPx + kBoxPx + 13, 0, -30, 0);
        painter->drawText(words, Qt::AlignLeft | Qt::AlignVCenter,
                          QFontMetrics(font).elidedText(index.data().toString(), Qt::ElideRight, words.width()));
        painter->restore();
    }
};

}  // namespace

TodoView::TodoView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("todos"));
    setAttribute(Qt::WA_StyledBackground);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 0);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(22, 0, 22, 0);
    head->setSpacing(12);
    head->addWidget(heading(tr("To-dos"), kTextFace, 22));
    says_ = remark({});
    says_->setWordWrap(false);
    head->addWidget(says_);
    head->addStretch();
    done_too_ = new QCheckBox(tr("Show completed"));
    done_too_->setChecked(QSettings().value(kDoneToo).toBool());
    head->addWidget(done_too_);
    close_ = new QToolButton;
    close_->setText(tr("Back to the page"));
    close_->setToolTip(tr("Back to the page  (Esc)"));
    head->addWidget(close_);
    column->addLayout(head);
    rows_ = new QStandardItemModel(this);
    list_ = new QListView;
    list_->setObjectName(QStringLiteral("todoList"));
    list_->setModel(rows_);
    list_->setItemDelegate(new TodoDelegate(list_));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setMouseTracking(true);
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setAccessibleName(tr("To-dos"));
    list_->viewport()->setAutoFillBackground(false);
    list_->viewport()->installEventFilter(this);
    list_->installEventFilter(this);
    column->addWidget(list_, 1);
    empty_ =
        remark(tr("Nothing to do. Draw a small box before a line, or type a list to tick off, and it appears here."));
    empty_->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    empty_->setContentsMargins(60, 60, 60, 0);
    column->addWidget(empty_, 1);
    connect(close_, &QToolButton::clicked, this, &TodoView::left);
    connect(done_too_, &QCheckBox::toggled, this, [this](bool on) {
        QSettings().setValue(kDoneToo, on);
        refresh();
    });
    connect(list_, &QListView::doubleClicked, this, &TodoView::go_to);
    const auto again = [this] {
        if (isVisible()) refresh();
    };
    connect(&session_.readings(), &ReadingScheduler::page_read, this, again);
    connect(&session_.keeping(), &KeepingDesk::ticked, this, again);
    show_todos({});
}

void TodoView::restyle() {
    says_->setStyleSheet(QStringLiteral("color: %1").arg(theme().quiet_text.name()));
    empty_->setStyleSheet(says_->styleSheet());
}

void TodoView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void TodoView::take_focus() { todos_.empty() ? close_->setFocus() : list_->setFocus(); }

void TodoView::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape) return QWidget::keyPressEvent(event);
    emit left();
}

void TodoView::refresh() {
    session_.keeping().find_todos(done_too_->isChecked(),
                                  [self = QPointer<TodoView>(this)](const std::vector<Todo>& todos) {
                                      if (self) self->show_todos(todos);
                                  });
}

void TodoView::show_todos(std::vector<Todo> todos) {
    const QModelIndex was = list_->currentIndex();
    const int chosen = was.isValid() ? was.row() : -1;
    const int open = static_cast<int>(
        std::ranges::count_if(todos, [](const Todo& todo) { return !todo.line.ticked.value_or(false); }));
    todos_ = std::move(todos);
    rows_->clear();
    PageId before = 0;
    for (size_t i = 0; i < todos_.size(); ++i) {
        const Todo& todo = todos_[i];
        if (std::exchange(before, todo.page) != todo.page) {
            auto* page_row = new QStandardItem(
                tr("%1, page %2").arg(QString::fromStdString(todo.notebook_title)).arg(todo.page_number));
            page_row->setFlags(Qt::ItemIsEnabled);
            rows_->appendRow(page_row);
        }
        auto* row = new QStandardItem(todo.errand == Errand::send   ? tr("Send this page")
                                      : todo.errand == Errand::todo ? tr("Follow up on this page")
                                                                    : QString::fromStdString(todo_text(todo.line)));
        const bool ticked = todo.line.ticked.value_or(false);
        row->setData(static_cast<int>(i), todo_number);
        row->setData(ticked, todo_done);
        row->setData(ticked ? tr("%1, ticked").arg(row->text()) : tr("%1, not ticked").arg(row->text()),
                     Qt::AccessibleTextRole);
        rows_->appendRow(row);
    }
    // Before it hides: the keys would go to whatever comes next.
    const bool kept_focus = list_->hasFocus() || close_->hasFocus();
    if (todos_.empty() && list_->hasFocus()) close_->setFocus();
    says_->setText(tr("%n to do", nullptr, open));
    says_->setVisible(!todos_.empty());
    empty_->setVisible(todos_.empty());
    list_->setVisible(!todos_.empty());
    if (kept_focus) take_focus();
    if (rows_->rowCount() > 1) list_->setCurrentIndex(rows_->index(std::clamp(chosen, 1, rows_->rowCount() - 1), 0));
}

const Todo* TodoView::todo_at(const QModelIndex& index) const {
    return index.isValid() && !index.data(todo_number).isNull()
               ? &todos_[static_cast<size_t>(index.data(todo_number).toInt())]
               : nullptr;
}

void TodoView::tick(const QModelIndex& index) {
    const Todo* todo = todo_at(index);
    if (!todo) return;
    const bool now = !index.data(todo_done).toBool();
    session_.keeping().tick(*todo, now);
    rows_->itemFromIndex(index)->setData(now, todo_done);  // at once; what the page says comes when it is read
    todos_[static_cast<size_t>(index.data(todo_number).toInt())].line.ticked = now;
}

void TodoView::go_to(const QModelIndex& index) {
    if (const Todo* todo = todo_at(index)) emit page_wanted(todo->page, todo->line.box);
}

bool TodoView::eventFilter(QObject* object, QEvent* event) {
    if (object == list_->viewport() && event->type() == QEvent::MouseButtonRelease) {
        const QPoint at = static_cast<QMouseEvent*>(event)->position().toPoint();
        const QModelIndex index = list_->indexAt(at);
        if (todo_at(index) && box_in(list_->visualRect(index)).adjusted(-8, -8, 8, 8).contains(at)) tick(index);
    }
    if (object == list_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Space) return tick(list_->currentIndex()), true;
        if (key == Qt::Key_Return || key == Qt::Key_Enter) return go_to(list_->currentIndex()), true;
    }
    return QWidget::eventFilter(object, event);
}

}  // namespace fernleaf
