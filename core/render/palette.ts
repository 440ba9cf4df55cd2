import type { Material } from '../materials/material.ts';
import type { Shop } from '../shop/shop.ts';

export type View = 'etched' | 'materials';

/** How a code is painted: a colour, and a second one on the hatch lines. Colours 0…255. */
export interface Ink {
  readonly paper: readonly [number, number, number];
  readonly line: readonly [number, number, number];
  /** Hatch lines: direction across (unit vector over period, 1/px) and the share of the period that is line. */
  readonly hatchX: number;
  readonly hatchY: number;
  readonly duty: number;
}

export type Palette = readonly (Ink | null)[];

/** The colour of an ink at a place, pixels from the lower left. */
export function colourOn(
  { paper, line, hatchX, hatchY, duty }: Ink,
  x: number,
  y: number,
  out: Float64Array,
): void {
  const phase = x * hatchX + y * hatchY;
  const colour = duty > 0 && phase - Math.floor(phase) < duty ? line : paper;
  for (let c = 0; c < 3; c++) out[c] = colour[c];
}

/** Its mean colour over the pixel round a place. */
export function colourIn(
  { paper, line, hatchX, hatchY, duty }: Ink,
  x: number,
  y: number,
  out: Float64Array,
): void {
  let lined = 0;
  if (duty > 0) {
    const phase = x * hatchX + y * hatchY;
    const half = (Math.abs(hatchX) + Math.abs(hatchY)) / 2;
    const below = (at: number) => Math.floor(at) * duty + Math.min(duty, at - Math.floor(at));
    lined = (below(phase + half) - below(phase - half)) / (2 * half);
  }
  for (let c = 0; c < 3; c++) out[c] = paper[c] + lined * (line[c] - paper[c]);
}

const HATCH_PERIOD_PX = 9;

/** Colours that stay apart for the colour-blind (after Okabe and Ito's set, lightened), each with a hatch of its own. */
const SIGNS: { paper: Ink['paper']; line: Ink['line']; angle: number | null }[] = [
  { paper: [72, 84, 98], line: [160, 172, 186], angle: 45 },
  { paper: [240, 228, 182], line: [176, 142, 60], angle: null },
  { paper: [150, 196, 226], line: [40, 96, 140], angle: 135 },
  { paper: [234, 172, 120], line: [160, 74, 20], angle: 0 },
  { paper: [130, 190, 165], line: [20, 104, 80], angle: 90 },
  { paper: [222, 180, 208], line: [140, 70, 116], angle: 22 },
  { paper: [214, 214, 210], line: [110, 110, 106], angle: 67 },
];

const plain = (rgb: Ink['paper']): Ink => ({ paper: rgb, line: rgb, hatchX: 0, hatchY: 0, duty: 0 });

/** Dark steels whose tones are nearer than this are hatched to be told apart; lighter ones than this the eye tells. */
const ALIKE = 0.08;
const DARK = 0.5;
/** How much lighter the lines of an alike steel are than its ground; its mean stays its tone. */
const LIFT = 0.16;
const ALIKE_ANGLES = [45, 135, 90, 0] as const;
const DUTY = 0.25;

/** Dark steels of a plan that etch as one named before them does, each with the angle of its hatch. */
function alikeOnes(materials: readonly Material[], order: readonly string[]): ReadonlyMap<string, number> {
  const known = order.flatMap((id) => materials.find((m) => m.id === id) ?? []);
  const dark = known.filter((m) => m.tone < DARK && !m.tint);
  const alike = dark.filter((m, i) => dark.slice(0, i).some((o) => Math.abs(o.tone - m.tone) < ALIKE));
  return new Map(alike.map((m, i) => [m.id, ALIKE_ANGLES[i % ALIKE_ANGLES.length]]));
}

/**
 * Etched: the tone of each material as grey (or its own colour); dark ones that etch alike are hatched where they are to be told
 * apart. By material: a colour and a hatch each, in the order given.
 */
export function makePalette(
  shop: Shop,
  view: View,
  order: readonly string[],
  alike: 'told apart' | 'as they etch' = 'told apart',
): Palette {
  const angles = alikeOnes(shop.materials, alike === 'told apart' ? order : []);
  return [
    null,
    ...shop.materials.map((material) => {
      const place = order.indexOf(material.id);
      return view === 'etched'
        ? etched(material, angles.get(material.id) ?? null)
        : signed(place < 0 ? SIGNS.length - 1 : place);
    }),
  ];
}

function etched({ tone, tint = [255, 255, 255] }: Material, angle: number | null): Ink {
  const at = (t: number): Ink['paper'] => [tint[0] * t, tint[1] * t, tint[2] * t];
  const low = Math.max(0, tone - DUTY * LIFT);
  return angle === null ? plain(at(tone)) : hatched(at(low), at(low + (tone - low) / DUTY), angle);
}

function signed(place: number): Ink {
  const { paper, line, angle } = SIGNS[place % SIGNS.length];
  return angle === null ? plain(paper) : hatched(paper, line, angle);
}

function hatched(paper: Ink['paper'], line: Ink['line'], angle: number): Ink {
  const rad = (angle * Math.PI) / 180;
  return {
    paper,
    line,
    hatchX: Math.cos(rad) / HATCH_PERIOD_PX,
    hatchY: Math.sin(rad) / HATCH_PERIOD_PX,
    duty: DUTY,
  };
}
