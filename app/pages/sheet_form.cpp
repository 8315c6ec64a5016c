#include "pages/sheet_form.h"

#include <QHBoxLayout>
#include <QJsonDocument>
#include <QJsonObject>
#include <QLabel>
#include <QPainter>
#include <QSettings>
#include <cmath>

#include "look/theme.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

struct Size {
    const char* name;
    double width, height;  // mm
};
constexpr Size kSizes[] = {
    {QT_TRANSLATE_NOOP("SheetForm", "A3"), 297, 420},         {QT_TRANSLATE_NOOP("SheetForm", "A4"), 210, 297},
    {QT_TRANSLATE_NOOP("SheetForm", "A5"), 148, 210},         {QT_TRANSLATE_NOOP("SheetForm", "A6"), 105, 148},
    {QT_TRANSLATE_NOOP("SheetForm", "Letter"), 215.9, 279.4}, {QT_TRANSLATE_NOOP("SheetForm", "Legal"), 215.9, 355.6}};

struct Colour {
    const char* name;
    uint32_t colour;
};
constexpr Colour kColours[] = {
    {QT_TRANSLATE_NOOP("SheetForm", "Warm white"), kUsualPaper}, {QT_TRANSLATE_NOOP("SheetForm", "White"), 0xFFFFFF},
    {QT_TRANSLATE_NOOP("SheetForm", "Straw"), 0xF4E9C4},         {QT_TRANSLATE_NOOP("SheetForm", "Leaf"), 0xE2ECDD},
    {QT_TRANSLATE_NOOP("SheetForm", "Sky"), 0xDFE9F0},           {QT_TRANSLATE_NOOP("SheetForm", "Rose"), 0xF2DFE2},
    {QT_TRANSLATE_NOOP("SheetForm", "Slate"), 0x2B333B},         {QT_TRANSLATE_NOOP("SheetForm", "Night"), 0x14181C}};

constexpr char kKey[] = "sheet";

QIcon patch(uint32_t colour) {
    QPixmap pixmap(18, 18);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme().quiet_text, 1));
    painter.setBrush(QColor::fromRgb(colour));
    painter.drawRoundedRect(QRectF(1.5, 1.5, 15, 15), 3, 3);
    return pixmap;
}

QDoubleSpinBox* millimetres(double least, double most) {
    auto* box = new QDoubleSpinBox;
    box->setRange(least, most);
    box->setDecimals(1);
    box->setSuffix(QStringLiteral(" mm"));
    return box;
}

}  // namespace

Sheet usual_sheet() {
    Sheet sheet;
    const QJsonObject json = QJsonDocument::fromJson(QSettings().value(kKey).toByteArray()).object();
    sheet.width_mm = std::clamp(json["width"].toDouble(sheet.width_mm), kLeastSheetMm, kMostSheetMm);
    sheet.height_mm = std::clamp(json["height"].toDouble(sheet.height_mm), kLeastSheetMm, kMostSheetMm);
    const int paper = json["paper"].toInt(static_cast<int>(sheet.paper));
    if (paper >= 0 && paper <= static_cast<int>(kLastPaper) && paper != static_cast<int>(Paper::picture))
        sheet.paper = static_cast<Paper>(paper);
    sheet.spacing_mm = std::clamp(json["spacing"].toDouble(sheet.spacing_mm), kLeastSpacingMm, kMostSpacingMm);
    sheet.colour = static_cast<uint32_t>(json["colour"].toInteger(sheet.colour)) & 0xFFFFFFU;
    sheet.endless = json["endless"].toBool();
    return sheet;
}

void keep_usual_sheet(const Sheet& sheet) {
    const QJsonObject json{{"width", sheet.width_mm},
                           {"height", sheet.height_mm},
                           {"paper", static_cast<int>(sheet.paper)},
                           {"spacing", sheet.spacing_mm},
                           {"colour", static_cast<qint64>(sheet.colour)},
                           {"endless", sheet.endless}};
    QSettings().setValue(kKey, QJsonDocument(json).toJson(QJsonDocument::Compact));
}

SheetForm::SheetForm(QFormLayout& form, const Sheet& sheet, QWidget* parent)
    : QObject(parent), form_(form), sheet_(sheet) {
    paper_ = new QComboBox;
    paper_->setObjectName(QStringLiteral("paperKind"));
    const std::pair<QString, Paper> kinds[] = {{tr("Ruled, with a margin"), Paper::margined},
                                               {tr("Ruled"), Paper::ruled},
                                               {tr("Squared"), Paper::squared},
                                               {tr("Dotted"), Paper::dotted},
                                               {tr("Staff lines"), Paper::staves},
                                               {tr("Plain"), Paper::plain},
                                               {tr("Form: week"), Paper::week},
                                               {tr("Form: minutes"), Paper::minutes},
                                               {tr("Form: questions and notes"), Paper::questions},
                                               {tr("Form: lab page"), Paper::lab},
                                               {tr("Form: storyboard"), Paper::storyboard},
                                               {tr("Form: isometric"), Paper::isometric},
                                               {tr("Form: checklist"), Paper::checklist},
                                               {tr("Form: graph"), Paper::graph},
                                               {tr("Form: addresses"), Paper::addresses}};
    for (const auto& [name, kind] : kinds) paper_->addItem(name, static_cast<int>(kind));
    paper_->setMaxVisibleItems(paper_->count() + 1);
    form_.addRow(tr("Paper"), paper_);
    size_ = new QComboBox;
    size_->setObjectName(QStringLiteral("paperSize"));
    for (const Size& s : kSizes)
        size_->addItem(tr("%1  (%2 × %3 mm)").arg(tr(s.name)).arg(s.width).arg(s.height), QSizeF(s.width, s.height));
    size_->addItem(tr("Other …"));
    form_.addRow(tr("Size"), size_);
    custom_ = new QWidget;
    auto* row = new QHBoxLayout(custom_);
    row->setContentsMargins(0, 0, 0, 0);
    width_ = millimetres(kLeastSheetMm, kMostSheetMm);
    height_ = millimetres(kLeastSheetMm, kMostSheetMm);
    width_->setAccessibleName(tr("Width"));
    height_->setAccessibleName(tr("Height"));
    row->addWidget(width_);
    row->addWidget(new QLabel(QStringLiteral("×")));
    row->addWidget(height_);
    row->addStretch();
    form_.addRow(QString(), custom_);
    auto* shape = new QWidget;
    auto* shape_row = new QHBoxLayout(shape);
    shape_row->setContentsMargins(0, 0, 0, 0);
    across_ = new QCheckBox(tr("Lying across"));
    endless_ = new QCheckBox(tr("Endless downwards"));
    endless_->setObjectName(QStringLiteral("endless"));
    shape_row->addWidget(across_);
    shape_row->addWidget(endless_);
    shape_row->addStretch();
    form_.addRow(QString(), shape);
    spacing_ = millimetres(kLeastSpacingMm, kMostSpacingMm);
    spacing_->setSingleStep(0.5);
    spacing_row_ = spacing_;
    form_.addRow(tr("Spacing"), spacing_);
    colour_ = new QComboBox;
    for (const Colour& c : kColours) colour_->addItem(patch(c.colour), tr(c.name), c.colour);
    form_.addRow(tr("Colour"), colour_);

    if (sheet.paper == Paper::picture) offer_picture();
    paper_->setCurrentIndex(std::max(0, paper_->findData(static_cast<int>(sheet.paper))));
    const double shorter = std::min(sheet.width_mm, sheet.height_mm),
                 longer = std::max(sheet.width_mm, sheet.height_mm);
    int known = size_->count() - 1;
    for (int i = 0; i < size_->count() - 1; ++i) {
        const QSizeF s = size_->itemData(i).toSizeF();
        // An endless sheet is as long as it has become.
        const bool same = sheet.endless ? std::abs(s.width() - sheet.width_mm) < 0.5
                                        : std::abs(s.width() - shorter) < 0.5 && std::abs(s.height() - longer) < 0.5;
        if (same && known == size_->count() - 1) known = i;
    }
    size_->setCurrentIndex(known);
    width_->setValue(sheet.width_mm);
    height_->setValue(sheet.height_mm);
    across_->setChecked(!sheet.endless && sheet.width_mm > sheet.height_mm);
    endless_->setChecked(sheet.endless);
    spacing_->setValue(sheet.spacing_mm);
    if (colour_->findData(sheet.colour) < 0)
        colour_->addItem(patch(sheet.colour), QColor::fromRgb(sheet.colour).name(), sheet.colour);
    colour_->setCurrentIndex(colour_->findData(sheet.colour));
    update_rows();
    for (QComboBox* box : {paper_, size_, colour_})
        connect(box, &QComboBox::activated, this, [this] {
            update_rows();
            emit changed();
        });
    connect(paper_, &QComboBox::activated, this, [this] {
        if (static_cast<Paper>(paper_->currentData().toInt()) == Paper::picture && sheet_.picture.empty())
            emit picture_wanted();
    });
    for (QDoubleSpinBox* box : {width_, height_, spacing_})
        connect(box, &QDoubleSpinBox::valueChanged, this, &SheetForm::changed);
    for (QCheckBox* box : {across_, endless_})
        connect(box, &QCheckBox::toggled, this, [this] {
            update_rows();
            emit changed();
        });
}

void SheetForm::offer_picture() {
    if (paper_->findData(static_cast<int>(Paper::picture)) < 0)
        paper_->addItem(tr("Your own picture …"), static_cast<int>(Paper::picture));
}

void SheetForm::set_picture(const std::string& file) {
    sheet_.picture = file;
    if (file.empty()) paper_->setCurrentIndex(paper_->findData(static_cast<int>(Paper::plain)));
    emit changed();
}

void SheetForm::update_rows() {
    const auto kind = static_cast<Paper>(paper_->currentData().toInt());
    form_.setRowVisible(custom_, size_->currentIndex() == size_->count() - 1);
    form_.setRowVisible(spacing_row_,
                        kind != Paper::plain && kind != Paper::picture && kind != Paper::lab && kind != Paper::graph);
    across_->setEnabled(!endless_->isChecked() && size_->currentIndex() != size_->count() - 1);
}

Sheet SheetForm::sheet() const {
    Sheet sheet = sheet_;
    sheet.paper = static_cast<Paper>(paper_->currentData().toInt());
    if (sheet.paper != Paper::picture) sheet.picture.clear();
    QSizeF size(width_->value(), height_->value());
    if (size_->currentIndex() < size_->count() - 1) {
        size = size_->currentData().toSizeF();
        if (across_->isEnabled() && across_->isChecked()) size.transpose();
    }
    sheet.endless = endless_->isChecked();
    sheet.width_mm = size.width();
    // What an endless sheet has grown to it keeps.
    sheet.height_mm = sheet.endless && sheet_.endless ? std::max(sheet_.height_mm, size.height()) : size.height();
    sheet.spacing_mm = spacing_->value();
    sheet.colour = colour_->currentData().toUInt();
    return sheet;
}

}  // namespace fernleaf
