// The proof marks one can edit with: how each is drawn, what it does, and whether it is heeded. UI thread only.
#pragma once

#include <QDialog>

#include "leaves/tool_tray.h"

namespace fernleaf {

class ProofSheet : public QDialog {
    Q_OBJECT

public:
    explicit ProofSheet(ToolTray& tray, QWidget* parent = nullptr);
};

}  // namespace fernleaf
