#include "app/document/nest_search.h"

namespace bevelsmith::app {

NestSearch::~NestSearch() {
    stop_ = true;
    if (thread_.joinable()) thread_.join();
}

void NestSearch::start(std::shared_ptr<const sheets::Problem> problem, double seconds, unsigned seed) {
    if (running()) return;
    stop_ = false;
    thread_ = std::thread([this, problem = std::move(problem), seconds, seed] {
        sheets::NestOptions options;
        options.seconds = seconds;
        options.seed = seed;
        options.progress = [this, known = 0.0, on = 0](const sheets::Progress& p) mutable {
            std::shared_ptr<const sheets::Layout> best;
            if (p.best && (p.sheets != on || p.utilisation != known))
                best = std::make_shared<const sheets::Layout>(*p.best);
            on = p.sheets, known = p.utilisation;
            QMetaObject::invokeMethod(
                this,
                [this, share = p.share, on, known, best] {
                    emit progressed(share, on, known);
                    if (best) emit bettered(best);
                },
                Qt::QueuedConnection);
            return !stop_;
        };
        std::shared_ptr<const sheets::Layout> layout;
        try {
            layout = std::make_shared<const sheets::Layout>(sheets::nest(*problem, options));
        } catch (const std::exception&) {
            // None: the layout before stays, and `finished` says that there is no other.
        }
        QMetaObject::invokeMethod(
            this,
            [this, layout] {
                thread_.join();
                emit finished(layout);
            },
            Qt::QueuedConnection);
    });
}

}  // namespace bevelsmith::app
