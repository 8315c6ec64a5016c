#include "leaves/formula_copies.h"

#include <QClipboard>
#include <QCoreApplication>
#include <QGuiApplication>
#include <QMimeData>
#include <QPainter>
#include <cmath>
#include <functional>

#include "exchange/formula_file.h"
#include "math/math_text.h"
#include "math/parse_math.h"
#include "render/formula_look.h"

namespace fernleaf {
namespace {

constexpr int kPicturePx = 64, kPictureMarginPx = 16;  // of type

class FormulaCopies {
    Q_DECLARE_TR_FUNCTIONS(FormulaCopies)

public:
    static void offer(QMenu& menu, Messages& messages, const std::vector<std::string>& latex, bool decimal_comma) {
        const auto add = [&](const QString& name, std::function<std::unique_ptr<QMimeData>()> made) {
            menu.addAction(name, &messages, [&messages, made = std::move(made)] {
                QGuiApplication::clipboard()->setMimeData(made().release());
                messages.tell(tr("Copied to the clipboard."));
            });
        };
        add(tr("LaTeX"), [latex] { return as_text(latex, [](const std::string& l) { return document_latex(l); }); });
        add(tr("MathML"), [latex] {
            auto data = as_text(latex, [](const std::string& l) {
                const auto written = written_math(l);
                return written ? mathml(*written) : std::string();
            });
            data->setData(QStringLiteral("application/mathml+xml"), data->text().toUtf8());
            return data;
        });
        add(tr("Plain text"), [latex, decimal_comma] {
            return as_text(latex, [decimal_comma](const std::string& l) {
                const auto tree = parse_math(l, decimal_comma);
                return tree ? math_text(*tree) : l;
            });
        });
        add(tr("Picture"), [latex] {
            auto data = std::make_unique<QMimeData>();
            data->setImageData(picture_of(latex));
            return data;
        });
    }

private:
    static std::unique_ptr<QMimeData> as_text(const std::vector<std::string>& latex,
                                              const std::function<std::string(const std::string&)>& said) {
        std::string text;
        for (const std::string& l : latex) text += (text.empty() ? "" : "\n") + said(l);
        auto data = std::make_unique<QMimeData>();
        data->setText(QString::fromStdString(text));
        return data;
    }

    // One below the other, black on white.
    static QImage picture_of(const std::vector<std::string>& latex) {
        std::vector<FormulaLook> looks;
        double wide = 0, high = kPictureMarginPx;
        for (const std::string& l : latex) {
            const auto written = written_math(l);
            looks.push_back(written ? formula_look(*written, kPicturePx)
                                    : plain_look(QString::fromStdString(l), kPicturePx));
            wide = std::max(wide, looks.back().width);
            high += looks.back().ascent + looks.back().descent + kPictureMarginPx;
        }
        QImage out(static_cast<int>(std::ceil(wide)) + 2 * kPictureMarginPx, static_cast<int>(std::ceil(high)),
                   QImage::Format_RGB32);
        out.fill(Qt::white);
        QPainter painter(&out);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        painter.setBrush(Qt::black);
        painter.translate(kPictureMarginPx, kPictureMarginPx);
        for (const FormulaLook& look : looks) {
            painter.translate(0, look.ascent);
            painter.drawPath(look.path);
            painter.translate(0, look.descent + kPictureMarginPx);
        }
        return out;
    }
};

}  // namespace

void offer_formula_copies(QMenu& menu, Messages& messages, const std::vector<std::string>& latex, bool decimal_comma) {
    FormulaCopies::offer(menu, messages, latex, decimal_comma);
}

}  // namespace fernleaf
