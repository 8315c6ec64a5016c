#include "leaves/tool_tray.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QPainter>

#include "look/theme.h"

namespace fernleaf {
namespace {

struct PenChoice {
    const char* name;
    Pen pen;
};
const PenChoice kPens[] = {{QT_TRANSLATE_NOOP("ToolTray", "Blue-black pen"), {0x1E2A44, 0.5F}},
                           {QT_TRANSLATE_NOOP("ToolTray", "Moss pen"), {0x2E6B4F, 0.5F}},
                           {QT_TRANSLATE_NOOP("ToolTray", "Plum pen"), {0x8A3B6B, 0.5F}},
                           {QT_TRANSLATE_NOOP("ToolTray", "Broad bark-brown pen"), {0x7A4A21, 0.9F}}};

// A nib with a line of its ink under it.
QIcon pen_icon(const Pen& pen) {
    const QIcon nib = icon(QStringLiteral("nib"));
    QIcon out;
    for (const QIcon::State state : {QIcon::Off, QIcon::On}) {
        QPixmap pixmap(48, 48);
        pixmap.fill(Qt::transparent);
        QPainter painter(&pixmap);
        painter.drawPixmap(6, 0, nib.pixmap(36, 36, QIcon::Normal, state));
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(shown_colour(pen.colour, theme().page), pen.width_mm * 9, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(QPointF(10, 41), QPointF(38, 41));
        painter.end();
        out.addPixmap(pixmap, QIcon::Normal, state);
    }
    return out;
}

}  // namespace

ToolTray::ToolTray(Session& session, QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("toolTray"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 5, 8, 5);
    row->setSpacing(3);
    auto* group = new QButtonGroup(this);
    for (int i = 0; i < static_cast<int>(std::size(kPens)); ++i) {
        QToolButton* pen = add({}, tr("%1  (%2)").arg(tr(kPens[i].name)).arg(i + 1), true);
        pens_.push_back(pen);
        group->addButton(pen);
        connect(pen, &QToolButton::clicked, this, [this, i] { select_pen(i); });
    }
    eraser_ = add(QStringLiteral("eraser"), tr("Eraser: takes whole strokes  (E)"), true);
    choose_ = add(QStringLiteral("choose"), tr("Choose words, move the page  (C)"), true);
    group->addButton(eraser_);
    group->addButton(choose_);
    row->addSpacing(8);
    undo_ = add(QStringLiteral("undo"), tr("Undo"), false);
    redo_ = add(QStringLiteral("redo"), tr("Redo"), false);
    row->addSpacing(8);
    fit_ = add(QStringLiteral("fit-width"), tr("Fit the page's width  (Ctrl+0)"), false);
    connect(eraser_, &QToolButton::clicked, this, [this] { emit tool_chosen(Tool::eraser); });
    connect(choose_, &QToolButton::clicked, this, [this] { emit tool_chosen(Tool::choose); });
    connect(undo_, &QToolButton::clicked, &session, &Session::undo);
    connect(redo_, &QToolButton::clicked, &session, &Session::redo);
    connect(fit_, &QToolButton::clicked, this, &ToolTray::fit_wanted);
    const auto steps = [this, &session] {
        const Steps& s = session.steps();
        undo_->setEnabled(s.undo.has_value());
        redo_->setEnabled(s.redo.has_value());
        undo_->setToolTip(s.undo ? tr("Undo: %1  (Ctrl+Z)").arg(tr(s.undo->c_str())) : tr("Nothing to undo"));
        redo_->setToolTip(s.redo ? tr("Redo: %1  (Ctrl+Shift+Z)").arg(tr(s.redo->c_str())) : tr("Nothing to redo"));
    };
    connect(&session, &Session::steps_changed, this, steps);
    steps();
    pens_[0]->setChecked(true);
    restyle();
}

QToolButton* ToolTray::add(const QString& icon_name, const QString& tip, bool switchable) {
    auto* button = new QToolButton;
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setCheckable(switchable);
    button->setIconSize({24, 24});
    button->setFixedSize(38, 38);
    layout()->addWidget(button);
    return button;
}

void ToolTray::select(Tool tool) {
    if (tool == Tool::pen) return select_pen(pen_);
    (tool == Tool::eraser ? eraser_ : choose_)->setChecked(true);
    emit tool_chosen(tool);
}

void ToolTray::select_pen(int index) {
    pen_ = std::clamp(index, 0, static_cast<int>(pens_.size()) - 1);
    pens_[static_cast<size_t>(pen_)]->setChecked(true);
    emit pen_chosen(kPens[pen_].pen);
    emit tool_chosen(Tool::pen);
}

void ToolTray::restyle() {
    for (size_t i = 0; i < pens_.size(); ++i) pens_[i]->setIcon(pen_icon(kPens[i].pen));
    for (QToolButton* b : {eraser_, choose_, undo_, redo_, fit_}) b->setIcon(icon(b->property("icon_name").toString()));
    update();
}

void ToolTray::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().line, 1));
    painter.setBrush(theme().card);
    painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 12, 12);
}

}  // namespace fernleaf
