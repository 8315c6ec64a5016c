// Cameras, behind an interface: the machine's own through Qt Multimedia, or a stand-in that shows the pictures of a
// folder one after the other. UI thread only.
#pragma once

#include <QByteArray>
#include <QImage>
#include <QObject>
#include <QString>
#include <memory>
#include <vector>

namespace fernleaf {

class CameraDevice : public QObject {
    Q_OBJECT

public:
    virtual bool start() = 0;
    virtual void stop() = 0;

signals:
    void frame(const QImage& picture);
    void lost(const QString& why);
};

struct CameraName {
    QByteArray id;
    QString name;
};

class CameraDevices {
public:
    virtual ~CameraDevices() = default;
    virtual std::vector<CameraName> cameras() const = 0;                         // the usual one first
    virtual std::unique_ptr<CameraDevice> open(const QByteArray& id) const = 0;  // null: not there
};

// The stand-in where FERNLEAF_CAMERA names a folder, else the machine's.
std::unique_ptr<CameraDevices> usual_cameras();

}  // namespace fernleaf
