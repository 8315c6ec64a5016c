#include "leaves/table_menu.h"

#include <QCoreApplication>

namespace fernleaf {
namespace {

class TableMenu {
    Q_DECLARE_TR_FUNCTIONS(TableMenu)
};

}  // namespace

void offer_table(QMenu& menu, ChosenTable& table) {
    if (!table.table()) return;
    const auto add = [&](QMenu& to, const QString& name, bool enabled, const std::function<void()>& act) {
        to.addAction(name, &table, act)->setEnabled(enabled);
    };
    add(menu, TableMenu::tr("Add a row above"), true, [&table] { table.insert(Lines::rows, false); });
    add(menu, TableMenu::tr("Add a row below"), true, [&table] { table.insert(Lines::rows, true); });
    add(menu, TableMenu::tr("Add a column to the left"), true, [&table] { table.insert(Lines::columns, false); });
    add(menu, TableMenu::tr("Add a column to the right"), true, [&table] { table.insert(Lines::columns, true); });
    menu.addSeparator();
    add(menu, TableMenu::tr("Move row up"), table.may_move(Lines::rows, -1), [&table] { table.move(Lines::rows, -1); });
    add(menu, TableMenu::tr("Move row down"), table.may_move(Lines::rows, 1), [&table] { table.move(Lines::rows, 1); });
    add(menu, TableMenu::tr("Move column left"), table.may_move(Lines::columns, -1),
        [&table] { table.move(Lines::columns, -1); });
    add(menu, TableMenu::tr("Move column right"), table.may_move(Lines::columns, 1),
        [&table] { table.move(Lines::columns, 1); });
    menu.addSeparator();
    add(menu, TableMenu::tr("Delete row"), table.may_remove(Lines::rows), [&table] { table.remove(Lines::rows); });
    add(menu, TableMenu::tr("Delete column"), table.may_remove(Lines::columns),
        [&table] { table.remove(Lines::columns); });
    menu.addSeparator();
    add(menu, TableMenu::tr("Sort by this column, ascending"), true, [&table] { table.sort(false); });
    add(menu, TableMenu::tr("Sort by this column, descending"), true, [&table] { table.sort(true); });
    menu.addSeparator();
    QAction* head = menu.addAction(TableMenu::tr("Header row"), &table,
                                   [&table](bool on) { table.change([on](FairTable& t) { t.head = on; }); });
    head->setCheckable(true);
    head->setChecked(table.table()->head);
    QMenu* align = menu.addMenu(TableMenu::tr("Align column"));
    for (const auto& [how, name] :
         {std::pair(Align::left, TableMenu::tr("Left")), std::pair(Align::centre, TableMenu::tr("Centre")),
          std::pair(Align::right, TableMenu::tr("Right"))})
        add(*align, name, true, [&table, how = how] { table.align(how); });
    add(menu, TableMenu::tr("Make columns the same width"), true, [&table] { table.make_even(Lines::columns); });
    add(menu, TableMenu::tr("Make rows the same height"), true, [&table] { table.make_even(Lines::rows); });
    QMenu* rules = menu.addMenu(TableMenu::tr("Rules"));
    for (const auto& [form, name] :
         {std::pair(BorderForm::solid, TableMenu::tr("Solid")), std::pair(BorderForm::dashed, TableMenu::tr("Dashed")),
          std::pair(BorderForm::dotted, TableMenu::tr("Dotted"))}) {
        QAction* action = rules->addAction(
            name, &table, [&table, form = form] { table.change([form](FairTable& t) { t.form = form; }); });
        action->setCheckable(true);
        action->setChecked(table.table()->form == form);
    }
}

}  // namespace fernleaf
