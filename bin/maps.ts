import { writeFileSync } from 'node:fs';
import { fromByteArray } from 'base64-js';
import { type Billet, sizeOf, stretched } from '../core/billet/billet.ts';
import { makePoints } from '../core/billet/fields/field.ts';
import { betweenDies, shapedTo, squaredUp } from '../core/billet/sectionFlow.ts';
import { runFlow } from '../core/flow/run.ts';
import { type Kept, keptNodes, lookingUp, mapFrom, nodesOn, packed } from '../core/geometry/maps/baked.ts';
import { knockedOutline } from '../core/geometry/maps/usual.ts';
import { Reach } from '../core/geometry/maps/rays.ts';
import { type Outline, outlineArea, rectangle, scaleOutline } from '../core/geometry/outline.ts';
import { type MoveKind, moveOf } from '../core/moves/index.ts';
import { makeShop } from '../core/shop/shop.ts';
import { Probe, probeBar } from '../core/tests/probe.ts';
import { type Places, areaKept, cellAreas } from '../core/geometry/maps/areaKept.ts';

/**
 * Works out how even bars usually flow and writes it to core/geometry/maps/usual.json: `npm run maps`, some minutes. To be run
 * again when the solver, or how a move presses, has changed.
 */
const FILE = new URL('../core/geometry/maps/usual.json', import.meta.url);
const CELLS = 24;
const ACROSS = 2 * CELLS + 1;
const HALF_MM = 25;
const SQUARE = rectangle(2 * HALF_MM, 2 * HALF_MM);
/** Of the way to the rim: the last place that is asked of the flow's elements, and one within, to go on from. */
const [RIM, WITHIN] = [0.998, 0.96];

type Spot = readonly [number, number];

/** One way of pressing that is worked out. */
interface Wanted {
  readonly kind: MoveKind;
  readonly parameters: object;
  readonly biteShare: number;
  readonly before: Outline;
  /** The shape it comes to, where that is no square. */
  readonly after?: Outline;
  /** The first turn, where it is not the move's own. */
  readonly turnDeg?: number;
  /** From the grid's square to a section of the same area in half-sides; left out where that is the square. */
  readonly onto?: (u: number, v: number, out: [number, number]) => void;
  /** Where steel comes from, in half-sides, as it is kept. */
  readonly from: (x: number, y: number) => Spot;
  readonly kept: Kept;
  /** Whether it is the mean with its mirror image: which corners are pressed first is nobody's rule. */
  readonly mirror: boolean;
}

/** A section left nearly of a shape by the dies, brought to it as the steps do. */
function brought(left: Billet, shape: Outline | undefined): Billet {
  if (shape) return shapedTo(left, shape);
  const rectangular = squaredUp(left);
  const { widthMm, heightMm } = sizeOf(rectangular);
  const side = Math.sqrt(widthMm * heightMm);
  return stretched(rectangular, side / widthMm, side / heightMm);
}

/** Where the steel at every node comes from, by the flow: of a fine grid, what a step presses by itself. */
function workedOut(wanted: Wanted): Places {
  const { kind, parameters, biteShare, before, turnDeg } = wanted;
  const shop = makeShop({ biteMm: biteShare * 2 * HALF_MM });
  const probe = new Probe();
  const bar = probeBar(before, probe);
  const move = moveOf(kind);
  const p = { ...parameters, heats: 0, reckoned: 'by flow' };
  const { bar: hot, spec: own } = move.flows!([bar], p, shop)!;
  const passes = own.passes.map((pass, i) =>
    i === 0 && turnDeg !== undefined ? { ...pass, turnDeg } : pass,
  );
  const began = performance.now();
  const spec = { ...own, passes, grid: 'finest' } as const;
  let worst = 0;
  const stage = runFlow(
    spec,
    () => undefined,
    (_pass, done) => (worst = done.ok ? Math.max(worst, done.report.worstResidual) : worst),
  );
  if (!stage.ok) throw new Error(`${kind} ${JSON.stringify(parameters)}: ${stage.why}`);
  const after = brought(betweenDies(hot, spec, stage), wanted.after);
  console.log(
    `${kind} ${JSON.stringify(parameters)}, bite ${biteShare}, turned ${turnDeg ?? 'as it says'}: residual ${worst.toExponential(1)}, ${Math.round((performance.now() - began) / 1000)} s`,
  );
  const half = Math.sqrt(outlineArea(after.outline)) / 2;
  const points = makePoints(1);
  const ask = ([x, y]: Spot, share: number): Spot => {
    points.x[0] = half * x * share;
    points.y[0] = half * y * share;
    points.count = 1;
    after.field.sample(points, new Uint8Array(1));
    return [probe.x[0] / HALF_MM, probe.y[0] / HALF_MM];
  };
  return nodesOn(CELLS, (u, v, out) => {
    [out[0], out[1]] = [u, v];
    wanted.onto?.(u, v, out);
    const spot: Spot = [out[0], out[1]];
    const far = Math.max(Math.abs(u), Math.abs(v));
    let [x, y] = ask(spot, far > RIM ? RIM / far : 1);
    if (far > RIM) {
      const [x0, y0] = ask(spot, WITHIN / far);
      const on = (far - RIM) / (RIM - WITHIN);
      [x, y] = [x + on * (x - x0), y + on * (y - y0)];
    }
    [out[0], out[1]] = wanted.from(x, y);
  });
}

/** The mean of a map with itself turned by quarters or a half, and with its mirror image. */
function evened({ xy }: Places, kept: Kept, mirror: boolean): Places {
  const sum = new Float64Array(xy.length);
  const turns = kept === 'quarter' ? [0, 1, 2, 3] : [0, 2];
  const flips = mirror ? [1, -1] : [1];
  for (const flip of flips)
    for (const turn of turns)
      for (let j = -CELLS; j <= CELLS; j++)
        for (let i = -CELLS; i <= CELLS; i++) {
          let [ti, tj] = [flip * i, j];
          for (let k = 0; k < turn; k++) [ti, tj] = [-tj, ti];
          const from = 2 * ((tj + CELLS) * ACROSS + ti + CELLS);
          let [x, y] = [xy[from], xy[from + 1]];
          for (let k = 0; k < turn; k++) [x, y] = [y, -x];
          const to = 2 * ((j + CELLS) * ACROSS + i + CELLS);
          sum[to] += flip * x;
          sum[to + 1] += y;
        }
  return { across: ACROSS, xy: sum.map((s) => s / (turns.length * flips.length)) };
}

const half = (outline: Outline): Outline => outline.map(([x, y]) => [x / HALF_MM, y / HALF_MM]);
const standing = ([x, y]: Spot): Spot => [Math.SQRT1_2 * (x - y), Math.SQRT1_2 * (x + y)];

/** Worked out, evened, its cells' areas kept to the last digit, and packed. */
function map(wanted: Wanted): { text: string; sources: Float64Array } {
  const evenly = evened(workedOut(wanted), wanted.kept, wanted.mirror);
  const rim = half(wanted.before).map(([x, y]) => wanted.from(x, y));
  const areas = cellAreas(nodesOn(CELLS, wanted.onto));
  const { xy } = areaKept(evenly, areas, rim);
  const moved = xy.reduce((sum, x, i) => sum + (x - evenly.xy[i]) ** 2, 0) / (ACROSS * ACROSS);
  console.log(`  moved by ${(100 * Math.sqrt(moved)).toFixed(2)} % of the half-side to keep areas`);
  const numbers = [...keptNodes(CELLS, wanted.kept)].flatMap((n) => [xy[2 * n], xy[2 * n + 1]]);
  return { text: fromByteArray(packed(numbers)), sources: xy };
}

const same = (x: number, y: number): Spot => [x, y];

// The bias re-square.
const SIDES = [0.6, 0.72, 0.84, 0.96];
const BITES = [0.4, 0.9, 1.6];
const [MIDDLE_SIDE, MIDDLE_BITE] = [0.86, 0.9];
const TURNS = [0, 5, 10, 16, 23];

const resquared = (sideShare: number, biteShare: number, turnDeg?: number) =>
  map({
    kind: 'resquare',
    parameters: { turn: 'left', sideMm: sideShare * 2 * HALF_MM, errorDeg: 0 },
    biteShare,
    before: SQUARE,
    ...(turnDeg === undefined ? {} : { turnDeg: 45 + turnDeg }),
    from: (x, y) => standing([x, y]),
    kept: 'quarter',
    mirror: turnDeg === undefined || turnDeg === 0,
  });

/** Of the way to the outline: where the corner's line is looked for. */
const LINE_AT = 0.985;

/** How far the line from the middle of the old side misses the new corner, degrees. */
function missOf(sources: Float64Array): number {
  const back = lookingUp(mapFrom(CELLS, sources));
  const from: [number, number] = [0, 0];
  // Standing on its corner the line runs where both coordinates are alike.
  let best = 0;
  let was = NaN;
  for (let deg = -3; deg < 30; deg += 0.005) {
    const angle = ((45 + deg) * Math.PI) / 180;
    const reach = LINE_AT / Math.max(Math.cos(angle), Math.sin(angle));
    back(reach * Math.cos(angle), reach * Math.sin(angle), from);
    const over = from[0] - from[1];
    if (was * over <= 0) best = deg;
    was = over;
  }
  return Math.round(100 * best) / 100;
}

const maps = SIDES.flatMap((side) => BITES.map((bite) => resquared(side, bite).text));
const off = TURNS.map((turnDeg) => {
  const { text, sources } = resquared(MIDDLE_SIDE, MIDDLE_BITE, turnDeg);
  return { turnDeg, missDeg: turnDeg === 0 ? 0 : missOf(sources), map: text };
});

// Corners knocked down, and filled again.
const knocked = (shape: 'octagon' | 'round') => {
  const outline = scaleOutline(knockedOutline(shape), HALF_MM, HALF_MM);
  const reach = new Reach(knockedOutline(shape));
  return {
    to: map({
      kind: 'corners',
      parameters: { shape },
      biteShare: MIDDLE_BITE,
      before: SQUARE,
      after: outline,
      onto: (u, v, out) => reach.fromSquare(u, v, out),
      from: same,
      kept: 'quarter',
      mirror: true,
    }).text,
    back: map({
      kind: 'draw',
      parameters: { shape: 'square', sideMm: 0.92 * 2 * HALF_MM },
      biteShare: MIDDLE_BITE,
      before: outline,
      from: same,
      kept: 'quarter',
      mirror: true,
    }).text,
  };
};

// Leaned to the right.
const LEANS = [5, 10, 15, 20];
const leaned = LEANS.map((leanDeg) => {
  const t = Math.tan((leanDeg * Math.PI) / 180);
  return map({
    kind: 'lean',
    parameters: { leanDeg },
    biteShare: MIDDLE_BITE,
    before: SQUARE,
    after: SQUARE.map(([x, y]) => [x + t * y, y]),
    onto: (u, v, out) => {
      [out[0], out[1]] = [u + t * v, v];
    },
    from: same,
    kept: 'half',
    mirror: false,
  }).text;
});

const octagon = knocked('octagon');
const round = knocked('round');
writeFileSync(
  FILE,
  `${JSON.stringify({
    cells: CELLS,
    resquare: { sides: SIDES, bites: BITES, maps, off },
    knock: { octagon, round },
    lean: { leans: LEANS, maps: leaned },
  })}\n`,
);
