import { z } from 'zod';
import { type Billet, pieceName } from '../../billet/billet.ts';
import { list } from '../../instruct/said.ts';
import { count } from '../../units/quantities.ts';
import { error, note } from '../contract/common.ts';
import { nameIn } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** The pieces that are worked on from here, by their places among all that the lane has; the others lie aside until they are chosen. */
const parameters = z.strictObject({
  pieces: z
    .array(count('Piece', 1, 400))
    .min(1, 'Choose at least one piece')
    .max(400),
});

type P = z.infer<typeof parameters>;

/** What pieces that lie aside are called: no saw numbers so. */
const ASIDE = 'S';

/** Its place among all that the lane was to have: where some were scrapped, pieces that were never renumbered tell by their numbers. */
const placeOf = (bar: Billet, index: number, gone: boolean): number =>
  gone ? (bar.piece?.number ?? index + 1) : index + 1;

interface Chosen {
  readonly bar: Billet;
  readonly chosen: boolean;
  /** What was written on it, and whether it lay aside already. */
  readonly was: string;
  readonly wasAside: boolean;
}

/** Every piece as it lies then: those that come to lie aside for the first time get a name that nothing else has. */
function chosenOf(before: readonly Billet[], p: P): Chosen[] {
  const taken = new Set(before.flatMap((bar) => bar.piece?.label ?? []));
  const nameAside = ({ piece }: Billet): string => {
    if (piece?.label?.startsWith(ASIDE)) return piece.label;
    let number = piece?.number ?? 1;
    while (taken.has(`${ASIDE}${number}`)) number++;
    taken.add(`${ASIDE}${number}`);
    return `${ASIDE}${number}`;
  };
  const gone = before.some((bar) => bar.piece?.place !== undefined);
  const wanted = [...p.pieces].sort((a, b) => a - b);
  return before.map((bar, i) => {
    const at = placeOf(bar, i, gone);
    const chosen = p.pieces.includes(at);
    const wasAside = bar.piece?.aside === true;
    const whole = { fromMm: 0, toMm: bar.lengthMm, number: 1 };
    const piece = chosen
      ? bar.piece && { ...bar.piece, aside: false, ...(gone && { place: wanted.indexOf(at) + 1 }) }
      : {
          ...whole,
          ...bar.piece,
          label: nameAside(bar),
          aside: true,
          ...(gone && { place: wanted.length + at - wanted.filter((w) => w < at).length }),
        };
    return { bar: { ...bar, piece }, chosen, was: nameIn(bar, before), wasAside };
  });
}

const laidAside = (all: readonly Chosen[]): Chosen[] => all.filter(({ chosen }) => !chosen);

export const choose = defineMove({
  kind: 'choose',
  title: 'Choose pieces',
  short: 'Choose',
  hint: 'work on some of the pieces; the others lie aside and can be brought back, or go to another bar',
  group: 'Lay together',
  begins: false,
  chooses: true,
  onPowder: true,
  parameters,
  begin(before): P {
    const isBack = before.some((bar) => bar.piece?.aside);
    const length = isBack ? before.length : Math.max(1, Math.ceil(before.length / 2));
    return { pieces: Array.from({ length }, (_, i) => i + 1) };
  },
  check(before, p) {
    if (before.length < 2)
      return [error('only piece', 'There is one piece here: none can be set aside. Cut or rip it first.')];
    const gone = before.some((bar) => bar.piece?.place !== undefined);
    const places = new Set(before.map((bar, i) => placeOf(bar, i, gone)));
    const missing = p.pieces.filter((n) => !places.has(n));
    if (missing.length > 0) {
      const there = p.pieces.filter((n) => places.has(n));
      return [
        error(
          'not there',
          `There are ${before.length} pieces here; there is no ${list(missing.map(String))}.`,
          {
            parameter: 'pieces',
            ...(there.length > 0 && { remedy: { label: 'Leave them out', set: { pieces: there } } }),
          },
        ),
      ];
    }
    const aside = laidAside(chosenOf(before, p)).map(({ bar }) => pieceName(bar));
    if (aside.length === 0) return [];
    return [
      note(
        'aside',
        `${aside.length} set aside as ${list(aside)}. Choose again later to bring ${aside.length === 1 ? 'it' : 'them'} back, or let another bar take ${aside.length === 1 ? 'it' : 'them'} at the end.`,
      ),
    ];
  },
  apply: (before, p) => {
    const all = chosenOf(before, p);
    return {
      after: all.filter(({ chosen }) => chosen).map(({ bar }) => bar),
      aside: laidAside(all).map(({ bar }) => bar),
      losses: [],
      added: {},
    };
  },
  does(before, p) {
    const all = chosenOf(before, p);
    const back = all.filter(({ chosen, wasAside }) => chosen && wasAside).map(({ was }) => was);
    const pieces = laidAside(all)
      .filter(({ wasAside }) => !wasAside)
      .map(({ bar, was }) => ({ was, now: pieceName(bar) }));
    return [
      ...(back.length > 0 ? [{ do: 'bring back' as const, pieces: back }] : []),
      ...(pieces.length > 0 ? [{ do: 'set aside' as const, pieces }] : []),
    ];
  },
});
