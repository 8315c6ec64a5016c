#include "window/library_opening.h"

#include <QCoreApplication>
#include <QEventLoop>
#include <QProgressBar>

#include "desk/worker.h"
#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

class OpeningDialog : public QDialog {
    Q_DECLARE_TR_FUNCTIONS(OpeningDialog)

public:
    OpeningDialog() : bar_(new QProgressBar) {
        setObjectName(QStringLiteral("openingLibrary"));
        setWindowTitle(QStringLiteral("Fernleaf"));
        setFixedWidth(440);
        setAttribute(Qt::WA_QuitOnClose, false);  // the program goes on, with a window or to say why not
        auto* column = new QVBoxLayout(this);
        column->setContentsMargins(24, 20, 24, 18);
        column->setSpacing(12);
        column->addWidget(dialog_heading(tr("Updating the library")));
        column->addWidget(
            remark(tr("It was made by an earlier Fernleaf. Until the update is complete, it stays as it was.")));
        bar_->setRange(0, 1000);
        bar_->setTextVisible(false);
        column->addWidget(bar_);
        auto* foot = new QHBoxLayout;
        foot->addStretch();
        auto* cancel = new QPushButton(tr("Cancel"));
        cancel->setProperty("secondary", true);
        foot->addWidget(cancel);
        column->addLayout(foot);
        connect(cancel, &QPushButton::clicked, this, &QDialog::reject);
    }
    void show_progress(double part) {
        bar_->setValue(qRound(part * bar_->maximum()));
        if (isHidden() && !stopped_) show();
    }

protected:
    void reject() override {
        stopped_ = true;  // what is under way ends in a moment
        QDialog::reject();
    }

private:
    QProgressBar* bar_;
    bool stopped_ = false;
};

}  // namespace

Result<std::unique_ptr<Library>> open_library(const std::filesystem::path& directory) {
    OpeningDialog dialog;
    CancelSource cancel;
    QObject::connect(&dialog, &QDialog::rejected, &dialog, [&] { cancel.cancel(); });
    Result<std::unique_ptr<Library>> opened = Error{};
    QEventLoop loop;
    Worker opening({});
    opening.ask(
        &loop,
        [&dialog, directory, token = cancel.token()] {
            const auto progress = [&dialog](double part) {
                QMetaObject::invokeMethod(
                    &dialog, [&dialog, part] { dialog.show_progress(part); }, Qt::QueuedConnection);
            };
            return Library::open(directory, progress, token);
        },
        [&](Result<std::unique_ptr<Library>>& result) {
            opened = std::move(result);
            loop.quit();
        });
    loop.exec();
    return opened;
}

}  // namespace fernleaf
