// oneDNN shares its work among OpenMP's threads; a reader works on one, beside other work.
#pragma once

#include <omp.h>

namespace fernleaf {

class OneThread {
public:
    OneThread() : before_(omp_get_max_threads()) { omp_set_num_threads(1); }
    ~OneThread() { omp_set_num_threads(before_); }
    OneThread(const OneThread&) = delete;
    OneThread& operator=(const OneThread&) = delete;

private:
    int before_;
};

}  // namespace fernleaf
