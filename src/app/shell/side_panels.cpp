#include "app/shell/side_panels.h"

#include <variant>

#include "app/cut/cost_panel.h"
#include "app/cut/layouts_panel.h"
#include "app/cut/outlines_panel.h"
#include "app/cut/papers_panel.h"
#include "app/cut/stock_panel.h"
#include "app/guide/guide.h"
#include "app/measure/datum_panel.h"
#include "app/measure/import_panel.h"
#include "app/measure/marks_panel.h"
#include "app/measure/new_set_panel.h"
#include "app/measure/photo_panel.h"
#include "app/pieces/new_piece_panel.h"
#include "app/pieces/obstacles_panel.h"
#include "app/pieces/offer_up_panel.h"
#include "app/pieces/set_out_panel.h"
#include "app/pieces/together_panel.h"
#include "app/practice/practice_panel.h"
#include "app/shell/findings_panel.h"
#include "app/shell/keys_panel.h"

namespace bevelsmith::app {

namespace {

/// One for each kind of request: a kind without one does not compile.
struct Maker {
    Document& document;

    SidePanel* operator()(const panel::Cost&) const { return new CostPanel(document); }
    SidePanel* operator()(const panel::Datum&) const { return new DatumPanel(document); }
    SidePanel* operator()(const panel::Findings&) const { return new FindingsPanel(document); }
    SidePanel* operator()(const panel::Guide&) const { return new GuidePanel(document); }
    SidePanel* operator()(const panel::Import&) const { return new ImportPanel(document); }
    SidePanel* operator()(const panel::Keys&) const { return new ShortcutsPanel(document); }
    SidePanel* operator()(const panel::Layouts& of) const { return new LayoutsPanel(document, of.material_id); }
    SidePanel* operator()(const panel::Marks& of) const { return new MarksPanel(document, of.set_id); }
    SidePanel* operator()(const panel::NewPiece& one) const { return new NewPiecePanel(document, one.at_mm); }
    SidePanel* operator()(const panel::NewSet&) const { return new NewSetPanel(document); }
    SidePanel* operator()(const panel::Obstacles& of) const { return new ObstaclesPanel(document, of.first_id); }
    SidePanel* operator()(const panel::OfferUp&) const { return new OfferUpPanel(document); }
    SidePanel* operator()(const panel::Outlines&) const { return new OutlinesPanel(document); }
    SidePanel* operator()(const panel::PanelPhoto&) const { return new PhotoPanel(document, PhotoPanel::As::panel); }
    SidePanel* operator()(const panel::Papers&) const { return new PapersPanel(document); }
    SidePanel* operator()(const panel::Pasted& into) const { return new ImportPanel(document, into.set_id); }
    SidePanel* operator()(const panel::Photo&) const { return new PhotoPanel(document, PhotoPanel::As::readings); }
    SidePanel* operator()(const panel::Practice&) const { return new PracticePanel(document); }
    SidePanel* operator()(const panel::Room&) const { return new RoomPanel(document); }
    SidePanel* operator()(const panel::SetOut&) const { return new SetOutPanel(document); }
    SidePanel* operator()(const panel::Stock&) const { return new StockPanel(document); }
    SidePanel* operator()(const panel::Together&) const { return new TogetherPanel(document); }
};

}  // namespace

SidePanel* make_panel(Document& document, const PanelRequest& request) {
    return std::visit(Maker{document}, request);
}

}  // namespace bevelsmith::app
