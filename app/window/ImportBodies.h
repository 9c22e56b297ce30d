// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#pragma once

#include <QJsonObject>
#include <QString>
#include <QWidget>
#include <map>
#include <set>
#include <string>
#include <vector>

class QTableWidget;
class QToolButton;

namespace kiln
{

/// The bodies of a file before they are taken in: which of them, under which names, which of them as one part.
class ImportBodies : public QWidget
{
  Q_OBJECT

public:
  /// \param choosing  bodies can be left out and joined; else they are only listed
  explicit ImportBodies(bool choosing, QWidget* parent = nullptr);

  struct Choice {
    std::string id, name;
    std::string into; ///< id of the body it is joined to; empty: a part of its own
    bool taken = true;
    bool operator==(const Choice&) const = default;
  };

  /// Empties the list; what was chosen by hand comes back with the body.
  void clear();
  /// A body as the reader tells it.
  void add(const QJsonObject& body);
  [[nodiscard]] std::vector<Choice> choices() const;
  [[nodiscard]] std::set<std::string> selected() const;

signals:
  void selectionChanged();

private:
  void buildTools();
  void join(const std::vector<int>& rows);
  void joinAlike();
  void takeApart();
  void remember();
  void refresh();
  [[nodiscard]] std::vector<int> selectedRows() const;
  [[nodiscard]] std::string idAt(int row) const;
  [[nodiscard]] int rowOf(const std::string& id) const;
  [[nodiscard]] bool isWhole(int row) const;
  [[nodiscard]] bool isTicked(int row) const;

  bool choosing_;
  QTableWidget* table_;
  QToolButton *join_ = nullptr, *joinAlike_ = nullptr, *apart_ = nullptr;
  std::map<std::string, std::string> into_, sameAs_, notes_; ///< by id of a body
  std::map<std::string, Choice> chosen_;
};

} // namespace kiln
