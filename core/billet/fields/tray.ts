import { BLOCK, type Field, type Points, type Trace, makePoints, makeTrace } from './field.ts';

/** Room for the points of one source. Trays are lent and given back, as deep as assemblies are nested. */
export interface Tray {
  /** Which source each of the points handed in belongs to: filled by the borrower. */
  readonly sourceOfPoint: Uint8Array;
  readonly points: Points;
  readonly from: Uint16Array;
  readonly codes: Uint8Array;
  readonly trace: Trace;
}

const idle: Tray[] = [];

export const borrowTray = (): Tray =>
  idle.pop() ?? {
    points: makePoints(),
    from: new Uint16Array(BLOCK),
    codes: new Uint8Array(BLOCK),
    sourceOfPoint: new Uint8Array(BLOCK),
    trace: makeTrace(),
  };

export const returnTray = (tray: Tray): void => {
  idle.push(tray);
};

/** Copies the points of source `k` to the tray; how many there are. */
function pick(points: Points, k: number, { points: own, from, sourceOfPoint, trace }: Tray): number {
  let at = 0;
  for (let i = 0; i < points.count; i++) {
    if (sourceOfPoint[i] !== k) continue;
    own.x[at] = points.x[i];
    own.y[at] = points.y[i];
    own.z[at] = points.z[i];
    if (points.trace) trace.piece[at] = points.trace.piece[i];
    from[at++] = i;
  }
  own.count = at;
  own.trace = points.trace && trace;
  if (points.trace) trace.stack.fill(null, 0, at);
  return at;
}

/** Asks each source once about its own points, and puts the answers back in place. */
export function askSources(points: Points, tray: Tray, sources: readonly Field[], out: Uint8Array): void {
  for (let k = 0; k < sources.length; k++) {
    const count = pick(points, k, tray);
    if (count === 0) continue;
    sources[k].sample(tray.points, tray.codes);
    for (let i = 0; i < count; i++) out[tray.from[i]] = tray.codes[i];
    if (points.trace)
      for (let i = 0; i < count; i++) {
        points.trace.stack[tray.from[i]] = tray.trace.stack[i];
        points.trace.height[tray.from[i]] = tray.trace.height[i];
        points.trace.piece[tray.from[i]] = tray.trace.piece[i];
      }
  }
}
