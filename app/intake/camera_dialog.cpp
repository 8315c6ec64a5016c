#include "intake/camera_dialog.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QSettings>
#include <QTime>
#include <QVBoxLayout>

#include "look/dialog_parts.h"

namespace fernleaf {

// The picture, as large as there is room, and the sheet's outline on it.
class CameraPicture : public QWidget {
public:
    CameraPicture() { setMinimumSize(480, 320); }
    void show_frame(const QImage& frame) {
        frame_ = frame;
        update();
    }
    void show_view(const CameraView& view) {
        view_ = view;
        update();
    }
    void flash() {
        flashed_.start();
        update();
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
        painter.fillRect(rect(), theme().desk);
        if (frame_.isNull()) return;
        const double scale =
            std::min(static_cast<double>(width()) / frame_.width(), static_cast<double>(height()) / frame_.height());
        const QSizeF size = QSizeF(frame_.size()) * scale;
        const QPointF corner((width() - size.width()) / 2, (height() - size.height()) / 2);
        painter.drawImage(QRectF(corner, size), frame_);
        if (view_.outline) {
            QPolygonF shape;
            for (const Point& p : polygon(*view_.outline, 12)) shape << corner + QPointF(p.x, p.y) * scale;
            const bool well = view_.state == CameraState::ready || view_.state == CameraState::taken;
            QColor wash = view_.state == CameraState::faulty ? theme().unsure : theme().act;
            painter.setPen(QPen(wash, well ? 4 : 2.5, well ? Qt::SolidLine : Qt::DashLine));
            wash.setAlpha(view_.state == CameraState::taken ? 70 : 24);
            painter.setBrush(wash);
            painter.drawPolygon(shape);
        }
        constexpr int kFlashMs = 160;
        if (flashed_.isValid() && flashed_.elapsed() < kFlashMs)
            painter.fillRect(QRectF(corner, size), QColor(255, 255, 255, 150));
    }

private:
    QImage frame_;
    CameraView view_;
    QElapsedTimer flashed_;
};

namespace {

const QString kCameraKey = QStringLiteral("camera");

cv::Mat bgr_of(const QImage& image) {
    const QImage rgb = image.convertToFormat(QImage::Format_BGR888);
    return cv::Mat(rgb.height(), rgb.width(), CV_8UC3, const_cast<uchar*>(rgb.constBits()),
                   static_cast<size_t>(rgb.bytesPerLine()))
        .clone();
}

}  // namespace

CameraDialog::CameraDialog(IntakeDesk& desk, std::unique_ptr<CameraDevices> devices, QWidget* parent)
    : QDialog(parent),
      desk_(desk),
      devices_(std::move(devices)),
      worker_(std::make_unique<Worker>([](const Error&) {})) {
    setWindowTitle(tr("Document camera"));
    resize(820, 640);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 16);
    column->setSpacing(12);
    auto* top = new QHBoxLayout;
    top->addWidget(dialog_heading(tr("Document camera")));
    top->addStretch();
    device_choice_ = new QComboBox;
    device_choice_->setAccessibleName(tr("Camera"));
    device_choice_->setMinimumWidth(220);
    top->addWidget(device_choice_);
    column->addLayout(top);
    picture_ = new CameraPicture;
    column->addWidget(picture_, 1);
    says_ = new QLabel;
    says_->setObjectName(QStringLiteral("cameraSays"));
    QFont strong = says_->font();
    strong.setWeight(QFont::DemiBold);
    says_->setFont(strong);
    count_ = remark({});
    column->addWidget(says_);
    auto* foot = new QHBoxLayout;
    by_itself_ = new QCheckBox(tr("Take pictures automatically"));
    by_itself_->setChecked(true);
    foot->addWidget(by_itself_);
    foot->addWidget(count_, 1);
    take_ = new QPushButton(tr("Take picture"));
    take_->setProperty("secondary", true);
    take_->setAutoDefault(false);
    take_->setToolTip(tr("Take a picture  (Space)"));
    take_->setShortcut(Qt::Key_Space);
    auto* close = new QPushButton(tr("Done"));
    close->setProperty("primary", true);
    close->setDefault(true);
    foot->addWidget(take_);
    foot->addWidget(close);
    column->addLayout(foot);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(take_, &QPushButton::clicked, this, [this] {
        if (last_.isNull()) return;
        take(last_);
        worker_->post([camera = camera_] { camera->taken(); });
    });
    for (const CameraName& name : devices_->cameras()) device_choice_->addItem(name.name, name.id);
    device_choice_->setVisible(device_choice_->count() > 1);
    device_choice_->setCurrentIndex(std::max(0, device_choice_->findData(QSettings().value(kCameraKey))));
    connect(device_choice_, &QComboBox::activated, this, &CameraDialog::open_camera);
    clock_.start();
    open_camera();
}

CameraDialog::~CameraDialog() {
    if (device_) device_->stop();
    worker_.reset();
}

void CameraDialog::open_camera() {
    ++opened_;
    if (device_) device_->stop();
    device_.reset();
    take_->setEnabled(false);
    if (device_choice_->count() == 0)
        return says_->setText(tr("No camera was found. Connect one, then open this again."));
    device_ = devices_->open(device_choice_->currentData().toByteArray());
    QSettings().setValue(kCameraKey, device_choice_->currentData());
    if (device_) {
        connect(device_.get(), &CameraDevice::frame, this, &CameraDialog::show_frame);
        connect(device_.get(), &CameraDevice::lost, this, [this](const QString&) {
            says_->setText(tr("The camera was disconnected. The pictures taken are in the intake tray."));
            take_->setEnabled(false);
        });
    }
    says_->setText(device_ && device_->start() ? tr("Place a sheet under the camera.")
                                               : tr("The camera can't be used; another program may be using it. Close "
                                                    "that program or choose another camera."));
}

void CameraDialog::show_frame(const QImage& frame) {
    last_ = frame;
    take_->setEnabled(true);
    picture_->show_frame(frame);
    if (looking_) return;  // the newest is looked at next
    looking_ = true;
    worker_->ask(
        this,
        [camera = camera_, frame, now = clock_.elapsed()]() -> Result<CameraView> {
            return camera->look(bgr_of(frame), now);
        },
        [this, frame, opened = opened_](const Result<CameraView>& view) {
            looking_ = false;
            if (view && opened == opened_) seen(*view, frame);
        });
}

void CameraDialog::seen(const CameraView& view, const QImage& frame) {
    picture_->show_view(view);
    say(view);
    if (view.state != CameraState::ready || !by_itself_->isChecked()) return;
    worker_->post([camera = camera_] { camera->taken(); });
    take(frame);
}

void CameraDialog::take(const QImage& frame) {
    ++taken_;
    desk_.bring(frame, tr("camera %1").arg(QTime::currentTime().toString(QStringLiteral("HH:mm:ss"))));
    picture_->flash();
    count_->setText(tr("%n picture(s) taken", nullptr, taken_));
}

void CameraDialog::say(const CameraView& view) {
    switch (view.state) {
        case CameraState::no_sheet:
            return says_->setText(tr("Place a sheet under the camera."));
        case CameraState::moving:
            return says_->setText(tr("Hold still …"));
        case CameraState::faulty:
            return says_->setText(view.faults.blurred ? tr("The picture is blurred. Let the camera focus, or move it.")
                                                      : tr("There is glare on the sheet. Move the lamp or the sheet."));
        case CameraState::ready:
            if (view.faults.low_resolution && !by_itself_->isChecked())
                return says_->setText(tr("Move the camera closer: small writing may be unreadable."));
            return says_->setText(by_itself_->isChecked() ? tr("Picture taken.")
                                                          : tr("Ready. Press Space to take a picture."));
        case CameraState::taken:
            return says_->setText(tr("Picture taken. Place the next sheet."));
    }
}

}  // namespace fernleaf
