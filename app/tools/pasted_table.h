// Tables on the clipboard, as spreadsheets, text processors and web pages put them there. UI thread only.
#pragma once

#include <QMimeData>
#include <optional>

#include "exchange/table_import.h"
#include "transcript/reading.h"

namespace fernleaf {

// The rows of what was copied: the first table of its HTML, or text with tabs in it; none where there is neither.
std::optional<TableRows> rows_copied(const QMimeData& copied);

// A table of the page for others to take: as HTML and as rows with tabs.
void put_table(QMimeData& data, const Reading& reading, FairTableId table);

}  // namespace fernleaf
