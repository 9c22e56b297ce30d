// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "Cluster.h"

#include <array>
#include <cstdio>
#include <cstdlib>
#include <sstream>
#include <sys/wait.h>

namespace kiln::cli
{
namespace
{

struct Said {
  int code = 0;
  std::string text;
};

/// A manager that does not answer would hold it up for a minute.
Said run(const std::string& command)
{
  Said said;
  FILE* pipe = ::popen(("timeout 3 " + command + " 2>&1 </dev/null").c_str(), "r");
  if (pipe == nullptr)
    return {1, "no shell"};
  std::array<char, 4096> some{};
  while (std::fgets(some.data(), static_cast<int>(some.size()), pipe) != nullptr)
    said.text += some.data();
  const int status = ::pclose(pipe);
  said.code = WIFEXITED(status) ? WEXITSTATUS(status) : 1;
  while (!said.text.empty() && said.text.back() == '\n')
    said.text.pop_back();
  return said;
}

tl::unexpected<Failure> missing(const std::string& what, const std::string& remedy)
{
  return failure(Failure::Kind::NotReady, "workload manager", what, remedy);
}

} // namespace

std::string shellWord(const std::string& text)
{
  std::string word = "'";
  for (const char c : text)
    word += c == '\'' ? std::string("'\\''") : std::string(1, c);
  return word + "'";
}

Expected<Cluster> Cluster::find()
{
  if (run("sh -c 'command -v sbatch && command -v squeue && command -v scancel'").code != 0)
    return missing("Its commands (sbatch, squeue, scancel) are not there.",
                   "Start the program on a machine that can hand in jobs, or solve here.");
  if (const char* file = std::getenv("SLURM_CONF"); file != nullptr && !std::filesystem::exists(file))
    return missing(std::string("Its configuration ") + file + " is not there.", "Set SLURM_CONF to the right file.");
  const Said ping = run("scontrol ping");
  if (ping.code != 0 || ping.text.find("UP") == std::string::npos)
    return missing("It does not answer" + (ping.text.empty() ? std::string(".") : ": " + ping.text + "."),
                   "Ask whoever looks after it, or solve here.");
  return Cluster();
}

Expected<std::string> Cluster::submit(const std::filesystem::path& script, const std::filesystem::path& folder,
                                      const std::string& name, int tasks) const
{
  const Said said = run("sbatch --parsable --array=1-" + std::to_string(tasks) + " --job-name=" + shellWord(name) +
                        " --chdir=" + shellWord(folder.string()) +
                        " --output=" + shellWord((folder / "said-%a.txt").string()) + " " + shellWord(script.string()));
  const std::string number = said.text.substr(0, said.text.find(';'));
  if (said.code != 0 || number.empty() || number.find_first_not_of("0123456789") != std::string::npos)
    return missing("It refused the job: " + said.text + ".", "See to what it says, or solve here.");
  return number;
}

std::map<int, std::string> Cluster::states(const std::string& job) const
{
  std::map<int, std::string> states;
  const Said said = run("squeue -h -r -t all -j " + job + " -o '%K|%T'");
  if (said.code != 0)
    return states;
  std::istringstream lines(said.text);
  for (std::string line; std::getline(lines, line);)
    if (const auto bar = line.find('|'); bar != std::string::npos)
      states[std::atoi(line.c_str())] = line.substr(bar + 1);
  return states;
}

void Cluster::cancel(const std::string& job) const { static_cast<void>(run("scancel " + job)); }

} // namespace kiln::cli
