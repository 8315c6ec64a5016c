#include "intake/camera_device.h"

#include <QCamera>
#include <QCameraDevice>
#include <QDir>
#include <QMediaCaptureSession>
#include <QMediaDevices>
#include <QTimer>
#include <QVideoFrame>
#include <QVideoSink>
#include <algorithm>

namespace fernleaf {
namespace {

constexpr int kStandInFrameMs = 100;
constexpr int kStandInPictureMs = 4000;  // how long each lies there
constexpr int kLeastRate = 5;            // frames a second, of the largest pictures

class MachineCamera : public CameraDevice {
public:
    explicit MachineCamera(const QCameraDevice& device) : camera_(device) {
        // The most pixels that come often enough to aim by.
        QCameraFormat best;
        const auto pixels = [](const QCameraFormat& f) { return f.resolution().width() * f.resolution().height(); };
        const auto formats = device.videoFormats();
        for (const QCameraFormat& f : formats)
            if (f.maxFrameRate() >= kLeastRate && (best.isNull() || pixels(f) > pixels(best))) best = f;
        if (!best.isNull()) camera_.setCameraFormat(best);
        session_.setCamera(&camera_);
        session_.setVideoSink(&sink_);
        connect(&sink_, &QVideoSink::videoFrameChanged, this, [this](const QVideoFrame& video) {
            if (const QImage image = video.toImage(); !image.isNull()) emit frame(image);
        });
        connect(&camera_, &QCamera::errorOccurred, this,
                [this](QCamera::Error, const QString& why) { emit lost(why); });
    }
    bool start() override {
        camera_.start();
        return camera_.error() == QCamera::NoError;
    }
    void stop() override { camera_.stop(); }

private:
    QCamera camera_;
    QVideoSink sink_;
    QMediaCaptureSession session_;
};

class MachineCameras : public CameraDevices {
public:
    std::vector<CameraName> cameras() const override {
        std::vector<CameraName> out;
        const QByteArray usual = QMediaDevices::defaultVideoInput().id();
        const auto there = QMediaDevices::videoInputs();
        for (const QCameraDevice& d : there)
            out.insert(d.id() == usual ? out.begin() : out.end(), {d.id(), d.description()});
        return out;
    }
    std::unique_ptr<CameraDevice> open(const QByteArray& id) const override {
        const auto there = QMediaDevices::videoInputs();
        for (const QCameraDevice& d : there)
            if (d.id() == id) return std::make_unique<MachineCamera>(d);
        return nullptr;
    }
};

class FolderCamera : public CameraDevice {
public:
    explicit FolderCamera(const QString& folder) {
        const QDir dir(folder);
        const auto names = dir.entryList({"*.png", "*.jpg", "*.jpeg"}, QDir::Files, QDir::Name);
        for (const QString& name : names)
            if (const QImage image(dir.filePath(name)); !image.isNull()) pictures_.push_back(image);
        timer_.setInterval(kStandInFrameMs);
        connect(&timer_, &QTimer::timeout, this, [this] {
            const size_t at = static_cast<size_t>(shown_++) * kStandInFrameMs / kStandInPictureMs;
            emit frame(pictures_[at % pictures_.size()]);
        });
    }
    bool start() override {
        if (!pictures_.empty()) timer_.start();
        return !pictures_.empty();
    }
    void stop() override { timer_.stop(); }

private:
    std::vector<QImage> pictures_;
    QTimer timer_;
    int shown_ = 0;
};

class FolderCameras : public CameraDevices {
public:
    explicit FolderCameras(QString folder) : folder_(std::move(folder)) {}
    std::vector<CameraName> cameras() const override { return {{"folder", QDir(folder_).dirName()}}; }
    std::unique_ptr<CameraDevice> open(const QByteArray&) const override {
        return std::make_unique<FolderCamera>(folder_);
    }

private:
    QString folder_;
};

}  // namespace

std::unique_ptr<CameraDevices> usual_cameras() {
    const QString folder = qEnvironmentVariable("FERNLEAF_CAMERA");
    if (folder.isEmpty()) return std::make_unique<MachineCameras>();
    return std::make_unique<FolderCameras>(folder);
}

}  // namespace fernleaf
