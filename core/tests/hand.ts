import type { Billet } from '../billet/billet.ts';
import { type Action, OLD } from '../instruct/action.ts';
import {
  type Body,
  type Thing,
  type V,
  add,
  agrees,
  block,
  bodyOf,
  box,
  clipped,
  corners,
  dot,
  flatOn,
  flipped,
  laidDown,
  moved,
  rotation,
  steelAt,
  times,
  times1,
  turned,
} from './bodies.ts';
import { filled, stoodIn } from './canHand.ts';
import { pile, row, slidBack, stacked } from './laying.ts';
import { accordion, struck } from './smith.ts';

const AXES = { across: 0, upright: 1, length: 2 } as const;
const OUT = { top: [0, 1, 0], bottom: [0, -1, 0], left: [-1, 0, 0], right: [1, 0, 0] } as const;

const ARROWS = { up: [0, 1, 0], right: [1, 0, 0], down: [0, -1, 0], left: [-1, 0, 0] } as const;

/** The end in front and the arrow of a piece must be where they are said to be. */
function lies([body]: Thing, { front, arrow }: { front: 'A' | 'B'; arrow: keyof typeof ARROWS }): void {
  const towards = times(body.turn, [0, 0, 1])[2];
  if (towards > 0 !== (front === 'B')) throw new Error(`End ${front} is not in front`);
  if (dot(times(body.turn, [0, 1, 0]), ARROWS[arrow]) < 0.99) throw new Error(`Its arrow is not ${arrow}`);
}

/**
 * A literal-minded hand: it takes bodies as they lie, does what the instruction's data says and nothing else, and can be asked
 * what then is where. It knows no move. World: x to the right, y up, z towards whoever stands in front; end B is in front.
 */
export class Hand {
  private things = new Map<string, Thing>();
  private rows: { thing: Thing; row: number; place: number }[] = [];
  private wedges: Thing[] = [];
  private strips: Extract<Action, { do: 'lay strips' }> | null = null;
  /** Those that are meant where no name is said; all where it is null. */
  private group: readonly string[] | null = null;
  private hollows: Extract<Action, { do: 'groove' }> | null = null;
  private can: Thing = [];
  private readonly aside = new Map<string, Thing>();
  /** What is written on the parts of each piece before it is sawn. */
  private written = new Map<string, readonly string[]>();
  private readonly codeOf: (material: string) => number;

  /** What is on the bench, each by what is written on it. */
  constructor(bars: ReadonlyMap<string, Billet>, codeOf: (material: string) => number) {
    this.codeOf = codeOf;
    for (const [name, bar] of bars) this.things.set(name, [bodyOf(bar)]);
  }

  follow(actions: readonly Action[]): this {
    for (const action of actions) this.step(action);
    return this;
  }

  /** Everything there is, laid as told. */
  private whole(): Thing {
    if (this.wedges.length > 0) return this.wedges.flat();
    if (this.rows.length === 0) return [...this.things.values()].flat();
    return this.assembled();
  }

  /** What was written on, or all there is. */
  result(name?: string): { codeAt(x: number, y: number, z: number): number; size: V } {
    const thing = name === undefined ? this.whole() : this.things.get(name)!;
    const { low, high } = box(thing);
    const frame = this.strips?.outside ? this.strips.thickMm : 0;
    const fill = this.strips ? this.codeOf(this.strips.material) : -1;
    const size: V = [high[0] - low[0] + 2 * frame, high[1] - low[1] + 2 * frame, high[2] - low[2]];
    const at = (x: number, y: number, z: number): number => {
      const p: V = [x + (low[0] + high[0]) / 2, y + (low[1] + high[1]) / 2, z + low[2]];
      return steelAt(thing, p) ?? fill;
    };
    return { codeAt: at, size };
  }

  /** What was written on a piece must be what its parts are called. */
  private writtenOn(piece: string | undefined, parts: readonly (string | null)[]): void {
    const names = this.written.get(piece ?? '');
    if (names && names.join() !== parts.filter((p) => p !== null).join())
      throw new Error('What is written and what is sawn do not agree');
  }

  private only(): string {
    if (this.things.size !== 1) throw new Error('Which of them is to be sawn?');
    return [...this.things.keys()][0];
  }

  private sizeOf(name: string): V {
    const { low, high } = box(this.things.get(name)!);
    return add(high, low, -1);
  }

  private change(name: string | undefined, how: (thing: Thing) => Thing): void {
    const meant = (key: string) => (name === undefined ? (this.group?.includes(key) ?? true) : key === name);
    for (const [key, thing] of this.things) if (meant(key)) this.things.set(key, how(thing));
    if (name !== undefined && !this.things.has(name)) throw new Error(`Nothing here is called ${name}`);
  }

  /** Replaces one thing, the only one there is where no name is said, by the parts between saw cuts, back to front. */
  private sawn(
    cuts: readonly { n: V; near: number }[],
    kerf: number,
    parts: readonly (string | null)[],
    piece = this.only(),
  ): void {
    const bar = this.things.get(piece)!;
    this.things.delete(piece);
    parts.forEach((name, i) => {
      if (name === null) return;
      let part: Thing = bar;
      if (i > 0) part = clipped(part, times1(cuts[i - 1].n, -1), -(cuts[i - 1].near + kerf));
      if (i < cuts.length) part = clipped(part, cuts[i].n, cuts[i].near);
      this.things.set(name, part);
    });
  }

  private step(a: Action): void {
    const all = () => box([...this.things.values()].flat());
    switch (a.do) {
      case 'saw across':
        if (a.parts.length !== a.nearMm.length + 1) throw new Error('Cuts and parts do not agree');
        this.writtenOn(a.piece, a.parts);
        // Marks are said to the shop's division, all rounded by one phase.
        a.nearMm.forEach((mm, i) => agrees(a.marksMm[i], mm, 1));
        this.sawn(
          a.nearMm.map((mm) => ({
            n: [0, 0, 1],
            near: box(this.things.get(a.piece ?? this.only())!).low[2] + mm,
          })),
          a.kerfMm,
          a.parts,
          a.piece,
        );
        for (const name of a.parts) if (name) agrees(this.sizeOf(name)[2], a.eachMm);
        return;
      case 'saw slanting': {
        if (a.parts.length !== a.bottomMm.length + 1) throw new Error('Cuts and parts do not agree');
        a.bottomMm.slice(1).forEach((mm, i) => agrees(mm - a.bottomMm[i], a.everyMm));
        agrees(a.everyMm * Math.sin((a.angleDeg * Math.PI) / 180), a.thicknessMm + a.kerfMm);
        const lean = (a.topTowards === 'B' ? 1 : -1) * Math.cos((a.angleDeg * Math.PI) / 180);
        const n: V = [0, -lean, Math.sin((a.angleDeg * Math.PI) / 180)];
        const { low } = all();
        this.sawn(
          a.bottomMm.map((mm) => ({ n, near: dot(n, [0, low[1], low[2] + mm]) })),
          a.kerfMm,
          a.parts,
        );
        const along: V = [0, n[2], lean];
        return this.change(undefined, (thing) => thing.map((b) => ({ ...b, toB: n, toTop: along })));
      }
      case 'saw along': {
        const i = a.way === 'upright' ? 0 : 1;
        const n: V = i === 0 ? [1, 0, 0] : [0, 1, 0];
        this.writtenOn(a.piece, a.parts);
        const name = a.piece ?? this.only();
        const bar = this.things.get(name)!;
        const near = box(bar).low[i] + a.nearMm;
        this.things.delete(name);
        this.things.set(a.parts[0], clipped(bar, n, near));
        this.things.set(a.parts[1], clipped(bar, times1(n, -1), -(near + a.kerfMm)));
        a.parts.forEach((part, k) => agrees(this.sizeOf(part)[i], a.sizesMm[k]));
        return;
      }
      case 'crop': {
        const row = this.things.has('the row');
        return this.change(row ? undefined : a.piece, (thing) => {
          const { low, high } = box(thing);
          const cropped =
            a.end === 'B'
              ? clipped(thing, [0, 0, 1], high[2] - a.offMm)
              : clipped(thing, [0, 0, -1], -(low[2] + a.offMm));
          // A row's slanted ends are measured on one face until both are off.
          if (!row || a.end === 'B') agrees(box(cropped).high[2] - box(cropped).low[2], a.leftMm);
          return cropped;
        });
      }
      case 'scarf':
        return this.change(a.piece, (thing) => {
          const { low, high } = box(thing);
          const tall = high[1] - low[1];
          const reach = tall / Math.tan((a.angleDeg * Math.PI) / 180);
          agrees(reach, a.reachMm);
          const up = reach / tall;
          return a.end === 'B'
            ? clipped(thing, [0, -up, 1], high[2] - reach - up * low[1])
            : clipped(thing, [0, up, -1], up * low[1] - low[2]);
        });
      case 'put back':
        return this.change(undefined, (thing) => slidBack(thing, a));
      case 'turn':
        if (a.deg !== 180 && a.way === undefined) throw new Error('Which way?');
        return this.change(a.piece, (thing) =>
          turned(thing, rotation(AXES[a.about], a.way === 'clockwise' ? -a.deg : a.deg)),
        );
      case 'raise':
        return this.change(undefined, (thing) => {
          const { low } = box(thing);
          // The shim bears where the face that rests ends.
          const resting = thing.flatMap(corners).filter((p) => p[1] < low[1] + 1e-6);
          const wide = Math.max(...resting.map((p) => p[0])) - Math.min(...resting.map((p) => p[0]));
          const deg = (Math.asin(a.shimMm / wide) * 180) / Math.PI;
          return turned(thing, rotation(2, a.edge === 'left' ? -deg : deg));
        });
      case 'grind down':
        return this.change(undefined, (thing) =>
          clipped(thing, [0, 1, 0], box(thing).low[1] + a.toMm).map((b) => ({
            ...b,
            ground: [...b.ground, b.inside[b.inside.length - 1][0]],
          })),
        );
      case 'rest flat':
        return this.change(undefined, (thing) => thing.map((b) => flatOn(b, a.on === 'the ground face')));
      case 'grind off':
        return this.change(a.piece, (thing) => {
          const n: V = OUT[a.side];
          const reach = Math.max(...thing.flatMap(corners).map((p) => dot(n, p)));
          return clipped(thing, n, reach - a.offMm);
        });
      case 'lay': {
        const thing = this.things.get(a.piece);
        if (!thing) throw new Error(`Nothing here is called ${a.piece}`);
        lies(thing, a);
        this.rows.push({ thing, row: a.row, place: a.place });
        return;
      }
      case 'lay wedge': {
        const thing = this.things.get(a.piece)!;
        lies(thing, a);
        const { low, high } = box(thing);
        const n: V = OUT[a.side];
        const middle = times1(add(low, high), 0.5);
        // Its inner side comes to the middle of the square, the rest of it square to that.
        const half = Math.abs(dot(n, add(high, low, -1))) / 2;
        const to = add(times1(n, half), middle, -1);
        this.wedges.push(moved(thing, [to[0], to[1], -low[2]]));
        return;
      }
      case 'grind to a point':
        return this.change(a.piece, (thing) => {
          const out = OUT[a.point];
          const flanks = [1, -1].map((side): V => [
            (out[0] + side * out[1]) / Math.SQRT2,
            (out[1] - side * out[0]) / Math.SQRT2,
            0,
          ]);
          const ground = flanks.reduce((left, n) => {
            const reach = Math.max(...left.flatMap(corners).map((p) => dot(n, p)));
            return clipped(left, n, reach - a.offMm);
          }, thing);
          const tip = Math.max(...ground.flatMap(corners).map((p) => dot(out, p)));
          const blunt = ground.flatMap(corners).filter((p) => dot(out, p) > tip - 1e-6);
          const wide = blunt.map((p) => dot([out[1], out[0], 0], p));
          if (Math.max(...wide) - Math.min(...wide) > 1e-3) throw new Error('It is not so that they meet');
          return ground;
        });
      case 'lay cross': {
        const apart = a.thickMm / Math.SQRT2;
        this.wedges = this.wedges.map((thing) => {
          const { low, high } = box(thing);
          const middle = times1(add(low, high), 0.5);
          const level = Math.abs(middle[0]) > Math.abs(middle[1]);
          const out: V = level ? [Math.sign(middle[0]), 0, 0] : [0, Math.sign(middle[1]), 0];
          return moved(thing, times1(out, apart));
        });
        const { low, high } = box(this.wedges.flat());
        agrees(high[0] - low[0], a.squareMm);
        this.strips = { do: 'lay strips', material: a.material, thickMm: a.thickMm, longMm: a.longMm, betweenPlaces: false, betweenRows: false, outside: false }; // prettier-ignore
        return;
      }
      case 'lay strips':
        this.strips = a;
        return;
      case 'lay down':
        if (a.what === 'block')
          return this.change(undefined, (thing) => thing.map((b) => laidDown(b, a.up, a.topTowards)));
        for (const name of a.pieces)
          this.change(name, (thing) => thing.map((b) => laidDown(b, a.up, a.topTowards)));
        return;
      case 'row':
        this.things = new Map([
          [
            'the row',
            row(
              a.pieces.map((name) => this.things.get(name)!),
              a.longMm,
            ),
          ],
        ]);
        return;
      case 'pile': {
        const lone = [...this.things.keys()][0];
        const laid = pile(a, (name) => this.things.get(name ?? lone)!, this.codeOf);
        const names = a.parts.flatMap((part) => ('piece' in part ? [part.piece ?? lone] : []));
        for (const name of names) this.things.delete(name);
        this.things.set(names[0], laid);
        return;
      }
      case 'stack':
        this.things = new Map([['the stack', stacked(a, this.codeOf)]]);
        return;
      case 'wrap': {
        const [[name, thing]] = this.things;
        const { low, high } = all();
        const code = this.codeOf(a.material);
        const t = a.thickMm;
        const out = a.allRound ? t : 0;
        const sheet = (x0: number, x1: number, y0: number, y1: number): Thing =>
          block(code, [x0, y0, low[2]], [x1, y1, high[2]]);
        const round = [
          sheet(low[0] - out, high[0] + out, low[1] - t, low[1]),
          sheet(low[0] - out, high[0] + out, high[1], high[1] + t),
          ...(a.allRound
            ? [sheet(low[0] - t, low[0], low[1], high[1]), sheet(high[0], high[0] + t, low[1], high[1])]
            : []),
        ];
        this.things.set(name, [...thing, ...round.flat()]);
        return;
      }
      case 'join': {
        const [name] = this.things.keys();
        const { low, high } = all();
        const code = this.codeOf(a.material);
        const added =
          a.end === 'B'
            ? block(code, [low[0], low[1], high[2]], [high[0], high[1], high[2] + a.lengthMm])
            : block(code, [low[0], low[1], low[2] - a.lengthMm], [high[0], high[1], low[2]]);
        this.things.set(name, [...this.things.get(name)!, ...added]);
        return;
      }
      case 'unwrap':
        return this.change(undefined, (thing) => {
          const { low, high } = box(thing);
          const level = clipped(
            clipped(thing, [0, 1, 0], high[1] - a.topMm),
            [0, -1, 0],
            -(low[1] + a.topMm),
          );
          return clipped(clipped(level, [1, 0, 0], high[0] - a.sideMm), [-1, 0, 0], -(low[0] + a.sideMm));
        });
      case 'grind both':
        return this.change(undefined, (thing) => {
          const { low, high } = box(thing);
          const off = (high[1] - low[1] - a.toMm) / 2;
          return clipped(clipped(thing, [0, 1, 0], high[1] - off), [0, -1, 0], -(low[1] + off));
        });
      case 'cut Vs': {
        const [[name, bar]] = this.things;
        this.things.delete(name);
        accordion.legsOf(bar, a).forEach((leg, i) => this.things.set(`leg ${i + 1}`, leg));
        return;
      }
      case 'open Vs': {
        const laid = (leg: Thing, up: 'A' | 'B') => leg.map((b) => laidDown(b, up, up === 'B' ? 'A' : 'B'));
        this.things = new Map([['the row', accordion.opened([...this.things.values()], a, laid)]]);
        return;
      }
      case 'build can':
      case 'set in':
      case 'bend in':
      case 'fill':
      case 'powder':
        this.things.set('the can', (this.can = filled(this.can, a, this.codeOf)));
        return;
      case 'stand in':
        this.can = stoodIn(this.can, a, (name) => this.things.get(name)!);
        for (const { name } of a.bars) this.things.delete(name);
        this.things.set('the can', this.can);
        return;
      case 'set aside':
        for (const { was, now } of a.pieces) {
          if (this.aside.has(now)) throw new Error(`Something else is called ${now}`);
          this.aside.set(now, this.things.get(was)!);
          this.things.delete(was);
        }
        return;
      case 'bring back':
        for (const name of a.pieces) {
          this.things.set(name, this.aside.get(name)!);
          this.aside.delete(name);
        }
        return;
      case 'each':
        this.group = a.pieces ?? null;
        return;
      case 'mark as it lies':
        return this.change(undefined, (thing) =>
          thing.map((b) => {
            const own = (v: V) => times(flipped(b.turn), v);
            if (dot(b.toB, own([0, 0, 1])) > 0 === a.otherEnds)
              throw new Error('It is not so that its ends lie');
            return { ...b, toTop: own([0, 1, 0]), toB: own([0, 0, 1]) };
          }),
        );
      case 'mark anew': {
        const renamed = a.parts.map(({ was }) => [`${OLD}${was}`, this.things.get(was)!] as const);
        if (renamed.length !== this.things.size) throw new Error('Not every one is said to be sawn');
        this.things = new Map(renamed);
        this.written = new Map(a.parts.map(({ was, now }) => [`${OLD}${was}`, now]));
        return;
      }
      case 'mark':
      case 'care':
      case 'kiln':
      case 'clean':
      case 'etch':
      case 'cut strips':
      case 'strew in':
      case 'set form':
      case 'weigh can':
      case 'cap':
        return;
      default:
        if (a.do === 'groove') this.hollows = a;
        return this.change(undefined, (thing) => struck(thing, a, this.hollows));
    }
  }

  /** Rows from the top, each pushed together and centred, strips between; the back ends flush. */
  private assembled(): Thing {
    const between = (on: boolean | undefined) => (on ? this.strips!.thickMm : 0);
    const done: Body[] = [];
    let top = 0;
    for (const row of [...new Set(this.rows.map((r) => r.row))].sort((a, b) => a - b)) {
      const laid = this.rows.filter((r) => r.row === row).sort((a, b) => a.place - b.place);
      const boxes = laid.map((r) => box(r.thing));
      const wide = boxes.map((b) => b.high[0] - b.low[0]);
      const gap = between(this.strips?.betweenPlaces);
      let x = -(wide.reduce((s, w) => s + w, 0) + gap * (wide.length - 1)) / 2;
      laid.forEach(({ thing }, i) => {
        const { low, high } = boxes[i];
        done.push(...moved(thing, [x - low[0], top - high[1], -low[2]]));
        x += wide[i] + gap;
      });
      top -= Math.max(...boxes.map((b) => b.high[1] - b.low[1])) + between(this.strips?.betweenRows);
    }
    return done;
  }
}
