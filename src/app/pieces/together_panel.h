// Several pieces at once: put into a group, moved, copied, turned to the other side, hidden.
#pragma once

#include "app/widgets/side_panel.h"

namespace bevelsmith::app {

class TogetherPanel : public SidePanel {
    Q_OBJECT
  public:
    explicit TogetherPanel(Document& document);

  private:
    /// What is chosen together; where nothing is, the group of the selected piece.
    std::vector<std::string> ids() const;
    void refresh();
    void add_fields(FieldList& fields);
    /// Takes a changed job over where a job may be so: a sum of moves leads beyond the range of places, copies of
    /// copies beyond the number of pieces, and such a job could not be opened again. False, and said, where it may
    /// not.
    bool take(const QString& what, const job::Job& changed);
    /// Adds pieces, and chooses these.
    void make(const QString& what, const std::function<std::vector<std::string>(job::Job&)>& make);
    Vec3 by_ = Vec3::Zero();
    QLabel* which_;
    Form* form_;
};

}  // namespace bevelsmith::app
