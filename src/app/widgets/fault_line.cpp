#include "app/widgets/fault_line.h"

namespace bevelsmith::app {

FaultLine::FaultLine(QWidget* parent) : QLabel(parent) {
    setObjectName("fault");
    setWordWrap(true);
    hide();
}

void FaultLine::say(const QString& fault) {
    setText(fault);
    setVisible(!fault.isEmpty());
}

}  // namespace bevelsmith::app
