// The line between the running head and the leaves: the page's title, to be changed in place, and its tags.
// UI thread only.
#pragma once

#include <QAbstractButton>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QToolButton>

#include "desk/session.h"

namespace fernleaf {

// A tag as a button.
class TagSlip : public QAbstractButton {
    Q_OBJECT

public:
    TagSlip(const Tag& tag, bool of_notebook, QWidget* parent = nullptr);
    const Tag& tag() const { return tag_; }
    bool of_notebook() const { return of_notebook_; }
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    Tag tag_;
    bool of_notebook_;
};

class PageLine : public QWidget {
    Q_OBJECT

public:
    explicit PageLine(Session& session, QWidget* parent = nullptr);

    void ask_for_tag();
    QLineEdit* title() const { return title_; }
    QLineEdit* tag_field() const { return field_; }
    std::vector<TagSlip*> slips() const { return slips_; }
    // Tags that are written on the page and are not its own yet, offered.
    std::vector<QToolButton*> offered() const { return offered_; }
    void restyle();

signals:
    void tag_wanted(const QString& name);  // pages with it are to be found
    void tags_wanted();                    // to be renamed, coloured, removed
    void left();                           // the keyboard is to go to the page

protected:
    bool eventFilter(QObject* object, QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void show_page();
    void show_tags();
    void offer_written();
    void keep_title();
    void add_typed();
    void close_field();
    void offer(TagSlip* slip);
    void fit();

    Session& session_;
    QHBoxLayout* row_;
    QToolButton* favourite_;
    QLineEdit* title_;
    QWidget* holder_;
    QLineEdit* field_;
    QToolButton* add_;
    QToolButton* more_;
    std::vector<TagSlip*> slips_;
    std::vector<QToolButton*> offered_;
};

}  // namespace fernleaf
