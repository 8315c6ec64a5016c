#include "desk/save_useful.h"

#include <QDateTime>
#include <QFileDialog>
#include <QSettings>

#include "exchange/contact.h"

namespace fernleaf {

Date date_of_ms(int64_t ms) {
    const QDate date = QDateTime::fromMSecsSinceEpoch(ms).date();
    return {date.year(), date.month(), date.day()};
}

void save_useful(QWidget* parent, Transfers& transfers, const ReadLine& line, const Useful& useful, Date written) {
    // What stands about it says whose number it is, or what is to happen.
    QStringList names, others;
    for (int w = 0; w < static_cast<int>(line.words.size()); ++w) {
        if (w >= useful.first_word && w <= useful.last_word) continue;
        const QString word = QString::fromStdString(line.words[static_cast<size_t>(w)].text);
        if (word.isEmpty()) continue;
        others << word;
        if (word[0].isUpper() && w > 0) names << word;
    }
    const bool moment = useful.kind == UsefulKind::moment;
    const QString name = moment ? others.join(' ') : names.join(' ');
    const QString folder = QSettings().value("folder").toString();
    const QString path = QFileDialog::getSaveFileName(
        parent, moment ? QObject::tr("Save as event") : QObject::tr("Save as contact"),
        (folder.isEmpty() ? QString() : folder + '/') + (name.isEmpty() ? QString::fromStdString(useful.text) : name) +
            (moment ? ".ics" : ".vcf"),
        moment ? QObject::tr("Event, iCalendar (*.ics)") : QObject::tr("Contact, vCard (*.vcf)"));
    if (path.isEmpty()) return;
    const std::string stamp =
        QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd'T'HHmmss'Z'")).toStdString();
    transfers.save_file(path, moment ? write_event(name.toStdString(), useful, written, stamp)
                                     : write_vcard(name.toStdString(), useful));
}

}  // namespace fernleaf
