// Word lists and hands on behalf of the window: keeps examples, lets the reader learn from them beside other work, and
// says when pages are to be read anew.
//
// Everything runs on a patient thread of its own, in order, and answers on the UI thread.
#pragma once

#include <QObject>
#include <QString>
#include <QStringList>
#include <functional>
#include <memory>
#include <vector>

#include "base/cancel.h"
#include "desk/desk.h"
#include "store/library.h"

namespace fernleaf {

class Reader;
struct Example;

// UI thread only. What goes wrong is told as a problem.
class TeachingDesk : public Desk {
    Q_OBJECT

public:
    explicit TeachingDesk(const DeskParts& parts, QObject* parent = nullptr);
    ~TeachingDesk() override;  // drops what is being learnt; examples are kept on disk before

    // The reader to teach; none yet, or none at all, while its data is missing.
    void set_reader(std::shared_ptr<const Reader> reader);
    bool can_teach() const { return reader_ != nullptr; }

    // Keeps examples and, when enough new ones have gathered, learns from them.
    void keep(HandId hand, std::vector<Example> examples);
    void teach(HandId hand);
    void reset(HandId hand);
    void add_hand(const QString& name);
    void rename_hand(HandId hand, const QString& name);
    void save_hand_to(HandId hand, const QString& path);
    void load_hand_from(HandId hand, const QString& path);
    void list_hands(std::function<void(std::vector<HandInfo>)> then);

    void list_words(NotebookId notebook, std::function<void(QStringList)> then);
    void set_words(NotebookId notebook, const QStringList& words);

    void wait_idle() { learning_->wait_idle(); }  // for tests

signals:
    void hands_changed();
    // Pages are read otherwise from now on: of every notebook with this hand, or (hand 0) with these words.
    void reading_outdated();

private:
    void tell(const Status& status);

    std::shared_ptr<const Reader> reader_;
    CancelSource cancel_;
    std::unique_ptr<Worker> learning_;
};

// A word list as text: one word a line. Words twice and blank lines are left out.
QStringList words_of(const QString& text);

}  // namespace fernleaf
