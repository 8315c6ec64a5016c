#include "notebooks/notebook_list.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <initializer_list>
#include <tuple>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kSearchAfterMs = 120;
constexpr int kListWidth = 258;

QFont face(const QString& family, int px, int weight = QFont::Normal, bool italic = false) {
    QFont font(family);
    font.setPixelSize(px);
    font.setWeight(static_cast<QFont::Weight>(weight));
    font.setItalic(italic);
    return font;
}

// Paints notebooks as spines, their contents as a table of contents, and hits as lines.
class NotebookDelegate : public QStyledItemDelegate {
    Q_DECLARE_TR_FUNCTIONS(NotebookDelegate)

public:
    using QStyledItemDelegate::QStyledItemDelegate;
    using Kind = NotebookModel::Kind;

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        switch (static_cast<Kind>(index.data(NotebookModel::kind).toInt())) {
            case Kind::notebook:
                return {option.rect.width(), 44};
            case Kind::page:
                return {option.rect.width(), 30};
            case Kind::found_notebook:
                return {option.rect.width(), 40};
            case Kind::found_page:
                return {option.rect.width(), 26};
            case Kind::hit:
                return {option.rect.width(), 32};
        }
        return {};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        const QRect r = option.rect.adjusted(10, 1, -10, -1);
        const bool hover = option.state & QStyle::State_MouseOver;
        const bool focus = option.state & QStyle::State_HasFocus;
        const bool open = index.data(NotebookModel::open).toBool();
        const QString text = index.data().toString();
        const int number = index.data(NotebookModel::number).toInt(), count = index.data(NotebookModel::count).toInt();
        const auto ground = [&](const QRect& where, bool chosen) {
            if (chosen || hover) {
                QColor wash = t.chosen;
                if (!chosen) wash.setAlpha(120);
                painter->setPen(Qt::NoPen);
                painter->setBrush(wash);
                painter->drawRoundedRect(where, 6, 6);
            }
            if (focus) {
                painter->setPen(QPen(t.act, 1.2));
                painter->setBrush(Qt::NoBrush);
                painter->drawRoundedRect(QRectF(where).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
            }
        };
        const auto write = [&](const QRect& where, const QString& what, const QFont& font, const QColor& colour,
                               int flags = Qt::AlignLeft | Qt::AlignVCenter) {
            painter->setFont(font);
            painter->setPen(colour);
            painter->drawText(where, flags, QFontMetrics(font).elidedText(what, Qt::ElideRight, where.width()));
        };
        switch (static_cast<Kind>(index.data(NotebookModel::kind).toInt())) {
            case Kind::notebook: {
                // A spine: the cover's colour with two raised bands.
                const QColor cover = index.data(NotebookModel::colour).value<QColor>();
                const QRect spine(r.left(), r.top() + 3, r.width(), r.height() - 6);
                painter->setPen(Qt::NoPen);
                painter->setBrush(hover || open ? cover : cover.lighter(t.dark ? 92 : 108));
                painter->drawRoundedRect(spine, 4, 4);
                painter->setBrush(QColor(255, 255, 255, 46));
                painter->drawRect(QRectF(spine.left() + 8, spine.top(), 3, spine.height()));
                painter->drawRect(QRectF(spine.right() - 10, spine.top(), 3, spine.height()));
                write(spine.adjusted(20, 0, -44, 0), text, face(kTextFace, 15, QFont::DemiBold),
                      QColor(0xFD, 0xFC, 0xF8));
                write(spine.adjusted(0, 0, -18, 0), QString::number(count), face(kInterfaceFace, 12),
                      QColor(0xFD, 0xFC, 0xF8), Qt::AlignRight | Qt::AlignVCenter);
                if (focus) {
                    painter->setPen(QPen(t.text, 1.4));
                    painter->setBrush(Qt::NoBrush);
                    painter->drawRoundedRect(QRectF(spine).adjusted(-1.5, -1.5, 1.5, 1.5), 5, 5);
                }
                break;
            }
            case Kind::page: {
                ground(r, open);
                write(QRect(r.left() + 6, r.top(), 24, r.height()), QString::number(number),
                      face(kInterfaceFace, 12, open ? QFont::DemiBold : QFont::Normal), open ? t.act : t.quiet_text,
                      Qt::AlignRight | Qt::AlignVCenter);
                const bool known = index.data(NotebookModel::certainty).toDouble() > 0;
                write(r.adjusted(40, 0, -6, 0), text,
                      face(kTextFace, 14, open ? QFont::DemiBold : QFont::Normal, !known),
                      known ? t.text : t.quiet_text);
                break;
            }
            case Kind::found_notebook:
                write(r.adjusted(6, 6, -6, 0), text, face(kTextFace, 15, QFont::DemiBold), t.text);
                write(r.adjusted(6, 6, -6, 0), tr("%n hit(s)", nullptr, static_cast<int>(count)),
                      face(kInterfaceFace, 11), t.quiet_text, Qt::AlignRight | Qt::AlignVCenter);
                break;
            case Kind::found_page:
                ground(r, false);
                write(r.adjusted(6, 0, -6, 0), tr("page %1").arg(number), face(kInterfaceFace, 12, QFont::DemiBold),
                      t.act);
                write(r.adjusted(6, 0, -6, 0), QString::number(count), face(kInterfaceFace, 11), t.quiet_text,
                      Qt::AlignRight | Qt::AlignVCenter);
                break;
            case Kind::hit: {
                ground(r, option.state & QStyle::State_Selected);
                const double certainty = index.data(NotebookModel::certainty).toDouble();
                // A gauge of certainty, filled from below.
                const QRectF gauge(r.left() + 8, r.top() + 7, 4, r.height() - 14);
                painter->setPen(Qt::NoPen);
                painter->setBrush(t.line);
                painter->drawRoundedRect(gauge, 2, 2);
                painter->setBrush(certainty < kSureEnough ? t.unsure : t.act);
                painter->drawRoundedRect(
                    QRectF(gauge.left(), gauge.bottom() - gauge.height() * certainty, 4, gauge.height() * certainty), 2,
                    2);
                write(r.adjusted(20, 0, -42, 0), text, face(kTextFace, 14), t.text);
                write(r.adjusted(6, 0, -6, 0), tr("%1 %").arg(qRound(100 * certainty)), face(kInterfaceFace, 11),
                      t.quiet_text, Qt::AlignRight | Qt::AlignVCenter);
                break;
            }
        }
        painter->restore();
    }
};

}  // namespace

NotebookList::NotebookList(Session& session, QWidget* parent) : QWidget(parent), session_(session), model_(this) {
    setObjectName(QStringLiteral("notebookList"));
    setFixedWidth(kListWidth);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 8);
    column->setSpacing(8);

    auto* head = new QHBoxLayout;
    head->setContentsMargins(14, 0, 10, 0);
    mark_ = new QLabel;
    name_ = new QLabel(QStringLiteral("Fernleaf"));
    name_->setFont(face(kTextFace, 20, QFont::DemiBold));
    head->addWidget(mark_);
    head->addWidget(name_);
    head->addStretch();
    column->addLayout(head);

    auto* search = new QHBoxLayout;
    search->setContentsMargins(10, 0, 10, 0);
    find_ = new QLineEdit;
    find_->setObjectName(QStringLiteral("findField"));
    find_->setPlaceholderText(tr("Find in all handwriting"));
    find_->setToolTip(tr("Words, \"a phrase\", notebook:press, after:2026-05-01  (Ctrl+F)"));
    find_->setAccessibleName(tr("Find"));
    find_->setClearButtonEnabled(true);
    find_icon_ = find_->addAction(QIcon(), QLineEdit::LeadingPosition);
    find_->installEventFilter(this);
    search->addWidget(find_);
    column->addLayout(search);

    list_ = new QListView;
    list_->setObjectName(QStringLiteral("notebooks"));
    list_->setModel(&model_);
    list_->setItemDelegate(new NotebookDelegate(list_));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setMouseTracking(true);
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list_->setAccessibleName(tr("Notebooks and pages"));
    list_->viewport()->setAutoFillBackground(false);
    column->addWidget(list_, 1);
    message_ = new QLabel;
    message_->setWordWrap(true);
    message_->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    message_->setContentsMargins(18, 24, 18, 0);
    message_->hide();
    column->addWidget(message_, 1);

    task_ = new QWidget;
    auto* task_row = new QHBoxLayout(task_);
    task_row->setContentsMargins(14, 0, 8, 0);
    auto* task_column = new QVBoxLayout;
    task_column->setSpacing(4);
    task_label_ = new QLabel;
    task_label_->setFont(face(kInterfaceFace, 11));
    task_bar_ = new QProgressBar;
    task_bar_->setTextVisible(false);
    task_bar_->setRange(0, 1000);
    task_column->addWidget(task_label_);
    task_column->addWidget(task_bar_);
    task_row->addLayout(task_column, 1);
    task_cancel_ = new QToolButton;
    task_cancel_->setToolTip(tr("Cancel"));
    task_cancel_->setAccessibleName(tr("Cancel"));
    task_row->addWidget(task_cancel_);
    task_->hide();
    column->addWidget(task_);

    // Each row's first button at the left, its last at the right.
    const auto row = [&](std::initializer_list<std::tuple<QToolButton**, QString, QString>> buttons) {
        auto* out = new QHBoxLayout;
        out->setContentsMargins(10, 0, 10, 0);
        for (const auto& [button, text, tip] : buttons) {
            if (out->count() > 0) out->addStretch();
            *button = new QToolButton;
            (*button)->setText(text);
            (*button)->setToolTip(tip);
            (*button)->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
            (*button)->setIconSize({20, 20});
            out->addWidget(*button);
        }
        if (buttons.size() == 1) out->addStretch();
        column->addLayout(out);
    };
    row({{&pens_, tr("Pens"), tr("Smart pens: link, pair, settings  (Ctrl+Shift+P)")}});
    row({{&intake_, tr("Intake tray"), tr("Photographs and scans that wait to be filed  (Ctrl+Shift+I)")}});
    row({{&days_, tr("Days"), tr("What was written, by day  (Ctrl+Shift+Y)")},
         {&voice_, tr("Voice tracks"), tr("Record, play and import voice tracks  (Ctrl+Shift+V)")}});
    row({{&new_notebook_, tr("New notebook"), tr("Make a notebook  (Ctrl+Shift+N)")},
         {&import_, tr("Import"), tr("Import InkML, pictures or PDF  (Ctrl+I)")}});
    restyle();

    search_timer_.setSingleShot(true);
    search_timer_.setInterval(kSearchAfterMs);
    connect(&search_timer_, &QTimer::timeout, this, [this] { session_.model().find(find_->text()); });
    connect(find_, &QLineEdit::textChanged, this, [this](const QString& text) {
        if (text.trimmed().isEmpty())
            leave_search();
        else
            search_timer_.start();
    });
    connect(new_notebook_, &QToolButton::clicked, this, &NotebookList::new_notebook);
    connect(import_, &QToolButton::clicked, this, &NotebookList::import_wanted);
    connect(intake_, &QToolButton::clicked, this, &NotebookList::intake_wanted);
    connect(days_, &QToolButton::clicked, this, &NotebookList::days_wanted);
    connect(voice_, &QToolButton::clicked, this, &NotebookList::voice_wanted);
    connect(pens_, &QToolButton::clicked, this, &NotebookList::pens_wanted);
    connect(task_cancel_, &QToolButton::clicked, &session_.tasks(), &TaskRunner::cancel);
    connect(list_, &QListView::clicked, this, &NotebookList::activate);
    connect(list_, &QListView::activated, this, &NotebookList::activate);
    connect(&session_.model(), &LibraryModel::notebooks_changed, this,
            [this](const std::vector<NotebookSummary>& notebooks) {
                notebooks_ = notebooks;
                if (!searching_) leave_search();
            });
    connect(&session_.document(), &PageDocument::opened, this, [this] {
        if (searching_) return;
        model_.set_open_page(session_.page()->info.id);
        list_->scrollTo(model_.row_of_page(session_.page()->info.id));
    });
    connect(&session_.model(), &LibraryModel::found, this,
            [this](const QString& text, const std::vector<Hit>& hits, const QString& problem) {
                if (text.isEmpty()) return;
                searching_ = true;
                model_.show_hits(hits);
                if (!problem.isEmpty())
                    show_message(problem.toHtmlEscaped());
                else if (hits.empty())
                    show_message(tr("<span style='font-weight:600'>No results for “%1”</span><br><br>Every possible "
                                    "reading was searched. Fewer letters find more: <i>fro</i> finds <i>frost</i>.")
                                     .arg(text.trimmed().toHtmlEscaped()));
                else
                    show_message({});
            });
    connect(&session_.tasks(), &TaskRunner::changed, this, [this](const QString& label, double part) {
        task_->setVisible(!label.isEmpty());
        task_label_->setText(QFontMetrics(task_label_->font()).elidedText(label, Qt::ElideMiddle, kListWidth - 70));
        task_bar_->setValue(qRound(part * 1000));
    });
}

void NotebookList::show_message(const QString& html) {
    message_->setText(QStringLiteral("<span style='color:%1'>%2</span>").arg(theme().quiet_text.name(), html));
    message_->setVisible(!html.isEmpty());
    list_->setVisible(html.isEmpty());
}

void NotebookList::leave_search() {
    const bool was = searching_;
    searching_ = false;
    search_timer_.stop();
    model_.show_notebooks(notebooks_, session_.page() ? session_.page()->info.id : 0);
    show_message({});
    if (session_.page()) list_->scrollTo(model_.row_of_page(session_.page()->info.id));
    if (was) emit search_left();
}

void NotebookList::activate(const QModelIndex& index) {
    switch (model_.kind_at(index)) {
        case NotebookModel::Kind::notebook:
            session_.model().open_notebook(model_.notebook_at(index));
            break;
        case NotebookModel::Kind::page:
            session_.open_page(model_.page_at(index));
            break;
        case NotebookModel::Kind::found_notebook:
            break;
        case NotebookModel::Kind::found_page:
        case NotebookModel::Kind::hit:
            emit hit_chosen(model_.page_at(index), model_.boxes_at(index));
            break;
    }
}

bool NotebookList::eventFilter(QObject* object, QEvent* event) {
    if (object == find_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Escape) {
            find_->clear();
            return true;
        }
        if (key == Qt::Key_Down && model_.rowCount() > 0) {
            list_->setFocus();
            list_->setCurrentIndex(model_.index(std::min(searching_ ? 2 : 0, model_.rowCount() - 1)));
            return true;
        }
        if ((key == Qt::Key_Return || key == Qt::Key_Enter) && searching_ && model_.rowCount() > 2) {
            list_->setCurrentIndex(model_.index(2));
            activate(model_.index(2));
            return true;
        }
    }
    return QWidget::eventFilter(object, event);
}

void NotebookList::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().ground);
    painter.setPen(theme().line);
    painter.drawLine(width() - 1, 0, width() - 1, height());
}

void NotebookList::restyle() {
    mark_->setPixmap(icon(QStringLiteral("fern")).pixmap(24, 24, QIcon::Normal, QIcon::On));
    find_icon_->setIcon(icon(QStringLiteral("find")));
    new_notebook_->setIcon(icon(QStringLiteral("add-notebook")));
    import_->setIcon(icon(QStringLiteral("import")));
    intake_->setIcon(icon(QStringLiteral("intake")));
    days_->setIcon(icon(QStringLiteral("days")));
    voice_->setIcon(icon(QStringLiteral("voice")));
    pens_->setIcon(icon(QStringLiteral("pen-link")));
    task_cancel_->setIcon(icon(QStringLiteral("close")));
    list_->setStyleSheet(QStringLiteral("QListView { background: transparent; }"));
    list_->viewport()->update();
}

void NotebookList::set_pens(const QString& says) {
    pens_->setText(QFontMetrics(pens_->font()).elidedText(says, Qt::ElideRight, kListWidth - 64));
}

void NotebookList::set_waiting(size_t sheets) {
    intake_->setText(sheets == 0 ? tr("Intake tray") : tr("Intake tray (%1)").arg(sheets));
    intake_->setAccessibleName(sheets == 0 ? tr("Intake tray")
                                           : tr("Intake tray: %n sheet(s)", nullptr, static_cast<int>(sheets)));
}

}  // namespace fernleaf
