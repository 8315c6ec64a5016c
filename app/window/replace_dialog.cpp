#include "window/replace_dialog.h"

#include <QFormLayout>

#include "look/dialog_parts.h"

namespace fernleaf {

ReplaceDialog::ReplaceDialog(Session& session, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Replace"));
    setMinimumWidth(420);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Replace in typed text")));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(8);
    find_ = new QLineEdit;
    by_ = new QLineEdit;
    form->addRow(tr("Find"), find_);
    form->addRow(tr("Replace with"), by_);
    column->addLayout(form);
    whole_ = new QCheckBox(tr("In the whole notebook"));
    column->addWidget(whole_);
    column->addWidget(remark(tr("Capital letters must match. Handwriting is not changed.")));
    column->addStretch();
    decide_ = deciding_foot(*this, *column, tr("Replace"));
    decide_->setEnabled(false);
    connect(find_, &QLineEdit::textChanged, this,
            [this](const QString& text) { decide_->setEnabled(!text.isEmpty()); });
    connect(decide_, &QPushButton::clicked, this, [this, &session] {
        if (whole_->isChecked())
            session.replacing().replace_in_notebook(find_->text(), by_->text());
        else
            session.replacing().replace_on_page(find_->text(), by_->text());
        accept();
    });
}

}  // namespace fernleaf
