#include "app/widgets/entered.h"

namespace bevelsmith::app {

void when_entered(QLineEdit& edit, const std::function<void()>& act) {
    const auto enter = [&edit, act] {
        edit.setModified(false);
        act();
    };
    QObject::connect(&edit, &QLineEdit::returnPressed, &edit, enter);
    QObject::connect(&edit, &QLineEdit::editingFinished, &edit, [&edit, enter] {
        if (edit.isModified()) enter();
    });
}

}  // namespace bevelsmith::app
