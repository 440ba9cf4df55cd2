import { z } from 'zod';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { piecesOf } from '../../billet/laidPieces.ts';
import { type LaidPieces, laidAt } from '../../loose/pieces.ts';
import { GridField } from '../../billet/fields/grid.ts';
import { SolidField } from '../../billet/fields/layers.ts';
import { AS_IT_LIES } from '../../geometry/orientation.ts';
import { rectangle } from '../../geometry/outline.ts';
import { materialById } from '../../materials/material.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { materialCode } from '../../shop/shop.ts';
import { caution, error, needsMaterials, needsOneBar, needsRectangle, note } from '../contract/common.ts';
import { MOST_SECTION_MM, choice, lengthMm, materialId } from '../../units/quantities.ts';
import { type Bought, defineMove } from '../contract/move.ts';

/** Thin sheet wrapped round what lies together, or over top and bottom only. mm. */
const parameters = z.strictObject({
  material: materialId('Sheet'),
  thicknessMm: lengthMm('Sheet thickness', MOST_SECTION_MM, { fine: true }),
  where: choice('Wrap', { 'all round': 'All round', 'top and bottom': 'Top and bottom only' }),
});

type P = z.infer<typeof parameters>;

const sides = (p: P): number => (p.where === 'all round' ? p.thicknessMm : 0);

/** The pieces with the sheets round them: those above and below right across. */
function wrapped(bar: Billet, side: number, top: number): LaidPieces {
  const { seen, each } = piecesOf(bar) ?? {
    seen: 'from the end',
    each: [{ name: '1', outline: bar.outline }],
  };
  const { widthMm, heightMm: h } = sizeOf(bar);
  const fromSide = seen === 'from the side';
  const [w, aside] = fromSide ? [bar.lengthMm, 0] : [widthMm, side];
  let sheets = 0;
  const sheet = (x: number, y: number, wide: number, high: number) =>
    laidAt(`sheet ${++sheets}`, [x, y], [wide, high], true);
  return {
    seen,
    each: [
      ...each,
      sheet(-w / 2 - aside, -h / 2 - top, w + 2 * aside, top),
      sheet(-w / 2 - aside, h / 2, w + 2 * aside, top),
      ...(aside > 0 ? [sheet(-w / 2 - aside, -h / 2, aside, h), sheet(w / 2, -h / 2, aside, h)] : []),
    ],
  };
}

export const jacket = defineMove({
  kind: 'jacket',
  title: 'Jacket',
  hint: 'thin sheet round a stack or tiles, to be ground off or peeled',
  group: 'Lay together',
  begins: false,
  parameters,
  begin: () => ({ material: '1018', thicknessMm: 1.5, where: 'all round' as const }),
  check(before, p, shop) {
    const missing = [...needsOneBar(before), ...needsMaterials([p.material], shop, 'material')];
    if (missing.length > 0) return missing.slice(0, 1);
    const shape = needsRectangle(before);
    if (shape.length > 0) return shape;
    if (before[0].jacket)
      return [
        error('wrapped', 'It is wrapped already: peel or grind that off first.', {
          remedy: { label: 'Take that off first', insertBefore: 'peel' },
        }),
      ];
    const welds = materialById(shop.materials, p.material)!.weldC !== null;
    return [
      note(
        'off again',
        welds
          ? 'This sheet welds on: it must be ground off, or stays as a skin.'
          : 'This sheet does not weld on: it is peeled after the weld.',
      ),
      caution(
        'sealed',
        'A sealed jacket can burst: leave a pinhole away from door and hand, nothing damp or oily inside. Never galvanised or plated sheet: poisonous fumes.',
      ),
    ];
  },
  apply([bar], p, shop) {
    const { widthMm: w, heightMm: h } = sizeOf(bar);
    const side = sides(p);
    const top = p.thicknessMm;
    const sheet = new SolidField(materialCode(shop, p.material));
    const edgesX = side > 0 ? [-w / 2 - side, -w / 2, w / 2, w / 2 + side] : [-w / 2, w / 2];
    const edgesY = [-h / 2 - top, -h / 2, h / 2, h / 2 + top];
    const across = edgesX.length - 1;
    const inside = side > 0 ? 4 : 1;
    const cells = Array.from({ length: across * 3 }, (_, i) => ({
      field: i === inside ? bar.field : sheet,
      orientation: AS_IT_LIES,
      lengthMm: bar.lengthMm,
    }));
    const outline = rectangle(w + 2 * side, h + 2 * top);
    const added = { [p.material]: ((w + 2 * side) * (h + 2 * top) - w * h) * bar.lengthMm };
    const after: Billet = {
      ...bar,
      outline,
      field: GridField.of(edgesX, edgesY, cells),
      laid: wrapped(bar, side, top),
      volumes: addVolumes(bar.volumes, added),
      jacket: { material: p.material, sideMm: side, topMm: top },
    };
    return { after: [after], losses: [], added };
  },
  buys([bar], p) {
    const { widthMm: w, heightMm: h } = sizeOf(bar);
    const sheet = (widthMm: number): Bought => ({
      what: 'sheet',
      material: p.material,
      widthMm,
      thicknessMm: p.thicknessMm,
      lengthMm: bar.lengthMm,
      count: 2,
    });
    return p.where === 'all round' ? [sheet(w + 2 * p.thicknessMm), sheet(h)] : [sheet(w)];
  },
  does(_before, p, shop) {
    const material = materialById(shop.materials, p.material)?.name ?? p.material;
    return [{ do: 'wrap', material, thickMm: p.thicknessMm, allRound: p.where === 'all round' }];
  },
});
