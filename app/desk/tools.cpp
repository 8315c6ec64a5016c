#include "desk/tools.h"

#include <QCoreApplication>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSettings>
#include <algorithm>

namespace fernleaf {
namespace {

constexpr char kToolsKey[] = "tools";

QJsonObject json_of(const TrayPen& pen) {
    return {{"colour", static_cast<qint64>(pen.colour)},
            {"width", static_cast<double>(pen.width_mm)},
            {"kind", static_cast<int>(pen.kind)},
            {"tip", static_cast<int>(pen.tip)},
            {"opacity", static_cast<double>(pen.opacity)},
            {"by_pressure", pen.by_pressure},
            {"sets_in_type", pen.sets_in_type}};
}

TrayPen pen_from(const QJsonObject& json) {
    TrayPen pen;
    pen.colour = static_cast<uint32_t>(json["colour"].toInteger(pen.colour)) & 0xFFFFFFU;
    pen.width_mm = std::clamp(static_cast<float>(json["width"].toDouble(0.5)), kThinnestPenMm, kBroadestPenMm);
    pen.kind = static_cast<PenKind>(std::clamp(json["kind"].toInt(), 0, 3));
    pen.tip = static_cast<Tip>(std::clamp(json["tip"].toInt(), 0, 1));
    pen.opacity = std::clamp(static_cast<float>(json["opacity"].toDouble(1)), 0.1F, 1.0F);
    pen.by_pressure = json["by_pressure"].toBool(true);
    pen.sets_in_type = json["sets_in_type"].toBool() && pen.kind != PenKind::highlighter;
    return pen;
}

}  // namespace

Tools Tools::usual() {
    Tools tools;
    tools.pens = {{{0x1E2A44, 0.5F, PenKind::ballpoint}},
                  {{0x2E6B4F, 0.6F, PenKind::fountain}},
                  {{0x8A3B6B, 0.5F, PenKind::ballpoint}},
                  {{0x4A5560, 0.5F, PenKind::pencil}},
                  {{0xEBCB6B, 4.0F, PenKind::highlighter, Tip::chisel, 0.5F, false}}};
    tools.palette = {0x1E2A44, 0x2E6B4F, 0x8A3B6B, 0x7A4A21, 0xA8322D, 0x2A6C9C,
                     0x4A5560, 0xC07A12, 0xEBCB6B, 0xA9CF6E, 0xE79AB3, 0x8CC7E0};
    return tools;
}

Tools Tools::stored() {
    Tools tools = usual();
    const QJsonObject json = QJsonDocument::fromJson(QSettings().value(kToolsKey).toByteArray()).object();
    if (const QJsonArray pens = json["pens"].toArray(); !pens.isEmpty()) {
        tools.pens.clear();
        for (const auto& pen : pens)
            if (tools.pens.size() < kMostPens) tools.pens.push_back(pen_from(pen.toObject()));
    }
    if (const QJsonArray palette = json["palette"].toArray(); !palette.isEmpty()) {
        tools.palette.clear();
        for (const auto& colour : palette)
            if (tools.palette.size() < kMostColours)
                tools.palette.push_back(static_cast<uint32_t>(colour.toInteger()) & 0xFFFFFFU);
    }
    const QJsonObject eraser = json["eraser"].toObject();
    tools.eraser.takes = static_cast<EraserTakes>(std::clamp(eraser["takes"].toInt(1), 0, 2));
    tools.eraser.size = static_cast<EraserSize>(std::clamp(eraser["size"].toInt(1), 0, 3));
    tools.eraser.highlighter_only = eraser["highlighter_only"].toBool();
    tools.eraser.then_back = eraser["then_back"].toBool();
    tools.eraser.scribbles = eraser["scribbles"].toBool(true);
    const QJsonObject tablet = json["tablet"].toObject();
    const auto does = [&](const char* key, ButtonDoes usual) {
        return static_cast<ButtonDoes>(std::clamp(tablet[key].toInt(static_cast<int>(usual)), 0, 3));
    };
    tools.tablet.pressure_curve = std::clamp(tablet["curve"].toDouble(1), kLightestCurve, kHeaviestCurve);
    tools.tablet.barrel = does("barrel", tools.tablet.barrel);
    tools.tablet.eraser_end = does("eraser_end", tools.tablet.eraser_end);
    tools.tablet.hand_rest = std::clamp(tablet["hand_rest"].toDouble(), 0.0, 1.0);
    tools.gestures = json["gestures"].toBool(true);
    const auto all = static_cast<int>(all_proof_marks().to_ulong());
    tools.proof_marks = ProofMarks(static_cast<unsigned long>(json["proof_marks"].toInt(all)));
    return tools;
}

void Tools::store() const {
    QJsonArray pen_list, colours;
    for (const TrayPen& pen : pens) pen_list.append(json_of(pen));
    for (const uint32_t colour : palette) colours.append(static_cast<qint64>(colour));
    const QJsonObject eraser_json{{"takes", static_cast<int>(eraser.takes)},
                                  {"size", static_cast<int>(eraser.size)},
                                  {"highlighter_only", eraser.highlighter_only},
                                  {"then_back", eraser.then_back},
                                  {"scribbles", eraser.scribbles}};
    const QJsonObject tablet_json{{"curve", tablet.pressure_curve},
                                  {"barrel", static_cast<int>(tablet.barrel)},
                                  {"eraser_end", static_cast<int>(tablet.eraser_end)},
                                  {"hand_rest", tablet.hand_rest}};
    const QJsonObject json{{"pens", pen_list},      {"palette", colours},
                           {"eraser", eraser_json}, {"tablet", tablet_json},
                           {"gestures", gestures},  {"proof_marks", static_cast<int>(proof_marks.to_ulong())}};
    QSettings().setValue(kToolsKey, QJsonDocument(json).toJson(QJsonDocument::Compact));
}

QString described(const Pen& pen) {
    const char* const kinds[] = {QT_TRANSLATE_NOOP("Tools", "Ballpoint"), QT_TRANSLATE_NOOP("Tools", "Fountain pen"),
                                 QT_TRANSLATE_NOOP("Tools", "Pencil"), QT_TRANSLATE_NOOP("Tools", "Highlighter")};
    return QCoreApplication::translate("Tools", "%1, %2 mm")
        .arg(QCoreApplication::translate("Tools", kinds[static_cast<int>(pen.kind)]))
        .arg(static_cast<double>(pen.width_mm), 0, 'g', 2);
}

}  // namespace fernleaf
