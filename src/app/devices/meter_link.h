// The line to a laser meter: asks, listens, and says in plain words what goes wrong.
#pragma once

#include <QSerialPort>
#include <QTimer>

#include "survey/meter_line.h"

namespace bevelsmith::app {

class MeterLink : public QObject {
    Q_OBJECT
  public:
    explicit MeterLink(QObject* parent = nullptr);

    /// Ports that are there now.
    static QStringList ports();
    void open(const QString& port);
    void close();
    bool connected() const { return port_.isOpen(); }
    /// Asks for a measurement; an answer, or that none came, is told later.
    void ask();
    /// How long an answer is waited for.
    void set_patience(int milliseconds) { patience_.setInterval(milliseconds); }

  signals:
    void measured(const bevelsmith::survey::MeterReading& reading);
    /// The state, or what went wrong.
    void said(const QString& words, bool fault);

  private:
    void listen();
    void take(const QByteArray& line);
    void lost(QSerialPort::SerialPortError error);

    QSerialPort port_;
    QTimer patience_;
    QByteArray heard_;
};

}  // namespace bevelsmith::app
