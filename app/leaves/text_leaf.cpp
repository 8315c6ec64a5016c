#include "leaves/text_leaf.h"

#include <QClipboard>
#include <QDateTime>
#include <QDesktopServices>
#include <QFileDialog>
#include <QGuiApplication>
#include <QHash>
#include <QKeyEvent>
#include <QPainter>
#include <QPainterPath>
#include <QSettings>
#include <QUrl>
#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <span>

#include "exchange/contact.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kDeskMarginPx = 22;
constexpr double kSheetPaddingPx = 26;
constexpr double kSmallestPx = 13, kLargestPx = 40;
constexpr double kTextToPitch = 0.74;
constexpr double kTextToInk = 1.0;  // size of the type to the height of a written line, loops included
constexpr int kCaptionPx = 14;
constexpr size_t kMostMeasured = 5000;    // lines
constexpr size_t kMostWordsAtOnce = 200;  // measured in some 4 ms, drawn in 5 to 10
constexpr int kPauseMs = 2;               // in which the pen is heard
constexpr int kWavePx = 6, kWaves = 10, kWaveHigh = 6;
constexpr double kNarrowest = 0.62;  // a line too long for its place is set smaller, but no smaller than this

// Lines by their height on the page, to find those that stand beside one.
class LinesBeside {
public:
    explicit LinesBeside(const std::vector<ReadLine>& lines) {
        for (const ReadLine& line : lines) {
            by_top_.push_back(&line);
            highest_ = std::max(highest_, line.box.height());
        }
        std::ranges::sort(by_top_, {}, top);
    }

    // Where the nearest one to its right begins, mm.
    std::optional<double> left_of_next(const ReadLine& line) const {
        std::optional<double> left;
        for (auto at = std::ranges::upper_bound(by_top_, line.box.top - highest_, {}, top);
             at != by_top_.end() && top(*at) < line.box.bottom; ++at)
            if (const Box& other = (*at)->box; other.left > line.box.right && other.bottom > line.box.top)
                left = std::min(left.value_or(other.left), other.left);
        return left;
    }

private:
    static double top(const ReadLine* line) { return line->box.top; }

    std::vector<const ReadLine*> by_top_;
    double highest_ = 0;  // mm
};

// What stands on the text leaf for a region that is no text.
QString caption_of(RegionKind kind) {
    switch (kind) {
        case RegionKind::math:
            return TextLeaf::tr("math");
        case RegionKind::picture:
            return TextLeaf::tr("a picture");
        case RegionKind::drawing:
        case RegionKind::divider:
        case RegionKind::text:
            break;
    }
    return TextLeaf::tr("a drawing");
}

Date day_of(int64_t ms) {
    const QDate date = QDateTime::fromMSecsSinceEpoch(ms).date();
    return {date.year(), date.month(), date.day()};
}

}  // namespace

TextLeaf::TextLeaf(Session& session, PageViewport& view, QWidget* parent)
    : QWidget(parent), session_(session), view_(view), card_(new WordCard(this)) {
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
        card_->hide();
        if (to_check_ != session_.page()->info.id) to_check_ = 0;
        words_.clear();
        captions_.clear();
        rules_.clear();
        find_useful();
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
    connect(card_, &WordCard::save_wanted, this, &TextLeaf::save_useful);
    connect(card_, &WordCard::open_wanted, this,
            [](const Useful& useful) { QDesktopServices::openUrl(QUrl(QString::fromStdString(useful.value))); });
    connect(&session_.readings(), &ReadingScheduler::changed, this, [this] {
        find_useful();
        set_in_type();
    });
    connect(card_, &WordCard::taken, this, &TextLeaf::take);
    connect(card_, &WordCard::join_wanted, this, [this] { session_.correcting().join_with_next(chosen_); });
    connect(card_, &WordCard::split_wanted, this, [this] { session_.correcting().split_word(chosen_); });
    connect(card_, &WordCard::closed, this, [this] {
        choose({});
        setFocus();
    });
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
    if (!measure_some()) return measuring_.start(kPauseMs);
    show_news();
    if (!session_.word(chosen_)) {
        chosen_ = {};
        card_->hide();
    } else if (!card_->field()->hasFocus()) {
        if (card_->isVisible()) set_chosen(chosen_);  // it may say something else now
        place_card();
    }
    if (to_check_ == session_.page()->info.id) {
        to_check_ = 0;
        choose_unsure_after({});
    }
}

// Whether all lines are.
bool TextLeaf::measure_some() {
    const auto& lines = session_.reading().lines;
    if (lines.size() > kMostMeasured) return true;  // they are not kept
    const int px = qRound(type_px());
    size_t words = 0;
    for (const ReadLine& line : lines) {
        if (line.kind != RegionKind::text || measured_.contains(measured_as(line, px))) continue;
        if (words > kMostWordsAtOnce) return false;
        measured(line, px);
        words += line.words.size();
    }
    return true;
}

// As large as the writing, but no larger than lets the lines stand beside their ink.
double TextLeaf::type_px() const {
    std::vector<double> heights, middles, distances;
    for (const ReadLine& line : session_.reading().lines) {
        if (line.kind != RegionKind::text) continue;
        heights.push_back(line.box.height());
        middles.push_back(line.box.centre().y);
    }
    std::ranges::sort(heights);
    std::ranges::sort(middles);
    const double usual = heights.empty() ? 6 : heights[heights.size() / 2];
    for (size_t i = 1; i < middles.size(); ++i)
        if (middles[i] - middles[i - 1] > usual / 2) distances.push_back(middles[i] - middles[i - 1]);
    std::ranges::sort(distances);
    const double pitch = distances.empty() ? 2 * usual : distances[distances.size() / 2];
    return std::clamp(std::min(kTextToInk * usual, kTextToPitch * pitch) * view_.scale(), kSmallestPx, kLargestPx);
}

void TextLeaf::lay_out() {
    words_.clear();
    captions_.clear();
    rules_.clear();
    laid_scale_ = view_.scale();
    laid_width_ = width();
    if (!session_.page()) return;
    const auto& lines = session_.reading().lines;
    const double px = type_px();
    const double room = sheet().width() - 2 * kSheetPaddingPx;
    const double x_scale = room / session_.page()->info.width_mm;

    const LinesBeside beside(lines);
    std::vector<QRectF> rows;            // of the lines set so far
    std::multimap<double, size_t> tops;  // of those rows
    for (size_t l = 0; l < lines.size(); ++l) {
        const ReadLine& line = lines[l];
        if (line.kind != RegionKind::text) continue;
        double left = kSheetPaddingPx + std::clamp(line.box.left * x_scale - 12, 0.0, 0.8 * room);
        // How far it may reach: to the next line that stands beside it.
        double right = kSheetPaddingPx + room;
        if (const auto next = beside.left_of_next(line))
            right = std::min(right, kSheetPaddingPx + *next * x_scale - 24);
        const MeasuredLine* set = &measured(line, qRound(px));
        const double natural = set->width;
        double font_px = px;
        if (natural > right - left) left = std::max(kSheetPaddingPx, std::min(left, right - natural));
        if (natural > right - left) {
            font_px = px * std::max(kNarrowest, (right - left) / natural);
            set = &measured(line, qRound(font_px));
        }
        const TypeCase::Face face = type_.face({qRound(font_px)});
        QRectF row(left, line.box.centre().y * view_.scale() - face.height / 2, std::min(natural, right - left),
                   face.height);
        for (auto at = tops.lower_bound(row.top() - kLargestPx * 2); at != tops.end() && at->first <= row.top(); ++at)
            if (const QRectF& before = rows[at->second];
                before.left() < row.right() && row.left() < before.right() && before.bottom() > row.top())
                row.moveTop(before.bottom());
        tops.emplace(row.top(), rows.size());
        rows.push_back(row);
        const bool holds_useful =
            std::ranges::any_of(useful_.found(), [l](const Useful& u) { return u.line == static_cast<int>(l); });
        double x = left;
        for (size_t w = 0; w < line.words.size(); ++w) {
            const ReadWord& word = line.words[w];
            const WordPlace place{static_cast<int>(l), static_cast<int>(w)};
            words_.push_back({place,
                              QRectF(x, row.top(), set->words[w].wide, row.height()),
                              {x, row.top() + face.ascent},
                              set->words[w].style,
                              set->words[w].text,
                              !word.corrected && word.certainty < kSureEnough,
                              word.corrected,
                              holds_useful && useful_at(place) != nullptr});
            x += set->words[w].wide + face.space;
        }
    }
    // Drawings and math are named at their upper or lower edge, where no words stand.
    for (const ReadLine& line : lines) {
        if (line.kind == RegionKind::text) continue;
        if (line.kind == RegionKind::divider) {
            const double y = line.box.centre().y * view_.scale();
            rules_.emplace_back(kSheetPaddingPx, y, kSheetPaddingPx + room, y);
            continue;
        }
        const double left = kSheetPaddingPx + std::clamp(line.box.left * x_scale - 12, 0.0, 0.8 * room);
        for (const double y : {line.box.top, line.box.bottom}) {
            const QRectF box(left, y * view_.scale() - kCaptionPx, 6.0 * kCaptionPx, 2.0 * kCaptionPx);
            const auto meets = [&](const QRectF& other) { return other.intersects(box); };
            if (std::ranges::any_of(rows, meets) || std::ranges::any_of(captions_, meets, &Caption::box)) continue;
            captions_.push_back({box, caption_of(line.kind)});
            break;
        }
    }
}

std::string TextLeaf::measured_as(const ReadLine& line, int px) {
    std::string key = std::to_string(px) + (line.heading != 0 ? 'h' : ' ');
    for (const ReadWord& w : line.words) {
        key += static_cast<char>(1 + int{w.italic} + 2 * int{w.bold});
        key += w.text;
    }
    return key;
}

const TextLeaf::MeasuredLine& TextLeaf::measured(const ReadLine& line, int px) {
    std::string key = measured_as(line, px);
    const auto found = measured_.find(key);
    if (found != measured_.end()) return found->second;
    if (measured_.size() >= kMostMeasured) measured_.clear();
    MeasuredLine set;
    set.width = (static_cast<double>(line.words.size()) - 1) * type_.face({px}).space;
    for (const ReadWord& w : line.words) {
        const TypeCase::Style style{px, w.italic, w.bold || line.heading != 0};
        const QString text = QString::fromStdString(w.text);
        set.words.push_back({text, style, type_.word(text, style).advance});
        set.width += set.words.back().wide;
    }
    return measured_.emplace(std::move(key), std::move(set)).first->second;
}

// Only what looks otherwise than before is drawn again: mostly one line in the middle.
void TextLeaf::show_news() {
    const std::vector<SetWord> before = std::exchange(words_, {});
    const std::vector<Caption> captions = captions_;
    const std::vector<QLineF> rules = rules_;
    lay_out();
    if (before.empty() || words_.empty() || captions != captions_ || rules != rules_) return draw_in_bands();
    const auto alike = [](const SetWord& a, const SetWord& b) { return a.same(b); };
    const auto [gone_from, new_from] = std::ranges::mismatch(before, words_, alike);
    auto gone_to = before.end();
    auto new_to = words_.end();
    while (gone_to != gone_from && new_to != new_from && alike(*std::prev(gone_to), *std::prev(new_to)))
        --gone_to, --new_to;
    const std::span<const SetWord> gone(gone_from, gone_to), come(new_from, new_to);
    QRegion news;
    const auto differ = [&](std::span<const SetWord> these, std::span<const SetWord> those) {
        QHash<std::pair<int, int>, const SetWord*> at;
        for (const SetWord& w : those) at.insert({qRound(w.box.left()), qRound(w.box.top())}, &w);
        for (const SetWord& w : these) {
            const SetWord* other = at.value({qRound(w.box.left()), qRound(w.box.top())});
            if (!other || !other->same(w))
                news += w.box.translated(sheet().topLeft()).adjusted(-6, -4, 6, 10).toAlignedRect();
        }
    };
    if (gone.size() + come.size() > kMostWordsAtOnce) return draw_in_bands();
    differ(gone, come);
    differ(come, gone);
    update(news);
}

// A page of thousands of words is drawn a strip at a time, each when the one before is drawn, so that the pen is heard
// in between.
void TextLeaf::draw_in_bands() {
    const auto bands = static_cast<int>(1 + words_.size() / kMostWordsAtOnce);
    if (bands == 1) return update();
    band_pause_.stop();
    band_ = QRect(0, 0, width(), (height() + bands - 1) / bands);
    update(band_);
}

void TextLeaf::draw_next_band() {
    band_.translate(0, band_.height());
    update(band_);
}

void TextLeaf::find_useful() {
    if (session_.page())
        useful_.look(session_.reading(), day_of(session_.page()->info.created_ms));
    else
        useful_ = {};
}

const Useful* TextLeaf::useful_at(WordPlace place) const {
    const auto found = std::ranges::find_if(useful_.found(), [&](const Useful& u) {
        return u.line == place.line && place.word >= u.first_word && place.word <= u.last_word;
    });
    return found == useful_.found().end() ? nullptr : &*found;
}

void TextLeaf::save_useful(const Useful& useful) {
    // What stands about it says whose number it is, or what is to happen.
    QStringList names, others;
    const auto& words = session_.reading().lines[static_cast<size_t>(useful.line)].words;
    for (int w = 0; w < static_cast<int>(words.size()); ++w) {
        if (w >= useful.first_word && w <= useful.last_word) continue;
        const QString word = QString::fromStdString(words[static_cast<size_t>(w)].text);
        others << word;
        if (word[0].isUpper() && w > 0) names << word;
    }
    const bool moment = useful.kind == UsefulKind::moment;
    const QString name = moment ? others.join(' ') : names.join(' ');
    const QString folder = QSettings().value("folder").toString();
    const QString path = QFileDialog::getSaveFileName(
        this, moment ? tr("Save as event") : tr("Save as contact"),
        (folder.isEmpty() ? QString() : folder + '/') + (name.isEmpty() ? QString::fromStdString(useful.text) : name) +
            (moment ? ".ics" : ".vcf"),
        moment ? tr("Event, iCalendar (*.ics)") : tr("Contact, vCard (*.vcf)"));
    if (path.isEmpty()) return;
    const std::string stamp =
        QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd'T'HHmmss'Z'")).toStdString();
    session_.transfers().save_file(
        path, moment ? write_event(name.toStdString(), useful, day_of(session_.page()->info.created_ms), stamp)
                     : write_vcard(name.toStdString(), useful));
}

QRectF TextLeaf::place_of(WordPlace place) const {
    const auto found = std::ranges::find(words_, place, &SetWord::place);
    return found == words_.end() ? QRectF() : found->box.translated(sheet().topLeft());
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
    for (const SetWord& word : words_) {
        if (!word.box.intersects(shown)) continue;
        const bool chosen = word.place == chosen_;
        if (chosen || word.place == hovered_) {
            QColor wash = t.act;
            wash.setAlpha(chosen ? 34 : 16);
            painter.setPen(chosen ? QPen(t.act, 1.4) : QPen(Qt::NoPen));
            painter.setBrush(wash);
            painter.drawRoundedRect(word.box.adjusted(-3, -1, 3, 2), 5, 5);
        }
        const TypeCase::Face& face = type_.face(word.style);
        painter.setFont(face.font);
        painter.setPen(t.text);
        painter.drawStaticText(word.baseline - QPointF(0, face.ascent), type_.word(word.text, word.style).glyphs);
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
    for (const QLineF& rule : rules_) painter.drawLine(rule);
    painter.setPen(t.quiet_text);
    for (const Caption& caption : captions_)
        painter.drawText(caption.box, Qt::AlignLeft | Qt::AlignVCenter, caption.text);
    if (words_.empty() && captions_.empty() && rules_.empty() && !measuring_.isActive()) {
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

WordPlace TextLeaf::word_at(QPointF px) const {
    const QPointF at = px - sheet().topLeft();
    for (const SetWord& word : words_)
        if (word.box.adjusted(-3, -3, 3, 4).contains(at)) return word.place;
    return {};
}

void TextLeaf::choose(WordPlace place) {
    set_chosen(place);
    emit word_chosen(place);
}

void TextLeaf::set_chosen(WordPlace place) {
    chosen_ = session_.word(place) ? place : WordPlace();
    const Useful* useful = useful_at(chosen_);
    card_->show_useful(useful ? std::optional(*useful) : std::nullopt);
    if (const ReadWord* word = session_.word(chosen_))
        card_->show_word(*word, session_.read_only(), session_.correcting().can_join(chosen_),
                         session_.correcting().can_split(chosen_));
    else
        card_->hide();
    place_card();
    update();
}

// Below the word where there is room, else above it; never over the edge.
void TextLeaf::place_card() {
    const QRectF word = place_of(chosen_);
    if (word.isNull() || !card_->isVisibleTo(this)) return;
    const double x = std::clamp(word.left() - 8, 6.0, std::max(6.0, width() - card_->width() - 6.0));
    double y = word.bottom() + 10;
    if (y + card_->height() > height() - 6) y = word.top() - card_->height() - 8;
    card_->move(qRound(x), qRound(std::clamp(y, 6.0, std::max(6.0, height() - card_->height() - 6.0))));
}

void TextLeaf::take(const QString& text) {
    const WordPlace at = chosen_;
    session_.correcting().correct(at, text);
    setFocus();
    choose({});
    chosen_ = at;  // so that Tab goes on from here
    update();
}

void TextLeaf::mousePressEvent(QMouseEvent* event) {
    setFocus(Qt::MouseFocusReason);
    if (event->button() == Qt::LeftButton) choose(word_at(event->position()));
}

void TextLeaf::mouseMoveEvent(QMouseEvent* event) {
    const WordPlace over = word_at(event->position());
    if (over == hovered_) return;
    hovered_ = over;
    setCursor(over.valid() ? Qt::PointingHandCursor : Qt::ArrowCursor);
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

WordPlace TextLeaf::beside(WordPlace from, int dx, int dy) const {
    const auto at = std::ranges::find(words_, from, &SetWord::place);
    if (at == words_.end()) return words_.empty() ? WordPlace() : words_.front().place;
    if (dx != 0) {
        const auto index = at - words_.begin() + dx;
        return index >= 0 && index < static_cast<std::ptrdiff_t>(words_.size())
                   ? words_[static_cast<size_t>(index)].place
                   : from;
    }
    WordPlace best = from;
    double nearest = 1e18;
    for (const SetWord& word : words_) {
        const double down = (word.box.center().y() - at->box.center().y()) * dy;
        if (word.place.line == from.line || down <= 1) continue;
        const double miss = 8 * down + std::abs(word.box.center().x() - at->box.center().x());
        if (miss < nearest) nearest = miss, best = word.place;
    }
    return best;
}

void TextLeaf::choose_next_unsure(int direction) {
    if (words_.empty()) return;
    const auto at = std::ranges::find(words_, chosen_, &SetWord::place);
    const auto count = static_cast<std::ptrdiff_t>(words_.size());
    std::ptrdiff_t index = at == words_.end() ? (direction > 0 ? -1 : count) : at - words_.begin();
    for (std::ptrdiff_t i = 0; i < count; ++i) {
        index = (index + direction + count) % count;
        const WordPlace place = words_[static_cast<size_t>(index)].place;
        const ReadWord* word = session_.word(place);
        if (word && !word->corrected && word->certainty < kSureEnough) {
            setFocus();
            return choose(place);
        }
    }
    choose({});
}

void TextLeaf::go_on_checking() {
    if (!choose_unsure_after(chosen_)) session_.correcting().open_next_unsure();
}

// Whether there is one on this page.
bool TextLeaf::choose_unsure_after(WordPlace place) {
    const auto unsure = [this](const SetWord& set) {
        const ReadWord* word = session_.word(set.place);
        return word && !word->corrected && word->certainty < kSureEnough;
    };
    const auto at = std::ranges::find(words_, place, &SetWord::place);
    const auto next = std::find_if(at == words_.end() ? words_.begin() : at + 1, words_.end(), unsure);
    if (next == words_.end()) return false;
    setFocus();
    choose(next->place);
    return true;
}

bool TextLeaf::focusNextPrevChild(bool next) {
    // Tab walks the unsure words while one is chosen, and leaves the leaf otherwise.
    if (!chosen_.valid()) return QWidget::focusNextPrevChild(next);
    choose_next_unsure(next ? 1 : -1);
    return true;
}

void TextLeaf::keyPressEvent(QKeyEvent* event) {
    const bool open = card_->isVisible();
    const int number = event->key() - Qt::Key_0;
    if (event->modifiers() == Qt::ControlModifier && event->key() == Qt::Key_J)
        return session_.correcting().join_with_next(chosen_);
    if (event->modifiers() == Qt::ControlModifier && event->key() == Qt::Key_K)
        return session_.correcting().split_word(chosen_);
    if (event->modifiers() & (Qt::ControlModifier | Qt::AltModifier)) return QWidget::keyPressEvent(event);
    switch (event->key()) {
        case Qt::Key_Left:
            return choose(beside(chosen_, -1, 0));
        case Qt::Key_Right:
            return choose(beside(chosen_, 1, 0));
        case Qt::Key_Up:
            return choose(beside(chosen_, 0, -1));
        case Qt::Key_Down:
            return choose(beside(chosen_, 0, 1));
        case Qt::Key_Escape:
            return choose({});
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (open)
                take(QString::fromStdString(session_.word(chosen_)->text));
            else if (chosen_.valid())
                choose(chosen_);
            return;
        case Qt::Key_F2:
            if (open) card_->type({});
            return;
        default:
            break;
    }
    if (open && number >= 1 && number <= WordCard::kMostAlternatives && !card_->alternative(number).isEmpty())
        return take(card_->alternative(number));
    if (open && !event->text().isEmpty() && event->text()[0].isPrint()) return card_->type(event->text());
    QWidget::keyPressEvent(event);
}

}  // namespace fernleaf
