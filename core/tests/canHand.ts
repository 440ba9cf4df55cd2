import type { CanAction } from '../instruct/canAction.ts';
import { type Outline, regularPolygon } from '../geometry/outline.ts';
import { type Thing, type V, add, agrees, block, box, clipped, moved, prism } from './bodies.ts';

/** What the literal hand makes of a can as it is told: its plates, what is set in where it is said, and powder in all the rest. mm. */
export function filled(
  can: Thing,
  a: Extract<CanAction, { do: 'build can' | 'set in' | 'bend in' | 'fill' | 'powder' }>,
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
    case 'bend in': {
      // Of a box: four lengths along its walls, each as far as where the next one's middle is.
      const inside = can.slice(-2, -1);
      const { low, high } = box(inside);
      const [w, h, r] = [(high[0] - low[0]) / 2, (high[1] - low[1]) / 2, a.thickMm / 2];
      agrees(a.longMm, 4 * (w - r) + 4 * (h - r));
      const wire = (at: number): Thing => {
        const near = (x: number, y: number, z: number): boolean =>
          Math.hypot(Math.min(w - Math.abs(x), h - Math.abs(y)) - r, z - at) <= r;
        const code = codeOf(a.material);
        return [[1, 0] as const, [-1, 0] as const, [0, 1] as const, [0, -1] as const].flatMap(([x, y]) => {
          const [wide, high2] = x === 0 ? [2 * w, a.thickMm] : [a.thickMm, 2 * h - 2 * a.thickMm];
          const middle: [number, number] = [x * (w - r), y * (h - r)];
          const field = (p: V): number =>
            near(p[0] + middle[0], p[1] + middle[1], p[2] + at - r) ? code : NaN;
          const outline: Outline = [
            [-wide / 2, -high2 / 2],
            [wide / 2, -high2 / 2],
            [wide / 2, high2 / 2],
            [-wide / 2, high2 / 2],
          ];
          return moved([prism(field, outline, a.thickMm)], add(low, [w + middle[0], h + middle[1], at - r]));
        });
      };
      return [...a.middlesMm.flatMap(wire), ...can];
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
      const bladed = (nth: number) => (p: V) => {
        const u = a.bowed === 'along' ? (2 * p[2]) / eachMm - 1 : (2 * p[0]) / wide;
        const up = (a.bowMm ?? 0) * (nth % 2 === 0 ? 1 : -1);
        // A parabola whose middle and edges stand as far from where it is laid.
        const out = Math.abs(p[1] - up * (0.5 - u * u)) > high2 / 2;
        const { deepMm, count: teeth } = a.teeth ?? { deepMm: 0, count: 1 };
        const at = ((p[2] / eachMm) * teeth) % 1;
        const notch = wide / 2 - deepMm * Math.abs(2 * at - 1);
        return out || p[0] > notch ? NaN : codeOf(a.material);
      };
      const pieces = a.middlesMm.flatMap(([x, y], nth) =>
        Array.from({ length: count }, (_, k): Thing => {
          const from = over / 2 + k * (eachMm + gapMm);
          if (a.wire) {
            const wire = wound(a, eachMm, codeOf(a.material));
            return moved([prism(wire, regularPolygon(32, 1.1 * area), eachMm)], add(low, [x, y, from]));
          }
          if (a.bowMm !== undefined || a.teeth) {
            const tall = high2 + (a.bowMm ?? 0);
            const box = block(0, [-wide / 2, -tall / 2, 0], [wide / 2, tall / 2, eachMm]);
            return moved(
              box.map((body) => ({ ...body, field: bladed(nth) })),
              add(low, [x, y, from]),
            );
          }
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

/** Bars stood in the room of a can, which is its last but one; what is longer than the room comes off at end B. */
export function stoodIn(
  can: Thing,
  { bars, longMm }: Extract<CanAction, { do: 'stand in' }>,
  named: (name: string) => Thing,
): Thing {
  const { low: corner } = box(can.slice(-2, -1));
  const standing = bars.flatMap(({ name, middleMm: [x, y], isCut }) => {
    const bar = named(name);
    const { low, high } = box(bar);
    const sawn = isCut ? clipped(bar, [0, 0, 1], low[2] + longMm) : bar;
    return moved(sawn, add(corner, [x - (low[0] + high[0]) / 2, y - (low[1] + high[1]) / 2, -low[2]]));
  });
  return [...standing, ...can];
}

/** Steps of a turn in which a spring's wire is looked for. */
const STEPS = 720;

/** A spring wound to the right, beginning on the right, or links of which the first lies level: what is wire by its distance to the middle line, looked for in small steps. */
function wound(a: Extract<CanAction, { do: 'set in' }>, longMm: number, code: number): (p: V) => number {
  const { thickMm, pitchMm, strands } = a.wire!;
  const line: V[] = [];
  if (a.what === 'springs') {
    const r = (a.sizesMm[0] - thickMm) / 2;
    for (let i = 0; i <= (STEPS * longMm) / pitchMm; i++)
      for (let k = 0; k < strands; k++) {
        const turn = 2 * Math.PI * (i / STEPS + k / strands);
        line.push([r * Math.cos(turn), r * Math.sin(turn), (i * pitchMm) / STEPS]);
      }
  } else {
    const r = (a.sizesMm[0] - thickMm) / 2;
    const half = (pitchMm - 2 * r + thickMm) / 2;
    for (let k = 0; (k + 1) * pitchMm + 2 * thickMm <= longMm + 1e-6; k++)
      for (let i = 0; i < STEPS; i++) {
        const turn = (2 * Math.PI * i) / STEPS;
        const [u, w] = [r * Math.cos(turn), r * Math.sin(turn)];
        for (let share = 0; share <= 1; share += 0.05) {
          const z = thickMm + pitchMm / 2 + k * pitchMm + w + Math.sign(w || 1) * half;
          const side = Math.abs(w) < 0.02 * r ? z - 2 * Math.sign(w || 1) * half * share : z;
          line.push(k % 2 === 0 ? [u, 0, side] : [0, u, side]);
        }
      }
  }
  const near = (p: V) => line.some((q) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) <= thickMm / 2);
  return (p) => (near(p) ? code : NaN);
}
