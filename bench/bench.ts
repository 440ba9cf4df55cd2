import { readFileSync } from 'node:fs';
import { facePlane } from '../core/billet/face.ts';
import { type Can, roomOf } from '../core/canister/can.ts';
import { poured } from '../core/canister/packing.ts';
import { butterflyMesh } from '../core/flow/mesh.ts';
import { PressSolver, type Section } from '../core/flow/press.ts';
import type { FlowSpec } from '../core/flow/run.ts';
import { pressFor } from '../core/moves/forge/press/search.ts';
import { rectangle } from '../core/geometry/outline.ts';
import { judge } from '../core/judgement/index.ts';
import {
  type Plan,
  allSteps,
  evaluate,
  readPlan,
  readPlanText,
  startFor,
  withParameters,
} from '../core/plan/index.ts';
import { FIRST_FORM } from '../core/picture/picture.ts';
import { traced } from '../core/picture/traced.ts';
import { paint, sampleCodes } from '../core/render/paint.ts';
import { makePalette } from '../core/render/palette.ts';
import { makeShop } from '../core/shop/shop.ts';
import { moveOf } from '../core/moves/index.ts';
import { cutFromStock, firstFitDecreasing } from '../core/stock/cuttingStock.ts';
import { wallPdf } from '../server/pdf/wallPdf.ts';
import { measureRepaint } from './browser.ts';
import { flatFace } from './flat.ts';

const SIZE = 1024;

type Move = [kind: string, parameters: unknown];

function plan(moves: Move[], shop: object = {}): Plan {
  const steps = moves.map(([kind, parameters], i) => ({ id: `s${i + 1}`, kind, parameters }));
  const read = readPlan({
    format: 'retablo-plan',
    version: 1,
    name: 'Bench',
    goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
    shop,
    lanes: [{ id: 'bar', name: 'Bar', steps }],
  });
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
}

const four: Move[] = [
  ['cut', { pieces: 4, cropAMm: 0, cropBMm: 0, kerfMm: 0 }],
  ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
  ['weld', { heats: 1, temperatureC: 1200 }],
  ['draw', { shape: 'square', sideMm: 30, heats: 0 }],
];
const bias: Move = ['resquare', { turn: 'left', sideMm: 30, errorDeg: 0, heats: 0 }];

function stack(lengthMm: number): Move[] {
  const pattern = [
    { material: '1084', thicknessMm: 2 },
    { material: '15n20', thicknessMm: 2 },
  ];
  return [
    ['stack', { layers: 27, pattern, widthMm: 54, lengthMm }],
    ['weld', { heats: 1, temperatureC: 1200 }],
    ['draw', { shape: 'square', sideMm: 30, heats: 0 }],
  ];
}

/** 27 layers, re-square, three mirrored four-ways, re-square, three more; no scale, so that it equals the flat loop. */
const sampled = plan([...stack(400), bias, ...four, ...four, ...four, bias, ...four, ...four, ...four], {
  scalePerHeat: 0,
});

/** Forty steps with losses on: what a long real plan costs. */
const forty = plan([
  ...stack(9000),
  ...Array.from({ length: 7 }, () => [
    ...four,
    ['grind', { topMm: 0.3, bottomMm: 0.3, leftMm: 0.3, rightMm: 0.3 }] as Move,
  ]).flat(),
  ['weld', { heats: 1, temperatureC: 1200 }],
  ['draw', { shape: 'square', sideMm: 28, heats: 1 }],
]);

/** Eight bars, sixty moves: seven layered bars of seven or eight moves each, laid together and tiled. */
function eightLanes(): Plan {
  const bars = Array.from({ length: 7 }, (_, k) => `bar${k}`);
  const step = (lane: string, moves: Move[]) =>
    moves.map(([kind, parameters], i) => ({ id: `${lane}-${i}`, kind, parameters }));
  const one = (k: number): Move[] => [
    [
      'stack',
      {
        layers: 9 + k,
        pattern: [
          { material: '1084', thicknessMm: 3 },
          { material: '15n20', thicknessMm: 2 },
        ],
        widthMm: 40,
        lengthMm: 600,
      },
    ],
    ['weld', { heats: 2, temperatureC: 1200 }],
    ['draw', { shape: 'square', sideMm: 26, heats: 1 }],
    ['resquare', { turn: 'left', sideMm: 23, errorDeg: k, heats: 1 }],
    ['cut', { pieces: 4, cropAMm: 5, cropBMm: 5 }],
    ['assemble', { columns: 2, rows: 2, layout: 'mirrored' }],
    ['draw', { shape: 'square', sideMm: 22, heats: 1 }],
  ];
  const welded = (moves: Move[]): Move[] => [
    ...moves.slice(0, 6),
    ['weld', { heats: 1, temperatureC: 1200 }],
    moves[6],
  ];
  const joined: Move[] = [
    ['assemble', { columns: 7, rows: 1, layout: 'alike', from: bars }],
    ['weld', { heats: 1, temperatureC: 1200 }],
    ['draw', { shape: 'flat', widthMm: 60, thicknessMm: 30, heats: 1 }],
    ['tile', { angleDeg: 45, thicknessMm: 14, lay: 'every other rolled' }],
  ];
  const lanes = [
    ...bars.map((id, k) => ({ id, name: id, steps: step(id, welded(one(k))) })),
    { id: 'all', name: 'all', steps: step('all', joined) },
  ];
  const read = readPlan({
    format: 'retablo-plan',
    version: 1,
    name: 'Eight',
    goal: { lengthMm: 300, widthMm: 38, thicknessMm: 5 },
    lanes,
  });
  if (!read.ok) throw new Error(read.problems[0].message);
  return read.plan;
}

/** The plan with one number of one lane changed, as by a drag. */
function dragged(plan: Plan, i: number): Plan {
  return {
    ...plan,
    lanes: plan.lanes.map((lane, l) =>
      l !== 2
        ? lane
        : {
            ...lane,
            steps: lane.steps.map((s, k) =>
              k === 3 ? withParameters(s, { turn: 'left', sideMm: 23, errorDeg: (i % 9) - 4, heats: 1 }) : s,
            ),
          },
    ),
  };
}

/** Best and middle of several timings, ms. */
function time(runs: number, work: () => void): { best: number; middle: number } {
  const all = Array.from({ length: runs }, () => {
    const from = performance.now();
    work();
    return performance.now() - from;
  }).sort((a, b) => a - b);
  return { best: all[0], middle: all[all.length >> 1] };
}

const rate = (ms: number): string => `${(SIZE ** 2 / 1000 / ms).toFixed(1)} Mpx/s`;
const line = (what: string, value: string): void => console.log(`${what.padEnd(58)} ${value}`);

function sampling(): void {
  const bar = evaluate(sampled).goal.bar!;
  const plane = facePlane(bar, 'end B');
  const flat = new Uint8Array(SIZE ** 2);
  const codes = sampleCodes(bar, plane, SIZE, SIZE);
  flatFace(SIZE, flat);
  const first = codes[0];
  const differ = codes.reduce((n, code, i) => n + ((code === first) === (flat[i] === flat[0]) ? 0 : 1), 0);
  line(
    'points on which the plan and the flat loop differ',
    `${((100 * differ) / codes.length).toFixed(3)} %`,
  );
  const ours: number[] = [];
  const theirs: number[] = [];
  // In turn, so that a slow spell of the machine falls on both.
  for (let i = 0; i < 15; i++) {
    theirs.push(time(1, () => flatFace(SIZE, flat)).best);
    ours.push(time(1, () => sampleCodes(bar, plane, SIZE, SIZE)).best);
  }
  const best = (list: number[]) => Math.min(...list);
  const middle = (list: number[]) => list.toSorted((a, b) => a - b)[list.length >> 1];
  line(`sampling the end face, ${SIZE}², best of 15 (middle)`, `${rate(best(ours))} (${rate(middle(ours))})`);
  line('the same maps in one flat loop by hand', `${rate(best(theirs))} (${rate(middle(theirs))})`);
  line(
    'ratio, flat over ours: best over best (middle of ratios)',
    `${(best(ours) / best(theirs)).toFixed(2)} (${middle(ours.map((ms, i) => ms / theirs[i])).toFixed(2)})`,
  );
  const palette = makePalette(evaluate(sampled).shop, 'etched', []);
  const sharp = time(3, () => paint({ billet: bar, plane, widthPx: SIZE, heightPx: SIZE, palette }));
  line('painting it sharp, by area coverage', `${rate(sharp.best)}, ${sharp.best.toFixed(0)} ms`);
}

function planning(): void {
  const steps = forty.lanes[0].steps.length;
  for (let i = 0; i < 30; i++) evaluate(forty);
  const evaluation = time(60, () => evaluate(forty));
  line(
    `evaluating a plan of ${steps} steps, best (middle)`,
    `${evaluation.best.toFixed(2)} ms (${evaluation.middle.toFixed(2)} ms)`,
  );
  const backward = time(10, () => startFor(forty));
  line(
    'working backward to its starting length',
    `${backward.best.toFixed(1)} ms (${backward.middle.toFixed(1)} ms)`,
  );
  const eight = eightLanes();
  const count = eight.lanes.reduce((sum, l) => sum + l.steps.length, 0);
  if (!evaluate(eight).goal.bar) throw new Error('the eight-lane plan does not come to a bar');
  for (let i = 0; i < 40; i++) evaluate(eight);
  const whole = time(60, () => evaluate(eight));
  line(
    `evaluating ${eight.lanes.length} lanes, ${count} steps, from nothing`,
    `${whole.best.toFixed(2)} ms (${whole.middle.toFixed(2)} ms)`,
  );
  let last = evaluate(eight);
  let turn = 0;
  const drag = time(60, () => (last = evaluate(dragged(eight, turn++), last)));
  line('the same after one number was dragged', `${drag.best.toFixed(2)} ms (${drag.middle.toFixed(2)} ms)`);
  const judged = time(20, () => {
    const fresh = evaluate(eight);
    for (const step of allSteps(fresh)) judge(fresh, step);
  });
  line('the same with every step judged', `${judged.best.toFixed(1)} ms (${judged.middle.toFixed(1)} ms)`);
  const first = time(1, () => (last = evaluate(eight))).best;
  for (const step of allSteps(last)) judge(last, step);
  const again = time(20, () => {
    last = evaluate(dragged(eight, turn++), last);
    for (const step of allSteps(last)) judge(last, step);
  });
  line(
    'judged again after one number was dragged (times one evaluation)',
    `${again.best.toFixed(1)} ms (${(again.best / first).toFixed(1)})`,
  );
  global.gc?.();
  line('memory after all this', `${(process.memoryUsage().heapUsed / 1e6).toFixed(0)} MB heap`);
}

/** Thirty pieces of ten lengths from three kinds of bar: the largest cut list that a plan is likely to ask for. */
function sawing(): void {
  const wanted = Array.from({ length: 10 }, (_, i) => ({ lengthMm: 90 + 23 * i, count: 3 }));
  const stock = [1000, 1500, 2000].map((lengthMm) => ({
    lengthMm,
    count: Infinity,
    cost: lengthMm,
    name: 'buy',
  }));
  const quick = time(20, () => firstFitDecreasing(wanted, stock, 1.2));
  const exact = time(3, () => cutFromStock(wanted, stock, 1.2));
  const [a, b] = [firstFitDecreasing(wanted, stock, 1.2), cutFromStock(wanted, stock, 1.2)];
  line('30 pieces from stock: first fit', `${quick.best.toFixed(2)} ms, ${a.cost} mm`);
  line(
    'the same searched',
    `${exact.best.toFixed(0)} ms, ${b.cost} mm, ${b.proven ? 'proven least' : 'not proven least'}`,
  );
}

/** A can of 200 balls and a picture of 40 outlines: poured, traced, evaluated anew, painted. */
function canister(): void {
  const box = moveOf('can').begin([], makeShop()) as Can;
  const room = roomOf({ ...box, widthMm: 90, heightMm: 90 });
  const radii = Array.from({ length: 200 }, () => 4);
  let packing = poured(radii, room, [], 1);
  const pour = time(2, () => (packing = poured(radii, room, [], 1)));
  line(
    '200 balls poured',
    `${pour.best.toFixed(0)} ms, overlapping by ${(100 * packing.overlap).toFixed(2)} % at most`,
  );
  // Forty blobs of a photograph, eight by five.
  const [widthPx, heightPx] = [640, 400];
  const rgba = new Uint8ClampedArray(4 * widthPx * heightPx).fill(255);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const [u, v] = [(x % 80) - 40, (y % 80) - 40];
      if (Math.hypot(u, v) < 26 + 7 * Math.cos(3 * Math.atan2(v, u)))
        rgba.fill(30, 4 * (y * widthPx + x), 4 * (y * widthPx + x) + 3);
    }
  const how = { thresholds: [0.5], smoothPx: 1, speckPx: 30, simplifyPx: 0.3 };
  const tracing = time(3, () => traced({ widthPx, heightPx, rgba }, how));
  const read = traced({ widthPx, heightPx, rgba }, how);
  if (!read.ok) throw new Error(read.message);
  const [{ region }] = read.drawing.tones;
  line(
    '40 outlines traced',
    `${tracing.best.toFixed(0)} ms, ${region.length} outlines, ${region.flat().length} corners`,
  );
  const drawn = [
    { powder: '15n20', region: region.map((ring) => ring.map(([x, y]): [number, number] => [x, y])) },
  ];
  const places = packing.rounds.map(({ x, y, z }) => ({ x, y, z }));
  const whole = (widthMm: number): Plan =>
    plan([
      [
        'can',
        {
          ...box,
          widthMm: 96,
          heightMm: 96,
          picture: {
            name: 'forty',
            drawn,
            place: { on: 'can', x: 0, y: 0, widthMm, turnDeg: 0, mirrored: false, columns: 1, rows: 1 },
            walked: null,
            form: FIRST_FORM,
          },
          inserts: [{ shape: 'ball', material: '52100', sizeMm: 8, count: 200, lay: 'placed', places }],
        },
      ],
      ['consolidate', { endMm: 4, sides: 'two ways', passMm: 2.5, heats: 2, temperatureC: 1200 }],
    ]);
  const plans = Array.from({ length: 6 }, (_, i) => whole(80 + i / 10));
  let at = 0;
  const evaluating = time(6, () => evaluate(plans[at++ % 6]));
  line(
    'such a can evaluated after its picture was moved',
    `${evaluating.best.toFixed(0)} ms (${evaluating.middle.toFixed(0)} ms)`,
  );
  const evaluation = evaluate(plans[0]);
  const billet = evaluation.lanes[0].steps[1].after![0];
  const sampling = time(3, () => sampleCodes(billet, facePlane(billet, 'middle'), 700, 700));
  line('its section sampled', `${((0.49e6 / sampling.best) * 1e-3).toFixed(1)} Mpx/s`);
}

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

/** A whole bias re-square by the flow of the section, as the reference has it, with two meshes. */
function flowing(): void {
  const most = productsASecond() / 1e9;
  line('products and sums on one core, at most', `${most.toFixed(2)} Gflop/s`);
  for (const [n, rings, stepShare] of [
    [16, 5, 0.025],
    [32, 10, 0.03],
  ]) {
    const mesh = butterflyMesh(rectangle(40, 40), n, rings);
    let section: Section = { mesh, startX: mesh.x, startY: mesh.y, lengthening: 1 };
    const sums = { steps: 0, iterations: 0, flops: 0, factorS: 0 };
    const start = performance.now();
    for (const [turnDeg, toMm] of [
      [45, 40],
      [90, 40],
      [90, 36],
      [90, 36],
      [90, 35],
      [90, 35],
    ]) {
      const [c, s] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
      const { x, y } = section.mesh;
      const turned = {
        ...section.mesh,
        x: x.map((v, i) => v * c - y[i] * s),
        y: x.map((v, i) => v * s + y[i] * c),
      };
      section = { ...section, mesh: turned };
      const solver = new PressSolver(section, {
        exponent: 0.15,
        friction: 0.5,
        axial: { by: 'height', spread: 0.4 },
        stepShare,
        held: true,
      });
      solver.clock = () => performance.now() / 1000;
      const out = solver.press(section, toMm);
      if (!out.ok) throw new Error(out.why);
      section = out.section;
      sums.steps += out.report.steps;
      sums.iterations += out.report.iterations;
      sums.flops += out.report.flops;
      sums.factorS += solver.factorS;
    }
    const seconds = (performance.now() - start) / 1000;
    const elements = mesh.quads.length / 4;
    line(`a bias re-square of six passes, ${elements} elements`, `${seconds.toFixed(1)} s`);
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
}

/** A can with a picture pressed solid by the flow of its section, and a search for a way of pressing. */
function pressing(): void {
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
}

/** The plan for the wall, pictures and all. */
async function paper(): Promise<void> {
  const start = performance.now();
  const pdf = await wallPdf(evaluate(eightLanes()), 'A4');
  line(
    'eight lanes as a PDF',
    `${(performance.now() - start).toFixed(0)} ms, ${(pdf.length / 1000).toFixed(0)} kB`,
  );
}

sampling();
planning();
sawing();
canister();
flowing();
pressing();
await paper();
if (process.argv.includes('--core')) process.exit();
const repaint = await measureRepaint();
line(
  'browser: from a changed number to the rough picture',
  `${repaint.rough.map((ms) => ms.toFixed(0)).join(', ')} ms`,
);
line(
  'browser: from a changed number to the sharp picture',
  `${repaint.sharp.map((ms) => ms.toFixed(0)).join(', ')} ms`,
);
