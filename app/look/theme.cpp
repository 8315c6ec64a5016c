#include "look/theme.h"

#include <QApplication>
#include <QFile>
#include <QPainter>
#include <QPalette>
#include <QStyleFactory>
#include <QSvgRenderer>

// See render/fonts.cpp: a static library's resources have to be named.
static void init_icons() { Q_INIT_RESOURCE(icons); }

namespace fernleaf {
namespace {

Theme current = Theme::light();

QPixmap tinted(const QByteArray& svg, const QColor& colour, int side) {
    QByteArray coloured = svg;
    coloured.replace("stroke=\"#000\"", "stroke=\"" + colour.name().toLatin1() + "\"");
    QSvgRenderer renderer(coloured);
    QPixmap pixmap(side, side);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    renderer.render(&painter);
    return pixmap;
}

QString style_sheet(const Theme& t) {
    QString sheet = QStringLiteral(R"(
        QToolTip { background: %card; color: %text; border: 1px solid %line; padding: 4px 6px; }
        QLineEdit { background: %card; color: %text; border: 1px solid %line; border-radius: 6px; padding: 5px 8px;
                    selection-background-color: %act; selection-color: %onact; }
        QLineEdit:focus { border: 1px solid %act; }
        QToolButton, QPushButton { background: transparent; color: %text; border: 1px solid transparent; border-radius: 6px; padding: 4px 8px; }
        QToolButton:hover, QPushButton:hover { background: %chosen; }
        QToolButton:checked { background: %chosen; color: %act; }
        QToolButton:focus, QPushButton:focus { border: 1px solid %act; }
        QToolButton:disabled, QPushButton:disabled { color: %disabled; }
        QPushButton[primary="true"] { background: %act; color: %onact; padding: 7px 16px; font-weight: 600; }
        QPushButton[primary="true"]:hover { background: %acthover; }
        QPushButton[primary="true"]:disabled { background: %line; color: %disabled; }
        QPushButton::menu-indicator { image: url(:/icons/chevron.svg); width: 12px; subcontrol-position: right center; right: 8px; }
        QPushButton[secondary="true"] { border: 1px solid %line; padding: 7px 16px; }
        QComboBox { background: %card; color: %text; border: 1px solid %line; border-radius: 6px; padding: 5px 8px; }
        QComboBox::drop-down { border: none; width: 26px; }
        QComboBox::down-arrow { image: url(:/icons/chevron.svg); width: 14px; height: 14px; }
        QComboBox:focus { border: 1px solid %act; }
        QComboBox QAbstractItemView { background: %card; color: %text; selection-background-color: %chosen; selection-color: %text; }
        QAbstractSpinBox { background: %card; color: %text; border: 1px solid %line; border-radius: 6px; padding: 5px 8px;
                    selection-background-color: %act; selection-color: %onact; }
        QAbstractSpinBox:focus { border: 1px solid %act; }
        QAbstractSpinBox::up-button, QAbstractSpinBox::down-button { width: 18px; border: none; background: transparent; }
        QAbstractSpinBox::up-arrow { image: url(:/icons/chevron-up.svg); width: 10px; height: 10px; }
        QAbstractSpinBox::down-arrow { image: url(:/icons/chevron.svg); width: 10px; height: 10px; }
        QMenu { background: %card; color: %text; border: 1px solid %line; padding: 4px; }
        QMenu::item { padding: 5px 22px 5px 12px; border-radius: 4px; }
        QMenu::item:selected { background: %chosen; }
        QMenu::item:disabled { color: %disabled; }
        QDialog { background: %ground; }
        QLabel { color: %text; background: transparent; }
        QTabWidget::pane { border: none; border-top: 1px solid %line; }
        QTabBar { background: transparent; }
        QTabBar::tab { background: transparent; color: %quiet; border: none; border-bottom: 3px solid transparent; padding: 7px 2px; margin-right: 22px; }
        QTabBar::tab:selected { color: %act; border-bottom: 3px solid %act; font-weight: 600; }
        QTabBar::tab:hover { color: %text; }
        QTabBar::tab:focus { border-bottom: 3px dashed %act; }
        QListWidget, QTreeWidget, QPlainTextEdit { background: %card; color: %text; border: 1px solid %line; border-radius: 6px; padding: 4px;
                    selection-background-color: %act; selection-color: %onact; }
        QListWidget:focus, QTreeWidget:focus, QPlainTextEdit:focus { border: 1px solid %act; }
        QListWidget, QTreeWidget { outline: 0; }  /* the chosen row says where the keys are */
        QListWidget::item, QTreeWidget::item { color: %text; border-radius: 4px; padding: 4px; }
        QListWidget::item:hover, QListWidget::item:selected, QTreeWidget::item:hover, QTreeWidget::item:selected { background: %chosen; color: %text; }
        QListWidget::indicator { width: 14px; height: 14px; border: 1px solid %quiet; border-radius: 3px; background: %card; }
        QListWidget::indicator:checked { background: %act; border: 1px solid %act; image: url(:/icons/tick.svg); }
        QSlider::groove:horizontal { height: 4px; background: %line; border-radius: 2px; }
        QSlider::sub-page:horizontal { background: %act; border-radius: 2px; }
        QSlider::handle:horizontal { width: 14px; height: 14px; margin: -7px 0; background: %card; border: 2px solid %act; border-radius: 9px; }
        QSlider::handle:horizontal:focus { background: %chosen; }
        QProgressBar { background: %line; border: none; border-radius: 2px; max-height: 4px; }
        QProgressBar::chunk { background: %act; border-radius: 2px; }
        QScrollBar:vertical { background: transparent; width: 10px; margin: 0; }
        QScrollBar:horizontal { background: transparent; height: 10px; margin: 0; }
        QScrollBar::handle { background: %scroll; border-radius: 4px; min-height: 24px; min-width: 24px; margin: 1px; }
        QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page { background: none; width: 0; height: 0; }
        QSplitter::handle { background: transparent; }
    )");
    const QColor disabled = t.dark ? QColor(0x6B, 0x75, 0x78) : QColor(0xA5, 0xA3, 0x99);
    const std::pair<const char*, QColor> colours[] = {
        {"%card", t.card},
        {"%text", t.text},
        {"%line", t.line},
        {"%quiet", t.quiet_text},
        {"%acthover", t.act.lighter(112)},
        {"%act", t.act},
        {"%onact", t.on_act},
        {"%chosen", t.chosen},
        {"%disabled", disabled},
        {"%ground", t.ground},
        {"%scroll", t.dark ? QColor(0x4A, 0x55, 0x58) : QColor(0xC9, 0xC3, 0xB4)}};
    for (const auto& [name, colour] : colours) sheet.replace(QLatin1String(name), colour.name());
    return sheet;
}

}  // namespace

Theme Theme::light() {
    Theme t;
    t.desk = QColor(0xE9, 0xE4, 0xD8);
    t.ground = QColor(0xF3, 0xEF, 0xE5);
    t.card = QColor(0xFD, 0xFC, 0xF8);
    t.text = QColor(0x1E, 0x2A, 0x44);
    t.quiet_text = QColor(0x5E, 0x63, 0x6B);
    t.line = QColor(0xD8, 0xD1, 0xC1);
    t.act = QColor(0x2E, 0x6B, 0x4F);
    t.on_act = QColor(0xFD, 0xFC, 0xF8);
    t.unsure = QColor(0x8A, 0x3B, 0x6B);
    t.hit = QColor(0xEB, 0xCB, 0x6B);
    t.chosen = QColor(0xE1, 0xE7, 0xDA);
    t.page = light_page();
    return t;
}

Theme Theme::night() {
    Theme t;
    t.dark = true;
    t.desk = QColor(0x15, 0x1A, 0x1D);
    t.ground = QColor(0x1B, 0x21, 0x25);
    t.card = QColor(0x27, 0x2F, 0x33);
    t.text = QColor(0xE6, 0xE3, 0xD9);
    t.quiet_text = QColor(0xA3, 0xA9, 0xA6);
    t.line = QColor(0x38, 0x42, 0x46);
    t.act = QColor(0x7D, 0xC0, 0x9E);
    t.on_act = QColor(0x12, 0x1E, 0x18);
    t.unsure = QColor(0xD9, 0x8F, 0xBE);
    t.hit = QColor(0xB8, 0x94, 0x2F);
    t.chosen = QColor(0x2C, 0x3D, 0x36);
    t.page = dark_page();
    return t;
}

const Theme& theme() { return current; }

void use_theme(const Theme& t) {
    init_icons();
    current = t;
    QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    QPalette palette;
    palette.setColor(QPalette::Window, t.ground);
    palette.setColor(QPalette::Base, t.card);
    palette.setColor(QPalette::Button, t.ground);
    palette.setColor(QPalette::WindowText, t.text);
    palette.setColor(QPalette::Text, t.text);
    palette.setColor(QPalette::ButtonText, t.text);
    palette.setColor(QPalette::PlaceholderText, t.quiet_text);
    palette.setColor(QPalette::Highlight, t.act);
    palette.setColor(QPalette::HighlightedText, t.on_act);
    palette.setColor(QPalette::ToolTipBase, t.card);
    palette.setColor(QPalette::ToolTipText, t.text);
    QApplication::setPalette(palette);
    qApp->setStyleSheet(style_sheet(t));
}

QIcon icon(const QString& name) {
    QFile file(QStringLiteral(":/icons/%1.svg").arg(name));
    if (!file.open(QIODevice::ReadOnly)) return {};
    const QByteArray svg = file.readAll();
    QIcon out;
    for (const int side : {20, 24, 40, 48}) {
        out.addPixmap(tinted(svg, current.text, side), QIcon::Normal, QIcon::Off);
        out.addPixmap(tinted(svg, current.act, side), QIcon::Normal, QIcon::On);
        out.addPixmap(tinted(svg, current.dark ? QColor(0x5A, 0x64, 0x67) : QColor(0xB8, 0xB4, 0xA8), side),
                      QIcon::Disabled, QIcon::Off);
    }
    return out;
}

}  // namespace fernleaf
