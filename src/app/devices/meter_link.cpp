#include "app/devices/meter_link.h"

#include <QSerialPortInfo>

namespace bevelsmith::app {
namespace {

/// A line of the protocol is far shorter; more without an end is noise.
constexpr qsizetype longest_line = 400;

}  // namespace

MeterLink::MeterLink(QObject* parent) : QObject(parent) {
    patience_.setSingleShot(true);
    patience_.setInterval(3000);
    connect(&port_, &QSerialPort::readyRead, this, &MeterLink::listen);
    connect(&port_, &QSerialPort::errorOccurred, this, &MeterLink::lost);
    connect(&patience_, &QTimer::timeout, this, [this] {
        emit said(QString("No answer came within %1 s. Is it switched on, and the right port?")
                      .arg(patience_.interval() / 1000.0, 0, 'g', 2),
                  true);
    });
}

QStringList MeterLink::ports() {
    QStringList out;
    for (const auto& info : QSerialPortInfo::availablePorts()) out << info.systemLocation();
    return out;
}

void MeterLink::open(const QString& name) {
    close();
    port_.setPortName(name);
    port_.setBaudRate(QSerialPort::Baud9600);
    if (!port_.open(QIODevice::ReadWrite))
        return void(emit said(QString("%1 cannot be opened: %2").arg(name, port_.errorString()), true));
    heard_.clear();
    emit said("Connected to " + name, false);
}

void MeterLink::close() {
    patience_.stop();
    if (port_.isOpen()) port_.close();
}

void MeterLink::ask() {
    if (!connected()) return void(emit said("No meter is connected: choose its port first.", true));
    port_.write(survey::meter_request.data(), static_cast<qint64>(survey::meter_request.size()));
    patience_.start();
    emit said("Measuring …", false);
}

void MeterLink::listen() {
    heard_ += port_.readAll();
    for (auto end = heard_.indexOf('\n'); end >= 0; end = heard_.indexOf('\n')) {
        const QByteArray line = heard_.left(end);
        heard_.remove(0, end + 1);
        take(line);
    }
    if (heard_.size() > longest_line) heard_.clear();
}

void MeterLink::take(const QByteArray& line) {
    if (line.trimmed().isEmpty()) return;
    patience_.stop();
    const auto reading = survey::read_meter_line({line.constData(), static_cast<std::size_t>(line.size())});
    if (!reading) {
        const QString why = QString::fromStdString(reading.error().message);
        return void(emit said(why.left(1).toUpper() + why.mid(1) + ". Nothing was taken: measure again.", true));
    }
    emit said(QString("%1 mm").arg(reading->range_mm, 0, 'f', 1), false);
    emit measured(*reading);
}

void MeterLink::lost(QSerialPort::SerialPortError error) {
    if (error == QSerialPort::NoError || !port_.isOpen()) return;
    if (error != QSerialPort::ResourceError && error != QSerialPort::ReadError && error != QSerialPort::WriteError &&
        error != QSerialPort::PermissionError && error != QSerialPort::UnknownError)
        return;
    close();
    emit said("The meter has gone. What was taken is kept; connect it again to go on.", true);
}

}  // namespace bevelsmith::app
