<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en" sourcelanguage="en">
<context>
    <name>CopyMenu</name>
    <message numerus="yes">
        <source>%n formula(s) as</source>
        <translation>
            <numerusform>Formula as</numerusform>
            <numerusform>%n formulas as</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>NotebookDelegate</name>
    <message numerus="yes">
        <source>%n hit(s)</source>
        <translation>
            <numerusform>%n hit</numerusform>
            <numerusform>%n hits</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>SnippetDelegate</name>
    <message numerus="yes">
        <source>%n page(s)</source>
        <translation>
            <numerusform>%n page</numerusform>
            <numerusform>%n pages</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::BackupDesk</name>
    <message numerus="yes">
        <source>%n page(s) backed up.</source>
        <translation>
            <numerusform>%n page backed up.</numerusform>
            <numerusform>%n pages backed up.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n page(s) restored.</source>
        <translation>
            <numerusform>%n page restored.</numerusform>
            <numerusform>%n pages restored.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::BinDialog</name>
    <message numerus="yes">
        <source>%n item(s) will be gone for good, ink and pictures included.</source>
        <translation>
            <numerusform>%n item will be gone for good, ink and pictures included.</numerusform>
            <numerusform>%n items will be gone for good, ink and pictures included.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Notebook “%1”, %n page(s)</source>
        <translation>
            <numerusform>Notebook “%1”, %n page</numerusform>
            <numerusform>Notebook “%1”, %n pages</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>after %n day(s)</source>
        <translation>
            <numerusform>after %n day</numerusform>
            <numerusform>after %n days</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::CameraDialog</name>
    <message numerus="yes">
        <source>%n picture(s) taken</source>
        <translation>
            <numerusform>%n picture taken</numerusform>
            <numerusform>%n pictures taken</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::CardsDesk</name>
    <message numerus="yes">
        <source>Attaching %n file(s)</source>
        <translation>
            <numerusform>Attaching %n file</numerusform>
            <numerusform>Attaching %n files</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::CorrectionDesk</name>
    <message numerus="yes">
        <source>Learning from %n line(s) of this page.</source>
        <translation>
            <numerusform>Learning from %n line of this page.</numerusform>
            <numerusform>Learning from %n lines of this page.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::DaysView</name>
    <message numerus="yes">
        <source>%n page(s)</source>
        <translation>
            <numerusform>%n page</numerusform>
            <numerusform>%n pages</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::DrawingDesk</name>
    <message numerus="yes">
        <source>Stopped after %n page(s). %1</source>
        <translation>
            <numerusform>Stopped after %n page. %1</numerusform>
            <numerusform>Stopped after %n pages. %1</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Cancelled. %n page(s) are already drawn fair.</source>
        <translation>
            <numerusform>Cancelled. %n page is already drawn fair.</numerusform>
            <numerusform>Cancelled. %n pages are already drawn fair.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n page(s) drawn fair. Undo works one page at a time.</source>
        <translation>
            <numerusform>%n page drawn fair. Undo works one page at a time.</numerusform>
            <numerusform>%n pages drawn fair. Undo works one page at a time.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::IntakeDesk</name>
    <message numerus="yes">
        <source>Stopped. %n file(s) were not added, starting with %1.</source>
        <translation>
            <numerusform>Stopped. %1 was not added.</numerusform>
            <numerusform>Stopped. %n files were not added, starting with %1.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::IntakeTray</name>
    <message numerus="yes">
        <source>%n sheet(s) wait to be filed</source>
        <translation>
            <numerusform>%n sheet waits to be filed</numerusform>
            <numerusform>%n sheets wait to be filed</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::KeepingDesk</name>
    <message numerus="yes">
        <source>%n page(s) tagged.</source>
        <translation>
            <numerusform>%n page tagged.</numerusform>
            <numerusform>%n pages tagged.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n errand(s) done.</source>
        <translation>
            <numerusform>%n errand done.</numerusform>
            <numerusform>%n errands done.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::LibraryModel</name>
    <message numerus="yes">
        <source>%n page(s) are in the bin.</source>
        <translation>
            <numerusform>The page is in the bin.</numerusform>
            <numerusform>%n pages are in the bin.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n page(s) gathered into a sheaf.</source>
        <translation>
            <numerusform>%n page gathered into a sheaf.</numerusform>
            <numerusform>%n pages gathered into a sheaf.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n page(s) now also in that notebook.</source>
        <translation>
            <numerusform>%n page is now also in that notebook.</numerusform>
            <numerusform>%n pages are now also in that notebook.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n page(s) taken out of this notebook; still in their own.</source>
        <translation>
            <numerusform>%n page was taken out of this notebook. It is still in its own.</numerusform>
            <numerusform>%n pages were taken out of this notebook. They are still in their own.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::MailDesk</name>
    <message numerus="yes">
        <source>%n page(s) from my notebook</source>
        <translation>
            <numerusform>%n page from my notebook</numerusform>
            <numerusform>%n pages from my notebook</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::MailDialog</name>
    <message numerus="yes">
        <source>Mail %n page(s)</source>
        <translation>
            <numerusform>Mail %n page</numerusform>
            <numerusform>Mail %n pages</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::MainWindow</name>
    <message numerus="yes">
        <source>Filed as %n page(s).</source>
        <translation>
            <numerusform>Filed as a page.</numerusform>
            <numerusform>Filed as %n pages.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::NotebookList</name>
    <message numerus="yes">
        <source>Intake tray: %n sheet(s)</source>
        <translation>
            <numerusform>Intake tray: %n sheet</numerusform>
            <numerusform>Intake tray: %n sheets</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::NotebookModel</name>
    <message numerus="yes">
        <source>Page %1, %n hit(s)</source>
        <translation>
            <numerusform>Page %1, %n hit</numerusform>
            <numerusform>Page %1, %n hits</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::PageStrip</name>
    <message numerus="yes">
        <source>Move %n page(s) to the bin  (Del)</source>
        <translation>
            <numerusform>Move to the bin  (Del)</numerusform>
            <numerusform>Move %n pages to the bin  (Del)</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Take %n page(s) out of this notebook  (Del)</source>
        <translation>
            <numerusform>Take %n page out of this notebook  (Del)</numerusform>
            <numerusform>Take %n pages out of this notebook  (Del)</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::PensDialog</name>
    <message numerus="yes">
        <source>after %n minute(s)</source>
        <translation>
            <numerusform>after %n minute</numerusform>
            <numerusform>after %n minutes</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Wrong passcode. %n attempt(s) left.</source>
        <translation>
            <numerusform>Wrong passcode. %n attempt left.</numerusform>
            <numerusform>Wrong passcode. %n attempts left.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n stroke(s) received</source>
        <translation>
            <numerusform>%n stroke received</numerusform>
            <numerusform>%n strokes received</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::PictureDesk</name>
    <message numerus="yes">
        <source>Lifted %n stroke(s). The picture stays underneath.</source>
        <translation>
            <numerusform>Lifted %n stroke. The picture stays underneath.</numerusform>
            <numerusform>Lifted %n strokes. The picture stays underneath.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::ReadingDialog</name>
    <message numerus="yes">
        <source>%n example(s)</source>
        <translation>
            <numerusform>%n example</numerusform>
            <numerusform>%n examples</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::ReadingScheduler</name>
    <message numerus="yes">
        <source>Reading %n page(s)</source>
        <translation>
            <numerusform>Reading %n page</numerusform>
            <numerusform>Reading %n pages</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::ReplacingDesk</name>
    <message numerus="yes">
        <source>%n text(s) changed.</source>
        <translation>
            <numerusform>%n text changed.</numerusform>
            <numerusform>%n texts changed.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Stopped after %n page(s). %1</source>
        <translation>
            <numerusform>Stopped after %n page. %1</numerusform>
            <numerusform>Stopped after %n pages. %1</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Cancelled. %n page(s) are already changed.</source>
        <translation>
            <numerusform>Cancelled. %n page is already changed.</numerusform>
            <numerusform>Cancelled. %n pages are already changed.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Replaced on %n page(s). Undo works one page at a time.</source>
        <translation>
            <numerusform>Replaced on %n page. Undo works one page at a time.</numerusform>
            <numerusform>Replaced on %n pages. Undo works one page at a time.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::Session</name>
    <message numerus="yes">
        <source>Damaged and left out of this page: %n item(s). The rest is safe. To repair the library, close Fernleaf and run “fernleaf-cli check --repair --library %1”. It keeps a copy of the damaged library.</source>
        <translation>
            <numerusform>Damaged and left out of this page: %n item. The rest is safe. To repair the library, close Fernleaf and run “fernleaf-cli check --repair --library %1”. It keeps a copy of the damaged library.</numerusform>
            <numerusform>Damaged and left out of this page: %n items. The rest is safe. To repair the library, close Fernleaf and run “fernleaf-cli check --repair --library %1”. It keeps a copy of the damaged library.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::TagsDialog</name>
    <message numerus="yes">
        <source>%n page(s)</source>
        <translation>
            <numerusform>%n page</numerusform>
            <numerusform>%n pages</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Delete the tag “%1” from %n page(s)? The pages stay.</source>
        <translation>
            <numerusform>Delete the tag “%1” from %n page? The page stays.</numerusform>
            <numerusform>Delete the tag “%1” from %n pages? The pages stay.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::TeachingDesk</name>
    <message numerus="yes">
        <source>Your hand was learnt from %n example(s). Letters wrong in a hundred: %1 before, %2 now.</source>
        <translation>
            <numerusform>Your hand was learnt from %n example. Letters wrong in a hundred: %1 before, %2 now.</numerusform>
            <numerusform>Your hand was learnt from %n examples. Letters wrong in a hundred: %1 before, %2 now.</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::TodoView</name>
    <message numerus="yes">
        <source>%n to do</source>
        <translation>
            <numerusform>%n to do</numerusform>
            <numerusform>%n to do</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::Transfers</name>
    <message numerus="yes">
        <source>Importing %n file(s)</source>
        <translation>
            <numerusform>Importing %n file</numerusform>
            <numerusform>Importing %n files</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>fernleaf::TypesettingDesk</name>
    <message numerus="yes">
        <source>The reader was not sure of %n word(s). F8 goes through what is marked on the text leaf.</source>
        <translation>
            <numerusform>The reader was not sure of %n word. F8 goes to it.</numerusform>
            <numerusform>The reader was not sure of %n words. F8 goes through them.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Stopped after %n page(s). %1</source>
        <translation>
            <numerusform>Stopped after %n page. %1</numerusform>
            <numerusform>Stopped after %n pages. %1</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>Cancelled. %n page(s) are already set in type.</source>
        <translation>
            <numerusform>Cancelled. %n page is already set in type.</numerusform>
            <numerusform>Cancelled. %n pages are already set in type.</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <source>%n page(s) set in type. Undo works one page at a time.</source>
        <translation>
            <numerusform>%n page set in type. Undo works one page at a time.</numerusform>
            <numerusform>%n pages set in type. Undo works one page at a time.</numerusform>
        </translation>
    </message>
</context>
</TS>
