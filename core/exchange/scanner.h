// Scanners, through SANE, in a process of their own (tools/scan): a scan that is cancelled, hangs or crashes does no
// harm here.
//
//   for (const ScannerInfo& s : *scanners()) ...
//   scan({.device = "test:0", .dpi = 300}, [&](const ScannedSheet& sheet) { return keep(sheet); });
//
// SANE's test device (`test:0`) stands in where there is no scanner.
#pragma once

#include <functional>
#include <map>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"
#include "paper/picture_file.h"
#include "store/library.h"

namespace fernleaf {

struct ScannerInfo {
    std::string device;  // what SANE calls it
    std::string name;    // for people
};

// Those that are connected. May take seconds where scanners in the network are asked.
Result<std::vector<ScannerInfo>> scanners();

struct ScanWish {
    std::string device = {};
    int dpi = 300;                                    // the nearest that it has
    bool colour = true;                               // or grey
    bool feeder = false;                              // all sheets in its feeder; else the one on its glass
    std::map<std::string, std::string> options = {};  // of the device, by SANE's names
};

// Hands each sheet on as soon as it is scanned and gives their number. When it fails, with one sentence
// that tells what to do, or is cancelled, the sheets handed on before are whole. take may fail, which ends it, too.
// Returns at the latest some seconds after it is cancelled.
Result<size_t> scan(const ScanWish& wish, const std::function<Status(const ScannedSheet&)>& take,
                    const CancelToken& cancel = {}, const Progress& progress = {});

}  // namespace fernleaf
