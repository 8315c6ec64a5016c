#include "desk/text_styles.h"

#include <QCoreApplication>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QSettings>
#include <algorithm>

namespace fernleaf {
namespace {

constexpr char kStylesKey[] = "text_styles";

QJsonObject json_of(const KeptStyle& kept) {
    const TextStyle& s = kept.style;
    QJsonObject json{{"name", kept.name},      {"family", QString::fromStdString(s.family)},
                     {"size", s.size_mm},      {"bold", s.bold},
                     {"italic", s.italic},     {"underline", s.underline},
                     {"strike", s.strike},     {"colour", static_cast<qint64>(s.colour)},
                     {"heading", kept.heading}};
    if (s.highlight) json["highlight"] = static_cast<qint64>(*s.highlight);
    return json;
}

KeptStyle style_from(const QJsonObject& json) {
    KeptStyle kept{json["name"].toString(), {}, std::clamp(json["heading"].toInt(), 0, 3), true};
    TextStyle& s = kept.style;
    s.family = json["family"].toString(QString::fromStdString(s.family)).toStdString();
    s.size_mm = std::clamp(json["size"].toDouble(s.size_mm), 1.0, 60.0);
    s.bold = json["bold"].toBool(), s.italic = json["italic"].toBool();
    s.underline = json["underline"].toBool(), s.strike = json["strike"].toBool();
    s.colour = static_cast<uint32_t>(json["colour"].toInteger(s.colour)) & 0xFFFFFFU;
    if (json.contains("highlight")) s.highlight = static_cast<uint32_t>(json["highlight"].toInteger()) & 0xFFFFFFU;
    return kept;
}

QJsonArray stored() { return QJsonDocument::fromJson(QSettings().value(kStylesKey).toByteArray()).array(); }

void store(const QJsonArray& styles) {
    QSettings().setValue(kStylesKey, QJsonDocument(styles).toJson(QJsonDocument::Compact));
}

QJsonArray without(const QJsonArray& styles, const QString& name) {
    QJsonArray rest;
    for (const auto& style : styles)
        if (style.toObject()["name"].toString() != name) rest.append(style);
    return rest;
}

}  // namespace

std::vector<KeptStyle> kept_styles() {
    struct Names {
        Q_DECLARE_TR_FUNCTIONS(TextStyles)
    };
    TextStyle body, title, heading, note;
    title.size_mm = 7, title.bold = true;
    heading.size_mm = 5.2, heading.bold = true;
    note.size_mm = 3.2, note.italic = true;
    std::vector<KeptStyle> styles = {{Names::tr("Body"), body, 0},
                                     {Names::tr("Title"), title, 1},
                                     {Names::tr("Heading"), heading, 2},
                                     {Names::tr("Note"), note, 0}};
    for (const auto& json : stored())
        if (KeptStyle own = style_from(json.toObject()); !own.name.trimmed().isEmpty())
            styles.push_back(std::move(own));
    return styles;
}

void keep_style(const KeptStyle& style) {
    if (style.name.trimmed().isEmpty()) return;
    QJsonArray styles = without(stored(), style.name);
    styles.append(json_of(style));
    store(styles);
}

void forget_style(const QString& name) { store(without(stored(), name)); }

}  // namespace fernleaf
