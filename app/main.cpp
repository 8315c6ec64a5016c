// fernleaf: the window. `fernleaf --help` tells its use.
#include <QApplication>
#include <QCommandLineParser>
#include <QDir>
#include <QMessageBox>
#include <QStandardPaths>

#include "look/texts.h"
#include "look/theme.h"
#include "reading/models_directory.h"
#include "render/fonts.h"
#include "window/library_opening.h"
#include "window/main_window.h"

using namespace fernleaf;

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    QApplication::setApplicationName(QStringLiteral("Fernleaf"));
    QApplication::setOrganizationName(QStringLiteral("fernleaf"));
    QApplication::setApplicationVersion(QStringLiteral(FERNLEAF_VERSION));
    load_fonts();
    load_texts();
    QFont font(kInterfaceFace);
    font.setPixelSize(13);
    QApplication::setFont(font);

    QCommandLineParser parser;
    parser.setApplicationDescription(
        QStringLiteral("Write by hand, read it as text beside the ink, find it again, take it away."));
    parser.addHelpOption();
    parser.addVersionOption();
    const QCommandLineOption where(QStringLiteral("library"),
                                   QStringLiteral("Open the library in this directory; it is made when there is none."),
                                   QStringLiteral("directory"));
    parser.addOption(where);
    parser.process(application);
    use_theme(Theme::light());

    const QString directory =
        parser.isSet(where)
            ? parser.value(where)
            : QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + QStringLiteral("/fernleaf");
    auto library = open_library(QDir(directory).absolutePath().toStdString());
    if (!library) {
        QMessageBox box(QMessageBox::Warning, QStringLiteral("Fernleaf"), QObject::tr("The library can't be opened."));
        box.setInformativeText(
            QString::fromStdString(library.error().message) + QStringLiteral("\n\n") +
            QObject::tr("Nothing was changed. Start Fernleaf with --library and another directory."));
        box.exec();
        return 1;
    }
    Session session(*std::move(library), models_directory());
    MainWindow window(session);
    window.show();
    return QApplication::exec();
}
