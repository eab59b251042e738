// For tests of what is kept: a state folder of their own, disks that are full or may only be read.
#pragma once

#include <catch2/catch.hpp>

#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <csignal>
#include <cstdlib>

#include "app/keeping/kept_work.h"
#include "app/keeping/state_folder.h"
#include "job/job_file.h"
#include "support/jobs.h"
#include "window/driver.h"

namespace keeping {

using namespace bevelsmith;
using namespace bevelsmith::app;
using driver::Window;

/// A state folder of the test's own, as a new user has it.
class State {
  public:
    State() {
        driver::application();
        before_ = qgetenv("XDG_STATE_HOME");
        qputenv("XDG_STATE_HOME", folder_.path().toUtf8());
    }
    ~State() { qputenv("XDG_STATE_HOME", before_); }

  private:
    QTemporaryDir folder_;
    QByteArray before_;
};

inline QString saved_demo(const jobs::Folder& folder, const std::string& name = "t.job.json") {
    const std::string path = folder.file(name);
    REQUIRE(job::save_job(jobs::ternlight(), path).ok());
    return QString::fromStdString(path);
}

inline void rename(Document& document, const char* name) {
    document.edit("Rename", [&](job::Job& job) { job.name = name; });
}

inline std::string name_in(const QString& path) {
    const auto loaded = job::load_job(path.toStdString());
    return loaded ? loaded->name : "cannot be read: " + loaded.error().message;
}

/// A disk that can be filled: a small file system where one may be mounted, else a limit on the size of files.
class FullDisk {
  public:
    FullDisk() {
        const std::string mount =
            "mount -t tmpfs -o size=256k tmpfs " + folder_.path().toStdString() + " 2>/dev/null";
        mounted_ = std::system(mount.c_str()) == 0;
    }
    ~FullDisk() {
        make_room();
        if (mounted_) (void)!std::system(("umount -l " + folder_.path().toStdString()).c_str());
    }
    QString path() const { return folder_.path(); }
    void fill() const {
        if (!mounted_) return limit_files(100);
        QFile ballast(path() + "/ballast");
        if (ballast.open(QIODevice::WriteOnly))
            while (ballast.write(QByteArray(1024, 'x')) == 1024 && ballast.flush()) {}
    }
    void make_room() const {
        if (!mounted_) return limit_files(RLIM_INFINITY);
        QFile::remove(path() + "/ballast");
    }

  private:
    static void limit_files(rlim_t bytes) {
        ::signal(SIGXFSZ, SIG_IGN);
        rlimit limit{};
        ::getrlimit(RLIMIT_FSIZE, &limit);
        limit.rlim_cur = bytes;
        ::setrlimit(RLIMIT_FSIZE, &limit);
    }
    QTemporaryDir folder_;
    bool mounted_ = false;
};

/// A folder with the demo in it that may only be read.
class ReadOnly {
  public:
    explicit ReadOnly(const QString& path) : path_(path) {
        QDir().mkpath(path);
        const std::string at = path.toStdString();
        mounted_ = ::geteuid() == 0 && std::system(("mount -t tmpfs tmpfs " + at + " 2>/dev/null").c_str()) == 0;
        if (!job::save_job(jobs::ternlight(), at + "/t.job.json")) return;
        if (mounted_) works_ = std::system(("mount -o remount,ro " + at).c_str()) == 0;
        else if (::geteuid() != 0) works_ = ::chmod(at.c_str(), 0555) == 0;
    }
    ~ReadOnly() {
        if (mounted_) (void)!std::system(("umount -l " + path_.toStdString()).c_str());
        else ::chmod(path_.toUtf8().constData(), 0755);
    }
    QString path() const { return path_; }
    bool works() const { return works_; }

  private:
    QString path_;
    bool mounted_ = false, works_ = false;
};

inline QString notice(const Window& w) {
    return w.main.notice()->words();
}

}  // namespace keeping
