// What type on the page is set in: the bar above a block of text that is being written. UI thread only.
#pragma once

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QToolButton>

#include "leaves/leaf_card.h"
#include "tools/text_editor.h"

namespace fernleaf {

class ToolTray;

class TextBar : public LeafCard {
    Q_OBJECT

public:
    TextBar(TextEditor& editor, const ToolTray& tray, QWidget* leaf);
    void restyle();

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    QToolButton* add(const QString& icon_name, const QString& tip, bool switchable);
    void place();
    void show_style();
    void offer_styles();
    void offer_colours(QToolButton* below, bool none, const std::function<void(std::optional<uint32_t>)>& take);
    void offer_lists();
    void offer_alignments();

    TextEditor& editor_;
    const ToolTray& tray_;
    QHBoxLayout* row_;
    QToolButton* styles_;
    QComboBox* family_;
    QDoubleSpinBox* size_;
    QToolButton *bold_, *italic_, *underline_, *strike_, *colour_, *highlight_, *list_, *align_, *fill_;
    std::vector<QToolButton*> buttons_;
};

}  // namespace fernleaf
