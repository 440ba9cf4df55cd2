import { z } from 'zod';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { JoinedField } from '../../billet/fields/laid.ts';
import { SolidField } from '../../billet/fields/layers.ts';
import { outlineArea } from '../../geometry/outline.ts';
import { materialById } from '../../materials/material.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { materialCode } from '../../shop/shop.ts';
import { needsMaterials, needsOneBar, note, steelCautions } from '../contract/common.ts';
import { MOST_LENGTH_MM, choice, lengthMm, materialId } from '../../units/quantities.ts';
import { defineMove } from '../contract/move.ts';

/** A block of one steel added at an end, as for the tang. mm. */
const parameters = z.strictObject({
  material: materialId('Block of'),
  lengthMm: lengthMm('Block length', MOST_LENGTH_MM),
  end: choice('At', { A: 'End A', B: 'End B' }),
});

export const join = defineMove({
  kind: 'join',
  title: 'Add a block at an end',
  short: 'Add a block',
  hint: 'plain steel for the tang, so that the mosaic is not spent on it',
  group: 'Lay together',
  begins: false,
  wantsSoundEnds: true,
  parameters,
  begin: () => ({ material: '1018', lengthMm: 40, end: 'A' as const }),
  check(before, p, shop) {
    const missing = [...needsOneBar(before), ...needsMaterials([p.material], shop, 'material')];
    if (missing.length > 0) return missing.slice(0, 1);
    return [
      ...steelCautions([p.material]),
      note('joint', 'The joint must end up inside the handle: say in the blade view where it falls.'),
    ];
  },
  apply([bar], p, shop) {
    const block = { field: new SolidField(materialCode(shop, p.material)), lengthMm: p.lengthMm };
    const own = { field: bar.field, lengthMm: bar.lengthMm };
    const added = { [p.material]: outlineArea(bar.outline) * p.lengthMm };
    const after: Billet = {
      ...bar,
      lengthMm: bar.lengthMm + p.lengthMm,
      field: new JoinedField(p.end === 'A' ? [block, own] : [own, block]),
      volumes: addVolumes(bar.volumes, added),
      loose: true,
      laid: undefined,
      piece: null,
      distorted: undefined,
    };
    return { after: [after], losses: [], added };
  },
  buys([bar], p) {
    const { widthMm, heightMm } = sizeOf(bar);
    return [
      {
        what: 'block' as const,
        material: p.material,
        widthMm: Math.max(widthMm, heightMm),
        thicknessMm: Math.min(widthMm, heightMm),
        lengthMm: p.lengthMm,
        count: 1,
      },
    ];
  },
  does([bar], p, shop) {
    const { widthMm, heightMm } = sizeOf(bar);
    const material = materialById(shop.materials, p.material)?.name ?? p.material;
    return [{ do: 'join', end: p.end, material, lengthMm: p.lengthMm, sizesMm: [widthMm, heightMm] }];
  },
});
