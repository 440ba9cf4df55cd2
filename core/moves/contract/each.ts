import { type Billet, pieceName } from '../../billet/billet.ts';
import { outlineSize } from '../../geometry/outline.ts';
import type { Action } from '../../instruct/action.ts';

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
const nameIn = (bar: Billet, before: readonly Billet[]): string =>
  bar.piece ? pieceName(bar) : String(before.indexOf(bar) + 1);
