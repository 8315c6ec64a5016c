// All that was written, by days: for each a row that names it, then one for each page written on that day. What stands
// in a day's rows is looked up when one of them is shown. UI thread only.
#pragma once

#include <QAbstractListModel>
#include <map>
#include <set>
#include <vector>

#include "days/snippets.h"
#include "desk/session.h"

namespace fernleaf {

class DaysModel : public QAbstractListModel {
    Q_OBJECT

public:
    explicit DaysModel(Session& session, QObject* parent = nullptr);

    int rowCount(const QModelIndex& parent = {}) const override { return parent.isValid() ? 0 : rows_; }
    QVariant data(const QModelIndex& index, int role) const override;

    void refresh(const DayFilter& filter);
    const std::vector<WrittenDay>& days() const { return days_; }
    bool is_day(const QModelIndex& index) const { return place_of(index.row()).second < 0; }
    size_t day_at(const QModelIndex& index) const { return place_of(index.row()).first; }  // in days()
    int row_of_day(size_t day) const { return begins_[day]; }
    // Null for a day's own row, and until it is looked up.
    const DayPage* page_at(const QModelIndex& index) const;
    const Snippet* snippet_at(const QModelIndex& index) const;
    bool turned(const QModelIndex& index) const;  // shows its words
    void turn(const QModelIndex& index);
    // What is written on it can be corrected: the lines of words, as they are shown.
    static std::vector<ReadLine> correctable(const Snippet& snippet);
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    void correct(PageId page, const std::vector<ReadLine>& lines, const QString& said);  // a line each
    void restyle();

signals:
    void refreshed();

private:
    std::pair<size_t, int> place_of(int row) const;  // the day, and which of its pages; -1: the day itself
    void look_up(size_t day) const;

    Session& session_;
    std::vector<WrittenDay> days_;
    std::vector<int> begins_;  // of each day's rows
    int rows_ = 0;
    int asked_ = 0, filled_ = 0;  // refreshes begun, and the one that is shown
    DayFilter filter_;
    mutable std::map<size_t, std::vector<DayPage>> pages_;
    mutable std::set<size_t> looking_up_;
    std::set<std::pair<PageId, int64_t>> turned_;
    std::unique_ptr<Snippets> snippets_;
};

}  // namespace fernleaf
