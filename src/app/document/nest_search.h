// A longer search for a better layout, beside the window, with progress; it can be stopped at any time and gives
// back the best layout it has.
#pragma once

#include <QObject>
#include <atomic>
#include <memory>
#include <thread>

#include "sheets/layout.h"

namespace bevelsmith::app {

class NestSearch : public QObject {
    Q_OBJECT
  public:
    explicit NestSearch(QObject* parent = nullptr) : QObject(parent) {}
    ~NestSearch() override;

    bool running() const { return thread_.joinable(); }
    void start(std::shared_ptr<const sheets::Problem> problem, double seconds, unsigned seed);
    /// The search ends soon after, with `finished`.
    void stop() { stop_ = true; }

  signals:
    void progressed(double share, int sheets, double utilisation);
    /// The best so far, whenever there is a better one.
    void bettered(std::shared_ptr<const sheets::Layout> best);
    /// Null where the search failed for lack of memory.
    void finished(std::shared_ptr<const sheets::Layout> layout);

  private:
    std::thread thread_;
    std::atomic<bool> stop_ = false;
};

}  // namespace bevelsmith::app
