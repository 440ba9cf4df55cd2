import { group } from 'd3-array';
import type { Point2 } from '../geometry/outline.ts';
import { GRID, type LooseMesh, looseMesh } from './pieces.ts';
import { type LooseMoment, LoosePress } from './press.ts';
import {
  type Cross,
  type LooseSeam,
  REOPENED_MM,
  SHUT_MM,
  acrossFrom,
  crossesOf,
  lookOf,
  rimAt,
  seamsOf,
  voidAt,
} from './seams.ts';
import { MOST_PIECES, type SeamPress, type SeamQuestion } from './question.ts';
import { readied } from './readied.ts';
import type { SeamAnswer, SeamPressed, SeamShut } from './stored.ts';
import type { Stretch, Touch } from './touching.ts';

/** Up to so many pieces each has the grid of one by itself; of more pieces each has fewer elements. */
const GRIDS = [
  { upTo: 6, grid: GRID },
  { upTo: 10, grid: { block: 10, rings: 3 } },
  { upTo: 20, grid: { block: 8, rings: 2 } },
  { upTo: MOST_PIECES, grid: { block: 6, rings: 2 } },
];

/** Seams end at a cross where they come so near it, mm. */
const SAME_PLACE = 0.1;

/** The pieces as they were got ready, on a mesh. */
export const laidOut = (question: SeamQuestion): LooseMesh =>
  looseMesh(
    readied(question),
    (GRIDS.find(({ upTo }) => question.pieces.length <= upTo) ?? GRIDS[GRIDS.length - 1]).grid,
  );

/** What is kept of a seam while it is pressed. */
interface Watched {
  readonly seam: LooseSeam;
  readonly shutAt: (number | null)[];
  readonly wasShut: boolean[];
  readonly push: Float64Array;
  readonly reopened: Float64Array;
}

/** A place where two stretches touch, and how hard. */
type Pushed = Pick<Touch, 'first' | 'second' | 'shares' | 'weight'> & { readonly push: number };

/** Without a minus before 0, which does not come back from JSON. */
const rounded = (v: number): number => Math.round(1e4 * v) / 1e4 + 0;

/** Watches the seams of pieces while they are pressed. */
class Watch {
  readonly seams: readonly Watched[];
  readonly crosses: readonly Cross[];
  private readonly mesh: LooseMesh;
  private readonly all: readonly Stretch[];

  constructor(question: SeamQuestion, press: LoosePress) {
    const { mesh, stretches } = press;
    [this.mesh, this.all] = [mesh, stretches];
    this.seams = seamsOf(question.pieces, mesh, stretches, question.cornerMm).map((seam) => ({
      seam,
      shutAt: seam.stations.map(() => null),
      wasShut: seam.stations.map(() => false),
      push: new Float64Array(seam.stations.length),
      reopened: new Float64Array(seam.stations.length),
    }));
    this.crosses = crossesOf(question.pieces, mesh);
  }

  gaps({ seam }: Watched, x: Float64Array, y: Float64Array): (number | null)[] {
    const look = lookOf(this.all, seam, x, y);
    return seam.stations.map((s) => acrossFrom(this.all, s, look, seam.second, x, y)?.gapMm ?? null);
  }

  /** Takes in a step. Whether every seam is shut. */
  see({ x, y, touches, welds, pushes, travelMm }: LooseMoment): boolean {
    for (const watched of this.seams)
      this.gaps(watched, x, y).forEach((gap, i) => {
        const { shutAt, wasShut, reopened } = watched;
        if (gap === null) return;
        if (gap <= SHUT_MM) {
          shutAt[i] ??= travelMm;
          wasShut[i] = true;
          return;
        }
        if (wasShut[i] && gap <= REOPENED_MM) return;
        shutAt[i] = null;
        if (wasShut[i]) reopened[i] = Math.max(reopened[i], gap);
      });
    this.push(x, y, [
      ...touches.map((t, i) => ({ ...t, push: pushes.touches[i] })),
      ...welds.map((t, i) => ({ ...t, push: pushes.welds[i] })),
    ]);
    return this.seams.length > 0 && this.seams.every(({ shutAt }) => shutAt.every((at) => at !== null));
  }

  /** Takes in how hard what touches is pushed: on the nodes of each seam's first piece, over the rim that each stands for. */
  private push(x: Float64Array, y: Float64Array, points: readonly Pushed[]): void {
    const { all } = this;
    const length = new Float64Array(x.length);
    for (const { from, to } of all)
      for (const node of [from, to]) length[node] += Math.hypot(x[to] - x[from], y[to] - y[from]) / 2;
    const pairs = group(points, (t) => `${all[t.first].piece}/${all[t.second].piece}`);
    for (const { seam, push } of this.seams) {
      const force = new Float64Array(x.length);
      for (const t of pairs.get(`${seam.first}/${seam.second}`) ?? []) {
        const { from, to } = all[t.first];
        force[from] -= t.shares[0] * t.push * t.weight;
        force[to] -= t.shares[1] * t.push * t.weight;
      }
      seam.stations.forEach(({ stretch, share }, i) => {
        const { from, to } = all[stretch];
        const at = (node: number) => force[node] / length[node];
        push[i] = Math.max(push[i], (1 - share) * at(from) + share * at(to));
      });
    }
  }

  /** How things stand: the pieces' outlines, every seam's gaps, the voids, the steps. */
  standing(
    x: Float64Array,
    y: Float64Array,
  ): Omit<SeamPressed, 'toMm' | 'heightMm' | 'widthMm' | 'travelMm'> {
    return {
      outlines: this.mesh.loops.map((loop) => Array.from(loop, (n) => [rounded(x[n]), rounded(y[n])])),
      seams: this.seams.map((watched) => {
        const gaps = this.gaps(watched, x, y);
        const { stations } = watched.seam;
        return {
          places: stations.map((s) => rimAt(this.all, s, x, y).map(rounded) as [number, number]),
          gapsMm: gaps.map((g) => (g === null ? null : rounded(Math.max(0, g)))),
          slidMm: rounded(Math.max(...stations.map((_, i) => this.slid(watched.seam, i, x, y)))),
        };
      }),
      voidsMm2: this.crosses.map((cross) => rounded(voidAt(this.mesh, x, y, cross))),
      stepsMm: this.crosses.map((cross) => rounded(this.stepAt(cross, x, y))),
    };
  }

  /** How far what lay opposite a place of a seam has slid along it, mm. */
  private slid(seam: LooseSeam, i: number, x: Float64Array, y: Float64Array): number {
    const { all, mesh } = this;
    const station = seam.stations[i];
    if (!station.opposite) return 0;
    const along = (px: Float64Array, py: Float64Array): number => {
      const [a, b] = [rimAt(all, station, px, py), rimAt(all, station.opposite!, px, py)];
      const [nx, ny] = lookOf(all, seam, px, py);
      return (b[0] - a[0]) * -ny + (b[1] - a[1]) * nx;
    };
    return Math.abs(along(x, y) - along(mesh.x, mesh.y));
  }

  /** By how much two seams miss each other that should go on as one over a cross, mm. */
  private stepAt({ at }: Cross, x: Float64Array, y: Float64Array): number {
    const near = ([px, py]: Point2) => Math.hypot(px - at[0], py - at[1]) < SAME_PLACE;
    const ends = this.seams.flatMap(({ seam }) => {
      const { from, to, stations } = seam;
      if (!near(from) && !near(to)) return [];
      const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
      const station = near(from) ? stations[0] : stations.at(-1)!;
      const [px, py] = rimAt(this.all, station, x, y);
      const [nx, ny] = lookOf(this.all, seam, x, y);
      const gap = acrossFrom(this.all, station, [nx, ny], seam.second, x, y)?.gapMm ?? 0;
      return [
        {
          way: [(to[0] - from[0]) / length, (to[1] - from[1]) / length] as const,
          at: [px + (gap / 2) * nx, py + (gap / 2) * ny] as const,
          n: [nx, ny] as const,
        },
      ];
    });
    let most = 0;
    ends.forEach((a, i) =>
      ends.slice(i + 1).forEach((b) => {
        if (Math.abs(a.way[0] * b.way[1] - a.way[1] * b.way[0]) > 0.1) return;
        most = Math.max(most, Math.abs((b.at[0] - a.at[0]) * a.n[0] + (b.at[1] - a.at[1]) * a.n[1]));
      }),
    );
    return most;
  }

  shut(): SeamShut[] {
    return this.seams.map(({ seam, shutAt, push, reopened }) => ({
      first: seam.first,
      second: seam.second,
      from: [seam.from[0], seam.from[1]],
      to: [seam.to[0], seam.to[1]],
      along: seam.stations.map((s) => rounded(s.along)),
      shutAtMm: shutAt.map((at) => (at === null ? null : rounded(at))),
      pushes: Array.from(push, rounded),
      reopenedMm: rounded(Math.max(...reopened)),
    }));
  }
}

/** The presses one by one, by how wide and high everything then is; null: no more. */
type Presses = (i: number, size: { readonly widthMm: number; readonly heightMm: number }) => SeamPress | null;

/** How the seams of loose pieces close, press by press. `progress`: of all the presses. */
export function seamReport(question: SeamQuestion, progress?: (share: number) => void): SeamAnswer {
  const { presses } = question;
  return pressed(
    question,
    (i) => presses[i] ?? null,
    (i, share) => {
      progress?.((i + share) / presses.length);
      return false;
    },
  );
}

/** Presses one after the other until there are no more, or `enough` says so: of which press, how much of it is done, whether every seam is shut. */
export function pressed(
  question: SeamQuestion,
  next: Presses,
  enough: (i: number, share: number, shut: boolean) => boolean,
): SeamAnswer {
  const mesh = laidOut(question);
  const press = new LoosePress(mesh, question);
  const watch = new Watch(question, press);
  const now = (toMm: number): SeamPressed => ({
    toMm,
    widthMm: rounded(press.widthMm),
    heightMm: rounded(press.heightMm),
    travelMm: rounded(press.travelMm),
    ...watch.standing(press.x, press.y),
  });
  const states: SeamPressed[] = [now(press.heightMm)];
  const presses: SeamPress[] = [];
  let allShutAtMm: number | null = null;
  let stopped: string | null = null;
  for (let i = 0, over = false; !over; i++) {
    const one = next(i, press);
    if (!one) break;
    if (one.turned) press.turn();
    const from = press.heightMm;
    stopped = press.press(one.toMm, ({ heightMm, travelMm, ...moment }) => {
      const shut = watch.see({ ...moment, heightMm, travelMm });
      allShutAtMm = shut ? (allShutAtMm ?? rounded(travelMm)) : null;
      over = enough(i, (from - heightMm) / (from - one.toMm), shut);
      return over;
    });
    if (stopped) break;
    presses.push(one);
    states.push(now(one.toMm));
  }
  return {
    seams: watch.shut(),
    crosses: watch.crosses.map(({ at, pieces }) => ({ at: [at[0], at[1]], pieces: [...pieces] })),
    presses,
    states,
    allShutAtMm,
    stopped: stopped && 'no balance of forces was found; press less at once',
    steps: press.steps,
    rounds: press.rounds,
    worstResidual: press.worstResidual,
  };
}
