#include "app/shell/sheets.h"

#include <optional>

#include "app/cut/cost_sheet.h"
#include "app/cut/layouts_sheet.h"
#include "app/cut/outlines_sheet.h"
#include "app/cut/papers_sheet.h"
#include "app/cut/stock_sheet.h"
#include "app/guide/guide.h"
#include "app/measure/datum_sheet.h"
#include "app/measure/import_sheet.h"
#include "app/measure/marks_sheet.h"
#include "app/measure/new_set_sheet.h"
#include "app/measure/photo_sheet.h"
#include "app/pieces/new_piece_sheet.h"
#include "app/pieces/obstacles_sheet.h"
#include "app/pieces/together_sheet.h"
#include "app/practice/practice_sheet.h"
#include "app/shell/findings_sheet.h"
#include "app/shell/keys_sheet.h"

namespace bevelsmith::app {

SideSheet* make_sheet(Document& document, const QString& name) {
    if (name == "findings") return new FindingsSheet(document);
    if (name == "stock") return new StockSheet(document);
    if (name == "cost") return new CostSheet(document);
    if (name == "outlines") return new OutlinesSheet(document);
    if (name.startsWith("layouts of ")) return new LayoutsSheet(document, name.mid(11).toStdString());
    if (name == "photo of a panel") return new PhotoSheet(document, PhotoSheet::As::panel);
    if (name == "papers") return new PapersSheet(document);
    if (name == "new set") return new NewSetSheet(document);
    if (name == "guide") return new GuideSheet(document);
    if (name == "import") return new ImportSheet(document);
    if (name.startsWith("pasted into ")) return new ImportSheet(document, name.mid(12).toStdString());
    if (name.startsWith("marks of ")) return new MarksSheet(document, name.mid(9).toStdString());
    if (name == "datum") return new DatumSheet(document);
    if (name == "photo") return new PhotoSheet(document, PhotoSheet::As::readings);
    if (name == "practice") return new PracticeSheet(document);
    if (name == "together") return new TogetherSheet(document);
    if (name == "obstacles") return new ObstaclesSheet(document, {});
    if (name.startsWith("obstacles: ")) return new ObstaclesSheet(document, name.mid(11).toStdString());
    if (name == "room") return new RoomSheet(document);
    if (name == "keys") return new ShortcutsSheet(document);
    if (!name.startsWith("new piece")) return nullptr;
    if (name.startsWith("new piece at ")) return new NewPieceSheet(document, name.mid(13).toDouble());
    return new NewPieceSheet(document, std::nullopt);
}

}  // namespace bevelsmith::app
