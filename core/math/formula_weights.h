// What training made for formulas: two small networks, of signs' forms and of places beside one another.
//
//   auto weights = load_formula_weights("models");            // formula.weights.gz
//   std::vector<float> chances = (*weights)->signs.chances(form);
//
// The file, compressed with gzip: the line "fernleaf formula 2"; then, layer by layer, weights (out x in, of a
// convolution x height x width) and biases (out), little-endian 32-bit floats. training/formula_nets.py writes it.
#pragma once

#include <filesystem>
#include <memory>
#include <span>
#include <vector>

#include "base/result.h"
#include "math/sign_form.h"

namespace fernleaf {

// Layers that join every number with every other; the rectifier between them.
class DenseNetwork {
public:
    struct Layer {
        size_t in = 0, out = 0;
        std::vector<float> weights, bias;  // weights: in rows of out
    };
    DenseNetwork() = default;
    explicit DenseNetwork(std::vector<Layer> layers) : layers_(std::move(layers)) {}

    size_t inputs() const { return layers_.front().in; }
    size_t outputs() const { return layers_.back().out; }
    // Of what goes out, 0 to 1, together 1. input: inputs() numbers.
    std::vector<float> chances(std::span<const float> input) const;

private:
    std::vector<Layer> layers_;
};

// Tells signs: of a form's maps two convolutions of 3 by 3, each with the rectifier and the largest of every 2 by 2
// after it, joined with the form's other numbers by layers that join everything.
class SignNetwork {
public:
    static constexpr size_t kFirstMaps = 32, kSecondMaps = 64, kJoined = 256;
    struct Convolution {
        size_t in = 0, out = 0;
        std::vector<float> weights, bias;  // weights: [in][3 x 3][out]
    };
    SignNetwork() = default;
    SignNetwork(Convolution first, Convolution second, DenseNetwork joining)
        : first_(std::move(first)), second_(std::move(second)), joining_(std::move(joining)) {}

    // Of math_signs(), and last that it is none.
    std::vector<float> chances(const SignForm& form) const;

private:
    Convolution first_, second_;
    DenseNetwork joining_;
};

struct FormulaWeights {
    SignNetwork signs;
    DenseNetwork places;  // PlaceNumbers to Place
};

// Fails with one sentence on weights that are missing, damaged or not Fernleaf's.
Result<std::shared_ptr<const FormulaWeights>> load_formula_weights(const std::filesystem::path& directory);

}  // namespace fernleaf
