// Copyright (C) 2026 the Usual Kiln authors. SPDX-License-Identifier: AGPL-3.0-or-later
#include "mesh/PatchMesh.h"

#include "base/At.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <queue>

namespace kiln
{
namespace
{

constexpr double largestRadius = 0.78;   // circumradius over wanted size; 0.577 is an equilateral triangle
constexpr double closestToVertex = 0.72; // of the wanted size
constexpr double closestToBorder = 0.40; // of the wanted size
constexpr int smoothingPasses = 4;

int next(int side) { return side == 2 ? 0 : side + 1; }
int previous(int side) { return side == 0 ? 2 : side - 1; }

double distanceToSegment(const Vec3& p, const Vec3& a, const Vec3& b)
{
  const Vec3 along = b - a;
  const double t = std::clamp((p - a).dot(along) / std::max(along.squaredNorm(), 1e-300), 0.0, 1.0);
  return (p - a - t * along).norm();
}

/// Cosine of the largest-cosine, that is the smallest, angle of a triangle.
double cosineOfSmallest(const Vec3& a, const Vec3& b, const Vec3& c)
{
  const Vec3 ab = b - a;
  const Vec3 bc = c - b;
  const Vec3 ca = a - c;
  const double lab = ab.norm();
  const double lbc = bc.norm();
  const double lca = ca.norm();
  const double least = 1e-300;
  return std::max({-ab.dot(ca) / std::max(lab * lca, least), -ab.dot(bc) / std::max(lab * lbc, least),
                   -bc.dot(ca) / std::max(lbc * lca, least)});
}

/// Do the angles at two places over one side sum to more than a half turn, by more than rounding?
bool moreThanHalfTurn(const Vec2& p, const Vec2& q, const Vec2& a, const Vec2& b)
{
  constexpr double hysteresis = 1e-6; // rad
  const auto sides = [&](const Vec2& apex) {
    const Vec2 first = a - apex;
    const Vec2 second = b - apex;
    return Vec2(std::abs(first.x() * second.y() - first.y() * second.x()), first.dot(second)); // sine, cosine
  };
  const Vec2 atP = sides(p);
  const Vec2 atQ = sides(q);
  return atP.x() * atQ.y() + atP.y() * atQ.x() < -hysteresis * atP.norm() * atQ.norm(); // the sine of the sum
}

/// Barycentric weights of the circumcentre; nothing for a needle.
std::optional<Vec3> circumcentreWeights(const Vec2& a, const Vec2& b, const Vec2& c)
{
  const double la = (b - c).squaredNorm();
  const double lb = (c - a).squaredNorm();
  const double lc = (a - b).squaredNorm();
  const Vec3 weights(la * (lb + lc - la), lb * (lc + la - lb), lc * (la + lb - lc));
  const double sum = weights.sum();
  if (!(sum > 1e-12 * std::max({la, lb, lc}) * std::max({la, lb, lc})))
    return std::nullopt;
  return weights / sum;
}

} // namespace

PatchMesh::PatchMesh(PatchBorder border) : border_(std::move(border)) {}

bool PatchMesh::collapsed(const Triangle& t) const
{
  const auto same = [this](int a, int b) {
    return vertex(a).pole && vertex(b).pole && vertex(a).node == vertex(b).node;
  };
  return same(t[0], t[1]) || same(t[1], t[2]) || same(t[2], t[0]);
}

double PatchMesh::turn(const Vec2& a, const Vec2& b, const Vec2& c) const
{
  const Vec2 ab = (b - a).cwiseProduct(border_.scale);
  const Vec2 ac = (c - a).cwiseProduct(border_.scale);
  return ab.x() * ac.y() - ab.y() * ac.x();
}

double PatchMesh::turn(int a, int b, int c) const { return turn(vertex(a).uv, vertex(b).uv, vertex(c).uv); }

template <std::size_t N>
std::array<Vec2, N> PatchMesh::unrolled(const std::array<int, N>& corners) const
{
  Vec2 mean = Vec2::Zero();
  for (const int v : corners)
    mean += vertex(v).uv / static_cast<double>(N);
  const Vec2 scale = border_.scaleAt(mean);
  std::array<Vec2, N> flat;
  for (std::size_t i = 0; i < N; ++i)
    flat[i] = vertex(corners[i]).uv.cwiseProduct(scale);
  return flat;
}

bool PatchMesh::constrained(int c, int side) const
{
  if (cell(c).neighbours[at(side)] < 0)
    return true;
  if (inner_.empty())
    return false;
  return inner_.contains(std::minmax(cell(c).corners[at(next(side))], cell(c).corners[at(previous(side))]));
}

bool PatchMesh::build()
{
  std::vector<Vec2> scaled;
  for (const PatchVertex& v : border_.vertices)
    scaled.emplace_back(v.uv.cwiseProduct(border_.scale));
  const auto triangles = triangulateRegion(scaled, border_.segments);
  if (!triangles || triangles->empty())
    return false;
  for (const Triangle& t : *triangles)
    cells_.push_back({t, {-1, -1, -1}});
  connect();
  flipAll();
  refine();
  for (int pass = 0; pass < smoothingPasses; ++pass) {
    smooth();
    flipAll();
  }
  return true;
}

std::vector<Triangle> PatchMesh::triangles() const
{
  std::vector<Triangle> result;
  for (const Cell& c : cells_)
    if (!collapsed(c.corners))
      result.push_back(c.corners);
  return result;
}

void PatchMesh::connect()
{
  std::map<std::pair<int, int>, std::pair<int, int>> open;
  for (int c = 0; c < static_cast<int>(cells_.size()); ++c)
    for (int side = 0; side < 3; ++side) {
      const auto edge = std::minmax(cell(c).corners[at(next(side))], cell(c).corners[at(previous(side))]);
      const std::pair<int, int> key(edge.first, edge.second);
      const auto found = open.find(key);
      if (found == open.end()) {
        open.emplace(key, std::pair(c, side));
        continue;
      }
      const auto [other, otherSide] = found->second;
      cell(c).neighbours[at(side)] = other;
      cell(other).neighbours[at(otherSide)] = c;
      open.erase(found);
    }
  for (const auto& [a, b] : border_.segments)
    if (!open.contains(std::minmax(a, b)))
      inner_.insert(std::minmax(a, b));
}

double PatchMesh::badness(int c) const
{
  const Triangle& t = cell(c).corners;
  if (collapsed(t))
    return 0;
  const auto [p, q, r] = unrolled(t);
  const double doubledArea = std::abs((q - p).x() * (r - p).y() - (q - p).y() * (r - p).x());
  const double radius = (q - p).norm() * (r - q).norm() * (p - r).norm() / std::max(2 * doubledArea, 1e-300);
  PatchVertex centre;
  centre.uv = (vertex(t[0]).uv + vertex(t[1]).uv + vertex(t[2]).uv) / 3;
  centre.place = (vertex(t[0]).place + vertex(t[1]).place + vertex(t[2]).place) / 3;
  return radius / border_.sizeAt(centre);
}

int PatchMesh::locate(int start, const Vec2& uv) const
{
  int c = start;
  for (std::size_t steps = 0; steps < cells_.size() + 3; ++steps) {
    int leave = -1;
    double worst = -1e-14;
    for (int side = 0; side < 3; ++side) {
      const double t =
          turn(vertex(cell(c).corners[at(next(side))]).uv, vertex(cell(c).corners[at(previous(side))]).uv, uv);
      if (t < worst) {
        worst = t;
        leave = side;
      }
    }
    if (leave < 0)
      return c;
    if (constrained(c, leave))
      return -1;
    c = cell(c).neighbours[at(leave)];
  }
  return -1;
}

bool PatchMesh::tooClose(int c, const Vec3& place, double size) const
{
  const auto near = [&](int at_) {
    for (int side = 0; side < 3; ++side) {
      const Vec3& a = vertex(cell(at_).corners[at(side)]).place;
      if ((a - place).norm() < closestToVertex * size)
        return true;
      const Vec3& b = vertex(cell(at_).corners[at(next(side))]).place;
      if (constrained(at_, previous(side)) && distanceToSegment(place, a, b) < closestToBorder * size)
        return true;
    }
    return false;
  };
  if (near(c))
    return true;
  return std::any_of(cell(c).neighbours.begin(), cell(c).neighbours.end(), [&](int n) { return n >= 0 && near(n); });
}

void PatchMesh::refine()
{
  std::priority_queue<std::pair<double, int>> worst;
  std::vector<double> known; // badness by cell, when it was considered last
  const auto consider = [&](int c) {
    known.resize(cells_.size(), 0.0);
    if (const double bad = known[at(c)] = badness(c); bad > largestRadius)
      worst.emplace(bad, c);
  };
  for (int c = 0; c < static_cast<int>(cells_.size()); ++c)
    consider(c);
  constexpr std::size_t mostCells = 4'000'000; // a guard, far above any sensible face
  std::vector<int> touched;
  while (!worst.empty() && cells_.size() < mostCells) {
    const auto [bad, c] = worst.top();
    worst.pop();
    if (known[at(c)] != bad)
      continue; // changed since it was queued
    touched.clear();
    if (insertCentre(c, touched)) {
      std::sort(touched.begin(), touched.end());
      touched.erase(std::unique(touched.begin(), touched.end()), touched.end());
      for (const int t : touched)
        consider(t);
    }
  }
}

bool PatchMesh::insertCentre(int c, std::vector<int>& touched)
{
  const Triangle t = cell(c).corners;
  const auto [flat0, flat1, flat2] = unrolled(t);
  const auto weights = circumcentreWeights(flat0, flat1, flat2);
  if (!weights)
    return false;
  PatchVertex centre;
  centre.uv = (*weights)[0] * vertex(t[0]).uv + (*weights)[1] * vertex(t[1]).uv + (*weights)[2] * vertex(t[2]).uv;
  int home = locate(c, centre.uv);
  if (home < 0 || collapsed(cell(home).corners)) {
    // The circumcentre lies beyond a border or at a pole: try the middle of the triangle itself.
    centre.uv = (vertex(t[0]).uv + vertex(t[1]).uv + vertex(t[2]).uv) / 3;
    home = c;
  }
  centre.place = border_.placeAt(centre.uv);
  if (tooClose(home, centre.place, border_.sizeAt(centre)))
    return false;
  int onSide = -1;
  for (int side = 0; side < 3; ++side) {
    const Triangle& corners = cell(home).corners;
    const double whole = turn(corners[0], corners[1], corners[2]);
    const double part = turn(vertex(corners[at(next(side))]).uv, vertex(corners[at(previous(side))]).uv, centre.uv);
    if (part < 1e-6 * whole)
      onSide = side;
  }
  if (onSide >= 0 && (constrained(home, onSide) || collapsed(cell(cell(home).neighbours[at(onSide)]).corners)))
    return false;
  const int v = static_cast<int>(border_.vertices.size());
  border_.vertices.push_back(centre);
  if (onSide >= 0)
    splitSide(home, onSide, v, touched);
  else
    splitCell(home, v, touched);
  legalise(touched, touched);
  return true;
}

void PatchMesh::replaceNeighbour(int c, int from, int to)
{
  if (c >= 0)
    std::replace(cell(c).neighbours.begin(), cell(c).neighbours.end(), from, to);
}

void PatchMesh::splitCell(int c, int v, std::vector<int>& touched)
{
  const Cell old = cell(c);
  const int d = static_cast<int>(cells_.size());
  const int e = d + 1;
  cells_.resize(cells_.size() + 2);
  const auto [p, q, r] = old.corners;
  const auto [n0, n1, n2] = old.neighbours;
  cell(c) = {{p, q, v}, {d, e, n2}};
  cell(d) = {{q, r, v}, {e, c, n0}};
  cell(e) = {{r, p, v}, {c, d, n1}};
  replaceNeighbour(n0, c, d);
  replaceNeighbour(n1, c, e);
  touched.insert(touched.end(), {c, d, e});
}

void PatchMesh::splitSide(int c, int side, int v, std::vector<int>& touched)
{
  const int o = cell(c).neighbours[at(side)];
  const Cell mine = cell(c);
  const Cell theirs = cell(o);
  const int otherSide =
      static_cast<int>(std::find(theirs.neighbours.begin(), theirs.neighbours.end(), c) - theirs.neighbours.begin());
  const int apex = mine.corners[at(side)];
  const int a = mine.corners[at(next(side))];
  const int b = mine.corners[at(previous(side))];
  const int far = theirs.corners[at(otherSide)];
  const int na = mine.neighbours[at(next(side))];        // opposite a: side b–apex
  const int nb = mine.neighbours[at(previous(side))];    // opposite b: side apex–a
  const int fb = theirs.neighbours[at(next(otherSide))]; // theirs: next corner is b, opposite it: a–far
  const int fa = theirs.neighbours[at(previous(otherSide))];
  const int d = static_cast<int>(cells_.size());
  const int e = d + 1;
  cells_.resize(cells_.size() + 2);
  cell(c) = {{apex, a, v}, {e, d, nb}};
  cell(d) = {{apex, v, b}, {o, na, c}};
  cell(o) = {{far, b, v}, {d, e, fa}};
  cell(e) = {{far, v, a}, {c, fb, o}};
  replaceNeighbour(na, c, d);
  replaceNeighbour(fb, o, e);
  touched.insert(touched.end(), {c, d, o, e});
}

bool PatchMesh::flipIfBetter(int c, int side)
{
  if (constrained(c, side))
    return false;
  const int o = cell(c).neighbours[at(side)];
  const auto& theirs = cell(o).neighbours;
  const int otherSide = static_cast<int>(std::find(theirs.begin(), theirs.end(), c) - theirs.begin());
  const int p = cell(c).corners[at(side)];
  const int a = cell(c).corners[at(next(side))];
  const int b = cell(c).corners[at(previous(side))];
  const int q = cell(o).corners[at(otherSide)];
  if (collapsed(cell(c).corners) || collapsed(cell(o).corners) || collapsed({p, a, q}) || collapsed({p, q, b}))
    return false;
  const auto [flatP, flatA, flatB, flatQ] = unrolled<4>({p, a, b, q});
  if (!moreThanHalfTurn(flatP, flatQ, flatA, flatB))
    return false;
  const double whole = turn(p, a, b) + turn(q, b, a);
  if (turn(p, a, q) < 1e-9 * whole || turn(p, q, b) < 1e-9 * whole)
    return false;
  flip(c, side, o, otherSide);
  return true;
}

void PatchMesh::flip(int c, int side, int o, int otherSide)
{
  const Cell mine = cell(c);
  const Cell theirs = cell(o);
  const int p = mine.corners[at(side)];
  const int a = mine.corners[at(next(side))];
  const int b = mine.corners[at(previous(side))];
  const int q = theirs.corners[at(otherSide)];
  const int bp = mine.neighbours[at(next(side))];
  const int pa = mine.neighbours[at(previous(side))];
  const int aq = theirs.neighbours[at(next(otherSide))]; // corner after q is b; opposite b: a–q
  const int qb = theirs.neighbours[at(previous(otherSide))];
  cell(c) = {{p, a, q}, {aq, o, pa}};
  cell(o) = {{p, q, b}, {qb, bp, c}};
  replaceNeighbour(aq, o, c);
  replaceNeighbour(bp, c, o);
}

void PatchMesh::legalise(std::vector<int> open, std::vector<int>& touched)
{
  std::size_t flips = 0;
  constexpr std::size_t mostFlips = 1000; // the criterion in space may cycle on strongly curved patches
  while (!open.empty() && flips < mostFlips) {
    const int c = open.back();
    open.pop_back();
    for (int side = 0; side < 3; ++side) {
      const int o = cell(c).neighbours[at(side)];
      if (!flipIfBetter(c, side))
        continue;
      ++flips;
      for (const int changed : {c, o}) {
        open.push_back(changed);
        touched.push_back(changed);
      }
      break;
    }
  }
}

void PatchMesh::flipAll()
{
  constexpr int mostSweeps = 20;
  bool changed = true;
  for (int sweep = 0; changed && sweep < mostSweeps; ++sweep) {
    changed = false;
    for (int c = 0; c < static_cast<int>(cells_.size()); ++c)
      for (int side = 0; side < 3; ++side)
        changed = flipIfBetter(c, side) || changed;
  }
}

double PatchMesh::worstCosine(int v, const std::vector<int>& star, const Vec2& uv, const Vec3& place) const
{
  constexpr double turnedOver = 2;
  double worst = -1;
  for (const int c : star) {
    const Triangle& t = cell(c).corners;
    const int side = static_cast<int>(std::find(t.begin(), t.end(), v) - t.begin());
    const PatchVertex& a = vertex(t[at(next(side))]);
    const PatchVertex& b = vertex(t[at(previous(side))]);
    if (turn(uv, a.uv, b.uv) <= 0)
      return turnedOver;
    worst = std::max(worst, cosineOfSmallest(place, a.place, b.place));
  }
  return worst;
}

void PatchMesh::smooth()
{
  std::vector<std::vector<int>> stars(border_.vertices.size());
  for (int c = 0; c < static_cast<int>(cells_.size()); ++c)
    for (const int v : cell(c).corners)
      stars[at(v)].push_back(c);
  for (int v = 0; v < static_cast<int>(border_.vertices.size()); ++v) {
    PatchVertex& moving = border_.vertices[at(v)];
    const std::vector<int>& star = stars[at(v)];
    const auto hasPole = [&](int c) { return collapsed(cell(c).corners); };
    if (moving.fixed || star.empty() || std::any_of(star.begin(), star.end(), hasPole))
      continue;
    Vec2 sum = Vec2::Zero();
    for (const int c : star)
      for (const int corner : cell(c).corners)
        if (corner != v)
          sum += vertex(corner).uv;
    const Vec2 uv = sum / (2.0 * static_cast<double>(star.size()));
    const Vec3 place = border_.placeAt(uv);
    if (worstCosine(v, star, uv, place) < worstCosine(v, star, moving.uv, moving.place)) {
      moving.uv = uv;
      moving.place = place;
    }
  }
}

} // namespace kiln
