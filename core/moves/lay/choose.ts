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
  return before.map((bar, i) => {
    const chosen = p.pieces.includes(i + 1);
    const wasAside = bar.piece?.aside === true;
    const whole = { fromMm: 0, toMm: bar.lengthMm, number: 1 };
    const piece = chosen
      ? bar.piece && { ...bar.piece, aside: false }
      : { ...whole, ...bar.piece, label: nameAside(bar), aside: true };
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
    const missing = p.pieces.filter((n) => n > before.length);
    if (missing.length > 0) {
      const there = p.pieces.filter((n) => n <= before.length);
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
