#include "pages/paper_dialog.h"

#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

#include "look/dialog_parts.h"
#include "look/theme.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

// The sheet, as large as the room allows.
class SheetPreview : public QWidget {
public:
    explicit SheetPreview(const SheetForm& form) : form_(form) { setFixedSize(210, 290); }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        const Sheet sheet = form_.sheet();
        const double height = sheet.endless ? sheet.width_mm * 1.5 : sheet.height_mm;
        const double scale = std::min((width() - 8) / sheet.width_mm, (this->height() - 8) / height);
        painter.translate((width() - sheet.width_mm * scale) / 2, 4);
        painter.scale(scale, scale);
        const QRectF shown(0, 0, sheet.width_mm, height);
        painter.setPen(QPen(theme().line, 1.5 / scale));
        painter.drawRect(shown);
        painter.setClipRect(shown);
        paint_paper(painter, sheet, scheme_on(theme().page, sheet.colour));
    }

private:
    const SheetForm& form_;
};

}  // namespace

PaperDialog::PaperDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("Paper of this page"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 18);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Paper of this page")));
    column->addWidget(remark(tr("Nothing on the page moves when its paper changes.")));
    auto* row = new QHBoxLayout;
    row->setSpacing(22);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(10);
    form_ = new SheetForm(*form, session_.page()->info, this);
    form_->offer_picture();
    row->addLayout(form, 1);
    preview_ = new SheetPreview(*form_);
    row->addWidget(preview_, 0, Qt::AlignTop);
    column->addLayout(row);
    new_pages_ = new QCheckBox(tr("Also for pages added to this notebook from now on"));
    column->addWidget(new_pages_);
    QPushButton* take = deciding_foot(*this, *column, tr("Change the paper"));
    connect(take, &QPushButton::clicked, this, &PaperDialog::take);
    connect(form_, &SheetForm::changed, preview_, qOverload<>(&QWidget::update));
    connect(form_, &SheetForm::picture_wanted, this, [this] {
        const QString path =
            QFileDialog::getOpenFileName(this, tr("A picture for the paper"), QSettings().value("folder").toString(),
                                         tr("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp *.pdf)"));
        if (path.isEmpty())
            form_->set_picture({});
        else
            session_.pictures().keep_picture(path);
    });
    connect(&session_.pictures(), &PictureDesk::picture_kept, form_, &SheetForm::set_picture);
}

void PaperDialog::take() {
    Sheet sheet = form_->sheet();
    session_.editing().change_sheet(sheet);
    if (new_pages_->isChecked()) {
        Notebook notebook = session_.document().notebook();
        if (sheet.endless) sheet.height_mm = std::min(sheet.height_mm, 1.5 * sheet.width_mm);
        notebook.sheet = sheet;
        session_.model().change_notebook(notebook);
    }
    accept();
}

}  // namespace fernleaf
