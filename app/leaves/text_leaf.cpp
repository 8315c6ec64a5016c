#include "leaves/text_leaf.h"

#include <QClipboard>
#include <QDesktopServices>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QPainter>
#include <QPainterPath>
#include <QUrl>
#include <algorithm>
#include <cmath>
#include <optional>

#include "desk/save_useful.h"
#include "drawing/drawing_reading.h"
#include "drawing/shape_at.h"
#include "leaves/formula_copies.h"
#include "look/theme.h"
#include "render/fonts.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

constexpr int kDeskMarginPx = 22;
constexpr double kFigureReachPx = 7, kFigureWashPx = 7;
constexpr int kPauseMs = 2;  // in which the pen is heard
constexpr int kWavePx = 6, kWaves = 10, kWaveHigh = 6;

}  // namespace

TextLeaf::TextLeaf(Session& session, PageViewport& view, QWidget* parent)
    : QWidget(parent),
      session_(session),
      view_(view),
      card_(new WordCard(this)),
      formula_card_(new FormulaCard(this)),
      figure_card_(new FigureCard(this)),
      outline_card_(new OutlineCard(this)) {
    setObjectName(QStringLiteral("textLeaf"));
    setAttribute(Qt::WA_OpaquePaintEvent);
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumWidth(200);
    setAccessibleName(tr("Text leaf: what the page says"));
    measuring_.setSingleShot(true);
    band_pause_.setSingleShot(true);
    connect(&measuring_, &QTimer::timeout, this, &TextLeaf::set_in_type);
    connect(&band_pause_, &QTimer::timeout, this, &TextLeaf::draw_next_band);
    connect(&view_, &PageViewport::changed, this, [this] {
        if (view_.scale() != laid_scale_) lay_out();
        place_card();
        update();
    });
    connect(&session_.document(), &PageDocument::opened, this, [this] {
        chosen_ = hovered_ = {};
        hide_cards();
        outline_card_->hide();
        if (to_check_ != session_.page()->info.id) to_check_ = 0;
        layout_.take();
        find_useful();
        look_at_drawing();
        set_in_type();
        if (measuring_.isActive()) update();  // the page before goes at once
    });
    connect(&session_.correcting(), &CorrectionDesk::next_unsure_page, this, [this](PageId page) {
        choose({});
        if (page == 0 || !session_.page()) return;
        if (session_.page()->info.id == page)
            choose_unsure_after({});
        else
            to_check_ = page;
    });
    connect(card_, &WordCard::copy_wanted, this,
            [](const Useful& useful) { QGuiApplication::clipboard()->setText(QString::fromStdString(useful.text)); });
    connect(card_, &WordCard::save_wanted, this, &TextLeaf::keep_useful);
    connect(card_, &WordCard::open_wanted, this,
            [](const Useful& useful) { QDesktopServices::openUrl(QUrl(QString::fromStdString(useful.value))); });
    connect(&session_.readings(), &ReadingScheduler::changed, this, [this] {
        find_useful();
        look_at_drawing();
        set_in_type();
    });
    connect(card_, &WordCard::taken, this, &TextLeaf::take);
    connect(formula_card_, &FormulaCard::taken, this, &TextLeaf::take);
    connect(formula_card_, &FormulaCard::whole_wanted, this, [this] { choose(chosen_.whole()); });
    connect(formula_card_->copies(), &QMenu::aboutToShow, this, [this] {
        formula_card_->copies()->clear();
        if (const ReadLine* line = formula_at(chosen_))
            offer_formula_copies(*formula_card_->copies(), session_.messages(), {line->words[0].text},
                                 session_.math().decimal_comma());
    });
    connect(formula_card_->workings(), &QMenu::aboutToShow, this, &TextLeaf::offer_workings);
    connect(formula_card_->plots(), &QMenu::aboutToShow, this, &TextLeaf::offer_plots);
    connect(&session_.math(), &MathDesk::reworked, this, [this](const QString& result) {
        if (!formula_card_->isVisibleTo(this)) return;
        formula_card_->show_reworked(result);
        place_card();
    });
    connect(figure_card_, &FigureCard::kind_taken, this, [this](ShapeKind kind) {
        say_figure([this, kind](ReadPlace place) { session_.correcting().say_shape(place, kind); });
    });
    connect(figure_card_, &FigureCard::ink_wanted, this,
            [this] { say_figure([this](ReadPlace place) { session_.correcting().say_shape(place, {}); }); });
    connect(figure_card_, &FigureCard::words_wanted, this, [this] {
        say_figure([this](ReadPlace place) {
            session_.correcting().say_kind(session_.shape(place)->strokes, InkClass::text);
        });
    });
    connect(card_, &WordCard::join_wanted, this, [this] { session_.correcting().join_with_next(chosen_); });
    connect(card_, &WordCard::split_wanted, this, [this] { session_.correcting().split_word(chosen_); });
    const auto close = [this] {
        unfold_outline(false);
        choose({});
        setFocus();
    };
    connect(card_, &WordCard::closed, this, close);
    connect(formula_card_, &FormulaCard::closed, this, close);
    connect(figure_card_, &FigureCard::closed, this, close);
    connect(outline_card_, &OutlineCard::closed, this, close);
}

QRectF TextLeaf::sheet() const {
    if (!session_.page()) return {};
    const double margin = alone_ ? std::max<double>(kDeskMarginPx, (width() - 900) / 2.0) : kDeskMarginPx;
    return {margin, view_.origin().y(), width() - 2 * margin, session_.page()->info.height_mm * view_.scale()};
}

// The words of thousands of lines are measured a few at a time.
void TextLeaf::set_in_type() {
    measuring_.stop();
    if (!session_.page()) return;
    if (!layout_.measure_some(session_.reading(), view_.scale())) return measuring_.start(kPauseMs);
    show_news();
    if (!exists(chosen_)) {
        chosen_ = {};
        hide_cards();
    } else if (!correction_card() || !correction_card()->field()->hasFocus()) {
        if (open_card()) set_chosen(chosen_);  // it may say something else now
        place_card();
    }
    if (to_check_ == session_.page()->info.id) {
        to_check_ = 0;
        choose_unsure_after({});
    }
}

void TextLeaf::lay_out() {
    laid_scale_ = view_.scale();
    laid_width_ = width();
    layout_.take();
    if (session_.page())
        layout_.lay_out(session_.reading(),
                        {view_.scale(), sheet().width(), session_.page()->info.width_mm, diagram_,
                         session_.page()->strokes, session_.page()->plots},
                        useful_);
}

// Only what looks otherwise than before is drawn again.
void TextLeaf::show_news() {
    const SetPage before = layout_.take();
    lay_out();
    const auto places = differences(before, layout_.set());
    if (!places) return draw_in_bands();
    QRegion news;
    for (const QRectF& place : *places)
        news += place.translated(sheet().topLeft()).adjusted(-6, -4, 6, 10).toAlignedRect();
    update(news);
}

// A page of thousands of words is drawn a strip at a time, each when the one before is drawn, so that the pen is heard
// in between.
void TextLeaf::draw_in_bands() {
    const auto bands = static_cast<int>(1 + layout_.set().words.size() / kMostWordsAtOnce);
    if (bands == 1) return update();
    band_pause_.stop();
    band_ = QRect(0, 0, width(), (height() + bands - 1) / bands);
    update(band_);
}

void TextLeaf::draw_next_band() {
    band_.translate(0, band_.height());
    update(band_);
}

void TextLeaf::look_at_drawing() {
    const DrawingReading drawing = read_drawing(session_.reading());
    diagram_ = drawing.is_diagram();
    if (!diagram_)
        outline_card_->hide();
    else if (outline_card_->isVisibleTo(this))
        outline_card_->show_outline(drawing);
}

void TextLeaf::find_useful() {
    if (session_.page())
        useful_.look(session_.reading(), date_of_ms(session_.page()->info.created_ms));
    else
        useful_ = {};
}

void TextLeaf::keep_useful(const Useful& useful) {
    save_useful(this, session_.transfers(), session_.reading().lines[static_cast<size_t>(useful.line)], useful,
                date_of_ms(session_.page()->info.created_ms));
}

QRectF TextLeaf::place_of(ReadPlace place) const {
    if (const SetFigure* figure = layout_.find_figure(place)) return figure->box().translated(sheet().topLeft());
    if (place.sign >= 0) return layout_.sign_box(place).translated(sheet().topLeft());
    const SetWord* found = layout_.find(place);
    return found ? found->box.translated(sheet().topLeft()) : QRectF();
}

QRectF TextLeaf::outline_place() const {
    return layout_.set().outline ? layout_.set().outline->box.translated(sheet().topLeft()) : QRectF();
}

void TextLeaf::unfold_outline(bool open) {
    if (!open || !diagram_) {
        outline_card_->hide();
        return;
    }
    choose({});
    outline_card_->show_outline(read_drawing(session_.reading()));
    place_card();
}

ReadPlace TextLeaf::place_at(QPointF leaf_px) const {
    const QPointF px = leaf_px - sheet().topLeft();
    if (const ReadPlace word = layout_.word_at(px); word.valid()) return word;
    const ShapePlace shape = shape_at(session_.reading(), layout_.page_point(px), kFigureReachPx / layout_.scale());
    return ReadPlace::of_shape(shape.line, shape.shape);
}

// Drawn once: a page may hold hundreds of unsure words.
const QPixmap& TextLeaf::wave() {
    const QColor colour = theme().unsure;
    if (wave_.devicePixelRatio() == devicePixelRatioF() && wave_colour_ == colour && !wave_.isNull()) return wave_;
    wave_ = QPixmap((QSizeF(kWavePx * kWaves, kWaveHigh) * devicePixelRatioF()).toSize());
    wave_.setDevicePixelRatio(devicePixelRatioF());
    wave_.fill(Qt::transparent);
    wave_colour_ = colour;
    QPainterPath path(QPointF(-kWavePx, kWaveHigh / 2.0));
    for (double x = -kWavePx; x <= kWavePx * kWaves; x += kWavePx) {
        path.quadTo(QPointF(x + 1.5, kWaveHigh / 2.0 - 2), QPointF(x + 3, kWaveHigh / 2.0));
        path.quadTo(QPointF(x + 4.5, kWaveHigh / 2.0 + 2), QPointF(x + 6, kWaveHigh / 2.0));
    }
    QPainter painter(&wave_);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(colour, 1.3));
    painter.drawPath(path);
    return wave_;
}

void TextLeaf::paint_formula(QPainter& painter, const SetWord& word) {
    const Theme& t = theme();
    const LaidOutFormula& formula = *word.formula;
    painter.save();
    painter.translate(word.baseline);
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.text);
    painter.drawPath(formula.look.path);
    for (const QRectF& sign : formula.doubtful)
        painter.drawTiledPixmap(
            QRectF(sign.left(), sign.bottom() + 1, std::max<double>(sign.width(), kWavePx), kWaveHigh), wave());
    if (word.corrected) {
        painter.setPen(QPen(t.act, 1.3, Qt::DotLine));
        painter.drawLine(QPointF(0, formula.look.descent + 3), QPointF(formula.look.width, formula.look.descent + 3));
        painter.setPen(Qt::NoPen);
    }
    painter.setBrush(formula.wrong ? t.unsure : t.act);
    painter.translate(formula.look.width + formula.gap, 0);
    painter.drawPath(formula.result.path);
    painter.restore();
}

void TextLeaf::paintEvent(QPaintEvent* event) {
    if (event->rect().contains(band_ & rect())) {
        if (band_.bottom() < rect().bottom())
            band_pause_.start(kPauseMs);
        else
            band_ = {};
    }
    QPainter painter(this);
    const Theme& t = theme();
    painter.fillRect(event->rect(), t.desk);
    if (!session_.page()) return;
    const QRectF page = sheet();
    for (int i = 1; i <= 5; ++i)
        painter.fillRect(page.adjusted(-i, -i + 2, i, i + 2), QColor(20, 18, 12, t.dark ? 40 - 6 * i : 13 - 2 * i));
    painter.fillRect(page, t.dark ? t.page.paper.lighter(112) : t.card);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(page.topLeft());
    const QRectF shown = QRectF(event->rect()).translated(-page.topLeft()).adjusted(-4, -40, 4, 40);
    for (const SetWord& word : layout_.set().words) {
        if (!word.box.intersects(shown)) continue;
        const auto wash_over = [&](const QRectF& box, bool chosen) {
            QColor wash = t.act;
            wash.setAlpha(chosen ? 34 : 16);
            painter.setPen(chosen ? QPen(t.act, 1.4) : QPen(Qt::NoPen));
            painter.setBrush(wash);
            painter.drawRoundedRect(box.adjusted(-3, -1, 3, 2), 5, 5);
        };
        const bool chosen = word.place == chosen_;
        if (chosen || word.place == hovered_.whole() || word.place == chosen_.whole()) wash_over(word.box, chosen);
        for (const ReadPlace& sign : {chosen_, hovered_})
            if (sign.sign >= 0 && sign.line == word.place.line) wash_over(layout_.sign_box(sign), sign == chosen_);
        if (word.formula) {
            paint_formula(painter, word);
            continue;
        }
        const TypeCase::Face& face = layout_.type().face(word.style);
        painter.setFont(face.font);
        painter.setPen(t.text);
        painter.drawStaticText(word.baseline - QPointF(0, face.ascent),
                               layout_.type().word(word.text, word.style).glyphs);
        // Quietly: that more can be done with this.
        if (word.useful) {
            painter.setPen(QPen(t.act, 1.2));
            painter.drawLine(QPointF(word.box.left(), word.baseline.y() + 3),
                             QPointF(word.box.right(), word.baseline.y() + 3));
        }
        if (word.corrected) {
            painter.setPen(QPen(t.act, 1.3, Qt::DotLine));
            painter.drawLine(QPointF(word.box.left(), word.baseline.y() + 4),
                             QPointF(word.box.right(), word.baseline.y() + 4));
        } else if (word.unsure) {
            painter.drawTiledPixmap(
                QRectF(word.box.left(), word.baseline.y() + 5 - kWaveHigh / 2.0, word.box.width(), kWaveHigh), wave());
        }
    }
    QFont italic(kTextFace);
    italic.setItalic(true);
    italic.setPixelSize(kCaptionPx);
    painter.setFont(italic);
    painter.setPen(QPen(t.quiet_text, 1.2));
    for (const QLineF& rule : layout_.set().rules) painter.drawLine(rule);
    for (const SetFigure& figure : layout_.set().figures) {
        if (figure.place.valid() && (figure.place == chosen_ || figure.place == hovered_)) {
            QColor wash = t.act;
            wash.setAlpha(figure.place == chosen_ ? 80 : 34);
            painter.setPen(QPen(wash, kFigureWashPx, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
            for (const QPolygonF& line : figure.lines) painter.drawPolyline(line);
        }
        painter.setPen(QPen(figure.unsure ? t.unsure : t.text, 1.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        for (const QPolygonF& line : figure.lines) painter.drawPolyline(line);
    }
    for (const SetInk& ink : layout_.set().ink) {
        painter.setPen(QPen(shown_colour(ink.colour, t.page), ink.width, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(ink.line);
    }
    for (const SetPlot& plot : layout_.set().plots)
        painter.drawPixmap(plot.at, plot_pictures_.of(plot.plot, plot.scale, devicePixelRatioF(), t.page));
    painter.setPen(t.quiet_text);
    for (const Caption& caption : layout_.set().captions)
        painter.drawText(caption.box, Qt::AlignLeft | Qt::AlignVCenter, caption.text);
    if (const auto& outline = layout_.set().outline)
        painter.drawText(outline->box, Qt::AlignLeft | Qt::AlignVCenter, outline->text);
    if (layout_.set().empty() && !measuring_.isActive()) {
        const bool blank = session_.page()->strokes.empty() && session_.page()->pictures.empty();
        const QString text = blank ? tr("What is written on the left appears here in type, line beside line.")
                             : session_.readings().in_progress() ? tr("Reading …")
                                                                 : tr("No writing was found on this page.");
        italic.setPixelSize(17);
        painter.setFont(italic);
        painter.drawText(QRectF(kSheetPaddingPx, 3 * session_.page()->info.spacing_mm * view_.scale(),
                                page.width() - 2 * kSheetPaddingPx, 120),
                         Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, text);
    }
}

void TextLeaf::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (width() != laid_width_) lay_out();
    place_card();
}

void TextLeaf::choose(ReadPlace place) {
    set_chosen(place);
    emit place_chosen(place);
}

QWidget* TextLeaf::open_card() const {
    if (CorrectionCard* card = correction_card()) return card;
    return figure_card_->isVisibleTo(this) ? figure_card_ : nullptr;
}

CorrectionCard* TextLeaf::correction_card() const {
    if (card_->isVisibleTo(this)) return card_;
    return formula_card_->isVisibleTo(this) ? formula_card_ : nullptr;
}

const ReadLine* TextLeaf::formula_at(ReadPlace place) const {
    if (!session_.word(place)) return nullptr;
    const ReadLine& line = session_.reading().lines[static_cast<size_t>(place.line)];
    return line.kind == RegionKind::math ? &line : nullptr;
}

void TextLeaf::offer_workings() {
    QMenu& menu = *formula_card_->workings();
    menu.clear();
    const ReadLine* line = formula_at(chosen_);
    if (!line) return;
    const std::string formula = line->words[0].text;
    const auto offer = [&](const QString& name, Rework how, const std::string& of = {}) {
        menu.addAction(name, this, [this, formula, how, of] { session_.math().rework(formula, how, of); });
    };
    for (const std::string& name : session_.math().names_to_solve_for(formula))
        offer(tr("Solve for %1").arg(shown_plainly(name)), Rework::solve, name);
    offer(tr("Simplify"), Rework::simplify);
    offer(tr("Expand"), Rework::expand);
    offer(tr("Factor"), Rework::factor);
    if (session_.math().understands(formula)) return;
    for (QAction* action : menu.actions()) action->setEnabled(false);
}

void TextLeaf::offer_plots() {
    QMenu& menu = *formula_card_->plots();
    menu.clear();
    const ReadLine* line = formula_at(chosen_);
    if (!line || !session_.page()) return;
    const std::string formula = line->words[0].text;
    const Box place = line->box;
    if (const QString why = session_.math().why_not_plotted(formula, place); !why.isEmpty()) {
        menu.addAction(why)->setEnabled(false);
        return;
    }
    menu.addAction(tr("New plot"), this, [this, formula, place] {
        choose({});
        session_.math().plot(formula, place);
    });
    for (const Plot& plot : session_.page()->plots) {
        const QString first = plot.curves.empty() ? tr("points") : QString::fromStdString(plot.curves[0].formula);
        menu.addAction(tr("Add to the plot of %1").arg(first), this, [this, formula, id = plot.id] {
            choose({});
            session_.math().add_to_plot(id, formula);
        });
    }
}

void TextLeaf::hide_cards() {
    card_->hide();
    formula_card_->hide();
    figure_card_->hide();
}

void TextLeaf::set_chosen(ReadPlace place) {
    chosen_ = exists(place) ? place : ReadPlace();
    if (chosen_.valid()) outline_card_->hide();
    const Useful* useful = useful_.at(chosen_.line, chosen_.word);
    card_->show_useful(useful ? std::optional(*useful) : std::nullopt);
    if (const ReadLine* formula = formula_at(chosen_)) {
        hide_cards();
        if (chosen_.sign >= 0)
            formula_card_->show_sign(*session_.word(chosen_), session_.read_only());
        else
            formula_card_->show_formula(*formula, session_.read_only(), session_.math().decimal_comma());
    } else if (const ReadWord* word = session_.word(chosen_)) {
        hide_cards();
        card_->show_word(*word, session_.read_only(), session_.correcting().can_join(chosen_),
                         session_.correcting().can_split(chosen_));
    } else if (const ReadShape* shape = session_.shape(chosen_)) {
        hide_cards();
        const auto& fair = session_.page()->shapes;
        const auto is_fair = [&](StrokeId id) { return std::ranges::find(fair, id, &FairShape::id) != fair.end(); };
        const auto& said = session_.readings().corrections();
        const bool corrected = std::ranges::any_of(
            said, [&](const Correction& c) { return c.kind == InkClass::shape && c.strokes == shape->strokes; });
        const FigureCard::Of of = shape->strokes.empty()            ? FigureCard::Of::picture
                                  : is_fair(shape->strokes.front()) ? FigureCard::Of::fair
                                  : corrected                       ? FigureCard::Of::corrected
                                                                    : FigureCard::Of::ink;
        figure_card_->show_figure(*shape, session_.read_only(), of);
    } else {
        hide_cards();
    }
    place_card();
    update();
}

// Below the word or figure where there is room, else above it; never over the edge.
void TextLeaf::place_card() {
    const bool outline = outline_card_->isVisibleTo(this);
    const QRectF place = outline ? outline_place() : place_of(chosen_) | place_of(chosen_.whole());
    QWidget* card = outline ? outline_card_ : open_card();
    if (place.isNull() || !card) return;
    const double x =
        std::clamp((outline ? place : place_of(chosen_)).left() - 8, 6.0, std::max(6.0, width() - card->width() - 6.0));
    double y = place.bottom() + 10;
    if (y + card->height() > height() - 6) y = place.top() - card->height() - 8;
    card->move(qRound(x), qRound(std::clamp(y, 6.0, std::max(6.0, height() - card->height() - 6.0))));
}

void TextLeaf::say_figure(const std::function<void(ReadPlace)>& say) {
    const ReadPlace at = chosen_;
    if (!session_.shape(at)) return;
    choose({});
    say(at);
    setFocus();
}

void TextLeaf::take(const QString& text) {
    const ReadPlace at = chosen_;
    session_.correcting().correct(at, text);
    setFocus();
    choose({});
    chosen_ = at;  // so that Tab goes on from here
    update();
}

void TextLeaf::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    if (event->button() == Qt::LeftButton && outline_place().contains(event->position()))
        return unfold_outline(!outline_card_->isVisibleTo(this));
    if (event->button() == Qt::LeftButton && outline_card_->isVisibleTo(this)) return unfold_outline(false);
    if (event->button() == Qt::LeftButton) choose(place_at(event->position()));
}

void TextLeaf::mouseMoveEvent(QMouseEvent* event) {
    const ReadPlace over = place_at(event->position());
    const bool on_something = over.valid() || outline_place().contains(event->position());
    setCursor(on_something ? Qt::PointingHandCursor : Qt::ArrowCursor);
    if (over == hovered_) return;
    hovered_ = over;
    update();
}

void TextLeaf::leaveEvent(QEvent*) {
    hovered_ = {};
    update();
}

void TextLeaf::wheelEvent(QWheelEvent* event) {
    if (event->modifiers() & Qt::ControlModifier)
        view_.zoom(std::pow(1.2, event->angleDelta().y() / 120.0), {view_.origin().x(), event->position().y()});
    else
        view_.pan({0, event->pixelDelta().isNull() ? event->angleDelta().y() * 0.6 : event->pixelDelta().y()});
    event->accept();
}

bool TextLeaf::unsure(ReadPlace place) const {
    if (const ReadWord* word = session_.word(place)) {
        // Of a formula its unsure signs are asked about, and itself only where there are none.
        const ReadLine* formula = place.sign < 0 ? formula_at(place) : nullptr;
        if (formula && layout_.has_signs(place) &&
            std::ranges::any_of(formula->signs, [](const ReadWord& s) { return s.certainty < kSureEnough; }))
            return false;
        return !word->corrected && word->certainty < kSureEnough;
    }
    const ReadShape* shape = session_.shape(place);
    return shape && shape->best().certainty < kSureEnough;
}

// Words as they are read, and after them figures.
std::vector<ReadPlace> TextLeaf::places() const {
    std::vector<ReadPlace> out;
    for (const SetWord& word : layout_.set().words) {
        out.push_back(word.place);
        for (size_t i = 0; word.formula && i < word.formula->signs.size(); ++i)
            out.push_back(ReadPlace::of_sign(word.place.line, static_cast<int>(i)));
    }
    for (const SetFigure& figure : layout_.set().figures)
        if (figure.place.valid()) out.push_back(figure.place);
    return out;
}

void TextLeaf::choose_next_unsure(int direction) {
    const std::vector<ReadPlace> all = places();
    if (all.empty()) return;
    const auto at = std::ranges::find(all, chosen_);
    const auto count = static_cast<std::ptrdiff_t>(all.size());
    std::ptrdiff_t index = at == all.end() ? (direction > 0 ? -1 : count) : at - all.begin();
    for (std::ptrdiff_t i = 0; i < count; ++i) {
        index = (index + direction + count) % count;
        if (!unsure(all[static_cast<size_t>(index)])) continue;
        setFocus();
        return choose(all[static_cast<size_t>(index)]);
    }
    choose({});
}

void TextLeaf::go_on_checking() {
    if (!choose_unsure_after(chosen_)) session_.correcting().open_next_unsure();
}

// Whether there is one on this page.
bool TextLeaf::choose_unsure_after(ReadPlace place) {
    const std::vector<ReadPlace> all = places();
    const auto at = std::ranges::find(all, place);
    const auto next =
        std::find_if(at == all.end() ? all.begin() : at + 1, all.end(), [this](ReadPlace p) { return unsure(p); });
    if (next == all.end()) return false;
    setFocus();
    choose(*next);
    return true;
}

bool TextLeaf::focusNextPrevChild(bool next) {
    // Tab walks the unsure words while one is chosen, and leaves the leaf otherwise.
    if (!chosen_.valid()) return QWidget::focusNextPrevChild(next);
    choose_next_unsure(next ? 1 : -1);
    return true;
}

void TextLeaf::keyPressEvent(QKeyEvent* event) {
    CorrectionCard* card = correction_card();
    const bool open = card && card->isVisible();
    if (figure_card_->isVisible() && !(event->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) &&
        figure_card_->key(event->key()))
        return;
    const int number = event->key() - Qt::Key_0;
    if (event->modifiers() == Qt::ControlModifier && event->key() == Qt::Key_J)
        return session_.correcting().join_with_next(chosen_);
    if (event->modifiers() == (Qt::ControlModifier | Qt::ShiftModifier) && event->key() == Qt::Key_J)
        return session_.correcting().split_word(chosen_);
    if (event->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return QWidget::keyPressEvent(event);
    switch (event->key()) {
        case Qt::Key_Left:
            return choose(layout_.beside(chosen_, -1, 0));
        case Qt::Key_Right:
            return choose(layout_.beside(chosen_, 1, 0));
        case Qt::Key_Up:
            return choose(layout_.beside(chosen_, 0, -1));
        case Qt::Key_Down:
            return choose(layout_.beside(chosen_, 0, 1));
        case Qt::Key_Escape:
            unfold_outline(false);
            return choose(chosen_.sign >= 0 ? chosen_.whole() : ReadPlace());
        case Qt::Key_O:  // unless it begins what a word is corrected to
            if (open) break;
            return unfold_outline(!outline_card_->isVisibleTo(this));
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (open)
                take(QString::fromStdString(session_.word(chosen_)->text));
            else if (chosen_.valid())
                choose(chosen_);
            return;
        case Qt::Key_F2:
            if (open) card->type({});
            return;
        default:
            break;
    }
    if (open && number >= 1 && number <= static_cast<int>(WordCard::kMostAlternatives) &&
        !card->alternative(number).isEmpty())
        return take(card->alternative(number));
    if (open && !event->text().isEmpty() && event->text()[0].isPrint()) return card->type(event->text());
    QWidget::keyPressEvent(event);
}

}  // namespace fernleaf
