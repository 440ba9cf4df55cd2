import { z } from 'zod';
import { choice } from '../../units/quantities.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { insetOutline } from '../../billet/removal.ts';
import { splitSection } from '../../billet/split.ts';
import { isRectangle, rectangle } from '../../geometry/outline.ts';
import { materialById } from '../../materials/material.ts';
import { CAUTIONS, error, needsOneBar, note, warning } from '../contract/common.ts';
import { defineMove } from '../contract/move.ts';

/** Take the jacket off: peeled where it did not weld, ground where it did. */
const parameters = z.strictObject({ how: choice('Take it off', { peel: 'Peel it', grind: 'Grind it off' }) });

/** The section inside the jacket. */
function inside(bar: Billet) {
  if (!isRectangle(bar.outline)) return insetOutline(bar.outline, bar.jacket!.sideMm);
  const { widthMm, heightMm } = sizeOf(bar);
  return rectangle(widthMm - 2 * bar.jacket!.sideMm, heightMm - 2 * bar.jacket!.topMm);
}

export const peel = defineMove({
  kind: 'peel',
  title: 'Take the jacket off',
  short: 'Jacket off',
  hint: 'peel or grind the sheet off again',
  group: 'Saw and grind',
  begins: false,
  wantsSoundEnds: true,
  parameters,
  begin: (before, shop) => {
    const jacket = before[0]?.jacket;
    const welds = jacket && !jacket.released && materialById(shop.materials, jacket.material)?.weldC;
    return { how: welds ? ('grind' as const) : ('peel' as const) };
  },
  check(before, p, shop) {
    const missing = needsOneBar(before);
    if (missing.length > 0) return missing;
    const { jacket } = before[0];
    if (!jacket)
      return [
        error('no jacket', 'There is no jacket here that could come off as one; grind the faces instead.'),
      ];
    const material = materialById(shop.materials, jacket.material);
    return [
      ...(p.how === 'peel' && !jacket.released && material?.weldC
        ? [
            warning(
              'welded on',
              `${material.name} sheet welds on in the fire and will not peel: grind it off.`,
              {
                parameter: 'how',
                remedy: { label: 'Grind it off', set: { how: 'grind' } },
              },
            ),
          ]
        : []),
      ...(p.how === 'grind' && (jacket.released || !material?.weldC)
        ? [
            note(
              'peels',
              `${material?.name ?? 'This'} sheet did not weld on: it peels off, and no steel of the bar is ground away.`,
              { parameter: 'how', remedy: { label: 'Peel it', set: { how: 'peel' } } },
            ),
          ]
        : []),
      CAUTIONS.grinder(),
    ];
  },
  apply([bar], p, shop) {
    const { parts, lost } = splitSection(bar, [inside(bar)], shop);
    return {
      after: [{ ...parts[0], piece: bar.piece }],
      losses: [{ cause: p.how === 'peel' ? ('offcut' as const) : ('grinding' as const), volumes: lost }],
      added: {},
    };
  },
  does([bar], p) {
    const { sideMm, topMm } = bar.jacket!;
    return [{ do: 'unwrap', how: p.how, sideMm, topMm }];
  },
});
