// A laser meter at hand while readings are taken: its port, a button that asks it, and how it fares.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QWidget>

#include "app/devices/meter_link.h"

namespace bevelsmith::app {

class MeterBar : public QWidget {
    Q_OBJECT
  public:
    explicit MeterBar(QWidget* parent = nullptr);
    MeterLink& link() { return link_; }

  signals:
    void measured(const bevelsmith::survey::MeterReading& reading);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void refresh();
    MeterLink link_;
    QComboBox* port_;
    QPushButton *connect_, *ask_;
    QLabel* state_;
};

}  // namespace bevelsmith::app
