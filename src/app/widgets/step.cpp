#include "app/widgets/step.h"

#include "app/widgets/drawing_view.h"
#include "job/in_full.h"

namespace bevelsmith::app {

void Step::forget() {
    for (QWidget* part : {stage_, ribbon_}) {
        if (auto* view = qobject_cast<DrawingView*>(part)) view->fit();
        for (auto* view : part->findChildren<DrawingView*>()) view->fit();
    }
}

std::vector<review::Finding> findings_of(const Computed& computed, const QString& piece_id) {
    std::vector<review::Finding> out;
    for (const auto& f : computed.findings)
        if (f.piece_id == piece_id.toStdString()) out.push_back(f);
    return out;
}

void edit_piece(Document& document, const QString& id, const QString& what,
                const std::function<void(job::JobPiece&)>& change, const QString& merge_key) {
    document.edit(
        what, [&](job::Job& job) { job::change_piece(job, id.toStdString(), change); }, merge_key);
}

}  // namespace bevelsmith::app
