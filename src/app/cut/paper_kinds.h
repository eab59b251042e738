// Every kind of paper and file to cut from, one record each: what it is of, what it is called, what can be chosen
// about it, and how it is written.
#pragma once

#include <QString>
#include <functional>
#include <string>
#include <vector>

#include "app/document/document.h"
#include "paper/labels.h"
#include "paper/pdf.h"

namespace bevelsmith::app {

/// What a paper is of.
struct PaperOf {
    enum class What { job, piece, sheet } what = What::job;
    std::string id;  ///< piece or part; of a sheet its material
    int sheet = 0;   ///< counted from 0
    bool operator==(const PaperOf&) const = default;
};

/// What a person chooses about papers, remembered from one session to the next.
struct PaperChoices {
    paper::PdfOptions pdf;
    double step_mm = exchange::row_spacing_mm;  ///< between rows of figures
    std::string labels = "a4-24";               ///< a label sheet's id
};

struct PaperKind {
    const char* id;  ///< stays: choices are remembered by it
    PaperOf::What of;
    const char* words;
    const char* suffix;  ///< in the file's name, so that no two kinds of one thing have one name
    const char* ending;
    bool has_paper = false, has_rows = false, has_labels = false;
    /// Writes it from results that do not change meanwhile; not in the window's thread. Throws Stopped when
    /// `keep_going` says no.
    using Write = Result<bool> (*)(const Computed& computed, const PaperOf& of, const PaperChoices& choices,
                                   const std::string& path, const KeepGoing& keep_going);
    Write write;
};

/// In the order in which they are offered, those of one thing together.
const std::vector<PaperKind>& paper_kinds();

/// "B2 half-bulkhead ordinates.csv": safe as a file's name whatever the piece is called.
QString proposed_name(const Computed& computed, const PaperOf& of, const PaperKind& kind);

}  // namespace bevelsmith::app
