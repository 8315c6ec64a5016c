// Menus that open below the button that offers them. UI thread only.
#pragma once

#include <QMenu>
#include <QWidget>
#include <functional>
#include <initializer_list>
#include <utility>

namespace fernleaf {

inline void show_below(QMenu& menu, const QWidget& button) {
    menu.exec(button.mapToGlobal(QPoint(0, button.height() + 4)));
}

// Values of which one holds now.
template <typename Value>
void offer(const QWidget& button, std::initializer_list<std::pair<QString, Value>> values, Value now,
           const std::function<void(Value)>& take) {
    QMenu menu;
    for (const auto& [name, value] : values) {
        QAction* action = menu.addAction(name, &menu, [&take, value = value] { take(value); });
        action->setCheckable(true);
        action->setChecked(value == now);
    }
    show_below(menu, button);
}

}  // namespace fernleaf
