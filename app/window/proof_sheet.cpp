#include "window/proof_sheet.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "look/dialog_parts.h"
#include "look/theme.h"
#include "window/sign_picture.h"

namespace fernleaf {
namespace {

struct Sign {
    ProofMark mark;
    QString name, does;
};

std::vector<Sign> signs() {
    return {
        {ProofMark::strike_out, ProofSheet::tr("Strike out"), ProofSheet::tr("A line through words deletes them.")},
        {ProofMark::insert, ProofSheet::tr("Insert"),
         ProofSheet::tr("A caret below a gap makes room; in type, it puts the cursor there.")},
        {ProofMark::separate, ProofSheet::tr("Separate"),
         ProofSheet::tr("An upright stroke through a word splits it in two.")},
        {ProofMark::close_up, ProofSheet::tr("Close up"), ProofSheet::tr("A bow over or under a gap closes it up.")},
        {ProofMark::run_on, ProofSheet::tr("Run on"),
         ProofSheet::tr("A line from the end of one line to the next runs them together.")},
        {ProofMark::paragraph, ProofSheet::tr("New paragraph"),
         ProofSheet::tr("A corner before a word starts a new paragraph.")},
        {ProofMark::italic, ProofSheet::tr("Italic"),
         ProofSheet::tr("A line under words. Under ink it is kept, and read as emphasis.")},
        {ProofMark::bold, ProofSheet::tr("Bold"),
         ProofSheet::tr("A wave under words. Under ink it is kept, and read as emphasis.")},
        {ProofMark::heading, ProofSheet::tr("Heading"),
         ProofSheet::tr("A ringed A, B or C in the margin makes its line a heading.")}};
}

}  // namespace

ProofSheet::ProofSheet(ToolTray& tray, QWidget* parent) : QDialog(parent) {
    setWindowTitle(tr("Proof marks"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(26, 20, 26, 18);
    column->setSpacing(10);
    column->addWidget(dialog_heading(tr("Proof marks")));
    column->addWidget(
        remark(tr("Draw them with any pen over ink or type, each in one stroke. Fernleaf says what a mark did, and "
                  "Undo brings it back as ink. Marks you untick stay ink.")));
    column->addSpacing(4);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(16);
    grid->setVerticalSpacing(10);
    const std::vector<Sign> all = signs();
    const int rows = static_cast<int>(all.size() + 1) / 2;
    for (int i = 0; i < static_cast<int>(all.size()); ++i) {
        const Sign& sign = all[static_cast<size_t>(i)];
        const auto number = static_cast<size_t>(sign.mark);
        auto* heeded = new QCheckBox(sign.name);
        QFont font = heeded->font();
        font.setWeight(QFont::DemiBold);
        heeded->setFont(font);
        heeded->setAccessibleDescription(sign.does);
        heeded->setChecked(tray.tools().proof_marks.test(number));
        heeded->setEnabled(tray.tools().gestures);
        connect(heeded, &QCheckBox::toggled, this, [&tray, number](bool on) {
            Tools tools = tray.tools();
            tools.proof_marks.set(number, on);
            tray.set_tools(tools);
        });
        auto* does = remark(sign.does);
        does->setFixedWidth(210);
        auto* words = new QVBoxLayout;
        words->setSpacing(2);
        words->addStretch();
        words->addWidget(heeded);
        words->addWidget(does);
        words->addStretch();
        const int at = 2 * (i / rows);
        grid->addWidget(new SignPicture(sign.mark), i % rows, at);
        grid->addLayout(words, i % rows, at + 1);
    }
    grid->setColumnMinimumWidth(2, SignPicture::kWidth);
    column->addLayout(grid);
    column->addSpacing(6);
    auto* off = new QLabel(tray.tools().gestures ? QString()
                                                 : tr("Pen gestures are off in Settings, and proof marks with them."));
    off->setStyleSheet(QStringLiteral("color: %1").arg(theme().unsure.name()));
    column->addLayout(closing_foot(*this, off));
}

}  // namespace fernleaf
