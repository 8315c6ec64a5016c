// A proof mark as it is drawn, over a few words of type. UI thread only.
#pragma once

#include <QWidget>

#include "transcript/proof_mark.h"

namespace fernleaf {

class SignPicture : public QWidget {
public:
    static constexpr int kWidth = 168, kHeight = 84;

    explicit SignPicture(ProofMark mark);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    ProofMark mark_;
};

}  // namespace fernleaf
