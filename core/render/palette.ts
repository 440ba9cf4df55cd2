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

/** Etched: the tone of each material as grey (or its own colour). By material: a colour and a hatch each, in the order given. */
export function makePalette(shop: Shop, view: View, order: readonly string[]): Palette {
  const inks: (Ink | null)[] = [null];
  for (const material of shop.materials) {
    const place = order.indexOf(material.id);
    inks.push(
      view === 'etched'
        ? plain((material.tint ?? [255, 255, 255]).map((c) => c * material.tone) as [number, number, number])
        : hatched(place < 0 ? SIGNS.length - 1 : place),
    );
  }
  return inks;
}

function hatched(place: number): Ink {
  const { paper, line, angle } = SIGNS[place % SIGNS.length];
  if (angle === null) return plain(paper);
  const rad = (angle * Math.PI) / 180;
  return {
    paper,
    line,
    hatchX: Math.cos(rad) / HATCH_PERIOD_PX,
    hatchY: Math.sin(rad) / HATCH_PERIOD_PX,
    duty: 0.25,
  };
}
