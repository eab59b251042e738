#include "app/shell/keys_panel.h"

namespace bevelsmith::app {

ShortcutsPanel::ShortcutsPanel(Document& document) : SidePanel(document, "Keys") {
    const std::pair<const char*, const char*> keys[] = {
        {"Ctrl 1 to 6", "the steps, in their order"},
        {"Ctrl Z, Ctrl Shift Z", "undo, redo: every edit"},
        {"Ctrl S, Ctrl Shift S", "save, save as"},
        {"Ctrl O, Ctrl N", "open, begin a new job"},
        {"Ctrl P", "papers to cut from"},
        {"Ctrl K", "what needs attention"},
        {"Ctrl L", "datum and reference marks"},
        {"Ctrl B, Ctrl G", "fold the pieces, the facts"},
        {"Ctrl D", "day and night"},
        {"F1", "this list"},
        {"Tab", "on to the next field or place"},
        {"Enter in a field", "takes it, and waits for the next"},
        {"Escape", "gives back the field, closes a sheet"},
        {"Enter in the readings", "corrects one"},
        {"Ctrl Enter in the readings", "on to the next set without readings, or to what the guide does next"},
        {"Space, Delete in the readings", "sets one aside, removes it"},
        {"R, M, N in the readings", "takes one again, makes it a named mark, notes something"},
        {"Ctrl and drag on the drawing", "a loop chooses the readings that it encloses"},
        {"F7", "asks the meter, where one is connected"},
        {"Arrows, Enter on a photo", "go to a place, and put a mark or a point there; Backspace takes back"},
        {"Page keys, Delete on a photo", "from point to point, removes the chosen"},
        {"+  −  0 and arrows on a drawing", "nearer, farther, all of it, move"},
        {"B in Pieces", "on the bench, in the boat"},
        {"Arrows in the boat",
         "the section fore and aft, the plan up and down; Page keys the profile; Shift farther"},
        {"Enter in the boat",
         "takes what is chosen in hand: arrows move it 1 mm (Shift 10), a figure puts it; Esc lets go"},
        {"Shift while dragging there", "a tenth as fast, to the millimetre"},
        {"1 2 3 4, 0 in the boat", "section, profile, plan, the 3-D view alone; all three"},
        {"H, Shift H in the boat", "hide what is chosen, show it again"},
        {"Shift or Ctrl, Ctrl T", "choose several pieces; what to do with them"},
        {"Left, Right, letters in the pieces", "fold and unfold a unit, find a piece"},
        {"Arrows on the shape", "turn it"},
        {"Arrows on a ribbon", "along the edge or the boat"},
        {"R on the sheets", "turns the part that is held"}};
    for (const auto& [key, what] : keys) {
        auto* row = new QHBoxLayout;
        auto* left = new QLabel(QString::fromUtf8(key));
        left->setObjectName("heading");
        left->setFixedWidth(170);
        left->setWordWrap(true);
        auto* right = new QLabel(QString::fromUtf8(what));
        right->setWordWrap(true);
        row->addWidget(left, 0, Qt::AlignTop);
        row->addWidget(right, 1);
        panel_->column()->addLayout(row);
    }
    panel_->end();
}

}  // namespace bevelsmith::app
