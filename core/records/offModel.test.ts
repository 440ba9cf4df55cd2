import { expect, it } from 'vitest';
import { sizeOf } from '../billet/billet.ts';
import { makePoints } from '../billet/fields/field.ts';
import { evaluate, materialOrder } from '../plan/index.ts';
import { predictionOf } from '../render/foreseen.ts';
import { photographed } from '../sighting/camera.ts';
import { sighted } from '../sighting/sighting.ts';
import { FLOWS, drawSquare, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { Probe } from '../tests/probe.ts';
import { moveOf } from '../moves/index.ts';
import type { Billet } from '../billet/billet.ts';

const N = 121;
/** The disc in the middle in which the layers are looked at, in half sides. */
const DISC = 0.6;

const EVALUATED = evaluate(planOf([stackOf(13, 40, 3, 200), weldIt, drawSquare(28)]), undefined, FLOWS);
const [SQUARE] = EVALUATED.goalLane.ends;

/** The square re-squared between the dies, off its angle by so much: by the flow, or as it usually comes. */
function resquared(errorDeg: number, reckoned: 'by flow' | 'usual', bar: Billet = SQUARE): Billet {
  const move = moveOf('resquare');
  const parameters = { turn: 'left' as const, sideMm: 24, errorDeg, heats: 0, reckoned };
  const flow = move.flows?.([bar], parameters, EVALUATED.shop);
  const stage = reckoned === 'by flow' && flow ? FLOWS.of(flow.spec) : undefined;
  return move.apply([bar], parameters, EVALUATED.shop, stage ?? undefined).after[0];
}

/** Where the steel of a section's N × N places comes from in the square, and how its layers' normals lie, in half sides. */
function layersOf(made: (bar: Billet) => Billet) {
  const probe = new Probe();
  const { field } = made({ ...SQUARE, field: probe });
  const { widthMm } = sizeOf(made(SQUARE));
  const points = makePoints(N * N);
  const at = (i: number) => ((2 * i) / (N - 1) - 1) * 0.98;
  for (let k = 0; k < N * N; k++) {
    points.x[k] = (at(k % N) * widthMm) / 2;
    points.y[k] = (at(Math.floor(k / N)) * widthMm) / 2;
    points.z[k] = 10;
  }
  points.count = N * N;
  field.sample(points, new Uint8Array(N * N));
  const { x, y } = probe;
  const normal = (k: number) => [y[k + 1] - y[k - 1], y[k + N] - y[k - N]] as const;
  return { x, y, normal, at };
}

/** By how much the layers in the middle of one bar run turned against the same steel of another, degrees. */
function trueTurn(real: (bar: Billet) => Billet, foreseen: (bar: Billet) => Billet): number {
  const [is, was] = [layersOf(real), layersOf(foreseen)];
  let [c, s] = [0, 0];
  for (let j = 1; j < N - 1; j += 3)
    for (let i = 1; i < N - 1; i += 3) {
      if (Math.hypot(is.at(i), is.at(j)) > DISC) continue;
      const k = j * N + i;
      let [best, far] = [-1, Infinity];
      for (let q = N + 1; q < N * (N - 1) - 1; q++) {
        const d = (was.x[q] - is.x[k]) ** 2 + (was.y[q] - is.y[k]) ** 2;
        if (d < far && q % N > 0 && q % N < N - 1) [best, far] = [q, d];
      }
      const [a, b] = [is.normal(k), was.normal(best)];
      const angle = 2 * (Math.atan2(a[1], a[0]) - Math.atan2(b[1], b[0]));
      c += Math.cos(angle);
      s += Math.sin(angle);
    }
  return (0.5 * Math.atan2(s, c) * 180) / Math.PI;
}

it('bars that were pressed off their angle, by the flow: read against the flow and against what usually comes, the layers’ turn is right within half a degree', () => {
  const order = materialOrder(EVALUATED);
  const off: number[] = [];
  for (const errorDeg of [-4, 3]) {
    const real = (bar: Billet) => resquared(errorDeg, 'by flow', bar);
    const shown = predictionOf(real(SQUARE), EVALUATED.shop, order);
    const { photo, corners, focalPx } = photographed({ ...shown, end: 'B', shine: 0.1, seed: 5 });
    const sizes = { acrossMm: shown.widthMm, heightMm: shown.heightMm };
    for (const reckoned of ['by flow', 'usual'] as const) {
      const foreseen = (bar: Billet) => resquared(0, reckoned, bar);
      const prediction = predictionOf(foreseen(SQUARE), EVALUATED.shop, order);
      const sight = sighted({ photo, taps: corners, focalPx, sizes, end: 'B' }, prediction);
      if (!sight.ok) throw new Error(sight.why);
      const truth = trueTurn(real, foreseen);
      expect(Math.abs(truth)).toBeGreaterThan(1);
      off.push(sight.sighting.turnedDeg - truth);
    }
  }
  expect(Math.sqrt(off.reduce((sum, d) => sum + d * d, 0) / off.length)).toBeLessThan(0.5);
});
