#include "leaves/text_bar.h"

#include <QEvent>
#include <QInputDialog>
#include <QMenu>
#include <QPainter>

#include "desk/text_styles.h"
#include "leaves/colour_menu.h"
#include "leaves/menu_below.h"
#include "leaves/tool_tray.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kGapPx = 8;

}  // namespace

TextBar::TextBar(TextEditor& editor, const ToolTray& tray, QWidget* leaf)
    : LeafCard(leaf), editor_(editor), tray_(tray) {
    setObjectName(QStringLiteral("textBar"));
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(6, 4, 6, 4);
    row_->setSpacing(1);
    styles_ = add(QStringLiteral("style"), tr("Styles"), false);
    family_ = new QComboBox;
    family_->addItem(tr("Serif"), kTextFace);
    family_->addItem(tr("Sans"), kInterfaceFace);
    family_->setToolTip(tr("Typeface"));
    family_->setAccessibleName(family_->toolTip());
    row_->addWidget(family_);
    size_ = new QDoubleSpinBox;
    size_->setRange(4, 120);
    size_->setDecimals(0);
    size_->setSuffix(tr(" pt"));
    size_->setToolTip(tr("Size"));
    size_->setAccessibleName(size_->toolTip());
    row_->addWidget(size_);
    bold_ = add(QStringLiteral("bold"), tr("Bold  (Ctrl+B)"), true);
    italic_ = add(QStringLiteral("italic"), tr("Italic  (Ctrl+I)"), true);
    underline_ = add(QStringLiteral("underline"), tr("Underlined  (Ctrl+U)"), true);
    strike_ = add(QStringLiteral("strike"), tr("Struck out"), true);
    colour_ = add(QStringLiteral("colour"), tr("Colour"), false);
    highlight_ = add(QStringLiteral("highlighter"), tr("Highlight"), false);
    list_ = add(QStringLiteral("list"), tr("List"), false);
    align_ = add(QStringLiteral("align"), tr("Alignment"), false);
    fill_ = add(QStringLiteral("fill"), tr("Colour behind the text"), false);

    connect(styles_, &QToolButton::clicked, this, &TextBar::offer_styles);
    connect(family_, &QComboBox::activated, this, [this](int i) {
        const std::string family = family_->itemData(i).toString().toStdString();
        editor_.change_style([family](TextStyle& s) { s.family = family; });
        editor_.setFocus();
    });
    connect(size_, &QDoubleSpinBox::valueChanged, this, [this](double points) {
        editor_.change_style([points](TextStyle& s) { s.size_mm = points / kPointsPerMm; });
    });
    const auto toggle = [this](QToolButton* button, bool TextStyle::*what) {
        connect(button, &QToolButton::clicked, this, [this, what](bool on) {
            editor_.change_style([what, on](TextStyle& s) { s.*what = on; });
            editor_.setFocus();
        });
    };
    toggle(bold_, &TextStyle::bold);
    toggle(italic_, &TextStyle::italic);
    toggle(underline_, &TextStyle::underline);
    toggle(strike_, &TextStyle::strike);
    connect(colour_, &QToolButton::clicked, this, [this] {
        offer_colours(colour_, false, [this](std::optional<uint32_t> c) {
            editor_.change_style([c](TextStyle& s) { s.colour = c.value_or(s.colour); });
        });
    });
    connect(highlight_, &QToolButton::clicked, this, [this] {
        offer_colours(highlight_, true, [this](std::optional<uint32_t> c) {
            editor_.change_style([c](TextStyle& s) { s.highlight = c; });
        });
    });
    connect(fill_, &QToolButton::clicked, this,
            [this] { offer_colours(fill_, true, [this](std::optional<uint32_t> c) { editor_.set_fill(c); }); });
    connect(list_, &QToolButton::clicked, this, &TextBar::offer_lists);
    connect(align_, &QToolButton::clicked, this, &TextBar::offer_alignments);
    connect(this, &LeafCard::closed, &editor_, &TextEditor::close_text);
    connect(&editor_, &TextEditor::moved, this, &TextBar::place);
    connect(&editor_, &TextEditor::touched, this, [this] {
        show_style();
        place();
    });
    editor_.installEventFilter(this);
    restyle();
    hide();
}

bool TextBar::eventFilter(QObject* object, QEvent* event) {
    if (object == &editor_ && event->type() == QEvent::Hide) hide();
    return LeafCard::eventFilter(object, event);
}

QToolButton* TextBar::add(const QString& icon_name, const QString& tip, bool switchable) {
    auto* button = new QToolButton;
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setCheckable(switchable);
    button->setIconSize({20, 20});
    button->setFixedSize(31, 32);
    button->setStyleSheet(QStringLiteral("padding: 0;"));
    row_->addWidget(button);
    buttons_.push_back(button);
    return button;
}

void TextBar::show_style() {
    if (!editor_.is_open()) return;
    const TextStyle s = editor_.style();
    const QSignalBlocker quiet(size_);
    size_->setValue(std::round(s.size_mm * kPointsPerMm));
    family_->setCurrentIndex(std::max(0, family_->findData(QString::fromStdString(s.family))));
    bold_->setChecked(s.bold);
    italic_->setChecked(s.italic);
    underline_->setChecked(s.underline);
    strike_->setChecked(s.strike);
}

// Above the text where there is room, else below; always within the leaf.
void TextBar::place() {
    setVisible(editor_.is_open());
    if (!editor_.is_open()) return;
    adjustSize();
    const QWidget* leaf = parentWidget();
    const QRect text = editor_.geometry();
    int top = text.top() - height() - kGapPx;
    if (top < kGapPx) top = text.bottom() + kGapPx;
    move(std::clamp(text.left(), 6, std::max(6, leaf->width() - width() - 6)),
         std::clamp(top, kGapPx, std::max(kGapPx, tray_.y() - height() - kGapPx)));
    raise();
}

void TextBar::offer_styles() {
    QMenu menu(this);
    for (const KeptStyle& kept : kept_styles())
        menu.addAction(kept.name, this, [this, kept] {
            editor_.change_style([&](TextStyle& s) { s = kept.style; });
            editor_.set_paragraph_heading(kept.heading);
        });
    menu.addSeparator();
    menu.addAction(tr("Keep this style …"), this, [this] {
        const QString name = QInputDialog::getText(this, tr("Keep a style"), tr("Its name"));
        keep_style({name.trimmed(), editor_.style(), 0, true});
    });
    auto* forget = menu.addMenu(tr("Forget"));
    for (const KeptStyle& kept : kept_styles())
        if (kept.own) forget->addAction(kept.name, this, [name = kept.name] { forget_style(name); });
    forget->setEnabled(!forget->isEmpty());
    show_below(menu, *styles_);
    editor_.setFocus();
}

void TextBar::offer_colours(QToolButton* below, bool none, const std::function<void(std::optional<uint32_t>)>& take) {
    QMenu menu(this);
    if (none) menu.addAction(tr("None"), this, [take] { take({}); });
    add_colours(menu, tray_.tools().palette, take);
    show_below(menu, *below);
    editor_.setFocus();
}

void TextBar::offer_lists() {
    offer<ListKind>(*list_,
                    {{tr("No list"), ListKind::none},
                     {tr("•  Bullets"), ListKind::bullet},
                     {tr("1.  Numbers"), ListKind::number},
                     {tr("☐  To tick off"), ListKind::check},
                     {tr("☑  Ticked off"), ListKind::checked}},
                    editor_.list(), [this](ListKind kind) { editor_.set_list_kind(kind); });
    editor_.setFocus();
}

void TextBar::offer_alignments() {
    offer<Align>(*align_,
                 {{tr("Left"), Align::left},
                  {tr("Centred"), Align::centre},
                  {tr("Right"), Align::right},
                  {tr("Justified"), Align::justified}},
                 editor_.align(), [this](Align align) { editor_.set_align(align); });
    editor_.setFocus();
}

void TextBar::restyle() {
    for (QToolButton* b : buttons_) b->setIcon(icon(b->property("icon_name").toString()));
    update();
}

}  // namespace fernleaf
