import { readFileSync } from 'node:fs';
import { PressSolver } from '../core/flow/press.ts';
import type { PressOptions } from '../core/flow/pressing.ts';
import type { FlowSpec } from '../core/flow/run.ts';
import { pressFor } from '../core/moves/forge/press/search.ts';
import { rectangle } from '../core/geometry/outline.ts';
import { evaluate, readPlanText } from '../core/plan/index.ts';
import { seamReport } from '../core/loose/report.ts';
import { fourOf } from '../core/tests/seams.ts';
import { RESQUARE, sectionOf, turned } from '../core/tests/pressing.ts';
import { line } from './tools.ts';

/**
 * How many multiplications and additions a second this core does in JavaScript on numbers that are at hand: products of two rows
 * with four, eight sums at once, the best of several rounds.
 */
function productsASecond(): number {
  const n = 64;
  const v = Float64Array.from({ length: 6 * n }, (_, i) => 0.5 + (i % 7) / 10);
  const again = 20_000;
  let best = 0;
  let kept = 0;
  for (let round = 0; round < 12; round++) {
    const start = performance.now();
    for (let k = 0; k < again; k++) kept += sixRows(v, n);
    best = Math.max(best, (again * n * 16) / ((performance.now() - start) / 1000));
  }
  return kept > 0 ? best : 0;
}

function sixRows(v: Float64Array, n: number): number {
  let ap = 0;
  let aq = 0;
  let ar = 0;
  let as = 0;
  let bp = 0;
  let bq = 0;
  let br = 0;
  let bs = 0;
  for (let t = 0; t < n; t++) {
    const a = v[t];
    const b = v[n + t];
    const p = v[2 * n + t];
    const q = v[3 * n + t];
    const r = v[4 * n + t];
    const s = v[5 * n + t];
    ap += a * p;
    bp += b * p;
    aq += a * q;
    bq += b * q;
    ar += a * r;
    br += b * r;
    as += a * s;
    bs += b * s;
  }
  return ap + aq + ar + as + bp + bq + br + bs;
}

/** Bands of two steels that half a turn leaves as they are, and such as nothing does. */
const BARS: readonly (readonly [string, PressOptions['strength']])[] = [
  ['even', undefined],
  ['of five bands', (_x, y) => (Math.floor((y + 20) / 8) % 2 ? 1.2 : 0.8)],
  ['with a core to one side', (x, y) => (Math.hypot(x - 6, y + 3) < 9 ? 1.5 : 1)],
];

/** A whole bias re-square by the flow of the section, as the reference has it, with two meshes. */
export function flowing(): void {
  const most = productsASecond() / 1e9;
  line('products and sums on one core, at most', `${most.toFixed(2)} Gflop/s`);
  for (const [bar, strength] of BARS)
    for (const [n, rings, stepShare] of [
      [16, 5, 0.025],
      [32, 10, 0.03],
    ])
      resquared(bar, strength, n, rings, stepShare, most);
}

function resquared(
  bar: string,
  strength: PressOptions['strength'],
  n: number,
  rings: number,
  stepShare: number,
  most: number,
): void {
  let section = sectionOf(rectangle(40, 40), n, rings);
  const sums = { steps: 0, iterations: 0, flops: 0, factorS: 0 };
  const start = performance.now();
  for (const [turnDeg, toMm] of RESQUARE) {
    const solver = new PressSolver(turned(section, turnDeg), {
      exponent: 0.15,
      friction: 0.5,
      axial: { by: 'height', spread: 0.4 },
      stepShare,
      held: true,
      strength,
    });
    solver.equilibrium.clock = () => performance.now() / 1000;
    const out = solver.press(toMm);
    if (!out.ok) throw new Error(out.why);
    section = out.section;
    sums.steps += out.report.steps;
    sums.iterations += out.report.iterations;
    sums.flops += out.report.flops;
    sums.factorS += solver.equilibrium.factorS;
  }
  const seconds = (performance.now() - start) / 1000;
  const elements = section.mesh.quads.length / 4;
  line(`a bias re-square of six passes, ${bar}, ${elements} elements`, `${seconds.toFixed(1)} s`);
  line(
    'its steps, factorings, elements·steps a second',
    `${sums.steps}, ${sums.iterations}, ${((elements * sums.steps) / seconds / 1000).toFixed(1)} thousand`,
  );
  const rate = sums.flops / sums.factorS / 1e9;
  line(
    'factoring: share of the time, and how fast',
    `${((100 * sums.factorS) / seconds).toFixed(0)} %, ${rate.toFixed(2)} Gflop/s, ${((100 * rate) / most).toFixed(0)} % of what a core does at most`,
  );
}

/** A can with a picture pressed solid by the flow of its section, and a search for a way of pressing. */
export function pressing(): void {
  const heron = readPlanText(
    readFileSync(new URL('../server/demo/night-heron.json', import.meta.url), 'utf8'),
  );
  if (!heron.ok) throw new Error(heron.problems[0].message);
  const by = (reckoned: string): number => {
    const plan = structuredClone(heron.plan);
    for (const lane of plan.lanes)
      for (const step of lane.steps)
        if (step.kind === 'consolidate') Object.assign(step.parameters as object, { reckoned });
    const start = performance.now();
    evaluate(plan);
    return (performance.now() - start) / 1000;
  };
  const volumes = by('by volumes');
  line('a can pressed solid by its flow', `${(by('by flow') - volumes).toFixed(1)} s`);
  const spec: FlowSpec = {
    outline: rectangle(40, 40),
    passes: [40, 40, 36, 36].map((toMm, i) => ({ turnDeg: i === 0 ? 42 : 90, toMm })),
    exponent: 0.15,
    friction: 0.5,
    biteMm: 30,
    held: true,
    strength: null,
  };
  const start = performance.now();
  const found = pressFor(
    spec,
    { line: 'flat', measure: 'into the corners', targetMm: 0 },
    { turnOf: 0, turnDeg: [30, 60], heightOf: 0, toMm: [36, 44] },
  )!;
  const seconds = (performance.now() - start) / 1000;
  line('a way of pressing searched for', `${seconds.toFixed(1)} s, ${found.tries} tries`);
  const began = performance.now();
  const { rounds, steps } = seamReport(
    fourOf({
      presses: [
        { turned: false, toMm: 47 },
        { turned: true, toMm: 47 },
      ],
    }),
  );
  line(
    'the seams of four loose pieces, two presses',
    `${((performance.now() - began) / 1000).toFixed(1)} s, ${steps} steps, ${rounds} rounds of Newton’s method`,
  );
}
