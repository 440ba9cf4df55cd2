import { BLOCK, type Field, type Points, type Trace, makePoints, makeTrace } from './field.ts';

/** Room for the points of one source. Trays are lent and given back, as deep as assemblies are nested. */
export interface Tray {
  /** Which source each of the points handed in belongs to: filled by the borrower. */
  readonly sourceOfPoint: Uint8Array;
  readonly points: Points;
  readonly from: Uint16Array;
  readonly codes: Uint8Array;
  readonly trace: Trace;
  /** The same with a number for the piece, or the tile. */
  readonly marked: Trace & { readonly piece: Float64Array };
  readonly tiled: Trace & { readonly tile: Float64Array };
}

const idle: Tray[] = [];

function makeTray(): Tray {
  const trace = makeTrace();
  return {
    trace,
    marked: { ...trace, piece: new Float64Array(BLOCK) },
    tiled: { ...trace, tile: new Float64Array(BLOCK) },
    points: makePoints(),
    from: new Uint16Array(BLOCK),
    codes: new Uint8Array(BLOCK),
    sourceOfPoint: new Uint8Array(BLOCK),
  };
}

export const borrowTray = (): Tray => idle.pop() ?? makeTray();

export const returnTray = (tray: Tray): void => {
  idle.push(tray);
};

/** Copies the points of source `k` to the tray; how many there are. */
function pick(points: Points, k: number, tray: Tray): number {
  const { points: own, from, sourceOfPoint, trace, marked, tiled } = tray;
  const { piece, tile } = points.trace ?? {};
  let at = 0;
  for (let i = 0; i < points.count; i++) {
    if (sourceOfPoint[i] !== k) continue;
    own.x[at] = points.x[i];
    own.y[at] = points.y[i];
    own.z[at] = points.z[i];
    if (piece) marked.piece[at] = piece[i];
    if (tile) tiled.tile[at] = tile[i];
    from[at++] = i;
  }
  own.count = at;
  own.trace = piece ? marked : tile ? tiled : points.trace && trace;
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
    if (!points.trace) continue;
    const { stack, height, piece, tile } = points.trace;
    for (let i = 0; i < count; i++) {
      stack[tray.from[i]] = tray.trace.stack[i];
      height[tray.from[i]] = tray.trace.height[i];
      if (piece) piece[tray.from[i]] = tray.marked.piece[i];
      if (tile) tile[tray.from[i]] = tray.tiled.tile[i];
    }
  }
}
