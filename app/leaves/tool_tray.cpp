#include "leaves/tool_tray.h"

#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>
#include <memory>

#include "look/theme.h"
#include "render/stroke_look.h"

namespace fernleaf {
namespace {

constexpr int kAboveEdgePx = 14;
constexpr int kCardGapPx = 10;
constexpr int kButtonPx = 36, kNarrowPx = 30;
constexpr int kMarginPx = 8, kTopPx = 5, kBetweenPx = 3, kGapPx = 5;

QString icon_name(PenKind kind) {
    const char* const names[] = {"ballpoint", "fountain", "pencil", "highlighter"};
    return QString::fromLatin1(names[static_cast<int>(kind)]);
}

// The pen, and under it a line of its ink.
QIcon pen_icon(const Pen& pen) {
    constexpr int kSidePx = 56;
    constexpr double kPxPerMm = 9;
    const QIcon shape = icon(icon_name(pen.kind));
    Stroke line;
    line.pen = pen;
    line.pen.width_mm = std::clamp(pen.width_mm, 0.2F, 1.6F);
    for (int i = 0; i <= 10; ++i)
        line.points.push_back({{1 + 0.42 * i, 5.2 - 0.03 * i}, 0.2F + 0.06F * static_cast<float>(i)});
    QIcon out;
    for (const QIcon::State state : {QIcon::Off, QIcon::On}) {
        QPixmap pixmap(kSidePx, kSidePx);
        pixmap.fill(Qt::transparent);
        QPainter painter(&pixmap);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.drawPixmap(8, 0, shape.pixmap(40, 40, QIcon::Normal, state));
        painter.setPen(Qt::NoPen);
        painter.scale(kPxPerMm, kPxPerMm);
        StrokeLook(line).draw(painter, theme().page);
        painter.end();
        out.addPixmap(pixmap, QIcon::Normal, state);
    }
    return out;
}

}  // namespace

ToolTray::ToolTray(Session& session, InkLeaf& leaf)
    : LeafCard(&leaf), session_(session), leaf_(leaf), tools_(Tools::stored()) {
    setObjectName(QStringLiteral("toolTray"));
    auto* frame = new QVBoxLayout(this);
    frame->setContentsMargins(kMarginPx, kTopPx, kMarginPx, kTopPx);
    row_ = new WrapRow(kBetweenPx);
    frame->addLayout(row_);
    group_ = new QButtonGroup(this);
    eraser_ = add(QStringLiteral("eraser"), tr("Eraser  (E; press again for options)"), true);
    lasso_ =
        add(QStringLiteral("lasso"), tr("Lasso: draw around ink to choose it; hold Shift for a rectangle  (L)"), true);
    text_ = add(QStringLiteral("type"), tr("Type on the page  (T)"), true);
    room_ =
        add(QStringLiteral("room"), tr("Make room: push what is below down, or what follows to the right  (R)"), true);
    choose_ = add(QStringLiteral("choose"), tr("Choose words and figures, move the page  (C)"), true);
    group_->addButton(eraser_);
    group_->addButton(lasso_);
    group_->addButton(text_);
    group_->addButton(room_);
    group_->addButton(choose_);
    undo_ = add(QStringLiteral("undo"), tr("Undo"), false);
    redo_ = add(QStringLiteral("redo"), tr("Redo"), false);
    lens_ = add(QStringLiteral("line-lens"), tr("Line lens: write large, it lands small  (F3)"), true);
    connect(lens_, &QToolButton::clicked, this, &ToolTray::lens_toggled);
    fit_ = add(QStringLiteral("fit-width"), tr("Fit the page's width  (Ctrl+0)"), false);
    pen_card_ = new PenCard(&leaf_);
    eraser_card_ = new EraserCard(&leaf_);

    connect(eraser_, &QToolButton::clicked, this, [this] {
        if (tool_ == Tool::eraser)
            toggle_card();
        else
            select(Tool::eraser);
    });
    eraser_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(eraser_, &QWidget::customContextMenuRequested, this, [this] {
        select(Tool::eraser);
        open_eraser_card();
    });
    connect(lasso_, &QToolButton::clicked, this, [this] { select(Tool::lasso); });
    connect(text_, &QToolButton::clicked, this, [this] { select(Tool::text); });
    connect(room_, &QToolButton::clicked, this, [this] { select(Tool::room); });
    connect(choose_, &QToolButton::clicked, this, [this] { select(Tool::choose); });
    connect(undo_, &QToolButton::clicked, &session.editing(), &PageEditing::undo);
    connect(redo_, &QToolButton::clicked, &session.editing(), &PageEditing::redo);
    connect(fit_, &QToolButton::clicked, this, &ToolTray::fit_wanted);
    connect(leaf_.hand_rest(), &HandRest::moved, this, [this](double share) {
        tools_.tablet.hand_rest = share;
        tools_.store();
    });
    const auto steps = [this] {
        const UndoState& s = session_.document().undo_state();
        undo_->setEnabled(s.undo.has_value());
        redo_->setEnabled(s.redo.has_value());
        undo_->setToolTip(s.undo ? tr("Undo: %1  (Ctrl+Z)").arg(tr(s.undo->c_str())) : tr("Nothing to undo"));
        redo_->setToolTip(s.redo ? tr("Redo: %1  (Ctrl+Shift+Z)").arg(tr(s.redo->c_str())) : tr("Nothing to redo"));
    };
    connect(&session.document(), &PageDocument::undo_state_changed, this, steps);
    steps();

    connect(pen_card_, &PenCard::pen_changed, this, [this](int index, const TrayPen& pen) {
        tools_.pens[static_cast<size_t>(index)] = pen;
        pens_[static_cast<size_t>(index)]->setIcon(pen_icon(pen));
        pens_[static_cast<size_t>(index)]->setToolTip(tr("%1  (%2)").arg(described(pen)).arg(index + 1));
        tools_.store();
        hand_over();
    });
    connect(pen_card_, &PenCard::palette_changed, this, [this](const std::vector<uint32_t>& palette) {
        tools_.palette = palette;
        tools_.store();
    });
    connect(pen_card_, &PenCard::copy_wanted, this, [this](int index) {
        auto pens = tools_.pens;
        const TrayPen copy = pens[static_cast<size_t>(index)];
        pens.insert(pens.begin() + index + 1, copy);
        change_pens(std::move(pens), index + 1);
    });
    connect(pen_card_, &PenCard::move_wanted, this, [this](int index, int by) {
        auto pens = tools_.pens;
        if (index + by < 0 || index + by >= static_cast<int>(pens.size())) return;
        std::iter_swap(pens.begin() + index, pens.begin() + index + by);
        change_pens(std::move(pens), index + by);
    });
    connect(pen_card_, &PenCard::removal_wanted, this, [this](int index) {
        auto pens = tools_.pens;
        if (pens.size() < 2) return;
        pens.erase(pens.begin() + index);
        change_pens(std::move(pens), std::min(index, static_cast<int>(tools_.pens.size()) - 2));
    });
    connect(eraser_card_, &EraserCard::eraser_changed, this, [this](const Eraser& eraser) {
        tools_.eraser = eraser;
        tools_.store();
        hand_over();
    });
    connect(eraser_card_, &EraserCard::clearing_wanted, this, [this] {
        session_.editing().clear_page();
        close_cards();
    });
    connect(pen_card_, &PenCard::closed, this, &ToolTray::close_cards);
    connect(eraser_card_, &EraserCard::closed, this, &ToolTray::close_cards);
    connect(&leaf_, &InkLeaf::touched, this, &ToolTray::close_cards);
    connect(&leaf_, &InkLeaf::erased, this, [this] {
        if (tools_.eraser.then_back && tool_ == Tool::eraser) select_previous();
    });
    fill_pens();
    restyle();
    select_pen(0);
}

QToolButton* ToolTray::add(const QString& icon_name, const QString& tip, bool switchable) {
    auto* button = new QToolButton(this);
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setCheckable(switchable);
    button->setIconSize({24, 24});
    button->setFixedSize(kButtonPx, kButtonPx);
    button->setStyleSheet(QStringLiteral("padding: 0;"));
    return button;
}

void ToolTray::fill_pens() {
    for (QToolButton* pen : pens_) {
        pen->hide();
        pen->deleteLater();
    }
    pens_.clear();
    for (int i = 0; i < static_cast<int>(tools_.pens.size()); ++i) {
        auto* pen = new QToolButton(this);
        const QString name = described(tools_.pens[static_cast<size_t>(i)]);
        pen->setToolTip(tr("%1  (%2; press again to change it)").arg(name).arg(i + 1));
        pen->setAccessibleName(name);
        pen->setCheckable(true);
        pen->setIconSize({34, 34});
        pen->setFixedSize(kButtonPx, kButtonPx);
        pen->setStyleSheet(QStringLiteral("padding: 0;"));
        pen->setIcon(pen_icon(tools_.pens[static_cast<size_t>(i)]));
        pen->setContextMenuPolicy(Qt::CustomContextMenu);
        group_->addButton(pen);
        pens_.push_back(pen);
        connect(pen, &QToolButton::clicked, this, [this, i] {
            if (tool_ == Tool::pen && pen_ == i)
                toggle_card();
            else
                select_pen(i);
        });
        connect(pen, &QWidget::customContextMenuRequested, this, [this, i] {
            select_pen(i);
            open_pen_card(i);
        });
    }
    arrange();
    place();
}

// Pens come and go; what stands in the row is laid in anew.
void ToolTray::arrange() {
    while (const std::unique_ptr<QLayoutItem> item{row_->takeAt(0)}) continue;
    const auto gap = [this] { row_->addItem(new QSpacerItem(kGapPx, 1)); };
    const auto show = [this](QToolButton* button) {
        row_->addWidget(button);
        button->show();
    };
    for (QToolButton* pen : pens_) show(pen);
    gap();
    for (QToolButton* tool : {eraser_, lasso_, text_, room_, choose_}) show(tool);
    gap();
    for (QToolButton* step : {undo_, redo_}) show(step);
    gap();
    for (QToolButton* view : {lens_, fit_}) show(view);
}

void ToolTray::change_pens(std::vector<TrayPen> pens, int chosen) {
    tools_.pens = std::move(pens);
    tools_.store();
    fill_pens();
    select_pen(chosen);
    open_pen_card(pen_);
}

void ToolTray::hand_over() {
    leaf_.set_pen(tools_.pens[static_cast<size_t>(pen_)]);
    Eraser eraser = tools_.eraser;
    eraser.scribbles = eraser.scribbles && tools_.gestures;
    const ProofMarks marks = tools_.gestures ? tools_.proof_marks : ProofMarks();
    leaf_.set_eraser(eraser);
    leaf_.set_tablet(tools_.tablet);
    leaf_.hand_rest()->set_share(tools_.tablet.hand_rest);
    leaf_.set_proof_marks(marks);
    leaf_.set_tool(tool_);
    session_.typesetting().set_while_writing(tools_.pens[static_cast<size_t>(pen_)].sets_in_type);
    for (InkLeaf* other : others_) {
        other->set_pen(tools_.pens[static_cast<size_t>(pen_)]);
        other->set_eraser(eraser);
        other->set_tablet(tools_.tablet);
        other->set_proof_marks(marks);
        // In a strip one writes and erases; what needs the page is done on the page.
        other->set_tool(tool_ == Tool::eraser ? Tool::eraser : Tool::pen);
    }
}

void ToolTray::serve(InkLeaf* other) {
    others_.push_back(other);
    hand_over();
}

void ToolTray::set_tools(const Tools& tools) {
    close_cards();
    tools_ = tools;
    tools_.store();
    hand_over();
}

void ToolTray::select(Tool tool) {
    if (tool != tool_) before_ = tool_;
    close_cards();
    tool_ = tool;
    QToolButton* const buttons[] = {pens_[static_cast<size_t>(pen_)], eraser_, lasso_, choose_, text_, room_};
    buttons[static_cast<int>(tool)]->setChecked(true);
    hand_over();
}

void ToolTray::select_pen(int index) {
    if (index >= static_cast<int>(pens_.size())) return;
    pen_ = std::max(0, index);
    select(Tool::pen);
}

void ToolTray::select_previous() { select(before_); }

void ToolTray::toggle_card() {
    if (pen_card_->isVisible() || eraser_card_->isVisible()) return close_cards();
    if (tool_ == Tool::pen) open_pen_card(pen_);
    if (tool_ == Tool::eraser) open_eraser_card();
}

void ToolTray::close_cards() {
    if (!pen_card_->isVisible() && !eraser_card_->isVisible()) return;
    pen_card_->hide();
    eraser_card_->hide();
    leaf_.setFocus();
}

void ToolTray::open_pen_card(int index) {
    eraser_card_->hide();
    pen_card_->show_pen(tools_, index);
    place_card(pen_card_, pens_[static_cast<size_t>(index)]);
}

void ToolTray::open_eraser_card() {
    pen_card_->hide();
    eraser_card_->show_eraser(tools_.eraser, session_.page() && !session_.page()->strokes.empty());
    place_card(eraser_card_, eraser_);
}

void ToolTray::place_card(QWidget* card, const QWidget* above) {
    const int middle = above->mapTo(&leaf_, above->rect().center()).x();
    const int left = std::clamp(middle - card->width() / 2, 6, std::max(6, leaf_.width() - card->width() - 6));
    card->move(left, std::max(6, y() - card->height() - kCardGapPx));
}

void ToolTray::place() {
    // On a narrow leaf the tools stand closer, then what a key also does makes room; on a still narrower one all stand
    // in several rows of about equal length.
    const int room = leaf_.width() - kAboveEdgePx - 2 * kMarginPx;
    const auto fits = [&](int button_px, bool with_fit) {
        for (QToolButton* b : findChildren<QToolButton*>()) b->setFixedWidth(button_px);
        fit_->setVisible(with_fit);
        row_->invalidate();
        return row_->sizeHint().width() <= room;
    };
    if (!fits(kButtonPx, true) && !fits(kNarrowPx, true) && !fits(kNarrowPx, false)) fits(kNarrowPx, true);
    int width_px = std::min(row_->sizeHint().width(), std::max(room, 4 * kButtonPx));
    const int height_px = row_->heightForWidth(width_px);
    while (width_px > 4 * kButtonPx && row_->heightForWidth(width_px - kBetweenPx) == height_px) width_px -= kBetweenPx;
    resize(width_px + 2 * kMarginPx, height_px + 2 * kTopPx);
    move((leaf_.width() - width()) / 2, leaf_.height() - height() - kAboveEdgePx);
    if (pen_card_->isVisible()) place_card(pen_card_, pens_[static_cast<size_t>(pen_card_->index())]);
    if (eraser_card_->isVisible()) place_card(eraser_card_, eraser_);
}

void ToolTray::restyle() {
    for (size_t i = 0; i < pens_.size(); ++i) pens_[i]->setIcon(pen_icon(tools_.pens[i]));
    for (QToolButton* b : {eraser_, lasso_, text_, room_, choose_, undo_, redo_, lens_, fit_})
        b->setIcon(icon(b->property("icon_name").toString()));
    pen_card_->restyle();
    update();
}

}  // namespace fernleaf
