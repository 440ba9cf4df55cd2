import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Billet } from '../billet/billet.ts';
import { pieceName } from '../billet/billet.ts';
import { codeAt } from '../billet/fields/field.ts';
import { turnedBar } from '../billet/turned.ts';
import { ORIENTATION_NAMES } from '../geometry/orientation.ts';
import { sayingsOf } from '../instruct/words.ts';
import { MOVE_KINDS, type MoveKind, moveOf } from '../moves/index.ts';
import { actionsOf, allSteps, evaluate, readPlan } from '../plan/index.ts';
import { READY, evaluated, planOf } from '../tests/plans.ts';
import { pieces } from '../tests/following.ts';
import { Hand } from '../tests/hand.ts';
import { STEELS, bar, shop } from '../tests/mottled.ts';
import { anyWork } from '../tests/work.ts';
import { materialCode } from '../shop/shop.ts';
import {
  type V3,
  blockOf,
  cross,
  cutOff,
  dot,
  normalOf,
  plus,
  rotated,
  turnAbout,
  turnAfter,
  turnedBack,
} from './solid.ts';
import { type Thing, boxOf, cornersOf } from './thing.ts';
import { scenesOf } from './scenes.ts';

const codeOf = (name: string): number => materialCode(shop, shop.materials.find((m) => m.name === name)!.id);

let seed = 1;
const chance = (): number => {
  seed = (seed * 16_807) % 2_147_483_647;
  return seed / 2_147_483_647;
};

/** A point inside a part, in the coordinates of its bar; none where the dice fall beside it. */
function within({ parts }: Thing, part: number): V3 | null {
  const { facets } = parts[part];
  const all = facets.flatMap((f) => f.points);
  const p = [0, 1, 2].map((i) => {
    const own = all.map((q) => q[i]);
    const [low, high] = [Math.min(...own), Math.max(...own)];
    return low + chance() * (high - low);
  }) as unknown as V3;
  const inside = facets.every((f) => dot(normalOf(f), plus(p, f.points[0], -1)) < -1e-3);
  return inside ? p : null;
}

/** The share of points of the bars that lie, at the end of what is shown, where the literal hand has laid that steel. */
function agreed(kind: MoveKind, before: readonly Billet[], parameters: unknown, byPiece = false): number {
  const move = moveOf(kind);
  const actions = move.does([...before], parameters, shop);
  const names = before.map((b, i) => (b.piece ? pieceName(b) : String(i + 1)));
  const hand = new Hand(new Map(before.map((b, i) => [names[i], b])), codeOf).follow(actions);
  const scenes = scenesOf(
    before,
    sayingsOf(actions, shop).map((s) => s.actions),
  );
  const { things } = scenes.at(-1)!;
  const shown = byPiece ? things.map((t) => [t]) : [things];
  let [same, asked] = [0, 0];
  for (const group of shown) {
    const result = hand.result(byPiece ? group[0].name : undefined);
    const { low, high } = boxOf(group);
    for (const i of [0, 1, 2] as const) expect(high[i] - low[i]).toBeCloseTo(result.size[i], 2);
    for (const thing of group)
      thing.parts.forEach((solid, part) => {
        for (let k = 0; k < 400; k++) {
          const own = within(thing, part);
          if (!own) continue;
          const world = plus(rotated(thing.turn, own), thing.shift);
          const at: V3 = [
            world[0] - (low[0] + high[0]) / 2,
            world[1] - (low[1] + high[1]) / 2,
            world[2] - low[2],
          ];
          const mine =
            typeof solid.of === 'number' ? codeAt(before[solid.of].field, ...own) : codeOf(solid.of);
          asked++;
          if (result.codeAt(...at) === mine) same++;
        }
      });
  }
  expect(asked).toBeGreaterThan(300);
  return same / asked;
}

const SAME = 0.99;

describe('what is shown ends as the literal hand leaves it', () => {
  it.each([
    ['cut', { pieces: 4, cropAMm: 7, cropBMm: 3 }],
    ['rip', { way: 'upright', offCentreMm: 4 }],
    ['rip', { way: 'level', offCentreMm: -3 }],
  ] as [MoveKind, object][])('each piece of a %s, %o', (kind, p) => {
    expect(agreed(kind, [bar(33, 21, 210)], p, true)).toBeGreaterThan(SAME);
  });

  it('each part of pieces that are sawn on', () =>
    expect(agreed('rip', pieces(3, 33, 21), { way: 'level', offCentreMm: 2 }, true)).toBeGreaterThan(SAME));

  it.each([
    ['crop', { endAMm: 11, endBMm: 4 }],
    ['trueUp', { errorDeg: 6 }],
    ['trueUp', { errorDeg: -9 }],
    ['flatten', { thicknessMm: 9.3, heats: 2 }],
    ['join', { material: STEELS[3].id, lengthMm: 25, end: 'A' }],
    ['join', { material: STEELS[3].id, lengthMm: 25, end: 'B' }],
    ['laminate', { where: 'cladding both sides', material: STEELS[3].id, thicknessMm: 4 }],
    ['laminate', { where: 'rim all round', material: STEELS[3].id, thicknessMm: 4 }],
  ] as [MoveKind, object][])('one bar after %s, %o', (kind, p) => {
    expect(agreed(kind, [bar(30, 14, 90)], p)).toBeGreaterThan(SAME);
  });

  it.each(['alike', 'mirrored', 'turned', 'brick'])('of four laid %s, with strips or without', (layout) => {
    for (const more of [
      {},
      { strips: { material: STEELS[2].id, thicknessMm: 2.5, where: layout === 'brick' ? 'level' : 'frame' } },
    ])
      expect(agreed('assemble', pieces(4, 20, 20), { columns: 2, rows: 2, layout, ...more })).toBeGreaterThan(
        SAME,
      );
  });

  it('of six, each turned and rolled its own way', () => {
    const places = ORIENTATION_NAMES.slice(0, 6).map((orientation, piece) => ({
      piece: piece + 1,
      orientation,
    }));
    const p = { columns: 3, rows: 2, layout: 'free', places };
    expect(agreed('assemble', pieces(6, 20, 20), p)).toBeGreaterThan(SAME);
  });

  it('of wedges, pointed together', () => {
    const outline = [
      [0, -10],
      [20, 10],
      [-20, 10],
    ] as const;
    const wedges = pieces(4, 40, 20).map((b, i) =>
      turnedBar({ ...b, outline }, { turns: (i % 4) as 0 | 1 | 2 | 3, rolled: false }),
    );
    for (const layout of ['alike', 'mirrored'])
      expect(agreed('assemble', wedges, { columns: 2, rows: 2, layout })).toBeGreaterThan(SAME);
  });

  it.each(['upper one rolled', 'as they lie', 'both rolled'])('of a core between two pieces, %s', (lie) => {
    const p = { where: 'core between', material: STEELS[3].id, thicknessMm: 4, lie };
    expect(agreed('laminate', pieces(2, 30, 14), p)).toBeGreaterThan(SAME);
  });

  it.each([
    [{ angleDeg: 50, thicknessMm: 9, lay: 'as they lie' }],
    [{ angleDeg: 60, thicknessMm: 12, lay: 'every other one flipped' }],
  ])('of tiles in their row, %o', (p) => {
    expect(agreed('tile', [bar(22, 26, 220)], p)).toBeGreaterThan(SAME);
  });

  it('of a bar that is turned and stood', () => {
    expect(agreed('turn', [bar(33, 21, 90)], { to: 'rolled, turned 90°' })).toBeGreaterThan(SAME);
  });
});

const DEMOS = [
  'salt-marsh',
  'quarry-quilt',
  'tide-ladder',
  'rain-barrel',
  'hailstorm',
  'slack-tide',
  'curlew',
];

describe('scenes', () => {
  it.each(MOVE_KINDS)('of %s can be shown, whatever stands before it', (kind) => {
    const there = READY[kind].length ? evaluated(planOf(READY[kind])).lanes[0].ends : [];
    const actions = moveOf(kind).does([...there], moveOf(kind).begin([...there], shop), shop);
    const parts = sayingsOf(actions, shop).map((s) => s.actions);
    expect(scenesOf(there, parts)).toHaveLength(parts.length + 1);
  });

  it('of any work at all hold what can be seen', () => {
    fc.assert(
      fc.property(anyWork, (plan) => {
        const evaluation = evaluated(plan);
        for (const result of allSteps(evaluation)) {
          const parts = sayingsOf(actionsOf(result, evaluation.shop), evaluation.shop).map((s) => s.actions);
          for (const { things } of scenesOf(result.before, parts))
            expect(things.flatMap(cornersOf).flat().every(Number.isFinite)).toBe(true);
        }
      }),
      { numRuns: 25 },
    );
  });

  it.each(DEMOS)('of every move of %s hold whole things, where they can be seen', (name) => {
    const read = readPlan(
      JSON.parse(readFileSync(new URL(`../../server/demo/${name}.json`, import.meta.url), 'utf8')),
    );
    if (!read.ok) throw new Error(read.problems[0].message);
    const evaluation = evaluate(read.plan);
    for (const result of allSteps(evaluation)) {
      const parts = sayingsOf(actionsOf(result, evaluation.shop), evaluation.shop).map((s) => s.actions);
      for (const { things } of scenesOf(result.before, parts))
        for (const thing of things) {
          expect([result.step.id, thing.name, thing.parts.length > 0]).toEqual([
            result.step.id,
            thing.name,
            true,
          ]);
          expect(cornersOf(thing).flat().every(Number.isFinite)).toBe(true);
        }
    }
  });

  it('begin with the pieces beside one another, and leave those that are not laid yet beside the others', () => {
    const before = pieces(4, 20, 20);
    const does = moveOf('assemble').does(before, { columns: 2, rows: 2, layout: 'turned' }, shop);
    const scenes = scenesOf(
      before,
      does.map((a) => [a]),
    );
    for (const { things } of scenes) {
      expect(things.map((t) => t.name).sort()).toEqual(['1', '2', '3', '4']);
      // Nothing lies in anything else.
      for (const a of things)
        for (const b of things) {
          if (a === b) continue;
          const [p, q] = [boxOf([a]), boxOf([b])];
          const overlap = ([0, 1, 2] as const).map(
            (i) => Math.min(p.high[i], q.high[i]) - Math.max(p.low[i], q.low[i]),
          );
          expect(Math.min(...overlap)).toBeLessThan(0.01);
        }
    }
    // A piece that was laid stays where it lies.
    const last = scenes.at(-1)!.things;
    does.forEach((a, i) => {
      if (a.do !== 'lay') return;
      for (const later of scenes.slice(i + 1))
        expect(later.things.find((t) => t.name === a.piece)).toEqual(last.find((t) => t.name === a.piece));
    });
  });
});

describe('solids', () => {
  it('keep their volume when they are cut, and are closed', () => {
    const volume = (s: ReturnType<typeof blockOf>): number =>
      s.facets.reduce((sum, { points: [o, ...rest] }) => {
        for (let i = 0; i + 1 < rest.length; i++) sum += dot(o, cross(rest[i], rest[i + 1])) / 6;
        return sum;
      }, 0);
    const whole = blockOf(0, [-3, -4, 0], [3, 4, 20]);
    expect(volume(whole)).toBeCloseTo(960, 9);
    for (let k = 0; k < 200; k++) {
      const n = rotated(
        turnAbout([0, 1, 0], 360 * chance()),
        rotated(turnAbout([1, 0, 0], 360 * chance()), [0, 0, 1]),
      );
      const c = dot(n, [2 * chance() - 1, 2 * chance() - 1, 5 + 10 * chance()]);
      const [near, far] = [cutOff(whole, n, c)!, cutOff(whole, [-n[0], -n[1], -n[2]], -c)!];
      expect(volume(near) + volume(far)).toBeCloseTo(960, 6);
      // Cut again along the other side of the same plane nothing is left.
      expect(cutOff(near, [-n[0], -n[1], -n[2]], -c)).toBeNull();
    }
  });
  it('turn as a group: there and back, one after the other', () => {
    const [a, b] = [turnAbout([0, 0, 1], 90), turnAbout([1, 0, 0], 37)];
    const v: V3 = [1, 2, 3];
    expect(rotated(a, [1, 0, 0]).map(Math.round)).toEqual([0, 1, 0]);
    rotated(turnAfter(a, b), v).forEach((x, i) => expect(x).toBeCloseTo(rotated(a, rotated(b, v))[i], 12));
    turnedBack(b, rotated(b, v)).forEach((x, i) => expect(x).toBeCloseTo(v[i], 12));
  });
});
