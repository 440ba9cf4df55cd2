import { type Billet, pieceName } from '../billet/billet.ts';
import { type Action, OLD, type Side } from '../instruct/action.ts';
import { APART, type Laid, STRIPS, assembled, inARow, piled } from './layout.ts';
import {
  type Solid,
  type V3,
  blockOf,
  dot,
  plus,
  prismOf,
  scaled,
  turnAbout,
  turnedBack,
  rotated,
} from './solid.ts';
import {
  type Thing,
  asItCame,
  boxOf,
  cornersOf,
  cutThing,
  laidDown,
  movedBy,
  restedOn,
  turnedBy,
} from './thing.ts';

const AXES = { across: [1, 0, 0], upright: [0, 1, 0], length: [0, 0, 1] } as const;
const OUT = { top: [0, 1, 0], bottom: [0, -1, 0], left: [-1, 0, 0], right: [1, 0, 0] } as const;

type Strips = Extract<Action, { do: 'lay strips' }>;

const middleOf = (thing: Thing): V3 => {
  const { low, high } = boxOf([thing]);
  return scaled(plus(low, high), 0.5);
};

/** Follows an instruction as its words say, place by place; what the fire and the press do to the steel changes no place here. */
export class Bench {
  private things = new Map<string, Thing>();
  private readonly laid: Laid[] = [];
  private inRow = false;
  /** What was piled last: it is one bar from then on. */
  private piled: readonly string[] | null = null;
  private wedges: Thing[] = [];
  private strips: Strips | null = null;
  private group: readonly string[] | null = null;
  private readonly aside = new Map<string, Thing>();

  /** Where everything lies in the end, where that is known. */
  private readonly goal: readonly Thing[] | null;

  constructor(bars: readonly Billet[], goal: readonly Thing[] | null) {
    this.goal = goal;
    const things = bars.map((bar, i) =>
      asItCame(bar.piece ? pieceName(bar) : String(i + 1), [prismOf(i, bar.outline, bar.lengthMm)]),
    );
    for (const thing of inARow(things)) this.things.set(thing.name, thing);
  }

  /** What lies there: what was laid in its places, what waits beside it, what was set aside further off. */
  lying(): readonly Thing[] {
    const laid = this.wedges.length > 0 ? this.wedges : this.inPlace();
    const taken = new Set(laid.map((t) => t.name));
    const waiting = [...this.things.values()].filter((t) => !taken.has(t.name));
    const room = laid.length > 0 ? boxOf(laid) : null;
    const beside = room && waiting.length > 0 ? this.besides(waiting, room.high[0]) : waiting;
    return [...laid, ...beside, ...this.aside.values()];
  }

  assembly(): readonly Thing[] {
    return assembled(this.laid, this.strips);
  }

  /** What is laid so far, where it will lie once all of it is; all of it that was laid where that is the end. */
  private inPlace(): readonly Thing[] {
    const all = this.goal ?? this.assembly();
    const names = new Set(this.laid.map(({ thing }) => thing.name));
    return all.filter((t) => names.has(t.name) || (t.name === STRIPS && this.strips));
  }

  private besides(waiting: readonly Thing[], right: number): Thing[] {
    const row = inARow(waiting);
    const { low, high } = boxOf(row);
    const by = right - low[0] + APART * (high[0] - low[0]);
    return row.map((t) => movedBy(t, [by, 0, 0]));
  }

  private only(): string {
    return [...this.things.keys()][0];
  }

  private change(name: string | undefined, how: (thing: Thing) => Thing): void {
    for (const [key, thing] of this.things)
      if (name === undefined ? (this.group?.includes(key) ?? true) : key === name)
        this.things.set(key, how(thing));
    return;
  }

  private sawn(
    cuts: readonly { n: V3; near: number }[],
    kerf: number,
    parts: readonly (string | null)[],
    piece = this.only(),
  ): void {
    const bar = this.things.get(piece)!;
    this.things.delete(piece);
    parts.forEach((name, i) => {
      if (name === null) return;
      let part: Thing = { ...bar, name };
      if (i > 0) part = cutThing(part, scaled(cuts[i - 1].n, -1), -(cuts[i - 1].near + kerf));
      if (i < cuts.length) part = cutThing(part, cuts[i].n, cuts[i].near);
      this.things.set(name, part);
    });
    return;
  }

  /** Bought steel goes with the piece that it is put to, in the coordinates of that piece. */
  private put(name: string, thing: Thing, blocks: readonly Solid[]): void {
    const own = blocks.map((s): Solid => ({
      ...s,
      facets: s.facets.map((f) => ({
        ...f,
        points: f.points.map((p) => turnedBack(thing.turn, plus(p, thing.shift, -1))),
      })),
    }));
    this.things.set(name, { ...thing, name, parts: [...thing.parts, ...own] });
    return;
  }

  /** Does it; what the fire and the press do to the steel changes no place. */
  follow(a: Action): void {
    switch (a.do) {
      case 'saw across': {
        const { low } = boxOf([this.things.get(a.piece ?? this.only())!]);
        const cuts = a.nearMm.map((mm) => ({ n: AXES.length, near: low[2] + mm }));
        return this.sawn(cuts, a.kerfMm, a.parts, a.piece);
      }
      case 'saw slanting': {
        const rad = (a.angleDeg * Math.PI) / 180;
        const lean = (a.topTowards === 'B' ? 1 : -1) * Math.cos(rad);
        const n: V3 = [0, -lean, Math.sin(rad)];
        const { low } = boxOf([...this.things.values()]);
        this.sawn(
          a.bottomMm.map((mm) => ({ n, near: dot(n, [0, low[1], low[2] + mm]) })),
          a.kerfMm,
          a.parts,
        );
        return this.change(undefined, (t) => ({
          ...t,
          toB: turnedBack(t.turn, n),
          toTop: turnedBack(t.turn, [0, n[2], lean]),
        }));
      }
      case 'saw along': {
        const i = a.way === 'upright' ? 0 : 1;
        const n: V3 = i === 0 ? AXES.across : AXES.upright;
        const { low } = boxOf([this.things.get(a.piece ?? this.only())!]);
        return this.sawn([{ n, near: low[i] + a.nearMm }], a.kerfMm, a.parts, a.piece);
      }
      case 'crop': {
        const whole = this.inRow ? boxOf([...this.things.values()]) : null;
        // Of a row of tiles it is the ends of the row.
        return this.change(this.inRow ? undefined : a.piece, (t) => {
          const { low, high } = whole ?? boxOf([t]);
          return a.end === 'B'
            ? cutThing(t, AXES.length, high[2] - a.offMm)
            : cutThing(t, [0, 0, -1], -(low[2] + a.offMm));
        });
      }
      case 'scarf':
        return this.change(a.piece, (t) => {
          const { low, high } = boxOf([t]);
          const up = a.reachMm / (high[1] - low[1]);
          return a.end === 'B'
            ? cutThing(t, [0, -up, 1], high[2] - a.reachMm - up * low[1])
            : cutThing(t, [0, up, -1], up * low[1] - low[2]);
        });
      case 'put back': {
        const [name] = this.things.keys();
        const bar = this.things.get(name)!;
        const { low } = boxOf([bar]);
        const off = (side: Side): number => (a.faces.includes(side) ? a.offMm : 0);
        const [x0, y0] = [low[0] + a.fromMm[0], low[1] + a.fromMm[1]];
        const [x1, y1] = [x0 + a.sizesMm[0], y0 + a.sizesMm[1]];
        const right = (thing: Thing, mm: number) => cutThing(thing, [-1, 0, 0], -mm);
        const left = (thing: Thing, mm: number) => cutThing(thing, AXES.across, mm);
        const above = (thing: Thing, mm: number) => cutThing(thing, [0, -1, 0], -mm);
        const below = (thing: Thing, mm: number) => cutThing(thing, AXES.upright, mm);
        const out = (side: Side, mm: number, beyond: number) => (a.faces.includes(side) ? mm : beyond);
        const [l, r] = [out('left', x0 - a.offMm, -Infinity), out('right', x1 + a.offMm, Infinity)];
        const [b, u] = [out('bottom', y0 - a.offMm, -Infinity), out('top', y1 + a.offMm, Infinity)];
        const column = left(right(bar, l), r);
        const rest = [left(bar, l), right(bar, r), below(column, b), above(column, u)];
        const own = left(right(bar, x0 + off('left')), x1 - off('right'));
        const ground = below(above(own, y0 + off('bottom')), y1 - off('top'));
        const home: V3 = [2 * (off('right') - off('left')), 2 * (off('top') - off('bottom')), 0];
        this.things.set(name, { ...bar, parts: rest.flatMap((t) => t.parts) });
        this.things.set(`piece ${a.piece}`, movedBy({ ...ground, name: `piece ${a.piece}` }, home));
        return;
      }
      case 'turn':
        return this.change(a.piece, (t) =>
          turnedBy(t, turnAbout(AXES[a.about], a.way === 'clockwise' ? -a.deg : a.deg)),
        );
      case 'raise':
        return this.change(undefined, (t) => {
          const { low } = boxOf([t]);
          const resting = cornersOf(t)
            .filter((p) => p[1] < low[1] + 1e-6)
            .map((p) => p[0]);
          const wide = Math.max(...resting) - Math.min(...resting);
          const deg = (Math.asin(a.shimMm / wide) * 180) / Math.PI;
          return turnedBy(t, turnAbout(AXES.length, a.edge === 'left' ? -deg : deg));
        });
      case 'grind down':
        return this.change(undefined, (t) => cutThing(t, AXES.upright, boxOf([t]).low[1] + a.toMm, true));
      case 'rest flat':
        return this.change(undefined, (t) => restedOn(t, a.on === 'the ground face'));
      case 'grind off':
        return this.change(a.piece, (t) => {
          const n: V3 = OUT[a.side];
          return cutThing(t, n, Math.max(...cornersOf(t).map((p) => dot(n, p))) - a.offMm);
        });
      case 'grind to a point':
        return this.change(a.piece, (t) => {
          const out = OUT[a.point];
          return [1, -1].reduce((left, side) => {
            const n: V3 = scaled([out[0] + side * out[1], out[1] - side * out[0], 0], Math.SQRT1_2);
            return cutThing(left, n, Math.max(...cornersOf(left).map((p) => dot(n, p))) - a.offMm);
          }, t);
        });
      case 'grind both':
        return this.change(undefined, (t) => {
          const { low, high } = boxOf([t]);
          const off = (high[1] - low[1] - a.toMm) / 2;
          return cutThing(cutThing(t, AXES.upright, high[1] - off), [0, -1, 0], -(low[1] + off));
        });
      case 'unwrap':
        return this.change(undefined, (t) => {
          const { low, high } = boxOf([t]);
          const level = cutThing(
            cutThing(t, AXES.upright, high[1] - a.topMm),
            [0, -1, 0],
            -(low[1] + a.topMm),
          );
          return cutThing(cutThing(level, AXES.across, high[0] - a.sideMm), [-1, 0, 0], -(low[0] + a.sideMm));
        });
      case 'lay': {
        const thing = this.things.get(a.piece)!;
        this.laid.push({ thing, lay: a });
        return;
      }
      case 'lay wedge': {
        const thing = this.things.get(a.piece)!;
        const { low, high } = boxOf([thing]);
        const n: V3 = OUT[a.side];
        const half = Math.abs(dot(n, plus(high, low, -1))) / 2;
        const to = plus(scaled(n, half), middleOf(thing), -1);
        this.wedges.push(movedBy(thing, [to[0], to[1], -low[2]]));
        return;
      }
      case 'lay cross': {
        this.wedges = this.wedges.map((t) => {
          const [x, y] = middleOf(t);
          const out: V3 = Math.abs(x) > Math.abs(y) ? [Math.sign(x), 0, 0] : [0, Math.sign(y), 0];
          return movedBy(t, scaled(out, a.thickMm / Math.SQRT2));
        });
        return;
      }
      case 'lay strips':
        this.strips = a;
        return;
      case 'lay down': {
        if (a.what === 'block') return this.change(undefined, (t) => laidDown(t, a.up, a.topTowards));
        for (const name of a.pieces) this.change(name, (t) => laidDown(t, a.up, a.topTowards));
        return;
      }
      case 'row': {
        let at = 0;
        const there = a.pieces.map((name) => {
          const t = this.things.get(name)!;
          const { low, high } = boxOf([t]);
          const points = cornersOf(t);
          const along = (y: number) => points.filter((p) => Math.abs(p[1] - y) < 1e-6).map((p) => p[2]);
          const [bottom, top] = [along(low[1]), along(high[1])];
          const start = (Math.min(...bottom) + Math.min(...top)) / 2;
          const long = (Math.max(...bottom) + Math.max(...top)) / 2 - start;
          const moved = movedBy(t, [-(low[0] + high[0]) / 2, -low[1], at - start]);
          at += long;
          return moved;
        });
        this.things = new Map(there.map((t) => [t.name, t]));
        this.inRow = true;
        return;
      }
      case 'pile': {
        const lone = this.piled ?? [this.only()];
        const namesOf = (name: string | null) => (name === null ? lone : [name]);
        const there = piled(a, (name) => namesOf(name).map((n) => this.things.get(n)!));
        for (const part of a.parts)
          if ('piece' in part) for (const name of namesOf(part.piece)) this.things.delete(name);
        for (const thing of there) this.things.set(thing.name, thing);
        this.piled = there.map((t) => t.name);
        return;
      }
      case 'stack': {
        let at = 0;
        const [wide, long] = a.sizesMm;
        const strips = Array.from({ length: a.count }, (_, i) => {
          const { material, thickMm } = a.inTurn[i % a.inTurn.length];
          at += thickMm;
          return asItCame(`strip ${i + 1}`, [
            blockOf(material, [-wide / 2, at - thickMm, 0], [wide / 2, at, long]),
          ]);
        });
        this.things = new Map(strips.map((t) => [t.name, t]));
        return;
      }
      case 'wrap': {
        const [name, thing] = [...this.things][0];
        const { low, high } = boxOf([thing]);
        const t = a.thickMm;
        const out = a.allRound ? t : 0;
        const sheet = (x0: number, x1: number, y0: number, y1: number) =>
          blockOf(a.material, [x0, y0, low[2]], [x1, y1, high[2]]);
        return this.put(name, thing, [
          sheet(low[0] - out, high[0] + out, low[1] - t, low[1]),
          sheet(low[0] - out, high[0] + out, high[1], high[1] + t),
          ...(a.allRound
            ? [sheet(low[0] - t, low[0], low[1], high[1]), sheet(high[0], high[0] + t, low[1], high[1])]
            : []),
        ]);
      }
      case 'join': {
        const [name, thing] = [...this.things][0];
        const { low, high } = boxOf([thing]);
        const [from, to] = a.end === 'B' ? [high[2], high[2] + a.lengthMm] : [low[2] - a.lengthMm, low[2]];
        return this.put(name, thing, [blockOf(a.material, [low[0], low[1], from], [high[0], high[1], to])]);
      }
      case 'set aside':
        a.pieces.forEach(({ was, now }, i) => {
          const thing = this.things.get(was)!;
          const { low, high } = boxOf([...this.things.values()]);
          const wide = boxOf([thing]);
          const by = low[0] - wide.high[0] - (i + 1) * 0.5 * (high[0] - low[0]);
          this.aside.set(now, movedBy({ ...thing, name: now }, [by, 0, 0]));
          this.things.delete(was);
        });
        return;
      case 'bring back':
        for (const name of a.pieces) {
          const thing = this.aside.get(name);
          if (thing) this.things.set(name, thing);
          this.aside.delete(name);
        }
        return;
      case 'mark anew':
        this.things = new Map(
          a.parts.flatMap(({ was }) => {
            const thing = this.things.get(was);
            return thing ? [[`${OLD}${was}`, { ...thing, name: `${OLD}${was}` }] as const] : [];
          }),
        );
        return;
      case 'mark as it lies':
        this.change(undefined, (t) => ({
          ...t,
          toTop: turnedBack(t.turn, AXES.upright),
          toB: turnedBack(t.turn, AXES.length),
        }));
        return;
      case 'new arrow':
        this.change(undefined, (t) => ({ ...t, toTop: turnedBack(t.turn, AXES.upright) }));
        return;
      case 'arrow up':
        return this.change(undefined, (t) => {
          const to = rotated(t.turn, t.toTop);
          return turnedBy(t, turnAbout(AXES.length, (Math.atan2(to[0], to[1]) * 180) / Math.PI));
        });
      case 'each':
        this.group = a.pieces ?? null;
        return;
      default:
        // The fire, the press, cans, care: what they do to the steel is shown by the move's own picture.
        return;
    }
  }
}
