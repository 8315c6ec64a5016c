// What dialogs are made of: headings, quiet remarks, a foot that closes them. UI thread only.
#pragma once

#include <QBoxLayout>
#include <QDialog>
#include <QLabel>
#include <QPushButton>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {

inline QLabel* heading(const QString& text, const QString& face, int px) {
    auto* label = new QLabel(text);
    QFont font(face);
    font.setPixelSize(px);
    font.setWeight(QFont::DemiBold);
    label->setFont(font);
    return label;
}
inline QLabel* dialog_heading(const QString& text) { return heading(text, kTextFace, 20); }

inline QLabel* remark(const QString& text) {
    auto* label = new QLabel(text);
    label->setWordWrap(true);
    label->setStyleSheet(QStringLiteral("color: %1").arg(theme().quiet_text.name()));
    return label;
}

// Cancel, and the button that does what the dialog asks about and that Enter presses; below what a column holds.
inline QPushButton* deciding_foot(QDialog& dialog, QBoxLayout& column, const QString& does) {
    auto* foot = new QHBoxLayout;
    foot->addStretch();
    auto* cancel = new QPushButton(QDialog::tr("Cancel"));
    cancel->setProperty("secondary", true);
    auto* decide = new QPushButton(does);
    decide->setProperty("primary", true);
    decide->setDefault(true);
    foot->addWidget(cancel);
    foot->addWidget(decide);
    column.addLayout(foot);
    QObject::connect(cancel, &QPushButton::clicked, &dialog, &QDialog::reject);
    return decide;
}

// A remark at the left and a button that closes at the right.
inline QHBoxLayout* closing_foot(QDialog& dialog, QLabel* says) {
    auto* foot = new QHBoxLayout;
    foot->addWidget(says, 1);
    auto* close = new QPushButton(QDialog::tr("Close"));
    close->setProperty("primary", true);
    close->setAutoDefault(false);
    foot->addWidget(close);
    QObject::connect(close, &QPushButton::clicked, &dialog, &QDialog::accept);
    return foot;
}

}  // namespace fernleaf
