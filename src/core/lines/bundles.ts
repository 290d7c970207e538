import { asideOf, type Crossing } from './crossing.ts';
import type { Join } from './joinCrossings.ts';

/** Joins of outlines that belong together, such as both of a pole's, side by side from left to right. */
export interface Bundle {
  /** All lead the same way; on the way from `from` to `to` the first is leftmost. */
  joins: readonly Join[];
}

/** Outlines so near to each other, in reduced px, and no more askew than this (radians) belong together. */
export const BUNDLE_OPTIONS = { near: 14, askew: 0.35 };

/** Bundles joins; those of the surest joins come first. */
export function bundleJoins(joins: readonly Join[], { near, askew } = BUNDLE_OPTIONS): Bundle[] {
  const bundles: Join[][] = [];
  for (const join of joins) {
    const touching = bundles.filter((bundle) => bundle.some((other) => belong(other, join, near, askew)));
    const [first, ...others] = touching;
    if (!first) {
      bundles.push([join]);
      continue;
    }
    first.push(join);
    for (const other of others) {
      first.push(...other);
      bundles.splice(bundles.indexOf(other), 1);
    }
  }
  return bundles.map(ordered);
}

const reversed = ({ from, to, value }: Join): Join => ({ from: to, to: from, value });

const leadsAs = (a: Join, b: Join): boolean => {
  const straight = Math.hypot(a.from.x - b.from.x, a.from.y - b.from.y) + Math.hypot(a.to.x - b.to.x, a.to.y - b.to.y);
  const crossed = Math.hypot(a.from.x - b.to.x, a.from.y - b.to.y) + Math.hypot(a.to.x - b.from.x, a.to.y - b.from.y);
  return straight <= crossed;
};

function belong(a: Join, other: Join, near: number, askew: number): boolean {
  const b = leadsAs(a, other) ? other : reversed(other);
  return (
    Math.abs(asideOf(a.from, b.from)) < near &&
    Math.abs(asideOf(a.to, b.to)) < near &&
    alongOf(a.from, b.from) < 3 * near &&
    alongOf(a.to, b.to) < 3 * near &&
    a.from.outX * b.from.outX + a.from.outY * b.from.outY > Math.cos(askew) &&
    a.to.outX * b.to.outX + a.to.outY * b.to.outY > Math.cos(askew)
  );
}

/** How far along the way out through `a` another crossing begins. */
const alongOf = (a: Crossing, b: Crossing): number => Math.abs((b.x - a.x) * a.outX + (b.y - a.y) * a.outY);

/** Two outlines of a bundle are at least so many px apart. */
const APART_PX = 1.5;

/** All leading as the first does, from left to right; of two that change sides or lie on each other the surer one stays. */
function ordered(joins: readonly Join[]): Bundle {
  const [first] = joins as [Join];
  const placed = joins
    .map((join) => (leadsAs(first, join) ? join : reversed(join)))
    // To the right of the way from `from` to `to`.
    .map((join) => ({ join, start: -asideOf(first.from, join.from), end: asideOf(first.to, join.to) }));
  const kept: typeof placed = [];
  for (const each of placed.toSorted((a, b) => b.join.value - a.join.value)) {
    const keepsOrder = kept.every(({ start, end }) => {
      const [apart, apartThere] = [each.start - start, each.end - end];
      return Math.min(Math.abs(apart), Math.abs(apartThere)) >= APART_PX && apart * apartThere > 0;
    });
    if (keepsOrder) kept.push(each);
  }
  return { joins: kept.toSorted((a, b) => a.start - b.start).map(({ join }) => join) };
}
