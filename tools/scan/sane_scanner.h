// Scanners, through SANE. What it offers is exchange/scanner.h's, in the helper's own process: backends are code of
// many makers, and one that is cancelled may never let go of a lock.
#pragma once

#include <memory>

#include "exchange/scanner.h"

namespace fernleaf::sane {

// One in the process. Its end, which lets go of the scanner, may take for ever: tell what was found or scanned before.
class Service {
public:
    Service();
    ~Service();
    Service(const Service&) = delete;
    Service& operator=(const Service&) = delete;

    Result<std::vector<ScannerInfo>> scanners() const;
    Result<size_t> scan(const ScanWish& wish, const std::function<Status(const ScannedSheet&)>& take,
                        const CancelToken& cancel, const Progress& progress);

private:
    bool ready_;
    std::unique_ptr<class Device> device_;  // the one that was scanned with
};

}  // namespace fernleaf::sane
