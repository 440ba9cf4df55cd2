import { z } from 'zod';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { JoinedField } from '../../billet/fields/laid.ts';
import { type Action, care } from '../../instruct/action.ts';
import { addVolumes, scaleVolumes } from '../../materials/volumes.ts';
import { formatLength, formatSizes } from '../../units/length.ts';
import { angleDeg, count } from '../../units/quantities.ts';
import { CAUTIONS, error, needsSoundBars, note, radians } from '../contract/common.ts';
import { nameIn } from '../contract/each.ts';
import { type Finding, defineMove } from '../contract/move.ts';

/** Bars laid end to end; degrees between the joint and the bar: 90 a butt, less a scarf. Pieces of other lanes come after those in hand. */
const parameters = z.strictObject({
  angleDeg: angleDeg('Joint, to the bar', 15, 90, '90° is a butt joint; a scarf of 30° has twice its seam'),
  from: z
    .array(z.strictObject({ lane: z.string().max(40), piece: count('Piece', 1, 999) }))
    .max(20, 'At most 20 pieces of other bars')
    .optional(),
});

type P = z.infer<typeof parameters>;

/** mm. Sections that differ by more do not meet. */
const FIT_MM = 0.05;

/** How far a scarf reaches along the bar, from its bottom to its top, mm. */
const reachMm = (p: P, [first]: readonly Billet[]): number =>
  p.angleDeg === 90 ? 0 : sizeOf(first).heightMm / Math.tan(radians(p.angleDeg));

function checkFit(before: readonly Billet[], p: P, lengths: Parameters<typeof formatSizes>[1]): Finding[] {
  const [first] = before;
  const size = sizeOf(first);
  const odd = before.find((b) => {
    const { widthMm, heightMm } = sizeOf(b);
    return Math.abs(widthMm - size.widthMm) > FIT_MM || Math.abs(heightMm - size.heightMm) > FIT_MM;
  });
  const said = (b: Billet) => formatSizes([sizeOf(b).widthMm, sizeOf(b).heightMm], lengths);
  if (odd)
    return [
      error(
        'unequal',
        `Bars that meet end to end must agree in section: ${said(first)} and ${said(odd)} do not.`,
        {
          remedy: { label: 'Draw them to one size first', insertBefore: 'draw' },
        },
      ),
    ];
  const reach = reachMm(p, before);
  const short = before.find((b) => b.lengthMm <= 2 * reach);
  return short
    ? [
        error(
          'too short',
          `A scarf of ${p.angleDeg}° reaches ${formatLength(reach, lengths)} along; a piece is only ${formatLength(short.lengthMm, lengths)} long. A steeper joint is shorter.`,
          { parameter: 'angleDeg', remedy: { label: 'A butt joint', set: { angleDeg: 90 } } },
        ),
      ]
    : [];
}

export const scarf = defineMove({
  kind: 'scarf',
  title: 'Lay end to end',
  short: 'End to end',
  hint: 'bar to bar, square or slanted (a scarf); weld after',
  group: 'Lay together',
  begins: false,
  wantsSoundEnds: true,
  parameters,
  begin(before, _shop, lanes = []): P {
    const other = before.length < 2 ? lanes.find((l) => l.pieces.length > 0) : undefined;
    return { angleDeg: 45, ...(other && { from: [{ lane: other.id, piece: 1 }] }) };
  },
  takes: (p: P) => p.from ?? [],
  check(before, p, shop) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    if (before.length < 2)
      return [
        error('only piece', 'There is one bar here: add a piece of another bar, or cut this one first.', {
          parameter: 'from',
        }),
      ];
    const wrong = checkFit(before, p, shop.lengths);
    if (wrong.length > 0) return wrong;
    return [
      p.angleDeg === 90
        ? note(
            'butts',
            'Only pressure from the ends welds a butt joint; a slanted one is closed by the press as well.',
          )
        : note(
            'drawn scarf',
            'Drawn out, a scarf grows longer with the bar: mind where it comes to lie in the blade.',
          ),
      CAUTIONS.saw(),
    ];
  },
  apply(before, p) {
    const [first] = before;
    const reach = reachMm(p, before);
    // Half of what a slanted cut reaches over falls off at every end that meets another.
    const kept = before.map((b, i) => {
      const cuts = (i > 0 ? 1 : 0) + (i < before.length - 1 ? 1 : 0);
      return scaleVolumes(b.volumes, 1 - (cuts * reach) / 2 / b.lengthMm);
    });
    const volumes = addVolumes(...kept);
    const lost = addVolumes(
      ...before.map((b, i) =>
        Object.fromEntries(Object.entries(b.volumes).map(([id, v]) => [id, v - (kept[i][id] ?? 0)])),
      ),
    );
    const { heightMm } = sizeOf(first);
    const after: Billet = {
      ...first,
      lengthMm: before.reduce((sum, b) => sum + b.lengthMm, 0) - (before.length - 1) * reach,
      field: new JoinedField(before, { overMm: reach, heightMm }),
      volumes,
      bandMm: Math.min(...before.map((b) => b.bandMm)),
      loose: true,
      laid: undefined,
      piece: null,
      jacket: null,
      tiled: before.some((b) => b.tiled),
      distorted: undefined,
      beads: undefined,
    };
    return { after: [after], losses: reach > 0 ? [{ cause: 'crop', volumes: lost }] : [], added: {} };
  },
  does(before, p) {
    const reach = reachMm(p, before);
    const names = before.map((b) => nameIn(b, before));
    const cut = (piece: string, end: 'A' | 'B'): Action => ({
      do: 'scarf',
      piece,
      end,
      angleDeg: p.angleDeg,
      reachMm: reach,
    });
    return [
      { do: 'mark', pieces: names, ends: 'front' },
      ...(reach > 0
        ? names.flatMap((name, i) => [
            ...(i > 0 ? [cut(name, 'A')] : []),
            ...(i < names.length - 1 ? [cut(name, 'B')] : []),
          ])
        : []),
      ...care('faces bright'),
      {
        do: 'row',
        pieces: names,
        longMm: before.reduce((sum, b) => sum + b.lengthMm, 0) - (before.length - 1) * reach,
      },
      ...(p.angleDeg === 90 ? care('butts held') : []),
    ];
  },
});
