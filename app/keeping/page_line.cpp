#include "keeping/page_line.h"

#include <QCompleter>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QStringListModel>
#include <algorithm>

#include "base/text.h"
#include "finding/written_tags.h"
#include "look/tag_look.h"
#include "look/theme.h"
#include "render/fonts.h"
#include "transcript/reading.h"

namespace fernleaf {
namespace {

constexpr int kTitlePx = 260, kFieldPx = 150, kGapPx = 6;
constexpr qsizetype kMostOffered = 3;

// What the page is called while it has no title: its first line of words.
QString first_line(const Reading& reading) {
    for (const ReadLine& line : reading.lines)
        if (line.kind == RegionKind::text && !line.words.empty()) return QString::fromStdString(todo_text(line));
    return {};
}

}  // namespace

TagSlip::TagSlip(const Tag& tag, bool of_notebook, QWidget* parent)
    : QAbstractButton(parent), tag_(tag), of_notebook_(of_notebook) {
    const QString name = QString::fromStdString(tag.name);
    setText(name);
    setAccessibleName(of_notebook ? tr("Tag %1, of the notebook").arg(name) : tr("Tag %1").arg(name));
    setToolTip(of_notebook ? tr("%1: the whole notebook has this tag").arg(name) : name);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
}

QSize TagSlip::sizeHint() const { return tag_size(text()); }

void TagSlip::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    if (of_notebook_) painter.setOpacity(0.75);
    paint_tag(painter, rect(), text(), tag_.colour, underMouse() || isDown());
    if (hasFocus()) {
        painter.setOpacity(1);
        painter.setPen(QPen(theme().act, 1.4));
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.7, 0.7, -0.7, -0.7), 4, 4);
    }
}

void TagSlip::enterEvent(QEnterEvent*) { update(); }
void TagSlip::leaveEvent(QEvent*) { update(); }

PageLine::PageLine(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("pageLine"));
    setAttribute(Qt::WA_StyledBackground);
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(14, 0, 14, 2);
    row_->setSpacing(kGapPx);
    favourite_ = new QToolButton;
    favourite_->setCheckable(true);
    favourite_->setIconSize({16, 16});
    favourite_->setToolTip(tr("Favourite"));
    favourite_->setAccessibleName(tr("Favourite"));
    row_->addWidget(favourite_);
    title_ = new QLineEdit;
    title_->setObjectName(QStringLiteral("pageTitle"));
    title_->setFrame(false);
    title_->setMaximumWidth(kTitlePx);
    title_->setMinimumWidth(120);
    title_->setToolTip(tr("Page title. If empty, the first line is used."));
    title_->setAccessibleName(tr("Page title"));
    title_->installEventFilter(this);
    row_->addWidget(title_);
    row_->addSpacing(6);
    holder_ = new QWidget;
    auto* slips = new QHBoxLayout(holder_);
    slips->setContentsMargins(0, 0, 0, 0);
    slips->setSpacing(kGapPx);
    row_->addWidget(holder_);
    more_ = new QToolButton;
    more_->setAccessibleName(tr("More tags"));
    more_->hide();
    row_->addWidget(more_);
    field_ = new QLineEdit;
    field_->setObjectName(QStringLiteral("tagField"));
    field_->setPlaceholderText(tr("Tag"));
    field_->setAccessibleName(tr("Add tags, separated by commas"));
    field_->setFixedWidth(kFieldPx);
    field_->installEventFilter(this);
    field_->hide();
    row_->addWidget(field_);
    add_ = new QToolButton;
    add_->setText(tr("Add tag"));
    add_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    add_->setIconSize({16, 16});
    add_->setToolTip(tr("Add tags to this page  (Ctrl+Shift+T)"));
    row_->addWidget(add_);
    row_->addStretch();
    restyle();
    hide();

    connect(add_, &QToolButton::clicked, this, &PageLine::ask_for_tag);
    connect(title_, &QLineEdit::editingFinished, this, &PageLine::keep_title);
    connect(field_, &QLineEdit::returnPressed, this, &PageLine::add_typed);
    connect(favourite_, &QToolButton::clicked, this, [this](bool on) {
        if (session_.page()) session_.keeping().favour_page(session_.page()->info.id, on);
    });
    connect(more_, &QToolButton::clicked, this, [this] {
        QMenu menu(this);
        for (TagSlip* slip : slips_)
            if (slip->isHidden()) menu.addAction(slip->text(), this, [this, slip] { offer(slip); });
        menu.exec(more_->mapToGlobal(QPoint(0, more_->height())));
    });
    connect(&session_.document(), &PageDocument::leaving, this, &PageLine::keep_title);  // begun on this page
    connect(&session_.document(), &PageDocument::opened, this, &PageLine::show_page);
    connect(&session_.document(), &PageDocument::closed, this, &QWidget::hide);
    connect(&session_.keeping(), &KeepingDesk::changed, this, &PageLine::show_tags);
    connect(&session_.readings(), &ReadingScheduler::changed, this, [this] {
        title_->setPlaceholderText(first_line(session_.reading()));
        offer_written();
    });
}

void PageLine::restyle() {
    QFont font(kTextFace);
    font.setPixelSize(15);
    title_->setFont(font);
    const Theme& t = theme();
    // Fields of a line, not of a form: their frames show where the pointer or the keyboard is.
    const QString fields =
        QStringLiteral(
            "QLineEdit { background: transparent; border: 1px solid transparent; border-radius: 4px; "
            "padding: 1px 5px; } QLineEdit:hover { border-color: %1; } QLineEdit:focus { background: %2; "
            "border-color: %3; }")
            .arg(t.line.name(), t.card.name(), t.act.name());
    setStyleSheet(QStringLiteral("#pageLine { background: %1; }").arg(t.desk.name()));
    title_->setStyleSheet(fields);
    QPalette first_line = title_->palette();  // while it has no title of its own
    first_line.setColor(QPalette::PlaceholderText, t.quiet_text);
    title_->setPalette(first_line);
    field_->setStyleSheet(fields);
    add_->setIcon(icon(QStringLiteral("tag")));
    favourite_->setIcon(icon(QStringLiteral("favourite")));
    for (TagSlip* slip : slips_) slip->update();
}

void PageLine::show_page() {
    const PageInfo& info = session_.page()->info;
    const bool changeable = !session_.read_only();
    if (!title_->hasFocus() || title_->property("page").toLongLong() != info.id)
        title_->setText(QString::fromStdString(info.title));
    title_->setProperty("page", QVariant::fromValue<qlonglong>(info.id));
    title_->setPlaceholderText(first_line(session_.reading()));
    title_->setReadOnly(!changeable);
    favourite_->setChecked(info.favourite);
    favourite_->setEnabled(changeable);
    add_->setEnabled(changeable);
    if (field_->isVisible() && !field_->hasFocus()) close_field();
}

void PageLine::show_tags() {
    for (TagSlip* slip : slips_) slip->deleteLater();
    slips_.clear();
    const auto put = [this](const Tag& tag, bool of_notebook) {
        auto* slip = new TagSlip(tag, of_notebook, holder_);
        holder_->layout()->addWidget(slip);
        connect(slip, &TagSlip::clicked, this, [this, slip] { offer(slip); });
        slips_.push_back(slip);
    };
    const auto& of_page = session_.keeping().page_tags();
    for (const Tag& tag : of_page) put(tag, false);
    for (const Tag& tag : session_.keeping().notebook_tags())
        if (std::ranges::find(of_page, tag.id, &Tag::id) == of_page.end()) put(tag, true);
    QStringList names;
    for (const Tag& tag : session_.keeping().tags())
        if (std::ranges::find(of_page, tag.id, &Tag::id) == of_page.end()) names << QString::fromStdString(tag.name);
    auto* completer = new QCompleter(names, field_);
    completer->setCaseSensitivity(Qt::CaseInsensitive);
    completer->setFilterMode(Qt::MatchContains);
    if (QCompleter* before = field_->completer()) before->deleteLater();
    field_->setCompleter(completer);
    offer_written();
    fit();
}

void PageLine::offer_written() {
    QStringList names;
    if (session_.page() && !session_.read_only())
        for (const std::string& name : written_tags(session_.reading())) {
            const auto known = [folded = fold(name)](const Tag& tag) { return fold(tag.name) == folded; };
            if (std::ranges::none_of(session_.keeping().page_tags(), known) &&
                std::ranges::none_of(session_.keeping().notebook_tags(), known) && names.size() < kMostOffered)
                names << QString::fromStdString(name);
        }
    QStringList before;
    for (const QToolButton* button : offered_) before << button->text().mid(1);
    if (names == before) return;
    for (QToolButton* button : offered_) button->deleteLater();
    offered_.clear();
    for (const QString& name : names) {
        auto* button = new QToolButton;
        button->setText('#' + name);
        button->setToolTip(tr("“#%1” is written here. Tag the page with it").arg(name));
        button->setAccessibleName(tr("Tag with %1").arg(name));
        row_->insertWidget(row_->indexOf(add_), button);
        connect(button, &QToolButton::clicked, this, [this, name] {
            if (session_.page()) session_.keeping().tag({session_.page()->info.id}, name);
        });
        offered_.push_back(button);
    }
    fit();
}

// As many tags as there is room for; the others are behind a button.
void PageLine::fit() {
    int room = width() - title_->x() - std::min(kTitlePx, title_->sizeHint().width() * 2) - 60 -
               std::max(add_->sizeHint().width(), field_->isVisible() ? kFieldPx : 0);
    for (const QToolButton* button : offered_) room -= button->sizeHint().width() + kGapPx;
    int hidden = 0;
    for (TagSlip* slip : slips_) {
        room -= slip->sizeHint().width() + kGapPx;
        slip->setVisible(room > 0 || slip == slips_.front());
        if (slip->isHidden()) ++hidden;
    }
    holder_->setVisible(!slips_.empty());
    more_->setText(QStringLiteral("+%1").arg(hidden));
    more_->setVisible(hidden > 0);
}

void PageLine::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fit();
}

void PageLine::keep_title() {
    const auto page = title_->property("page").toLongLong();
    if (!session_.page() || session_.page()->info.id != page) return;
    if (title_->text().simplified() == QString::fromStdString(session_.page()->info.title)) return;
    session_.keeping().name_page(page, title_->text());
    session_.document().set_title(title_->text().simplified().toStdString());
}

void PageLine::ask_for_tag() {
    if (!session_.page() || session_.read_only()) return;
    add_->hide();
    field_->clear();
    field_->show();
    fit();
    field_->setFocus(Qt::ShortcutFocusReason);
}

void PageLine::add_typed() {
    if (!session_.page()) return close_field();
    if (field_->text().trimmed().isEmpty()) {
        close_field();
        return emit left();
    }
    session_.keeping().tag({session_.page()->info.id}, field_->text());
    // The next one can be typed at once. The completer fills the field once more after this.
    QMetaObject::invokeMethod(field_, &QLineEdit::clear, Qt::QueuedConnection);
}

void PageLine::close_field() {
    field_->hide();
    add_->show();
    fit();
}

void PageLine::offer(TagSlip* slip) {
    if (!session_.page()) return;
    QMenu menu(this);
    const Tag& tag = slip->tag();
    const QString name = slip->text();
    menu.addAction(tr("Find pages with this tag"), this, [this, name] { emit tag_wanted(name); });
    const PageInfo& info = session_.page()->info;
    const TagMark mark = slip->of_notebook() ? TagMark{tag.id, 0, info.notebook} : TagMark{tag.id, info.id, 0};
    QAction* remove = menu.addAction(slip->of_notebook() ? tr("Remove from the notebook") : tr("Remove from this page"),
                                     this, [this, mark] { session_.keeping().untag(mark); });
    remove->setEnabled(!session_.read_only());
    menu.addSeparator();
    menu.addAction(tr("All tags …"), this, &PageLine::tags_wanted);
    menu.exec(slip->isVisible() ? slip->mapToGlobal(QPoint(0, slip->height()))
                                : more_->mapToGlobal(QPoint(0, more_->height())));
}

bool PageLine::eventFilter(QObject* object, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Escape) {
            if (object == field_) {
                close_field();
            } else if (session_.page()) {
                title_->setText(QString::fromStdString(session_.page()->info.title));
            }
            emit left();
            return true;
        }
        if (object == title_ && (key == Qt::Key_Return || key == Qt::Key_Enter)) {
            keep_title();
            emit left();
            return true;
        }
    }
    // A menu of suggestions takes the focus for a moment; it is the field's own.
    if (object == field_ && event->type() == QEvent::FocusOut &&
        static_cast<QFocusEvent*>(event)->reason() != Qt::PopupFocusReason)
        close_field();
    return QWidget::eventFilter(object, event);
}

}  // namespace fernleaf
