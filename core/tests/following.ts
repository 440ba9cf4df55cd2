import { expect } from 'vitest';
import { type Billet, pieceName, sizeOf } from '../billet/billet.ts';
import { holds } from '../billet/face.ts';
import { SAME_PLACE, codeAt } from '../billet/fields/field.ts';
import type { FlowStage } from '../flow/run.ts';
import { contains } from '../geometry/outline.ts';
import type { Action } from '../instruct/action.ts';
import { heated } from '../moves/contract/common.ts';
import { MOVE_KINDS, type MoveKind, moveOf } from '../moves/index.ts';
import { materialCode } from '../shop/shop.ts';
import { Hand } from './hand.ts';
import { Mottled, bar, shop } from './mottled.ts';
import { READY, evaluated, planOf } from './plans.ts';

/** Pieces as they come off a bar, each with steel of its own. */
export const pieces = (n: number, widthMm: number, heightMm: number, lengthMm = 60): Billet[] =>
  Array.from({ length: n }, (_, i) =>
    bar(widthMm, heightMm, lengthMm, {
      field: new Mottled({ ...SAME_PLACE, tz: i * (lengthMm + 1) }),
      piece: { number: i + 1, fromMm: i * (lengthMm + 1), toMm: (i + 1) * (lengthMm + 1) },
    }),
  );

const codeOf = (name: string): number => materialCode(shop, shop.materials.find((m) => m.name === name)!.id);

/** Moves that were followed to the last word. */
const tried = new Set<MoveKind>();

export type Change = (actions: Action[]) => Action[];

export interface Asked {
  readonly change?: Change;
  /** Only so near the middle line, as a share of half the section: further out the steel flows in ways that the hand does not know. */
  readonly near?: number;
  /** Only where this holds of the distance along, mm. */
  readonly along?: (z: number) => boolean;
  /** The flow, where the move waits for one. */
  readonly stage?: FlowStage | null;
}

/** The share of points at which what the hand made is what the move made; sizes must agree. */
export function followed(
  kind: MoveKind,
  before: Billet[],
  parameters: unknown,
  { change = (a) => a, near = 1, along, stage }: Asked = {},
): number {
  tried.add(kind);
  const move = moveOf(kind);
  expect(move.check(before, parameters, shop).filter((f) => f.severity === 'error')).toEqual([]);
  const made = move.apply(before, parameters, shop, stage).after;
  // The hand takes them out of the fire, their scale fallen.
  const { heats = 0 } = parameters as { heats?: number };
  const there = heated(before, heats, shop).after;
  const named = new Map(there.map((b, i) => [b.piece ? pieceName(b) : String(i + 1), b]));
  const hand = new Hand(named, codeOf).follow(change(move.does(before, parameters, shop)));
  let [same, asked] = [0, 0];
  for (const billet of made) {
    const result = hand.result(made.length > 1 ? pieceName(billet) : undefined);
    const { widthMm, heightMm } = sizeOf(billet);
    [widthMm, heightMm, billet.lengthMm].forEach((mm, i) => {
      // A blank is told in as few sections as tell its shape.
      if (near === 1 && Math.abs(result.size[i] - mm) > (billet.blank ? 1 : 1e-3)) asked += 1e6;
    });
    for (let k = 0; k < 1500; k++) {
      const [x, y] = [
        (halton(k, 2) - 0.5) * widthMm * 0.999 * near,
        (halton(k, 3) - 0.5) * heightMm * 0.999 * near,
      ];
      const z = (0.001 + 0.998 * halton(k, 5)) * billet.lengthMm;
      if (!contains(billet.outline, x, y) || along?.(z) === false) continue;
      if (billet.blank && !holds(billet, x, y, z)) continue;
      asked++;
      if (codeAt(billet.field, x, y, z) === result.codeAt(x, y, z)) same++;
    }
  }
  return same / asked;
}

function halton(i: number, base: number): number {
  let [f, r] = [1, 0];
  for (let n = i + 1; n > 0; n = Math.floor(n / base)) r += (f /= base) * (n % base);
  return r;
}

/** Some points lie on the edge of a patch. */
export const SAME = 0.995;

/** Every action changed so. */
export const wrong =
  (change: (a: Action) => Action): Change =>
  (actions) =>
    actions.map(change);

/** Where the words of every move are held to its picture; a new one does not compile without. */
const HELD: Readonly<Record<MoveKind, 'bench' | 'forge' | 'nothing changes place'>> = {
  stack: 'bench',
  found: 'nothing changes place',
  can: 'forge',
  consolidate: 'forge',
  weld: 'bench',
  draw: 'forge',
  resquare: 'forge',
  press: 'forge',
  corners: 'forge',
  lean: 'forge',
  twist: 'forge',
  wedge: 'forge',
  feather: 'forge',
  upset: 'forge',
  shape: 'forge',
  cut: 'bench',
  crop: 'bench',
  rip: 'bench',
  grind: 'bench',
  trueUp: 'bench',
  peel: 'bench',
  assemble: 'bench',
  laminate: 'bench',
  jacket: 'bench',
  stand: 'bench',
  turn: 'bench',
  choose: 'bench',
  join: 'bench',
  scarf: 'bench',
  putBack: 'bench',
  tile: 'bench',
  accordion: 'bench',
  grooves: 'forge',
  flatten: 'bench',
  measure: 'nothing changes place',
  treat: 'nothing changes place',
  clean: 'nothing changes place',
  etch: 'nothing changes place',
};

/** Every move of a kind was followed to the last word, and those that change no place do nothing that would. */
export function everyMoveFollowed(where: 'bench' | 'forge'): void {
  for (const kind of MOVE_KINDS) {
    if (HELD[kind] === where) expect(tried.has(kind), kind).toBe(true);
    if (HELD[kind] !== 'nothing changes place') continue;
    const there = READY[kind].length ? evaluated(planOf(READY[kind])).lanes[0].ends : [];
    const does = moveOf(kind).does(there, moveOf(kind).begin(there, shop), shop);
    expect(
      does
        .map((a) => a.do)
        .filter((what) => !['care', 'each', 'soak', 'kiln', 'clean', 'etch'].includes(what)),
      kind,
    ).toEqual([]);
  }
}
