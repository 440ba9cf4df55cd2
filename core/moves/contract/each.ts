import { type Billet, writtenOn } from '../../billet/billet.ts';
import { outlineSize } from '../../geometry/outline.ts';
import { type Action, type Counted, OLD } from '../../instruct/action.ts';
import { addVolumes, type Volumes } from '../../materials/volumes.ts';

/** mm. Pieces whose sizes differ by less are handled alike. */
const ALIKE_MM = 0.05;

const sizes = ({ outline, lengthMm }: Billet): number[] => {
  const { widthMm, heightMm } = outlineSize(outline);
  return [widthMm, heightMm, lengthMm];
};

const alike = (one: Billet, other: Billet): boolean => {
  const others = sizes(other);
  return (
    one.outline.length === other.outline.length &&
    sizes(one).every((mm, i) => Math.abs(mm - others[i]) < ALIKE_MM)
  );
};

/** What is done to every piece by itself: said once for all that have one size, and by name where they have several. */
export function eachPiece(before: readonly Billet[], does: (bar: Billet) => Action[]): Action[] {
  if (before.length === 1) return does(before[0]);
  const groups: Billet[][] = [];
  for (const bar of before) {
    const known = groups.find(([first]) => alike(first, bar));
    if (known) known.push(bar);
    else groups.push([bar]);
  }
  return groups.flatMap((group): Action[] => [
    {
      do: 'each',
      count: group.length,
      ...(groups.length > 1 && { pieces: group.map((bar) => nameIn(bar, before)) }),
    },
    ...does(group[0]),
  ]);
}

/** What is written on a piece, or its place where nothing is. */
export const nameIn = (bar: Billet, before: readonly Billet[]): string => writtenOn(bar, before.indexOf(bar));

type Part = Omit<Billet, 'piece'> & { readonly piece: { readonly fromMm: number; readonly toMm: number } };

/** What every bar or piece is sawn into, numbered on from the first to the last, and what fell. */
export function sawnInto(
  before: readonly Billet[],
  saw: (bar: Billet) => { readonly parts: readonly Part[]; readonly lost: Volumes },
): { pieces: Billet[]; lost: Volumes } {
  const sawn = before.map(saw);
  const parts = sawn.flatMap((s) => s.parts);
  return {
    pieces: parts.map((part, i) => ({ ...part, piece: { ...part.piece, number: i + 1 } })),
    lost: addVolumes(...sawn.map((s) => s.lost)),
  };
}

/** How each is marked and sawn into so many parts: `saw` is given what they are called then, and which piece it is where they are several. */
export function sawEach(
  before: readonly Billet[],
  parts: number,
  counted: Counted,
  saw: (bar: Billet, names: readonly string[], piece: { readonly piece?: string }) => Action,
): Action[] {
  const named = before.map((bar, i) => ({
    bar,
    was: nameIn(bar, before),
    now: Array.from({ length: parts }, (_, k) => String(i * parts + k + 1)),
  }));
  if (before.length === 1 && !before[0].piece)
    return [{ do: 'mark', pieces: named[0].now, ends: 'both', counted }, saw(before[0], named[0].now, {})];
  return [
    { do: 'mark anew', parts: named.map(({ was, now }) => ({ was, now })), counted },
    ...named.map(({ bar, was, now }) => saw(bar, now, { piece: `${OLD}${was}` })),
  ];
}
