#include "window/welcome.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {

Welcome::Welcome(QWidget* parent) : QWidget(parent), mark_(new QLabel), text_(new QLabel) {
    setObjectName(QStringLiteral("welcome"));
    setAttribute(Qt::WA_StyledBackground);
    mark_->setAlignment(Qt::AlignCenter);
    text_->setAlignment(Qt::AlignCenter);
    text_->setWordWrap(true);
    auto* make = new QPushButton(tr("Make a notebook"));
    make->setProperty("primary", true);
    auto* bring = new QPushButton(tr("Import ink, pictures or PDF"));
    bring->setProperty("secondary", true);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    buttons->addWidget(make);
    buttons->addSpacing(8);
    buttons->addWidget(bring);
    buttons->addStretch();
    auto* column = new QVBoxLayout(this);
    column->addStretch(2);
    column->addWidget(mark_);
    column->addWidget(text_);
    column->addSpacing(18);
    column->addLayout(buttons);
    column->addStretch(3);
    connect(make, &QPushButton::clicked, this, &Welcome::notebook_wanted);
    connect(bring, &QPushButton::clicked, this, &Welcome::import_wanted);
}

void Welcome::restyle() {
    const Theme& t = theme();
    setStyleSheet(QStringLiteral("#welcome { background: %1; }").arg(t.desk.name()));
    mark_->setPixmap(icon(QStringLiteral("fern")).pixmap(48, 48, QIcon::Normal, QIcon::On));
    text_->setText(
        tr("<p style=\"font-family:'%1'; font-size:26px; font-weight:600; color:%2\">No notebooks yet</p>"
           "<p style=\"font-size:14px; color:%3\">A notebook's pages have two leaves: on the ink leaf you write,<br>"
           "on the text leaf beside it stands what it says, ready to be found and taken away.</p>")
            .arg(kTextFace, t.text.name(), t.quiet_text.name()));
}

}  // namespace fernleaf
