import type { CanAction } from '../instruct/canAction.ts';
import { regularPolygon } from '../geometry/outline.ts';
import { type Thing, add, block, box, moved, prism } from './bodies.ts';

/** What the literal hand makes of a can as it is told: its plates, what is set in where it is said, and powder in all the rest. mm. */
export function filled(
  can: Thing,
  a: Extract<CanAction, { do: 'build can' | 'set in' | 'fill' | 'powder' }>,
  codeOf: (material: string) => number,
): Thing {
  switch (a.do) {
    case 'build can': {
      if (a.shape !== 'box') throw new Error('The hand bends no walls');
      const [w, h] = [a.outsideMm[0] / 2, a.outsideMm[1] / 2];
      const wall = block(codeOf(a.material), [-w, -h, 0], [w, h, a.longMm]);
      // The room comes before its walls: of bodies that lie in one another the first counts.
      const room = block(
        0,
        [-w + a.wallMm, -h + a.wallMm, a.capMm],
        [w - a.wallMm, h - a.wallMm, a.longMm - a.capMm],
      );
      return [...room, ...wall];
    }
    case 'set in': {
      const inside = can.slice(-2, -1);
      const { low, high } = box(inside);
      const deep = high[2] - low[2];
      const { count, eachMm, gapMm } = a.lengths ?? { count: 1, eachMm: deep, gapMm: 0 };
      const over = deep - count * eachMm - (count - 1) * gapMm;
      const [wide, high2] = [a.sizesMm[0], a.sizesMm[a.sizesMm.length - 1]];
      const round = a.what === 'rod' || a.what === 'ball';
      const area = Math.PI * (wide / 2) ** 2;
      const pieces = a.middlesMm.flatMap(([x, y]) =>
        Array.from({ length: count }, (_, k): Thing => {
          const from = over / 2 + k * (eachMm + gapMm);
          const rod = round
            ? [prism(codeOf(a.material), regularPolygon(32, area), eachMm)]
            : block(codeOf(a.material), [-wide / 2, -high2 / 2, 0], [wide / 2, high2 / 2, eachMm]);
          return moved(rod, add(low, [x, y, from]));
        }),
      );
      return [...pieces.flat(), ...can];
    }
    case 'powder':
      return can.map((b) => (b.field === 0 ? { ...b, field: codeOf(a.material) } : b));
    case 'fill':
      if (can.some((b) => b.field === 0)) throw new Error('With what?');
      return can;
  }
}
