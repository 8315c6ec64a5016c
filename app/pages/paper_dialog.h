// Another paper for a page or for a whole notebook's new pages, seen beside the choices. UI thread only.
#pragma once

#include <QCheckBox>
#include <QDialog>

#include "desk/session.h"
#include "pages/sheet_form.h"

namespace fernleaf {

class PaperDialog : public QDialog {
    Q_OBJECT

public:
    explicit PaperDialog(Session& session, QWidget* parent = nullptr);

private:
    void take();

    Session& session_;
    SheetForm* form_;
    QWidget* preview_;
    QCheckBox* new_pages_;
};

}  // namespace fernleaf
