// Building blocks of the columns: headings, figures with their unit and reason, labelled fields, findings.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QPointer>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <QWidget>
#include <algorithm>
#include <functional>

#include "app/widgets/fault_line.h"
#include "app/widgets/quantity_edit.h"
#include "review/review.h"

namespace bevelsmith::app {

/// A column of blocks that scrolls when it is too tall, with one act at its foot.
class Panel : public QWidget {
    Q_OBJECT
  public:
    explicit Panel(QWidget* parent = nullptr);

    QLabel* heading(const QString& text);
    QLabel* words(const QString& text, bool faint = true);
    FaultLine* fault();
    /// A field with its label before it and its fault under it.
    template <class Field>
    Field* field(const QString& label, Field* widget) {
        add_field(label, widget);
        return widget;
    }
    QComboBox* choice(const QString& label, const QStringList& words);
    QPushButton* quiet_button(const QString& text);
    void add(QWidget* widget, int stretch = 0) { column_->addWidget(widget, stretch); }
    void add_space() { column_->addSpacing(6); }
    /// Everything below sticks to the top.
    void end() { column_->addStretch(1); }
    QPushButton* act(const QString& text);
    QVBoxLayout* column() { return column_; }
    /// The keys go to the first of its fields as they stand, or to the last.
    void enter(bool at_first);

  protected:
    /// Tab goes from field to field as they stand, whenever they were made; to the reasons only after all of them.
    bool focusNextPrevChild(bool next) override;
    /// Words above it come and go: the field that has the keys stays where it stands, as far as the column scrolls.
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void note_field();
    void hold_field();
    std::vector<QWidget*> in_order() const;
    void add_field(const QString& label, QWidget* widget);
    QVBoxLayout* column_;
    QVBoxLayout* outer_;
    QScrollArea* scroll_;
    QPointer<QWidget> held_;  ///< the field that has the keys
    int held_y_ = 0;          ///< where it stands in what is seen of the column
};

/// A large figure: name, value with unit, and a quiet "why?" that opens its reason.
class Figure : public QWidget {
    Q_OBJECT
  public:
    explicit Figure(const QString& name, QWidget* parent = nullptr);
    void show_value(const QString& value, const QString& unit, const QString& why);
    void set_name(const QString& name) { name_->setText(name); }
    QString value() const { return value_->text(); }

  private:
    QLabel *name_, *value_, *unit_, *reason_;
    QPushButton* why_;
};

class Document;

/// A form or the like that is unfolded among other things: no higher than so many pixels, and scrolled within.
class FoldOut : public QScrollArea {
    Q_OBJECT
  public:
    FoldOut(QWidget* content, int most_px);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return {0, std::min(sizeHint().height(), least_px)}; }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    static constexpr int least_px = 90;
    int most_px_;
};

/// The sign of a severity: round, triangle, octagon, in its colour.
QPixmap severity_sign(review::Severity severity, int pixels);

/// One finding: sign, what is wrong, evidence, what to do.
class FindingRow : public QWidget {
    Q_OBJECT
  public:
    /// With a document what would mend it is offered under it.
    FindingRow(const review::Finding& finding, Document* document, QWidget* parent = nullptr);
};

/// Findings that touch the selection, refilled when they change.
class FindingsBox : public QWidget {
    Q_OBJECT
  public:
    explicit FindingsBox(Document& document, QWidget* parent = nullptr);
    void show_findings(const std::vector<review::Finding>& findings);

  private:
    Document& document_;
    QVBoxLayout* column_;
    std::vector<review::Finding> shown_;
};

}  // namespace bevelsmith::app
