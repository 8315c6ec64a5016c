// oneDNN and tesseract share their work among OpenMP's threads; a reader works on one, beside other work. Tesseract
// asks for a number of threads of its own, which only the depth of nesting forbids.
#pragma once

#include <omp.h>

namespace fernleaf {

class OneThread {
public:
    OneThread() : threads_(omp_get_max_threads()), levels_(omp_get_max_active_levels()) {
        omp_set_num_threads(1);
        omp_set_max_active_levels(0);
    }
    ~OneThread() {
        omp_set_num_threads(threads_);
        omp_set_max_active_levels(levels_);
    }
    OneThread(const OneThread&) = delete;
    OneThread& operator=(const OneThread&) = delete;

private:
    int threads_, levels_;
};

}  // namespace fernleaf
