// From ink to type and back.
#pragma once

#include <QObject>
#include <QString>
#include <QTimer>
#include <optional>
#include <string>
#include <vector>

#include "desk/desk.h"

namespace fernleaf {

enum class TypePlace { in_place, beside, clipboard };

// What is to be set in type: ink of the open page (none: all of it), where, and read in which language (empty: the
// notebook's).
struct TypeWish {
    TypePlace place = TypePlace::in_place;
    std::vector<StrokeId> ink = {};
    std::string language = {};
    bool by_itself = false;  // nobody asked for it just now: that nothing was found is not told
};

// UI thread only, but for what is said to run on the reader's.
class TypesettingDesk : public Desk {
    Q_OBJECT

public:
    explicit TypesettingDesk(const DeskParts& parts, QObject* parent = nullptr);

    // When ink is set in type that had been edited as type before, choice_needed() asks which version is wanted.
    void set_in_type(const TypeWish& wish);
    void choose(bool as_edited);
    void set_notebook_in_type();
    // Whether what is written from now on is set in type once the pen has been up for a while.
    void set_while_writing(bool sets) { while_writing_ = sets; }
    // What the open page says, to the clipboard, in rows and cells: a form's labels and answers.
    void copy_table();
    // Type and fair shapes of the open page (none: all) give way to the ink they were made from.
    void back_to_ink(const std::vector<ElementId>& elements);

signals:
    void set(const std::vector<TextId>& blocks);
    void choice_needed(const QString& edited, const QString& read);
    void page_wanted(PageId page);

private:
    struct Versions {
        TypeWish wish;
        PageId page = 0;
        int edition = 0;
        Edit as_read, as_edited;
    };
    Result<Edit> page_in_type(PageId id, const CancelToken& cancel);

    void set_what_was_written();

    std::optional<Versions> versions_;
    bool while_writing_ = false;
    std::vector<StrokeId> written_;  // to be set
    QTimer pause_;                   // until the pen has been up for a while
};

}  // namespace fernleaf
