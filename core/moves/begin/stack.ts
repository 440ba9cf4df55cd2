import { laidAt } from '../../loose/pieces.ts';
import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { LayersField } from '../../billet/fields/layers.ts';
import { rectangle } from '../../geometry/outline.ts';
import { materialById } from '../../materials/material.ts';
import { addVolumes } from '../../materials/volumes.ts';
import { materialCode } from '../../shop/shop.ts';
import { formatLength } from '../../units/length.ts';
import { freeLength, steelCautions, needsMaterials } from '../contract/common.ts';
import { MOST_LENGTH_MM, MOST_SECTION_MM, count, lengthMm, materialId } from '../../units/quantities.ts';
import { type Finding, defineMove } from '../contract/move.ts';

const layer = z.strictObject({
  material: materialId('Layer material'),
  thicknessMm: lengthMm('Layer thickness', MOST_SECTION_MM, { fine: true }),
});

/** Flat strips laid on one another, bottom first; the pattern is repeated until there are `layers` of them. Lengths mm. */
const parameters = z.strictObject({
  layers: count('Layers in all', 1, 500),
  pattern: z
    .array(layer)
    .min(1, 'The pattern needs at least one layer')
    .max(60, 'The pattern may hold at most 60 layers'),
  widthMm: lengthMm('Width', MOST_SECTION_MM),
  lengthMm: lengthMm('Length'),
});

export type StackParameters = z.infer<typeof parameters>;

/** Tones closer than this do not read as a pattern (handbook, materials: common practice, no source). */
const TONES_APART = 0.15;

const stackLayers = (p: StackParameters): StackParameters['pattern'] =>
  Array.from({ length: p.layers }, (_, i) => p.pattern[i % p.pattern.length]);

export const stackHeight = (p: StackParameters): number =>
  stackLayers(p).reduce((sum, l) => sum + l.thicknessMm, 0);

function alikeTones(p: StackParameters, { materials }: Parameters<typeof materialCode>[0]): Finding[] {
  if (p.pattern.length < 2 || p.layers < 2) return [];
  const tones = p.pattern.map((l) => materialById(materials, l.material)!);
  const spread = Math.max(...tones.map((m) => m.tone)) - Math.min(...tones.map((m) => m.tone));
  if (spread >= TONES_APART) return [];
  const names = [...new Set(tones.map((m) => m.name))].join(' and ');
  return [
    {
      code: 'alike',
      severity: 'warning',
      text: `${names} etch too alike to read as a pattern: ${spread.toFixed(2)} apart in tone, ${TONES_APART} is wanted.`,
      parameter: 'pattern',
    },
  ];
}

export const stack = defineMove({
  kind: 'stack',
  title: 'Stack',
  hint: 'lay strips of steel on one another',
  group: 'Begin',
  begins: true,
  parameters,
  begin: () => ({
    layers: 13,
    pattern: [
      { material: '1084', thicknessMm: 4 },
      { material: '15n20', thicknessMm: 2 },
    ],
    widthMm: 40,
    lengthMm: 200,
  }),
  check(_before, p, shop) {
    const missing = needsMaterials(
      p.pattern.map((l) => l.material),
      shop,
      'pattern',
    );
    if (missing.length > 0) return missing;
    const height = stackHeight(p);
    const findings = [...alikeTones(p, shop), ...steelCautions(p.pattern.map((l) => l.material))];
    if (height > MOST_SECTION_MM)
      findings.push({
        code: 'too tall',
        severity: 'error',
        text: `The stack would be ${formatLength(height, shop.lengths)} tall; at most ${formatLength(MOST_SECTION_MM, shop.lengths)} can be planned.`,
        parameter: 'layers',
      });
    return findings;
  },
  apply(_before, p, shop) {
    const layers = stackLayers(p);
    const heightMm = stackHeight(p);
    let top = -heightMm / 2;
    const tops = layers.map((l) => (top += l.thicknessMm));
    const volumes = addVolumes(
      ...layers.map((l) => ({ [l.material]: l.thicknessMm * p.widthMm * p.lengthMm })),
    );
    const billet = {
      outline: rectangle(p.widthMm, heightMm),
      lengthMm: p.lengthMm,
      field: new LayersField(
        -heightMm / 2,
        tops,
        layers.map((l) => materialCode(shop, l.material)),
      ),
      volumes,
      loose: layers.length > 1,
      laid: {
        seen: 'from the end' as const,
        each: layers.map((l, i) =>
          laidAt(String(i + 1), [-p.widthMm / 2, tops[i] - l.thicknessMm], [p.widthMm, l.thicknessMm], true),
        ),
      },
      bandMm: Math.min(...layers.map((l) => l.thicknessMm)),
      piece: null,
      jacket: null,
    };
    return { after: [billet], losses: [], added: volumes };
  },
  buys: (_before, p) =>
    stackLayers(p).map((l) => ({
      what: 'strip' as const,
      material: l.material,
      widthMm: p.widthMm,
      thicknessMm: l.thicknessMm,
      lengthMm: p.lengthMm,
      count: 1,
    })),
  free: [
    freeLength<StackParameters>(MOST_LENGTH_MM),
    {
      id: 'width',
      label: 'width',
      whole: false,
      most: MOST_SECTION_MM,
      of: (p) => p.widthMm,
      with: (p, widthMm) => ({ ...p, widthMm }),
    },
    {
      id: 'thickness',
      label: 'layer thickness',
      whole: false,
      most: MOST_SECTION_MM,
      of: (p) => p.pattern[0].thicknessMm,
      with: (p, mm) => ({
        ...p,
        pattern: p.pattern.map((l) => ({
          ...l,
          thicknessMm: (l.thicknessMm * mm) / p.pattern[0].thicknessMm,
        })),
      }),
    },
    {
      id: 'layers',
      label: 'layers',
      whole: true,
      most: 500,
      of: (p) => p.layers,
      with: (p, layers) => ({ ...p, layers }),
    },
  ],
  coarser(p, times) {
    const layers = Math.floor(p.layers / times);
    if (layers < 2 || p.layers < 2) return null;
    const pattern = p.pattern.map((l) => ({ ...l, thicknessMm: (l.thicknessMm * p.layers) / layers }));
    return { layers, set: { layers, pattern } };
  },
  exchanged: (p, from, to) => ({
    pattern: p.pattern.map((l) => (l.material === from ? { ...l, material: to } : l)),
  }),
  does(_before, p, shop) {
    const { layers, widthMm, lengthMm, pattern } = p;
    return [
      { do: 'cut strips', count: layers, sizesMm: [widthMm, lengthMm] },
      {
        do: 'stack',
        count: layers,
        inTurn: pattern.map(({ material, thicknessMm }) => ({
          material: materialById(shop.materials, material)?.name ?? material,
          thickMm: thicknessMm,
        })),
        sizesMm: [widthMm, lengthMm],
        tallMm: stackHeight(p),
      },
      ...care('handle on'),
    ];
  },
});
