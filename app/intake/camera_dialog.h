// A document camera: its picture with the sheet outlined as it is found, what is wrong with it, and sheets taken by
// themselves into the intake tray when they lie still and sharp. UI thread only.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QElapsedTimer>
#include <QLabel>
#include <QPushButton>
#include <memory>

#include "desk/intake_desk.h"
#include "desk/worker.h"
#include "intake/camera_device.h"
#include "paper/document_camera.h"

namespace fernleaf {

class CameraPicture;

class CameraDialog : public QDialog {
    Q_OBJECT

public:
    CameraDialog(IntakeDesk& desk, std::unique_ptr<CameraDevices> devices, QWidget* parent = nullptr);
    ~CameraDialog() override;

    int taken() const { return taken_; }
    QLabel* says() const { return says_; }
    QPushButton* take_button() const { return take_; }
    QCheckBox* by_itself() const { return by_itself_; }

private:
    void open_camera();
    void show_frame(const QImage& frame);
    void seen(const CameraView& view, const QImage& frame);
    void take(const QImage& frame);
    void say(const CameraView& view);

    IntakeDesk& desk_;
    std::unique_ptr<CameraDevices> devices_;
    std::unique_ptr<CameraDevice> device_;
    std::shared_ptr<DocumentCamera> camera_ = std::make_shared<DocumentCamera>();  // on the worker's thread
    std::unique_ptr<Worker> worker_;
    bool looking_ = false;
    int opened_ = 0;  // looks of an earlier camera are void
    QElapsedTimer clock_;
    QImage last_;
    int taken_ = 0;
    QComboBox* device_choice_;
    CameraPicture* picture_;
    QLabel *says_, *count_;
    QCheckBox* by_itself_;
    QPushButton* take_;
};

}  // namespace fernleaf
