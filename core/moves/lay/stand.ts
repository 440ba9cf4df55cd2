import { z } from 'zod';
import { type Action, care } from '../../instruct/action.ts';
import { choice } from '../../units/quantities.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { GridField } from '../../billet/fields/grid.ts';
import { JoinedField, LaidDownField } from '../../billet/fields/laid.ts';
import { ROLLED_TOP_BOTTOM } from '../../geometry/orientation.ts';
import { outlineSize, rectangle } from '../../geometry/outline.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { formatSizes } from '../../units/length.ts';
import { error, needsSoundBars, note } from '../contract/common.ts';
import { nameIn } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/** Stand pieces on end, one behind the other: every end B up, or every other one turned over. */
const parameters = z.strictObject({
  lay: choice('Stand them', {
    'every other turned over': 'Every other turned over',
    'all end B up': 'All end B up',
  }),
});

type P = z.infer<typeof parameters>;

/** mm. Pieces that differ by more than this do not make one block. */
const FIT_MM = 0.05;

const turnedOver = (p: P, i: number): boolean => p.lay === 'every other turned over' && i % 2 === 1;

/** A piece stood on end; turned over about its width it shows end A and its top lies the other way. */
function stood(piece: Billet, over: boolean) {
  const { widthMm: w, heightMm: h } = sizeOf(piece);
  const cell = { field: piece.field, orientation: ROLLED_TOP_BOTTOM, lengthMm: piece.lengthMm };
  const field = over ? GridField.of([-w / 2, w / 2], [-h / 2, h / 2], [cell]) : piece.field;
  return { field: new LaidDownField(field, piece.lengthMm, h), lengthMm: h };
}

export const stand = defineMove({
  kind: 'stand',
  title: 'Stand on end and join',
  short: 'Stand, join',
  hint: 'short pieces on end, one behind the other: end grain up all along',
  group: 'Lay together',
  begins: false,
  toTheSide: true,
  wantsSoundEnds: true,
  parameters,
  begin: () => ({ lay: 'every other turned over' as const }),
  check(before, _p, shop) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    const [first] = before;
    const odd = before.find(
      (b) =>
        Math.abs(sizeOf(b).widthMm - sizeOf(first).widthMm) > FIT_MM ||
        Math.abs(b.lengthMm - first.lengthMm) > FIT_MM,
    );
    if (odd)
      return [
        error(
          'unequal',
          `Pieces must agree in width and length to stand as one block: ${formatSizes([sizeOf(first).widthMm, first.lengthMm], shop.lengths)} and ${formatSizes([sizeOf(odd).widthMm, odd.lengthMm], shop.lengths)} do not.`,
        ),
      ];
    return before.length === 1
      ? [note('one', 'Only one piece stands here; cut more to make a length of them.')]
      : [];
  },
  apply(before, p) {
    const parts = before.map((piece, i) => stood(piece, turnedOver(p, i)));
    const { widthMm } = outlineSize(before[0].outline);
    const height = Math.max(...before.map((b) => b.lengthMm));
    const after: Billet = {
      ...before[0],
      outline: rectangle(widthMm, height),
      lengthMm: parts.reduce((sum, part) => sum + part.lengthMm, 0),
      field: new JoinedField(parts),
      volumes: addVolumes(...before.map((b) => b.volumes)),
      loose: before.length > 1,
      laid: undefined,
      bandMm: Math.min(...before.map((b) => b.bandMm)),
      piece: null,
      jacket: null,
      distorted: undefined,
      beads: undefined,
    };
    return { after: [after], losses: [], added: {} };
  },
  does(before, p) {
    const names = before.map((b) => nameIn(b, before));
    const standing = (over: boolean): Action[] => {
      const pieces = names.filter((_, i) => turnedOver(p, i) === over);
      const lying = over ? ({ up: 'A', topTowards: 'B' } as const) : ({ up: 'B', topTowards: 'A' } as const);
      return pieces.length > 0 ? [{ do: 'lay down', pieces, what: 'piece', ...lying }] : [];
    };
    return [
      ...standing(false),
      ...standing(true),
      { do: 'row', pieces: names, longMm: before.reduce((sum, b) => sum + sizeOf(b).heightMm, 0) },
      ...care('butts held'),
    ];
  },
});
