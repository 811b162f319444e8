// Work split among threads. Each item is computed alone and writes its own place, so that the number of threads never
// changes a digit.
//
// The threads are started once and wait between two pieces of work. Where fewer can be started than were asked for, those
// that run do the parts of the others; what a part throws is thrown again once all parts have ended.
#pragma once

#include <algorithm>
#include <condition_variable>
#include <cstddef>
#include <exception>
#include <functional>
#include <mutex>
#include <system_error>
#include <thread>
#include <vector>

#if defined(__unix__) || defined(__APPLE__)
#include <unistd.h>
#endif

namespace unsere {

class Team {
 public:
  Team() = default;
  Team(const Team&) = delete;
  Team& operator=(const Team&) = delete;

  ~Team() {
    {
      std::lock_guard<std::mutex> hold(lock_);
      over_ = true;
    }
    wake_.notify_all();
    for (auto& member : members_) member.join();
  }

  // Calls part(0) .. part(parts - 1), on as many threads as can be had; false where the team is at work already.
  bool run(std::size_t parts, const std::function<void(std::size_t)>& part) {
    std::unique_lock<std::mutex> alone(busy_, std::try_to_lock);
    if (!alone.owns_lock()) return false;
    std::unique_lock<std::mutex> hold(lock_);
    enlist(parts - 1);
    part_ = &part;
    parts_ = parts;
    next_ = 0;
    open_ = parts;
    fault_ = nullptr;
    wake_.notify_all();
    take_parts(hold);
    done_.wait(hold, [this] { return open_ == 0; });
    part_ = nullptr;
    if (fault_) std::rethrow_exception(fault_);
    return true;
  }

  std::size_t size() const { return members_.size() + 1; }

 private:
  // More threads than the machine runs at once would only take memory.
  static std::size_t most_members() { return std::max<std::size_t>(4, std::thread::hardware_concurrency()) - 1; }

  void enlist(std::size_t wanted) {
    wanted = std::min(wanted, most_members());
    try {
      while (members_.size() < wanted) members_.emplace_back([this] { serve(); });
    } catch (const std::system_error&) {
      // The system gives no more threads: those that are there do the work.
    }
  }

  void serve() {
    std::unique_lock<std::mutex> hold(lock_);
    for (;;) {
      wake_.wait(hold, [this] { return over_ || (part_ && next_ < parts_); });
      if (over_) return;
      take_parts(hold);
    }
  }

  void take_parts(std::unique_lock<std::mutex>& hold) {
    while (part_ && next_ < parts_) {
      const std::size_t mine = next_++;
      const auto* work = part_;
      hold.unlock();
      std::exception_ptr fault;
      try {
        (*work)(mine);
      } catch (...) {
        fault = std::current_exception();
      }
      hold.lock();
      if (fault && !fault_) fault_ = fault;
      if (--open_ == 0) done_.notify_all();
    }
  }

  std::mutex busy_, lock_;
  std::condition_variable wake_, done_;
  std::vector<std::thread> members_;
  const std::function<void(std::size_t)>* part_ = nullptr;
  std::size_t parts_ = 0, next_ = 0, open_ = 0;
  std::exception_ptr fault_;
  bool over_ = false;
};

// One team a process. A copy of the process (a fork) has none of the threads and starts its own.
inline Team& the_team() {
#if defined(__unix__) || defined(__APPLE__)
  static pid_t owner = getpid();
  static Team* team = new Team();
  if (owner != getpid()) {
    owner = getpid();
    team = new Team();  // the other one's threads are not here to be joined
  }
  return *team;
#else
  static Team* team = new Team();
  return *team;
#endif
}

// Calls work(from, to) on consecutive parts of 0 .. items - 1.
template <typename Work>
void in_parallel(std::size_t items, int threads, Work work) {
  const std::size_t parts = std::max<std::size_t>(1, std::min<std::size_t>(items, threads > 0 ? static_cast<std::size_t>(threads) : 1));
  const std::function<void(std::size_t)> one = [&](std::size_t part) { work(items * part / parts, items * (part + 1) / parts); };
  if (parts > 1 && the_team().run(parts, one)) return;
  for (std::size_t part = 0; part < parts; ++part) one(part);
}

}  // namespace unsere
