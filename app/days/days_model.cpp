#include "days/days_model.h"

#include <QDate>
#include <QLocale>
#include <algorithm>

namespace fernleaf {

DaysModel::DaysModel(Session& session, QObject* parent)
    : QAbstractListModel(parent), session_(session), snippets_(std::make_unique<Snippets>(session.library())) {
    connect(snippets_.get(), &Snippets::ready, this, [this](PageId page, int64_t day) {
        for (const auto& [at, pages] : pages_) {
            if (days_[at].day != day) continue;
            const auto found = std::ranges::find(pages, page, &DayPage::page);
            if (found == pages.end()) return;
            const QModelIndex row = index(begins_[at] + 1 + static_cast<int>(found - pages.begin()));
            emit dataChanged(row, row);
        }
    });
    connect(&session_.correcting(), &CorrectionDesk::corrected, this, [this] {
        snippets_->outdated();
        if (rows_ > 0) emit dataChanged(index(0), index(rows_ - 1));
    });
}

void DaysModel::refresh(const DayFilter& filter) {
    session_.model().days(filter, [this, filter, asked = ++asked_](const std::vector<WrittenDay>& days) {
        if (asked != asked_) return;
        snippets_->outdated();  // pages may have been written on, by pens too
        beginResetModel();
        filled_ = asked;
        filter_ = filter;
        days_ = days;
        begins_.clear(), pages_.clear(), looking_up_.clear();
        rows_ = 0;
        for (const WrittenDay& day : days_) {
            begins_.push_back(rows_);
            rows_ += 1 + static_cast<int>(day.pages);
        }
        endResetModel();
        emit refreshed();
    });
}

std::pair<size_t, int> DaysModel::place_of(int row) const {
    const auto next = std::ranges::upper_bound(begins_, row);
    const auto day = static_cast<size_t>(next - begins_.begin()) - 1;
    return {day, row - begins_[day] - 1};
}

void DaysModel::look_up(size_t day) const {
    if (!looking_up_.insert(day).second) return;
    session_.model().written_on(
        days_[day].day, filter_, [this, day, filled = filled_](const std::vector<DayPage>& pages) {
            if (filled != filled_) return;
            pages_[day] = pages;
            auto* self = const_cast<DaysModel*>(this);
            emit self->dataChanged(index(begins_[day]), index(begins_[day] + static_cast<int>(days_[day].pages)));
        });
}

const DayPage* DaysModel::page_at(const QModelIndex& index) const {
    if (!index.isValid()) return nullptr;
    const auto [day, page] = place_of(index.row());
    if (page < 0) return nullptr;
    const auto found = pages_.find(day);
    if (found == pages_.end()) {
        look_up(day);
        return nullptr;
    }
    return static_cast<size_t>(page) < found->second.size() ? &found->second[static_cast<size_t>(page)] : nullptr;
}

const Snippet* DaysModel::snippet_at(const QModelIndex& index) const {
    const DayPage* page = page_at(index);
    return page ? snippets_->of(page->page, days_[day_at(index)].day) : nullptr;
}

bool DaysModel::turned(const QModelIndex& index) const {
    const DayPage* page = page_at(index);
    return page && turned_.contains({page->page, days_[day_at(index)].day});
}

void DaysModel::turn(const QModelIndex& index) {
    const DayPage* page = page_at(index);
    if (!page) return;
    const std::pair key(page->page, days_[day_at(index)].day);
    if (turned_.erase(key) == 0) turned_.insert(key);
    emit dataChanged(index, index);
}

std::vector<ReadLine> DaysModel::correctable(const Snippet& snippet) {
    std::vector<ReadLine> out;
    for (const ReadLine& line : snippet.read.lines)
        if (line.kind != RegionKind::math) out.push_back(line);
    return out;
}

Qt::ItemFlags DaysModel::flags(const QModelIndex& index) const {
    const Qt::ItemFlags usual = QAbstractListModel::flags(index);
    const Snippet* snippet = session_.read_only() ? nullptr : snippet_at(index);
    return snippet && !correctable(*snippet).empty() ? usual | Qt::ItemIsEditable : usual;
}

void DaysModel::correct(PageId page, const std::vector<ReadLine>& lines, const QString& said) {
    session_.correcting().correct_lines(page, lines, said.split(QLatin1Char('\n')));
}

void DaysModel::restyle() {
    snippets_->forget();
    if (rows_ > 0) emit dataChanged(index(0), index(rows_ - 1));
}

QVariant DaysModel::data(const QModelIndex& index, int role) const {
    if (role != Qt::AccessibleTextRole && role != Qt::DisplayRole) return {};
    if (is_day(index))
        return QLocale().toString(QDate(1970, 1, 1).addDays(days_[day_at(index)].day), QLocale::LongFormat);
    const DayPage* page = page_at(index);
    if (!page) return {};
    const Snippet* snippet = snippet_at(index);
    return tr("%1, page %2: %3")
        .arg(QString::fromStdString(page->notebook_title))
        .arg(page->page_number)
        .arg(snippet ? snippet->text : QString());
}

}  // namespace fernleaf
