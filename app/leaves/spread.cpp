#include "leaves/spread.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

#include "look/elided_label.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kGutterPx = 14;

// The binding between the leaves: a fold with stitches, which is also the splitter's handle.
class Gutter : public QSplitterHandle {
public:
    using QSplitterHandle::QSplitterHandle;

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        const Theme& t = theme();
        QLinearGradient fold(0, 0, width(), 0);
        fold.setColorAt(0, t.desk);
        fold.setColorAt(0.5, t.dark ? t.desk.lighter(135) : t.desk.darker(112));
        fold.setColorAt(1, t.desk);
        painter.fillRect(rect(), fold);
        painter.setPen(QPen(t.act, 1.6, Qt::SolidLine, Qt::RoundCap));
        for (int y = 40; y < height() - 20; y += 64)
            painter.drawLine(QPointF(width() / 2.0, y), QPointF(width() / 2.0, y + 16));
    }
};

class LeafSplitter : public QSplitter {
public:
    using QSplitter::QSplitter;

protected:
    QSplitterHandle* createHandle() override { return new Gutter(orientation(), this); }
};

class Head : public QWidget {
protected:
    void paintEvent(QPaintEvent*) override { QPainter(this).fillRect(rect(), theme().desk); }
};

}  // namespace

Spread::Spread(Session& session, QWidget* parent) : QWidget(parent), session_(session), view_(this) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    splitter_ = new LeafSplitter(Qt::Horizontal);
    splitter_->setHandleWidth(kGutterPx);
    splitter_->setChildrenCollapsible(false);
    column->addWidget(splitter_);
    ink_ = new InkLeaf(session_, view_);
    text_ = new TextLeaf(session_, view_);
    QHBoxLayout* ink_head = nullptr;
    QHBoxLayout* text_head = nullptr;
    ink_side_ = leaf_with_head(ink_, tr("INK LEAF"), tr("as it was written"), &ink_head);
    text_side_ = leaf_with_head(text_, tr("TEXT LEAF"), tr("as it was read"), &text_head);
    unsure_ = new QToolButton;
    unsure_->setObjectName(QStringLiteral("unsureButton"));
    unsure_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    unsure_->setToolTip(tr("Go to the next word, symbol or figure to check  (F8)"));
    text_head->addWidget(unsure_);
    stamps_ = new QToolButton;
    stamps_->setObjectName(QStringLiteral("stampsButton"));
    stamps_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    stamps_->setText(tr("Stamps"));
    stamps_->setToolTip(tr("Place a stamp: a mark, a drawing, or a piece you kept  (S)"));
    ink_head->addWidget(stamps_);
    splitter_->addWidget(ink_side_);
    splitter_->addWidget(text_side_);
    splitter_->setSizes({1000, 1000});
    tray_ = new ToolTray(session_, *ink_);
    selection_bar_ = new SelectionBar(session_, *ink_, *tray_, view_);
    lens_ = new LineLens(session_);
    ink_side_->layout()->addWidget(lens_);
    tray_->serve(lens_->leaf());
    connect(tray_, &ToolTray::lens_toggled, this, &Spread::show_lens);
    connect(lens_, &LineLens::moved, this, [this] {
        tray_->set_lens(lens_->isVisible());
        ink_->set_lens_area(lens_->area());
        if (!lens_->area().empty()) ink_->scroll_to(lens_->area());
    });
    connect(ink_, &InkLeaf::lens_wanted, lens_, &LineLens::go_to);
    connect(lens_->leaf(), &InkLeaf::pen_touched, ink_, &InkLeaf::pen_touched);
    text_bar_ = new TextBar(*ink_->editor(), *tray_, ink_);
    stamp_card_ = new StampCard(session_.stamps(), ink_);
    ink_->installEventFilter(this);
    restyle();

    connect(tray_, &ToolTray::fit_wanted, ink_, &InkLeaf::fit_width);
    connect(&session_.editing(), &PageEditing::added, this, [this](const std::vector<int64_t>& elements) {
        tray_->select(Tool::lasso);
        ink_->choosing().select(elements);
    });
    connect(&session_.drawing(), &DrawingDesk::drawn, this, [this](const std::vector<ElementId>& shapes) {
        if (tray_->tool() == Tool::lasso) ink_->choosing().select(shapes);
    });
    connect(&session_.typesetting(), &TypesettingDesk::set, this, [this](const std::vector<TextId>& blocks) {
        if (tray_->tool() == Tool::lasso) ink_->choosing().select(blocks);
    });
    connect(ink_, &InkLeaf::place_chosen, this, &Spread::choose);
    connect(text_, &TextLeaf::place_chosen, ink_, &InkLeaf::set_chosen);
    connect(ink_, &InkLeaf::pen_touched, this, [this] {
        if (text_->chosen().valid()) choose({});
    });
    connect(stamps_, &QToolButton::clicked, this, &Spread::toggle_stamps);
    connect(stamp_card_, &StampCard::closed, this, &Spread::close_stamps);
    connect(ink_, &InkLeaf::touched, this, &Spread::close_stamps);
    // It is chosen then, to be moved, scaled and recoloured.
    connect(stamp_card_, &StampCard::wanted, this, [this](size_t stamp) {
        close_stamps();
        session_.stamps().place(stamp, ink_->page_place(ink_->rect().center()));
    });
    connect(&session_.document(), &PageDocument::opened, this, &Spread::close_stamps);
    connect(unsure_, &QToolButton::clicked, this, [this] { text_->go_on_checking(); });
    connect(&session_.readings(), &ReadingScheduler::changed, this, &Spread::count_unsure);
    connect(&session_.document(), &PageDocument::opened, this, &Spread::count_unsure);
}

QWidget* Spread::leaf_with_head(QWidget* leaf, const QString& name, const QString& says, QHBoxLayout** head) {
    auto* side = new Head;
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    *head = new QHBoxLayout;
    (*head)->setContentsMargins(24, 6, 18, 0);
    (*head)->setSpacing(8);
    auto* title = new QLabel(name);
    auto* saying = new ElidedLabel(says);
    names_.push_back(title);
    sayings_.push_back(saying);
    (*head)->addWidget(title);
    (*head)->addWidget(saying);
    (*head)->addStretch();
    // Both heads are equally high, whatever buttons they hold.
    auto* strut = new QWidget;
    strut->setFixedSize(0, 30);
    (*head)->addWidget(strut);
    column->addLayout(*head);
    column->addWidget(leaf, 1);
    return side;
}

void Spread::show_leaves(Shown shown) {
    shown_ = shown;
    ink_side_->setVisible(shown != Shown::text);
    text_side_->setVisible(shown != Shown::ink);
    text_->set_alone(shown == Shown::text);
}

void Spread::show_lens(bool open) {
    lens_->set_open(open);
    (open ? lens_->leaf() : ink_)->setFocus();
}

void Spread::toggle_stamps() {
    if (stamp_card_->isVisible()) return close_stamps();
    if (!session_.page() || shown_ == Shown::text) return;
    stamp_card_->open();
    stamp_card_->move(std::max(6, ink_->width() - stamp_card_->width() - 6), 6);
}

void Spread::close_stamps() {
    if (!stamp_card_->isVisible()) return;
    stamp_card_->hide();
    ink_->setFocus();
}

void Spread::choose(ReadPlace place) {
    text_->set_chosen(place);
    const ReadPlace chosen = text_->chosen();
    ink_->set_chosen(chosen);
    if (shown_ != Shown::ink && place.valid()) text_->setFocus();
}

void Spread::count_unsure() {
    int unsure = 0, all = 0;
    for (const ReadLine& line : session_.reading().lines) {
        // Of a formula its signs are asked about, where they can be corrected.
        for (const ReadWord& word : can_be_said(line.signs) ? line.signs : line.words)
            ++all, unsure += !word.corrected && word.certainty < kSureEnough;
        for (const ReadShape& shape : line.shapes) ++all, unsure += shape.best().certainty < kSureEnough;
    }
    unsure_->setVisible(all > 0);
    unsure_->setEnabled(unsure > 0);
    unsure_->setText(unsure > 0 ? tr("%1 to check").arg(unsure) : tr("nothing to check"));
}

bool Spread::eventFilter(QObject* object, QEvent* event) {
    if (object == ink_ && event->type() == QEvent::Resize) tray_->place();
    return QWidget::eventFilter(object, event);
}

void Spread::restyle() {
    const Theme& t = theme();
    QFont title(kInterfaceFace);
    title.setPixelSize(12);
    title.setWeight(QFont::DemiBold);
    title.setLetterSpacing(QFont::AbsoluteSpacing, 1.2);
    QFont saying(kTextFace);
    saying.setPixelSize(14);
    saying.setItalic(true);
    for (QLabel* label : names_) {
        label->setFont(title);
        label->setStyleSheet(QStringLiteral("color: %1").arg(t.act.name()));
    }
    for (QLabel* label : sayings_) {
        label->setFont(saying);
        label->setStyleSheet(QStringLiteral("color: %1").arg(t.quiet_text.name()));
    }
    unsure_->setIcon(icon(QStringLiteral("unsure")));
    unsure_->setStyleSheet(QStringLiteral("QToolButton { color: %1; } QToolButton:disabled { color: %2; }")
                               .arg(t.unsure.name(), t.quiet_text.name()));
    stamps_->setIcon(icon(QStringLiteral("stamp")));
    stamp_card_->restyle();
    tray_->restyle();
    selection_bar_->restyle();
    text_bar_->restyle();
    lens_->restyle();
    ink_->restyle();
    text_->update();
    update();
}

}  // namespace fernleaf
