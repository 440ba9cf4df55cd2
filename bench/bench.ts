import { facePlane } from '../core/billet/face.ts';
import { type Can, roomOf } from '../core/canister/can.ts';
import { poured } from '../core/canister/packing.ts';
import { USUAL_RUNS, forecastOf } from '../core/forecast/index.ts';
import { tableFor } from '../core/learning/index.ts';
import { judge } from '../core/judgement/index.ts';
import {
  type Evaluation,
  type Plan,
  allSteps,
  evaluate,
  materialOrder,
  startFor,
  withRecords,
} from '../core/plan/index.ts';
import type { BenchRecord } from '../core/records/record.ts';
import { asReckoned, cameOf } from '../core/tests/records.ts';
import { FIRST_FORM } from '../core/picture/picture.ts';
import { traced } from '../core/picture/traced.ts';
import { sampleCodes } from '../core/render/codes.ts';
import { paint } from '../core/render/paint.ts';
import { predictionOf } from '../core/render/foreseen.ts';
import { makePalette } from '../core/render/palette.ts';
import { makeShop } from '../core/shop/shop.ts';
import { photographed } from '../core/sighting/camera.ts';
import { sighted } from '../core/sighting/sighting.ts';
import { moveOf } from '../core/moves/index.ts';
import { cutFromStock, firstFitDecreasing } from '../core/stock/cuttingStock.ts';
import { wallPdf } from '../server/pdf/wallPdf.ts';
import { measureOpening, measureRepaint } from './browser.ts';
import { flatFace } from './flat.ts';
import { line, rate, time } from './tools.ts';
import { SIZE, dragged, eightLanes, forty, plan, sampled } from './plans.ts';
import { flowing, pressing } from './flow.ts';

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

/** A record of every move, every piece a little other than reckoned. */
const anyLogOf = (e: Evaluation): BenchRecord[] =>
  allSteps(e).map((s, k) =>
    cameOf(
      s.step.id,
      asReckoned(e, s).map(({ piece, lengthMm = 0 }) => ({ piece, lengthMm: 0.99 * lengthMm })),
      k,
    ),
  );

function planning(): void {
  const steps = forty.lanes[0].steps.length;
  for (let i = 0; i < 30; i++) evaluate(forty);
  const evaluation = time(60, () => evaluate(forty));
  line(
    `evaluating a plan of ${steps} steps, best (middle)`,
    `${evaluation.best.toFixed(2)} ms (${evaluation.middle.toFixed(2)} ms)`,
  );
  const planned = evaluate(forty);
  const forward = time(2, () => forecastOf(planned, tableFor, USUAL_RUNS));
  line(
    `forecast, ${USUAL_RUNS.count} runs of ${steps} steps`,
    `${(forward.best / 1000).toFixed(2)} s, ${(forward.best / evaluation.best).toFixed(0)} evaluations`,
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
  const written = withRecords(eight, anyLogOf(evaluate(eight)));
  const stands = time(60, () => evaluate(written));
  line(
    `the same with ${written.records?.length} records, ratio`,
    `${(stands.best / whole.best).toFixed(2)} (${(stands.middle / whole.middle).toFixed(2)})`,
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

/** The plan for the wall, pictures and all. */
/** A photographed end read against what was foreseen, beside one sharp picture of that end. */
function sighting(): void {
  const worked = evaluate(sampled);
  const bar = worked.goal.bar!;
  const prediction = predictionOf(bar, worked.shop, materialOrder(worked));
  const { photo, corners } = photographed({ ...prediction, end: 'B' });
  const sizes = { acrossMm: prediction.widthMm, heightMm: prediction.heightMm };
  const read = time(3, () => sighted({ photo, taps: corners, sizes }, prediction));
  const drawn = time(3, () => predictionOf(bar, worked.shop, materialOrder(worked)));
  line(
    'a photographed end read',
    `${read.middle.toFixed(0)} ms, ${(read.best / drawn.best).toFixed(1)} sharp pictures of it`,
  );
}

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
sighting();
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
const opening = await measureOpening();
const ms = (n: number): string => `${n.toFixed(0)} ms`;
line(
  'browser: the shelf, its list and its pictures',
  `${ms(opening.shelfList)}, ${ms(opening.shelfPictures)}`,
);
line(
  'browser: a piece from the press to its first picture, and all sharp',
  `${ms(opening.pieceFirst)}, ${ms(opening.pieceSharp)}`,
);
line('browser: the longest task meanwhile', ms(opening.longestTask));
