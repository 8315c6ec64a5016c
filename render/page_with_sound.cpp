#include "render/page_with_sound.h"

#include <QBuffer>
#include <QCoreApplication>
#include <QFile>
#include <QImage>
#include <QTemporaryDir>
#include <algorithm>
#include <cmath>

#include "base/file.h"
#include "exchange/plain_text.h"
#include "exchange/track_file.h"
#include "ink/nib.h"
#include "render/page_painter.h"
#include "sound/replay.h"
#include "store/library.h"

static void init_templates() { Q_INIT_RESOURCE(templates); }

namespace fernleaf {
namespace {

constexpr double kPaperPxPerMm = 5;
constexpr double kMostPaperPx = 8000;
constexpr uintmax_t kMostSoundBytes = 1'000'000'000;

QString tr(const char* text) { return QCoreApplication::translate("PageWithSound", text); }

// The paper and all that stands on it but ink.
QByteArray paper_png(const Page& page, const FileSource& files) {
    PageScheme white = light_page();
    white.paper = Qt::white;
    const PageScheme scheme = scheme_on(white, page.info.colour);
    const PictureImages images = load_pictures(page, files);
    const double px = std::min(kPaperPxPerMm, kMostPaperPx / std::max(page.info.width_mm, page.info.height_mm));
    QImage image(static_cast<int>(std::lround(page.info.width_mm * px)),
                 static_cast<int>(std::lround(page.info.height_mm * px)), QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(px, px);
    paint_paper(painter, page.info, scheme, images);
    const Box sheet = Box::of(0, 0, page.info.width_mm, page.info.height_mm);
    paint_elements(painter, page, {scheme, images, sheet}, [](bool) {});
    painter.end();
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return buffer.data();
}

QByteArray number(double value) { return QByteArray::number(std::lround(value)); }

// As the template's script takes them.
QByteArray strokes_json(const Page& page, const VoiceTrack& track) {
    std::vector<const Stroke*> strokes;
    for (const Stroke& s : page.strokes) strokes.push_back(&s);
    const PageScheme scheme = scheme_on(light_page(), page.info.colour);
    QByteArray out = "[";
    for (const ReplayStroke& when : replay_of(strokes, track).strokes) {
        const Stroke& s = *strokes[when.index];
        if (s.points.empty()) continue;
        if (out.size() > 1) out += ',';
        out += "{\"c\":\"" + shown_colour(s.pen.colour, scheme).name().toLatin1() +
               "\",\"o\":" + QByteArray::number(static_cast<double>(s.pen.opacity), 'g', 3) +
               ",\"b\":" + QByteArray::number(static_cast<qlonglong>(when.begin_ms)) +
               ",\"e\":" + QByteArray::number(static_cast<qlonglong>(when.end_ms)) + ",\"p\":[";
        const std::vector<NibMark> marks = nib_marks(s.pen, s.points);
        for (size_t i = 0; i < s.points.size(); ++i) {
            const InkPoint& p = s.points[i];
            out += (i > 0 ? "," : "") + number(100 * p.at.x) + ',' + number(100 * p.at.y) + ',' +
                   number(100 * marks[i].width_mm) + ',' + QByteArray::number(p.time_ms);
        }
        out += "]}";
    }
    return out + ']';
}

}  // namespace

std::string page_with_sound(const SpokenPage& spoken, const std::string& opus, const FileSource& files) {
    init_templates();
    QFile file(QStringLiteral(":/export/page-with-sound.html"));
    if (!file.open(QIODevice::ReadOnly)) return {};
    const QByteArray form = file.readAll();
    const auto escaped = [](const std::string& text) { return QString::fromStdString(text).toHtmlEscaped().toUtf8(); };
    const std::pair<QByteArray, QByteArray> parts[] = {
        {"language", escaped(spoken.language)},
        {"title", escaped(spoken.title)},
        {"width", QByteArray::number(spoken.page.info.width_mm)},
        {"height", QByteArray::number(spoken.page.info.height_mm)},
        {"speed", tr("Speed").toHtmlEscaped().toUtf8()},
        {"inkname", tr("The page as it was written; tap ink to hear what was said").toHtmlEscaped().toUtf8()},
        {"says", tr("What the page says").toHtmlEscaped().toUtf8()},
        {"text", escaped(plain_text(spoken.reading))},
        {"paper", paper_png(spoken.page, files).toBase64()},
        {"strokes", strokes_json(spoken.page, spoken.track)},
        {"sound", QByteArray(opus.data(), static_cast<qsizetype>(opus.size())).toBase64()}};
    // Once through the form, so that nothing in what is filled in is taken for a place to fill.
    QByteArray out;
    for (qsizetype at = 0; at < form.size();) {
        const qsizetype open = form.indexOf('@', at);
        const qsizetype close = open < 0 ? -1 : form.indexOf('@', open + 1);
        const QByteArray name = close < 0 ? QByteArray() : form.mid(open + 1, close - open - 1);
        const auto* part = std::ranges::find(parts, name, &std::pair<QByteArray, QByteArray>::first);
        if (close < 0 || part == std::end(parts)) {
            const qsizetype end = open < 0 ? form.size() : open + 1;
            out += form.mid(at, end - at);
            at = end;
            continue;
        }
        out += form.mid(at, open - at) + part->second;
        at = close + 1;
    }
    return out.toStdString();
}

Status export_page_with_sound(const Library& library, PageId id, const VoiceTrack& track,
                              const std::filesystem::path& path, const Progress& progress, const CancelToken& cancel) {
    const auto page = library.load_page(id);
    if (!page) return page.error();
    const auto reading = library.reading(id);
    if (!reading) return reading.error();
    const auto notebook = library.notebook(page->info.notebook);
    if (!notebook) return notebook.error();
    const QTemporaryDir place;
    const std::filesystem::path sound = place.filePath(QStringLiteral("sound.opus")).toStdString();
    const Status spoken = export_sound(library, track, sound, progress, cancel);
    auto opus = spoken ? read_regular(sound, kMostSoundBytes) : Result<std::string>(spoken.error());
    if (!opus) return opus.error();
    const std::string language = notebook->languages.empty() ? "en" : notebook->languages.front();
    const SpokenPage whole{*page, *reading, track,
                           notebook->title + ", " + tr("page %1").arg(page->info.number).toStdString(), language};
    return write_whole(path,
                       page_with_sound(whole, *opus, [&](const std::string& hash) { return library.file(hash); }));
}

}  // namespace fernleaf
