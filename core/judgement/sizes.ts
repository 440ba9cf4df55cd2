import { sizeOf } from '../billet/billet.ts';
import { outlineArea } from '../geometry/outline.ts';
import { materialById } from '../materials/material.ts';
import { addVolumes, massKg, totalVolume } from '../materials/volumes.ts';
import type { Shop } from '../shop/shop.ts';
import { formatFine, formatLength, formatSizes } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import { BY_GEOMETRY, COMMON_PRACTICE, type Figure } from '../units/figure.ts';
import { type FigureId, figured } from '../words/figures.ts';
import type { Case, Judge } from './judgement.ts';

const cm3 = (mm3: number): string => `${(mm3 / 1000).toFixed(mm3 < 1e5 ? 1 : 0)} cm³`;

function lengthFigure({ result, stands, shop }: Case): Figure {
  const [bar] = stands;
  const { widthMm, heightMm } = sizeOf(bar);
  return {
    ...figured('length', bar.lengthMm, stands.length > 1 ? `Length of each of ${stands.length}` : undefined),
    value: formatLength(bar.lengthMm, shop.lengths),
    formula: 'length = volume left / section',
    inputs: [
      ['volume left', cm3(totalVolume(bar.volumes))],
      [
        'section',
        `${formatSizes([widthMm, heightMm], shop.lengths)}, ${(outlineArea(bar.outline) / 100).toFixed(2)} cm²`,
      ],
      ['to a hundredth', formatFine(bar.lengthMm, shop.lengths)],
    ],
    source: stands === result.after ? 'volume is kept, less what is lost' : 'what was measured at the bench',
  };
}

export function massFigure(id: FigureId, volumes: Record<string, number>, shop: Shop): Figure {
  const kg = massKg(volumes, shop.materials);
  return {
    ...figured(id, kg),
    value: formatMass(kg, shop.masses),
    formula: 'weight = Σ volume × density',
    inputs: Object.entries(volumes)
      .filter(([, mm3]) => mm3 > 0)
      .map(([id, mm3]) => {
        const m = materialById(shop.materials, id)!;
        return [
          m.name,
          `${cm3(mm3)} × ${(m.densityKgM3 / 1000).toFixed(2)} g/cm³ = ${formatMass(mm3 * m.densityKgM3 * 1e-9, shop.masses)}`,
        ];
      }),
    source: 'densities of the material table',
  };
}

/** How each loss is reckoned. */
const RULE = {
  scale: (shop: Shop) => `${(100 * shop.scalePerHeat).toFixed(1)} % of the mass in each heat`,
  grinding: () => 'depth × face, at every face ground',
  kerf: (shop: Shop) => `cuts × kerf of ${formatFine(shop.kerfMm, shop.lengths)} × section`,
  crop: () => 'crops × section',
  offcut: () => 'what does not fit',
  'set aside': () => 'pieces not laid',
} as const;

export const judgeSizes: Judge = (subject) => {
  const { result, stands, shop } = subject;
  const figures: Figure[] = [];
  if (stands.length > 0) {
    figures.push(lengthFigure(subject));
    figures.push(massFigure('weight', addVolumes(...stands.map((b) => b.volumes)), shop));
  }
  if (totalVolume(result.added) > 0) figures.push(massFigure('steel added', result.added, shop));
  for (const { cause, volumes } of result.losses) {
    // What came of it at the bench is written, not reckoned.
    if (cause === 'scrapped' || cause === 'unaccounted' || totalVolume(volumes) <= 0) continue;
    const mass = massFigure(`lost to ${cause}`, volumes, shop);
    const practice = cause === 'scale' ? COMMON_PRACTICE : BY_GEOMETRY;
    figures.push({ ...mass, formula: RULE[cause](shop), source: practice });
  }
  return { figures, findings: [] };
};
