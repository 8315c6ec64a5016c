#include "exports/bundle_dialog.h"

#include <QFormLayout>

#include "look/dialog_parts.h"
#include "store/sealing.h"

namespace fernleaf {

QString BundleDialog::notebook_title(Session& session) {
    const auto& sheaf = session.document().sheaf();
    return QString::fromStdString(sheaf ? sheaf->title : session.document().notebook().title);
}

BundleDialog::BundleDialog(Session& session, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Bundle"));
    setMinimumWidth(480);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Bundle “%1”").arg(notebook_title(session))));
    column->addWidget(
        remark(tr("One file with everything in the notebook: ink, pictures, corrections, tags and the "
                  "sound that goes with it. Import brings it back on any computer.")));
    lock_ = new QCheckBox(tr("Lock it with a passphrase"));
    column->addWidget(lock_);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(8);
    const auto field = [](const QString& name) {
        auto* out = new QLineEdit;
        out->setEchoMode(QLineEdit::Password);
        out->setMaxLength(static_cast<int>(kLongestPassphrase) / 4);
        out->setAccessibleName(name);
        out->setEnabled(false);
        return out;
    };
    passphrase_ = field(tr("Passphrase"));
    again_ = field(tr("Passphrase again"));
    form->addRow(tr("Passphrase"), passphrase_);
    form->addRow(tr("Repeat"), again_);
    column->addLayout(form);
    problem_ = new QLabel;
    problem_->setWordWrap(true);
    problem_->setStyleSheet(QStringLiteral("color: %1").arg(theme().unsure.name()));
    problem_->hide();
    column->addWidget(problem_);
    column->addWidget(remark(tr("Without its passphrase a locked bundle can’t be opened by anyone.")));
    column->addStretch();
    decide_ = deciding_foot(*this, *column, tr("Choose a file …"));
    connect(decide_, &QPushButton::clicked, this, &BundleDialog::decide);
    connect(lock_, &QCheckBox::toggled, this, [this](bool on) {
        passphrase_->setEnabled(on);
        again_->setEnabled(on);
        problem_->hide();
        if (on) passphrase_->setFocus();
    });
    for (QLineEdit* edit : {passphrase_, again_}) connect(edit, &QLineEdit::textEdited, problem_, &QLabel::hide);
}

void BundleDialog::decide() {
    const QString typed = lock_->isChecked() ? passphrase_->text() : QString();
    const QString problem = lock_->isChecked() && typed.isEmpty() ? tr("Type a passphrase.")
                            : lock_->isChecked() && typed != again_->text()
                                ? tr("The two passphrases differ. Type them again.")
                                : QString();
    if (!problem.isEmpty()) {
        problem_->setText(problem);
        problem_->show();
        resize(width(), layout()->heightForWidth(width()));
        return passphrase_->setFocus();
    }
    accept();
    emit decided(typed);
}

}  // namespace fernleaf
