#include "leaves/outline_card.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QPushButton>
#include <QVBoxLayout>

#include "exchange/diagram_file.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr size_t kMostLines = 18;  // more are copied, not shown

QString line_of(const DrawingReading& drawing, const DrawnLink& link) {
    const auto text = [&](size_t node) {
        const QString said = QString::fromStdString(drawing.nodes[node].text());
        return said.isEmpty() ? OutlineCard::tr("(no label)") : said;
    };
    const QString line =
        QStringLiteral("%1 %2 %3").arg(text(link.from), QString::fromUtf8(sign_of(link.heads)), text(link.to));
    return link.words.empty() ? line : line + QStringLiteral("  (%1)").arg(QString::fromStdString(link.text()));
}

}  // namespace

OutlineCard::OutlineCard(QWidget* parent) : LeafCard(parent), lines_(new QLabel) {
    setObjectName(QStringLiteral("outlineCard"));
    setFixedWidth(320);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(10);
    QFont face(kTextFace);
    face.setPixelSize(15);
    lines_->setFont(face);
    lines_->setWordWrap(true);
    lines_->setTextFormat(Qt::PlainText);
    lines_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    column->addWidget(lines_);
    auto* copy = new QPushButton(tr("Copy as a list"));
    copy->setProperty("secondary", true);
    connect(copy, &QPushButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(list_); });
    column->addWidget(copy, 0, Qt::AlignLeft);
    hide();
}

void OutlineCard::show_outline(const DrawingReading& drawing) {
    QStringList lines;
    for (const DrawnLink& link : drawing.links) {
        if (static_cast<size_t>(lines.size()) == kMostLines) {
            lines << QStringLiteral("…");
            break;
        }
        lines << line_of(drawing, link);
    }
    lines_->setText(lines.join('\n'));
    list_ = QString::fromStdString(diagram_text({drawing}, ".md"));
    layout()->activate();
    adjustSize();
    show();
    raise();
}

}  // namespace fernleaf
