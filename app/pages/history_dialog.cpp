#include "pages/history_dialog.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QLocale>
#include <QPixmap>
#include <QPointer>
#include <QVBoxLayout>

#include "look/dialog_parts.h"

namespace fernleaf {
namespace {

constexpr QSize kPicturePx(330, 460);
constexpr int kSittingsPx = 210;
constexpr int64_t kSittingGapMs = 1'200'000;  // who comes back after 20 minutes sits down anew

QString time_of(int64_t ms) {
    const QLocale locale;
    const QString format = locale.timeFormat(QLocale::ShortFormat).remove(QStringLiteral(":ss"));
    return locale.toString(QDateTime::fromMSecsSinceEpoch(ms).time(), format);
}

QString day_of(int64_t ms) {
    return QLocale().toString(QDateTime::fromMSecsSinceEpoch(ms).date(), QLocale::ShortFormat);
}

}  // namespace

HistoryDialog::HistoryDialog(Session& session, QWidget* parent) : QDialog(parent), session_(session) {
    setWindowTitle(tr("History"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("History of this page")));
    auto* row = new QHBoxLayout;
    row->setSpacing(16);
    sittings_ = new QListWidget;
    sittings_->setFixedWidth(kSittingsPx);
    sittings_->setAccessibleName(tr("When it was written on"));
    row->addWidget(sittings_);
    auto* side = new QVBoxLayout;
    picture_ = new QLabel;
    picture_->setFixedSize(kPicturePx);
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setStyleSheet(QStringLiteral("border: 1px solid %1").arg(theme().line.name()));
    picture_->setAccessibleName(tr("The page then"));
    side->addWidget(picture_);
    strip_ = new QSlider(Qt::Horizontal);
    strip_->setAccessibleName(tr("Strip of time"));
    strip_->setMinimumHeight(26);
    side->addWidget(strip_);
    says_ = remark({});
    says_->setWordWrap(false);
    side->addWidget(says_);
    row->addLayout(side);
    column->addLayout(row);
    auto* foot = new QHBoxLayout;
    copy_ = new QPushButton(tr("Copy to a new page"));
    auto* close = new QPushButton(tr("Close"));
    for (QPushButton* b : {copy_, close}) {
        b->setProperty("secondary", true);
        b->setAutoDefault(false);
    }
    restore_ = new QPushButton(tr("Restore"));
    restore_->setProperty("primary", true);
    foot->addWidget(copy_);
    foot->addStretch();
    foot->addWidget(close);
    foot->addWidget(restore_);
    column->addLayout(foot);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(strip_, &QSlider::valueChanged, this, &HistoryDialog::show_state);
    connect(sittings_, &QListWidget::currentRowChanged, this, [this](int at) {
        if (at >= 0) strip_->setValue(sittings_->item(at)->data(Qt::UserRole).toInt());
    });
    connect(restore_, &QPushButton::clicked, this, [this] {
        session_.history().restore(chosen_edit());
        accept();
    });
    connect(copy_, &QPushButton::clicked, this, [this] {
        session_.history().copy_to_new_page(chosen_edit());
        accept();
    });
    show_history({});
    session_.history().find([self = QPointer(this)](const std::vector<PageMoment>& moments) {
        if (self) self->show_history(moments);
    });
}

void HistoryDialog::show_history(const std::vector<PageMoment>& moments) {
    moments_ = moments;
    sittings_->clear();
    // The last sitting first; each leads to how the page was at its end.
    for (size_t end = moments.size(); end > 0;) {
        size_t begin = end - 1;
        while (begin > 0 && moments[begin].made_ms - moments[begin - 1].made_ms < kSittingGapMs) --begin;
        const QString from = time_of(moments[begin].made_ms), to = time_of(moments[end - 1].made_ms);
        auto* item = new QListWidgetItem(QStringLiteral("%1\n%2").arg(day_of(moments[begin].made_ms),
                                                                      from == to ? from : tr("%1 to %2").arg(from, to)),
                                         sittings_);
        item->setData(Qt::UserRole, static_cast<int>(end));
        end = begin;
    }
    strip_->setRange(0, static_cast<int>(moments.size()));
    strip_->setValue(strip_->maximum());
    show_state();
}

int64_t HistoryDialog::chosen_edit() const {
    return strip_->value() == 0 ? 0 : moments_[static_cast<size_t>(strip_->value() - 1)].edit;
}

void HistoryDialog::show_state() {
    const bool some = !moments_.empty(), earlier = strip_->value() < strip_->maximum();
    const bool may = !session_.read_only() && !session_.document().notebook().archived;
    strip_->setEnabled(some);
    restore_->setEnabled(earlier && may);
    copy_->setEnabled(some && may);
    if (!some) return says_->setText(tr("This page has not been changed yet."));
    if (strip_->value() == 0) {
        says_->setText(tr("Before the first change"));
    } else {
        const PageMoment& moment = moments_[static_cast<size_t>(strip_->value() - 1)];
        says_->setText(tr("%1, %2 · step %3 of %4")
                           .arg(day_of(moment.made_ms), time_of(moment.made_ms))
                           .arg(strip_->value())
                           .arg(strip_->maximum()));
    }
    session_.history().draw(chosen_edit(), kPicturePx,
                            [self = QPointer(this), at = strip_->value()](const QImage& image) {
                                if (self && self->strip_->value() == at)
                                    self->picture_->setPixmap(QPixmap::fromImage(image));
                            });
}

}  // namespace fernleaf
