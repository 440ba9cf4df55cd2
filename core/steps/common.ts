import { type Billet, type Loss, type Removal, eachAlike, loseSkin, sizeOf } from '../billet/billet.ts';
import { materialById } from '../materials/material.ts';
import type { Shop } from '../shop/shop.ts';
import { formatSizes } from '../units/length.ts';
import type { Finding } from './step.ts';

/** Scale takes this share of the volume in so many heats. */
export const scaleShare = (heats: number, shop: Shop): number => 1 - (1 - shop.scalePerHeat) ** heats;

/** Every billet after so many heats, and the scale that fell. */
export function heated(
  before: readonly Billet[],
  heats: number,
  shop: Shop,
): { after: Billet[]; losses: Loss[] } {
  const { after, lost } = eachAlike(before, (billet) => loseSkin(billet, scaleShare(heats, shop), shop));
  return { after, losses: heats > 0 ? [{ cause: 'scale', volumes: lost }] : [] };
}

/** Reshapes every billet without loss. */
export const reshaped = (before: readonly Billet[], reshape: (billet: Billet) => Billet): Billet[] =>
  eachAlike(before, (billet): Removal => ({ billet: reshape(billet), lost: {} })).after;

export const error = (code: string, text: string, more: Partial<Finding> = {}): Finding => ({
  code,
  severity: 'error',
  text,
  ...more,
});

/** The bar must be one, and welded: what is wrong otherwise. */
export function needsOneBar(before: readonly Billet[]): Finding[] {
  if (before.length === 0)
    return [error('nothing', 'There is no steel here yet: begin the lane with a stack.')];
  if (before.length > 1)
    return [
      error('pieces', `There are ${before.length} loose pieces: arrange them into one block first.`, {
        remedy: { label: 'Arrange them', insertBefore: 'assemble' },
      }),
    ];
  return [];
}

export function needsWelded(before: readonly Billet[]): Finding[] {
  if (before.length === 0) return needsOneBar(before);
  if (before.some((b) => b.loose))
    return [
      error('loose', 'The seams are not welded yet: weld before this.', {
        remedy: { label: 'Weld first', insertBefore: 'weld' },
      }),
    ];
  return [];
}

export function needsMaterials(ids: readonly string[], shop: Shop, parameter: string): Finding[] {
  const missing = [...new Set(ids.filter((id) => !materialById(shop.materials, id)))];
  return missing.map((id) => error('material', `There is no material “${id}” in the table.`, { parameter }));
}

/** Whether a section is large enough to be drawn down to an area: otherwise an error that says so. */
export function needsSteelFor(
  before: readonly Billet[],
  widthMm: number,
  heightMm: number,
  shop: Shop,
  heats: number,
  parameter: string,
): Finding[] {
  const [bar] = before;
  const { widthMm: w, heightMm: h } = sizeOf(bar);
  const area = (bar.lengthMm > 0 ? sectionArea(bar) : 0) * (1 - scaleShare(heats, shop));
  if (widthMm * heightMm <= area * (1 + 1e-9)) return [];
  const largest = Math.floor(Math.sqrt(area) * 10) / 10;
  return [
    error(
      'too small',
      `The bar is only ${formatSizes([w, h], shop.lengths)}: it cannot be drawn up to ${formatSizes([widthMm, heightMm], shop.lengths)}.`,
      {
        parameter,
        remedy:
          widthMm === heightMm
            ? { label: `Draw to ${formatSizes([largest, largest], shop.lengths)}`, set: { sideMm: largest } }
            : undefined,
      },
    ),
  ];
}

const sectionArea = (bar: Billet): number =>
  Object.values(bar.volumes).reduce((a, b) => a + b, 0) / bar.lengthMm;

export const plural = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
