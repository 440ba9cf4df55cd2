import { type Billet, type Loss, type Removal, eachAlike, sizeOf } from '../../billet/billet.ts';
import { loseSkin } from '../../billet/removal.ts';
import { type SectionShape, shapeOf } from '../../geometry/shapes.ts';
import { materialById } from '../../materials/material.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatSizes } from '../../units/length.ts';
import type { Finding, FreeNumber } from './move.ts';

/** Scale takes this share of the volume in so many heats. */
export const scaleShare = (heats: number, shop: Shop): number => 1 - (1 - shop.scalePerHeat) ** heats;

/** Every billet after so many heats, and the scale that fell. */
export function heated(
  before: readonly Billet[],
  heats: number,
  shop: Shop,
): { after: Billet[]; losses: Loss[] } {
  // What scales off a blank is a part of what is left on it for grinding.
  const { after, lost } = eachAlike(before, (billet) =>
    billet.blank ? { billet, lost: {} } : loseSkin(billet, scaleShare(heats, shop), shop),
  );
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

export { plural } from '../../instruct/said.ts';

const SHAPE_WORDS: Record<SectionShape, string> = {
  rectangle: 'square or flat',
  leaning: 'leaning',
  triangle: 'a wedge',
  octagon: 'an octagon',
  round: 'round',
  other: 'neither square, flat nor round',
};

/** The section must be square or flat; otherwise what it is, and how it becomes so. */
export function needsRectangle(before: readonly Billet[]): Finding[] {
  const shape = before.map((bar) => shapeOf(bar.outline)).find((s) => s !== 'rectangle');
  if (!shape) return [];
  const remedy =
    shape === 'leaning'
      ? { label: 'Correct the lean first', insertBefore: 'lean' }
      : { label: 'Draw it square first', insertBefore: 'draw' };
  return [
    error(
      'shape',
      `${before.length > 1 ? 'Not every piece is square or flat: one' : 'The bar'} is ${SHAPE_WORDS[shape]} here; this wants it square or flat.`,
      { remedy },
    ),
  ];
}

/** One bar, welded, square or flat: what most moves want. Only the first thing wrong is said. */
export function needsSoundBar(before: readonly Billet[]): Finding[] {
  const missing = [...needsOneBar(before), ...needsWelded(before)];
  return missing.length > 0 ? missing.slice(0, 1) : needsRectangle(before);
}

/** All bars or pieces welded, square or flat. */
export function needsSoundBars(before: readonly Billet[]): Finding[] {
  const missing = needsWelded(before);
  return missing.length > 0 ? missing : needsRectangle(before);
}

export const radians = (deg: number): number => (deg * Math.PI) / 180;
export const degrees = (rad: number): number => (rad * 180) / Math.PI;

export const caution = (code: string, text: string): Finding => ({ code, severity: 'caution', text });
export const warning = (code: string, text: string, more: Partial<Finding> = {}): Finding => ({
  code,
  severity: 'warning',
  text,
  ...more,
});
export const note = (code: string, text: string, more: Partial<Finding> = {}): Finding => ({
  code,
  severity: 'note',
  text,
  ...more,
});

/** On its corners a bar of tiles is pulled open at the joints across it, and its broad sides are no faces of the bar any more. */
export const tilesOnBias = (before: readonly Billet[]): Finding[] =>
  before.some((b) => b.tiled)
    ? [
        warning(
          'tiles on the bias',
          'The bar is laid of tiles: pressed on its corners, the joints across it are pulled open and the picture leaves the broad sides. Press it on its flats only.',
        ),
      ]
    : [];

/** The usual cautions (handbook, safety), one for each kind of work. Never a promise that something is safe. */
export const CAUTIONS = {
  saw: () =>
    caution(
      'saw',
      'Saws and grinders: face shield, hearing protection, no gloves near rotating tools. Keep a fire watch for an hour after hot work.',
    ),
  grinder: () =>
    caution(
      'grinder',
      'Belt and wheel break: face shield, hood, respirator, hearing protection; a stop behind the work on a magnetic chuck, and more of it under a shimmed piece, which holds less.',
    ),
  press: () =>
    caution(
      'press',
      'Press and hammer: nothing between the dies but steel, dies and stops fixed so that they cannot jump, out of the line of the ram and of the bar’s end. A long bar whips as it curls. Hearing protection.',
    ),
  fire: () =>
    caution(
      'fire',
      'Fire: carbon monoxide from the forge; flux sprays and sticks; oil flashes when a hot billet is dunked. Open doors, alarm, full-face shield, cover your arms, extinguisher at hand; check hoses, never warm a bottle with fire. Follow local codes and the makers of forge and flux.',
    ),
  cleaning: () =>
    caution(
      'cleaning',
      'Clean with acetone or alcohol away from fire: they burn. Never chlorinated brake or parts cleaner before the fire: poisonous gas. Acid into water, goggles, gloves, ventilate; waste by local rules. Never galvanised, plated or unknown steel: poisonous fumes.',
    ),
  coating: () =>
    caution(
      'coating',
      'Electrode coatings: knock them off dry with a respirator on; the dust and its fluoride harm lungs.',
    ),
  etchant: () =>
    caution(
      'etchant',
      'Ferric chloride burns eyes and stains: goggles, gloves, eyewash at hand; add it to water; waste by local rules, never down the drain.',
    ),
  kiln: () =>
    caution(
      'kiln',
      'Out of a kiln steel is hotter than it looks: power off before reaching in, face shield, dry gloves, long tongs, a place to lay it that does not burn. Follow the maker of the kiln.',
    ),
  quench: () =>
    caution(
      'quench',
      'Quench oil burns: a lid and an extinguisher of the right class beside it, never water; tongs long enough, face shield, nobody leaning over.',
    ),
  edge: () =>
    caution(
      'edge',
      'A blade made with untested welds can break: test it away from the body before it is used.',
    ),
} as const;

/** What is to be heeded while these materials are made ready to be welded. */
export const steelCautions = (materials: readonly string[]): Finding[] => [
  CAUTIONS.cleaning(),
  ...(materials.includes('electrode') ? [CAUTIONS.coating()] : []),
];

/** The length of what a lane begins with, as a number that working backward may change. mm */
export const freeLength = <P extends { lengthMm: number }>(most: number): FreeNumber<P> => ({
  id: 'length',
  label: 'length',
  whole: false,
  most,
  of: (p) => p.lengthMm,
  with: (p, lengthMm) => ({ ...p, lengthMm }),
});
