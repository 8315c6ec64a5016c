#include "leaves/line_lens.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>
#include <cmath>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr int kLeafPx = 132, kHeadPx = 34;
constexpr double kAboveRule = 1.0, kBelowRule = 0.45;  // of the page about a rule that the lens shows, in pitches
constexpr double kEndShare = 0.72;                     // writing beyond this share of the lens makes it move on
constexpr double kKeptShare = 0.18;                    // and ends up here
constexpr int kRestMs = 450;
constexpr double kMarginLineMm = 18, kTextMarginMm = 10, kGapMm = 2;
constexpr double kFirstRule = 2.5;  // spacings down, as the paper has it
constexpr double kUsualPitchMm = 8;

}  // namespace

LineLens::LineLens(Session& session, QWidget* parent) : QWidget(parent), session_(session), view_(this) {
    setObjectName(QStringLiteral("lineLens"));
    setFixedHeight(kLeafPx + kHeadPx);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(24, 0, 18, 0);
    head->setSpacing(2);
    says_ = new QLabel(tr("LINE LENS"));
    head->addWidget(says_);
    head->addStretch();
    const auto button = [&](const QString& icon_name, const QString& tip, auto slot) {
        auto* b = new QToolButton;
        b->setProperty("icon_name", icon_name);
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        b->setIconSize({18, 18});
        b->setFixedSize(30, 28);
        b->setStyleSheet(QStringLiteral("padding: 0;"));
        head->addWidget(b);
        buttons_.push_back(b);
        connect(b, &QToolButton::clicked, this, slot);
    };
    button(QStringLiteral("previous"), tr("Back along the line  (Alt+Left)"), [this] { move_on(-1); });
    button(QStringLiteral("next"), tr("Forward along the line  (Alt+Right)"), [this] { move_on(1); });
    button(QStringLiteral("line-up"), tr("Previous line  (Alt+Up)"), [this] { previous_line(); });
    button(QStringLiteral("line-down"), tr("Next line  (Alt+Down)"), [this] { next_line(); });
    button(QStringLiteral("close"), tr("Close the lens  (F3)"), [this] { set_open(false); });
    column->addLayout(head);
    leaf_ = new InkLeaf(session_, view_);
    leaf_->setObjectName(QStringLiteral("lensLeaf"));
    leaf_->setAccessibleName(tr("Line lens: write large here, it lands small on the page"));
    leaf_->be_lens();
    column->addWidget(leaf_, 1);
    on_.setSingleShot(true);
    on_.setInterval(kRestMs);
    connect(&on_, &QTimer::timeout, this, &LineLens::written);
    connect(leaf_, &InkLeaf::pen_touched, &on_, &QTimer::stop);
    connect(leaf_, &InkLeaf::pen_lifted, this, [this] { on_.start(); });
    connect(&session_.document(), &PageDocument::opened, this, [this] {
        at_ = {margin(), kFirstRule * pitch()};
        show_area();
    });
    hide();
}

double LineLens::pitch() const {
    if (!session_.page()) return kUsualPitchMm;
    const Sheet& sheet = session_.page()->info;
    return has_rules(sheet.paper) ? sheet.spacing_mm : kUsualPitchMm;
}

double LineLens::margin() const {
    const bool line = session_.page() && session_.page()->info.paper == Paper::margined;
    return line ? kMarginLineMm + kGapMm : kTextMarginMm;
}

double LineLens::width_mm() const { return leaf_->width() / view_.scale(); }

Box LineLens::area() const {
    if (!isVisible() || !session_.page()) return {};
    return Box::of(at_.x, at_.y - kAboveRule * pitch(), width_mm(), (kAboveRule + kBelowRule) * pitch());
}

void LineLens::set_open(bool open) {
    setVisible(open);
    if (open) show_area();
    emit moved();
}

void LineLens::show_area() {
    if (!session_.page()) return;
    const Sheet& sheet = session_.page()->info;
    const double scale = std::max(1, leaf_->height()) / ((kAboveRule + kBelowRule) * pitch());
    // The margins of the page may be shown, what is beyond its edge not.
    at_.x = std::clamp(at_.x, 0.0, std::max(0.0, sheet.width_mm - leaf_->width() / scale));
    at_.y = std::clamp(at_.y, pitch(), std::max(pitch(), sheet.height_mm - kBelowRule * pitch()));
    view_.set(scale, QPointF(-at_.x * scale, -(at_.y - kAboveRule * pitch()) * scale));
    emit moved();
}

void LineLens::go_to(Point mm) {
    const double line = std::round((mm.y - kFirstRule * pitch()) / pitch());
    at_ = {mm.x - 0.1 * width_mm(), (kFirstRule + std::max(0.0, line)) * pitch()};
    show_area();
}

void LineLens::next_line() {
    at_ = {margin(), at_.y + pitch()};
    show_area();
}

void LineLens::previous_line() {
    at_ = {margin(), at_.y - pitch()};
    show_area();
}

void LineLens::move_on(int direction) {
    if (!session_.page()) return;
    const double before = at_.x, step = (1 - 2 * kKeptShare) * width_mm();
    if (direction > 0 && before + width_mm() >= session_.page()->info.width_mm - kGapMm) return next_line();
    at_.x += direction * step;
    show_area();
}

// The pen has rested: when what it wrote last reaches the lens's end, the lens goes on to where writing goes on.
void LineLens::written() {
    emit rested();
    if (!session_.page() || session_.page()->strokes.empty()) return;
    const double right = session_.page()->strokes.back().box().right;
    const double page = session_.page()->info.width_mm;
    if (right < at_.x + kEndShare * width_mm()) return;
    if (at_.x + width_mm() >= page - kGapMm) {
        if (right > page - kTextMarginMm) next_line();
        return;
    }
    at_.x = right - kKeptShare * width_mm();
    show_area();
}

void LineLens::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    show_area();
}

void LineLens::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().desk);
    painter.setPen(theme().line);
    painter.drawLine(0, 0, width(), 0);
}

void LineLens::restyle() {
    for (QToolButton* b : buttons_) b->setIcon(icon(b->property("icon_name").toString()));
    QFont font = says_->font();
    font.setPixelSize(12);
    font.setWeight(QFont::DemiBold);
    font.setLetterSpacing(QFont::AbsoluteSpacing, 1.2);
    says_->setFont(font);
    says_->setStyleSheet(QStringLiteral("color: %1").arg(theme().act.name()));
    leaf_->restyle();
    update();
}

}  // namespace fernleaf
