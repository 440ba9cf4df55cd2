import { type Outline, type Point2, boundingBox } from '../geometry/outline.ts';
import { prepared, span } from './pieces.ts';
import type { SeamQuestion } from './question.ts';
import { sharedSides } from './seams.ts';

/** A seam lies along a side that it leaves by no more, mm. */
const ALONG_MM = 0.1;

/** A piece that is larger than it should be: what lies nearest the middle of all stays where it was. */
function enlarged(outline: Outline, byMm: number, [cx, cy]: Point2): Outline {
  const { minX, maxX, minY, maxY } = boundingBox(outline);
  const still = (low: number, high: number, c: number) => Math.min(high, Math.max(low, c));
  const [sx, sy] = [still(minX, maxX, cx), still(minY, maxY, cy)];
  const [gx, gy] = [1 + byMm / (maxX - minX), 1 + byMm / (maxY - minY)];
  return outline.map(([x, y]) => [sx + (x - sx) * gx, sy + (y - sy) * gy] as const);
}

/** The pieces as they were got ready, before the first press. */
export function readied({ pieces, larger, gapMm, cornerMm }: SeamQuestion): Outline[] {
  // Of two that were ground each is full by half of what they stand open; what lies on a flat strip is full by all of it.
  const onStrips = sharedSides(pieces).filter(
    ({ first, second }) => pieces[first].bought !== pieces[second].bought,
  );
  const crownOf = (k: number, [p, q]: readonly [Point2, Point2]): number => {
    const lies = ({ from, to }: { from: Point2; to: Point2 }) =>
      span(p, from) + span(from, q) + (span(p, to) + span(to, q)) < 2 * span(p, q) + ALONG_MM;
    return onStrips.some((s) => (s.first === k || s.second === k) && lies(s)) ? gapMm : gapMm / 2;
  };
  const { minX, maxX, minY, maxY } = boundingBox(pieces.flatMap((p) => p.outline));
  const middle: Point2 = [(minX + maxX) / 2, (minY + maxY) / 2];
  return pieces.map(({ outline, bought }, k) => {
    const sized = larger?.piece === k ? enlarged(outline, larger.byMm, middle) : outline;
    if (bought) return sized;
    const crownsMm = outline.map((p, i) => crownOf(k, [p, outline[(i + 1) % outline.length]]));
    return prepared(sized, { crownsMm, cornerMm });
  });
}
