// The card beside a chosen formula, or one of its signs: what else it may be, a field to say it oneself, and what can
// be done with it. UI thread only.
#pragma once

#include <QMenu>

#include "leaves/correction_card.h"
#include "transcript/reading.h"

namespace fernleaf {

class FormulaCard : public CorrectionCard {
    Q_OBJECT

public:
    explicit FormulaCard(QWidget* parent);

    // line: of a formula. decimal_comma: how a formula that is typed is understood.
    void show_formula(const ReadLine& line, bool read_only, bool decimal_comma);
    void show_sign(const ReadWord& sign, bool read_only);
    // What the formula was made into on wish.
    void show_reworked(const QString& result);
    // Filled when they are about to be shown.
    QMenu* copies() const { return copy_->menu(); }
    QMenu* workings() const { return work_out_->menu(); }
    QMenu* plots() const { return plot_->menu(); }
    const QString& reworked() const { return reworked_; }

signals:
    void whole_wanted();  // the formula that a sign is of

protected:
    QString meant(const QString& typed) const override;

private:
    void look_at_typed();

    QLabel* typed_;  // what stands in the field, set in type, or what is wrong with it
    QWidget* row_;
    QPushButton *copy_, *work_out_, *plot_, *whole_;
    QLabel* result_;
    QString reworked_;
    bool of_sign_ = false, decimal_comma_ = false;
    QString before_;  // what stood in the field at first
};

// A formula in type, as a picture; null where it is none.
QPixmap formula_picture(const std::string& latex, int px, const QColor& colour, double device_pixel_ratio,
                        int most_wide_px);

}  // namespace fernleaf
