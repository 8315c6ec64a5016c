// The little tray that stands by what the lasso holds: what can be done with it. UI thread only.
#pragma once

#include <QHBoxLayout>
#include <QMenu>
#include <QToolButton>
#include <functional>

#include "leaves/ink_leaf.h"
#include "leaves/leaf_card.h"
#include "leaves/plot_card.h"

namespace fernleaf {

class ToolTray;

class SelectionBar : public LeafCard {
    Q_OBJECT

public:
    SelectionBar(Session& session, InkLeaf& leaf, const ToolTray& tray, const PageViewport& view);
    void restyle();

private:
    QToolButton* add(const QString& icon_name, const QString& tip);
    void offer_colours();
    void offer_type();
    void offer_paper();
    void offer_rules();
    void save_file();
    void offer(QToolButton* button, const std::function<void(QMenu&)>& fill);
    void place();
    void show_plot();
    void plot_table();

    Session& session_;
    InkLeaf& leaf_;
    const ToolTray& tray_;
    const PageViewport& view_;
    QHBoxLayout* row_;
    QToolButton *colour_, *thinner_, *thicker_, *type_, *fair_, *back_, *lock_, *crop_, *paper_, *rule_, *keep_file_,
        *shape_, *arrange_, *link_, *table_, *plot_;
    PlotCard* plot_card_;
    std::vector<QToolButton*> buttons_;
};

}  // namespace fernleaf
