#include "days/days_view.h"

#include <QClipboard>
#include <QDate>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLocale>
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <QPlainTextEdit>
#include <QScrollBar>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "desk/save_useful.h"
#include "look/dialog_parts.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kStripWidth = 208, kStripRowPx = 34, kMonthRowPx = 36;
constexpr int kDayRowPx = 52, kFootPx = 30, kInsetPx = 14, kGapPx = 12;
constexpr int kCardPx = Snippets::kHeightPx + 2 * kInsetPx + kFootPx;
constexpr int kMostCardWidth = 760, kLeastWordsPx = 200;
enum StripRole { day_row = Qt::UserRole, day_number, day_share, day_recorded };

QFont face(const QString& family, int px, int weight = QFont::Normal) {
    QFont font(family);
    font.setPixelSize(px);
    font.setWeight(static_cast<QFont::Weight>(weight));
    return font;
}

QDate date_of(int64_t day) { return QDate(1970, 1, 1).addDays(day); }

// "Today" and "Yesterday" where they are.
QString name_of(int64_t day) {
    const qint64 ago = date_of(day).daysTo(QDate::currentDate());
    if (ago == 0) return QObject::tr("Today");
    if (ago == 1) return QObject::tr("Yesterday");
    return QLocale().toString(date_of(day), QStringLiteral("dddd d MMMM"));
}

// Days, and how much was written on each as a bar of ink.
class StripDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
        return {kStripWidth - 16, index.data(day_row).isNull() ? kMonthRowPx : kStripRowPx};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        const QRect r = option.rect.adjusted(10, 1, -6, -1);
        if (index.data(day_row).isNull()) {
            painter->setFont(face(kTextFace, 15, QFont::DemiBold));
            painter->setPen(t.text);
            painter->drawText(r.adjusted(4, 8, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, index.data().toString());
            painter->restore();
            return;
        }
        const bool chosen = option.state & QStyle::State_Selected;
        if (chosen || option.state & QStyle::State_MouseOver) {
            QColor wash = t.chosen;
            if (!chosen) wash.setAlpha(120);
            painter->setPen(Qt::NoPen);
            painter->setBrush(wash);
            painter->drawRoundedRect(r, 6, 6);
        }
        if (option.state & QStyle::State_HasFocus) {
            painter->setPen(QPen(t.act, 1.2));
            painter->setBrush(Qt::NoBrush);
            painter->drawRoundedRect(QRectF(r).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
        }
        painter->setFont(face(kInterfaceFace, 13, chosen ? QFont::DemiBold : QFont::Normal));
        painter->setPen(chosen ? t.act : t.text);
        painter->drawText(r.adjusted(8, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, index.data().toString());
        if (index.data(day_recorded).toBool())
            icon(QStringLiteral("voice")).paint(painter, QRect(r.right() - 98, r.center().y() - 7, 15, 15));
        const QRectF track(r.right() - 74, r.center().y() - 2.5, 66, 6);
        painter->setPen(Qt::NoPen);
        painter->setBrush(t.line);
        painter->drawRoundedRect(track, 3, 3);
        painter->setBrush(t.act);
        painter->drawRoundedRect(
            QRectF(track.left(), track.top(), std::max(6.0, track.width() * index.data(day_share).toDouble()), 6), 3,
            3);
        painter->restore();
    }
};

// Corrects lines as they were when it was opened.
class LinesEditor : public QPlainTextEdit {
public:
    using QPlainTextEdit::QPlainTextEdit;
    PageId page = 0;
    std::vector<ReadLine> lines;
};

class SnippetDelegate : public QStyledItemDelegate {
    Q_DECLARE_TR_FUNCTIONS(SnippetDelegate)

public:
    SnippetDelegate(DaysModel& model, QObject* parent) : QStyledItemDelegate(parent), model_(model) {}

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        return {option.rect.width(), model_.is_day(index) ? kDayRowPx : kCardPx + kGapPx};
    }

    static QRect card(const QRect& row) {
        const int width = std::min(kMostCardWidth, row.width() - 36);
        return {row.left() + 18, row.top(), width, kCardPx};
    }
    // The corner that turns a card over.
    static QRect corner(const QRect& row) {
        const QRect c = card(row);
        return {c.right() - 33, c.bottom() - 31, 30, 28};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        painter->save();
        painter->setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
        if (model_.is_day(index))
            paint_day(painter, option.rect, index);
        else
            paint_card(painter, option, index);
        painter->restore();
    }

    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex& index) const override {
        auto* editor = new LinesEditor(parent);
        editor->page = model_.page_at(index)->page;
        editor->lines = DaysModel::correctable(*model_.snippet_at(index));
        QStringList texts;
        for (const ReadLine& line : editor->lines) texts << QString::fromStdString(line.text());
        editor->setPlainText(texts.join(QLatin1Char('\n')));
        editor->setFont(face(kTextFace, 15));
        editor->setAccessibleName(tr("What is written here"));
        editor->setTabChangesFocus(true);
        return editor;
    }
    // What is typed stays, whatever is read meanwhile.
    void setEditorData(QWidget*, const QModelIndex&) const override {}
    void setModelData(QWidget* editor, QAbstractItemModel*, const QModelIndex&) const override {
        const auto* typed = static_cast<LinesEditor*>(editor);
        model_.correct(typed->page, typed->lines, typed->toPlainText());
    }
    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option, const QModelIndex&) const override {
        const QRect whole = card(option.rect).adjusted(2, 2, -2, -kFootPx - 4);
        editor->setGeometry(whole.adjusted(whole.width() / 2, 0, 0, 0));  // the ink stays in sight
    }
    // Enter is done, as in a line: lines are neither added nor taken out.
    bool eventFilter(QObject* object, QEvent* event) override {
        if (event->type() == QEvent::KeyPress) {
            const int key = static_cast<QKeyEvent*>(event)->key();
            if (key == Qt::Key_Return || key == Qt::Key_Enter) {
                auto* editor = static_cast<QWidget*>(object);
                emit commitData(editor);
                emit closeEditor(editor);
                return true;
            }
        }
        return QStyledItemDelegate::eventFilter(object, event);
    }

private:
    void paint_day(QPainter* painter, const QRect& row, const QModelIndex& index) const {
        const Theme& t = theme();
        const WrittenDay& day = model_.days()[model_.day_at(index)];
        const QRect at = row.adjusted(18, 14, -18, -4);
        painter->setFont(face(kTextFace, 18, QFont::DemiBold));
        painter->setPen(t.text);
        const QString name = name_of(day.day);
        painter->drawText(at, Qt::AlignLeft | Qt::AlignVCenter, name);
        const int named = QFontMetrics(painter->font()).horizontalAdvance(name);
        painter->setFont(face(kInterfaceFace, 12));
        painter->setPen(t.quiet_text);
        painter->drawText(at.adjusted(named + 12, 3, 0, 0), Qt::AlignLeft | Qt::AlignVCenter,
                          tr("%n page(s)", nullptr, static_cast<int>(day.pages)));
    }

    void paint_card(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
        const Theme& t = theme();
        const QRect c = card(option.rect);
        const bool chosen = option.state & QStyle::State_Selected;
        painter->setPen(QPen(chosen ? t.act : t.line, chosen ? 1.6 : 1));
        painter->setBrush(t.card);
        painter->drawRoundedRect(QRectF(c).adjusted(0.5, 0.5, -0.5, -0.5), 8, 8);
        const DayPage* page = model_.page_at(index);
        if (!page) return;
        const Snippet* snippet = model_.snippet_at(index);
        const QRect inner = c.adjusted(kInsetPx, kInsetPx, -kInsetPx, -kInsetPx - kFootPx);
        if (snippet && option.state & QStyle::State_Editing && !snippet->picture.isNull()) {
            const QSizeF size = snippet->picture.deviceIndependentSize();
            const double scale = std::min(1.0, (c.width() / 2.0 - 2 * kInsetPx) / size.width());
            painter->drawImage(QRectF(inner.topLeft(), size * scale), snippet->picture);
        } else if (snippet && model_.turned(index)) {
            painter->setFont(face(kTextFace, 15));
            painter->setPen(snippet->text.isEmpty() ? t.quiet_text : t.text);
            painter->drawText(inner, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                              snippet->text.isEmpty() ? tr("Nothing has been read here yet.") : snippet->text);
        } else if (snippet && !snippet->picture.isNull()) {
            painter->save();
            painter->setClipRect(inner);
            painter->drawImage(inner.topLeft(), snippet->picture);
            painter->restore();
            // Beside it what it says, where there is room.
            const int beside = qRound(snippet->picture.deviceIndependentSize().width()) + 18;
            if (inner.width() - beside >= kLeastWordsPx) {
                painter->setFont(face(kTextFace, 14));
                painter->setPen(t.quiet_text);
                // Whole lines only.
                const int line = QFontMetrics(painter->font()).lineSpacing();
                QRect words = inner.adjusted(beside, -2, 0, 0);
                words.setHeight(words.height() / line * line);
                painter->setClipRect(words);
                painter->drawText(words, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, snippet->text);
                painter->setClipping(false);
            }
        }
        painter->setPen(t.line);
        const int foot = c.bottom() - kFootPx - 4;
        painter->drawLine(c.left() + kInsetPx, foot, c.right() - kInsetPx, foot);
        const QRect says(c.left() + kInsetPx, foot, c.width() - 2 * kInsetPx - 34, kFootPx + 4);
        painter->setFont(face(kInterfaceFace, 12, QFont::DemiBold));
        painter->setPen(t.text);
        const QString where =
            tr("%1, page %2").arg(QString::fromStdString(page->notebook_title)).arg(page->page_number);
        painter->drawText(says, Qt::AlignLeft | Qt::AlignVCenter, where);
        int x = says.left() + QFontMetrics(painter->font()).horizontalAdvance(where) + 12;
        const QLocale locale;
        const auto time = [&](int64_t ms) {
            // Without seconds, which some languages' short form has.
            const QString format = locale.timeFormat(QLocale::ShortFormat).remove(QStringLiteral(":ss"));
            return locale.toString(QDateTime::fromMSecsSinceEpoch(ms).time(), format);
        };
        const QString from = time(page->first_ms), to = time(page->last_ms);
        painter->setFont(face(kInterfaceFace, 12));
        painter->setPen(t.quiet_text);
        const QString when = from == to ? from : tr("%1 to %2").arg(from, to);
        painter->drawText(QRect(x, says.top(), says.right() - x, says.height()), Qt::AlignLeft | Qt::AlignVCenter,
                          when);
        x += QFontMetrics(painter->font()).horizontalAdvance(when) + 12;
        if (page->by_pen) icon(QStringLiteral("pen-link")).paint(painter, QRect(x, says.center().y() - 8, 17, 17));
        if (page->sound)
            icon(QStringLiteral("voice"))
                .paint(painter, QRect(x + (page->by_pen ? 24 : 0), says.center().y() - 8, 17, 17));
        icon(model_.turned(index) ? QStringLiteral("ink-leaf") : QStringLiteral("text-leaf"))
            .paint(painter, corner(option.rect).adjusted(6, 5, -6, -5));
    }

    DaysModel& model_;
};

}  // namespace

DaysView::DaysView(Session& session, QWidget* parent) : QWidget(parent), session_(session), model_(session) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 0);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(22, 0, 22, 0);
    head->setSpacing(12);
    head->addWidget(heading(tr("Days"), kTextFace, 22));
    head->addStretch();
    by_pen_ = new QCheckBox(tr("Written with a smart pen"));
    notebook_ = new QComboBox;
    notebook_->setAccessibleName(tr("Notebook"));
    notebook_->setMinimumWidth(190);
    back_ = new QToolButton;
    back_->setText(tr("Back to the page"));
    back_->setToolTip(tr("Back to the page  (Esc)"));
    with_sound_ = new QCheckBox(tr("With sound"));
    head->addWidget(with_sound_);
    tag_ = new QComboBox;
    tag_->setAccessibleName(tr("Tag"));
    head->addWidget(by_pen_);
    head->addWidget(tag_);
    head->addWidget(notebook_);
    head->addWidget(back_);
    column->addLayout(head);

    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    const auto list = [](const QString& name) {
        auto* out = new QListView;
        out->setFrameShape(QFrame::NoFrame);
        out->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
        out->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        out->setMouseTracking(true);
        out->setEditTriggers(QAbstractItemView::NoEditTriggers);
        out->setAccessibleName(name);
        out->setStyleSheet(QStringLiteral("QListView { background: transparent; }"));
        out->viewport()->setAutoFillBackground(false);
        return out;
    };
    strip_ = list(tr("Days"));
    strip_->setModel(&strip_model_);
    strip_->setItemDelegate(new StripDelegate(strip_));
    strip_->setFixedWidth(kStripWidth);
    list_ = list(tr("What was written"));
    list_->setModel(&model_);
    list_->setItemDelegate(new SnippetDelegate(model_, list_));
    list_->setResizeMode(QListView::Adjust);
    list_->setContextMenuPolicy(Qt::CustomContextMenu);
    list_->installEventFilter(this);
    list_->viewport()->installEventFilter(this);
    strip_->installEventFilter(this);
    row->addWidget(strip_);
    row->addWidget(list_, 1);
    auto* both = new QWidget;
    both->setLayout(row);
    row->setContentsMargins(8, 0, 0, 0);
    nothing_ = remark({});
    nothing_->setAlignment(Qt::AlignCenter);
    stack_ = new QStackedWidget;
    stack_->addWidget(both);
    stack_->addWidget(nothing_);
    column->addWidget(stack_, 1);

    connect(back_, &QToolButton::clicked, this, &DaysView::left);
    connect(by_pen_, &QCheckBox::toggled, this, &DaysView::refresh);
    connect(with_sound_, &QCheckBox::toggled, this, &DaysView::refresh);
    connect(notebook_, &QComboBox::activated, this, &DaysView::refresh);
    connect(tag_, &QComboBox::activated, this, &DaysView::refresh);
    connect(&session_.keeping(), &KeepingDesk::changed, this, &DaysView::fill_tags);
    connect(&model_, &DaysModel::refreshed, this, &DaysView::show_strip);
    connect(strip_->selectionModel(), &QItemSelectionModel::currentChanged, this, [this](const QModelIndex& chosen) {
        if (following_ || chosen.data(day_row).isNull()) return;
        const QModelIndex day = model_.index(chosen.data(day_row).toInt());
        list_->scrollTo(day, QAbstractItemView::PositionAtTop);
        list_->setCurrentIndex(model_.index(day.row() + 1));
        list_->scrollTo(day, QAbstractItemView::PositionAtTop);
    });
    // The strip follows what is scrolled to.
    connect(list_->verticalScrollBar(), &QScrollBar::valueChanged, this, [this] {
        const QModelIndex top = list_->indexAt({20, 20});
        if (!top.isValid() || strip_->hasFocus()) return;
        following_ = true;
        const QModelIndexList found =
            strip_model_.match(strip_model_.index(0, 0), day_number, static_cast<int>(model_.day_at(top)), 1);
        if (!found.isEmpty()) strip_->setCurrentIndex(found.front());
        following_ = false;
    });
    connect(list_, &QListView::activated, this, &DaysView::open);
    connect(list_, &QListView::customContextMenuRequested, this,
            [this](const QPoint& at) { offer(list_->indexAt(at), list_->viewport()->mapToGlobal(at)); });
    set_notebooks({});
    fill_tags();
}

void DaysView::set_notebooks(const std::vector<Notebook>& notebooks) {
    const QVariant before = notebook_->currentData();
    notebook_->clear();
    notebook_->addItem(tr("All notebooks"), QVariant::fromValue(NotebookId{0}));
    for (const Notebook& n : notebooks) notebook_->addItem(QString::fromStdString(n.title), QVariant::fromValue(n.id));
    notebook_->setCurrentIndex(std::max(0, notebook_->findData(before)));
}

void DaysView::fill_tags() {
    const QVariant before = tag_->currentData();
    tag_->clear();
    tag_->addItem(tr("All tags"), QVariant::fromValue(TagId{0}));
    for (const Tag& tag : session_.keeping().tags())
        tag_->addItem(QString::fromStdString(tag.name), QVariant::fromValue(tag.id));
    tag_->setCurrentIndex(std::max(0, tag_->findData(before)));
    tag_->setVisible(tag_->count() > 1);
}

void DaysView::refresh() {
    model_.refresh({notebook_->currentData().value<NotebookId>(), by_pen_->isChecked(), with_sound_->isChecked(),
                    tag_->currentData().value<TagId>()});
}

void DaysView::show_strip() {
    strip_model_.clear();
    size_t most = 1;
    for (const WrittenDay& day : model_.days()) most = std::max(most, day.strokes);
    QString month;
    for (size_t i = 0; i < model_.days().size(); ++i) {
        const WrittenDay& day = model_.days()[i];
        const QDate date = date_of(day.day);
        if (const QString name = QLocale().toString(date, QStringLiteral("MMMM yyyy")); name != month) {
            month = name;
            auto* item = new QStandardItem(month);
            item->setFlags(Qt::NoItemFlags);
            strip_model_.appendRow(item);
        }
        auto* item = new QStandardItem(QLocale().toString(date, QStringLiteral("ddd d")));
        item->setData(model_.row_of_day(i), day_row);
        item->setData(static_cast<int>(i), day_number);
        // A page of writing against a few words should show; ten pages against five, too.
        item->setData(std::sqrt(static_cast<double>(day.strokes) / static_cast<double>(most)), day_share);
        const QString pages = tr("%n page(s)", nullptr, static_cast<int>(day.pages));
        item->setToolTip(day.recorded_ms > 0 ? tr("%1, %2 recorded").arg(pages, clock_text(day.recorded_ms)) : pages);
        item->setData(day.recorded_ms > 0, day_recorded);
        strip_model_.appendRow(item);
    }
    const bool some = !model_.days().empty();
    stack_->setCurrentIndex(some ? 0 : 1);
    nothing_->setText(by_pen_->isChecked() ? tr("Nothing here was written with a smart pen.")
                      : notebook_->currentIndex() > 0
                          ? tr("Nothing has been written in this notebook yet.")
                          : tr("Nothing has been written yet. What you write appears here by day."));
    if (!some) return;
    following_ = true;
    strip_->setCurrentIndex(strip_model_.index(1, 0));
    following_ = false;
    list_->setCurrentIndex(model_.index(1));
    list_->scrollToTop();
}

void DaysView::open(const QModelIndex& index) {
    const DayPage* page = model_.page_at(index);
    const Snippet* snippet = model_.snippet_at(index);
    if (page) emit page_wanted(page->page, snippet ? snippet->box : Box{});
}

void DaysView::copy(const QModelIndex& index) {
    const Snippet* snippet = model_.snippet_at(index);
    if (!snippet) return;
    auto* copied = new QMimeData;
    if (!snippet->text.isEmpty()) copied->setText(snippet->text);
    copied->setImageData(snippet->picture);
    QGuiApplication::clipboard()->setMimeData(copied);
    session_.messages().tell(snippet->text.isEmpty() ? tr("Copied as a picture.") : tr("Copied."));
}

void DaysView::correct(const QModelIndex& index) {
    if (!(model_.flags(index) & Qt::ItemIsEditable)) return;
    list_->scrollTo(index);
    list_->setCurrentIndex(index);
    list_->edit(index);
}

void DaysView::listen(const QModelIndex& index) {
    const DayPage* page = model_.page_at(index);
    if (!page || !page->sound) return;
    if (const auto when = session_.tracks().heard().first_between(page->first_ms, page->last_ms))
        session_.listening().play_from(*when);
}

void DaysView::offer(const QModelIndex& at_row, const QPoint& at) {
    const DayPage* page = model_.page_at(at_row);
    if (!page) return;
    const QPersistentModelIndex index(at_row);  // days may be listed anew while the menu is open
    QMenu menu;
    menu.addAction(tr("Open the page"), this, [this, index] { open(index); });
    if (page->sound) menu.addAction(tr("Play"), this, [this, index] { listen(index); });
    menu.addAction(model_.turned(index) ? tr("Show the ink") : tr("Show what it says"), this,
                   [this, index] { model_.turn(index); });
    if (model_.flags(at_row) & Qt::ItemIsEditable)
        menu.addAction(tr("Correct …  (F2)"), this, [this, index] { correct(index); });
    menu.addAction(tr("Copy"), this, [this, index] { copy(index); });
    if (const Snippet* snippet = model_.snippet_at(at_row)) {
        if (!snippet->useful.empty()) menu.addSeparator();
        for (const Useful& useful : snippet->useful) {
            if (useful.kind == UsefulKind::web) continue;
            const QString text = QString::fromStdString(useful.text);
            menu.addAction(useful.kind == UsefulKind::moment ? tr("Save “%1” as event …").arg(text)
                                                             : tr("Save “%1” as contact …").arg(text),
                           this,
                           [this, useful, line = snippet->read.lines[static_cast<size_t>(useful.line)],
                            written = date_of_ms(page->first_ms)] {
                               save_useful(this, session_.transfers(), line, useful, written);
                           });
        }
    }
    menu.exec(at);
}

bool DaysView::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::KeyPress && (object == list_ || object == strip_)) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Escape) {
            emit left();
            return true;
        }
        if (object == list_ && key->key() == Qt::Key_Space) {
            model_.turn(list_->currentIndex());
            return true;
        }
        if (object == list_ && key->key() == Qt::Key_F2) {
            correct(list_->currentIndex());
            return true;
        }
        if (object == list_ && key->key() == Qt::Key_P) {
            listen(list_->currentIndex());
            return true;
        }
        if (object == list_ && key->matches(QKeySequence::Copy)) {
            copy(list_->currentIndex());
            return true;
        }
    }
    if (object == list_->viewport() && event->type() == QEvent::MouseButtonRelease) {
        auto* mouse = static_cast<QMouseEvent*>(event);
        const QModelIndex index = list_->indexAt(mouse->pos());
        if (mouse->button() == Qt::LeftButton && index.isValid() && !model_.is_day(index) &&
            SnippetDelegate::corner(list_->visualRect(index)).contains(mouse->pos()))
            model_.turn(index);
    }
    return QWidget::eventFilter(object, event);
}

void DaysView::paintEvent(QPaintEvent*) { QPainter(this).fillRect(rect(), theme().desk); }

void DaysView::restyle() {
    model_.restyle();
    strip_->viewport()->update();
    list_->viewport()->update();
}

}  // namespace fernleaf
