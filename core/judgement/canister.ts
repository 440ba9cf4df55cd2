import { moveOf } from '../moves/index.ts';
import { figured } from '../words/figures.ts';
import { fillOf, roomOf, withBars } from '../canister/can.ts';
import { manyOf } from '../instruct/canWords.ts';
import { insertVolume, isBall, isOfLanes } from '../canister/inserts.ts';
import { mostThatLie } from '../canister/layout.ts';
import { pouredCount } from '../canister/packing.ts';
import type { SolidCan } from '../canister/consolidate.ts';
import { outlineArea } from '../geometry/outline.ts';
import { massKg } from '../materials/volumes.ts';
import { materialById } from '../materials/material.ts';
import { passesOf } from '../moves/forge/consolidate/consolidateByVolumes.ts';
import { formatFine, formatFineSizes, formatSizes } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import { COMMON_PRACTICE, type Figure } from '../units/figure.ts';
import { type Case, type Judge, NOTHING_TO_SAY } from './judgement.ts';

const cm3 = (mm3: number): string => `${(mm3 / 1000).toFixed(1)} cm³`;
const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;

/** What goes into a can, by weight and by number. */
function fillFigures({ result, shop }: Case): Figure[] {
  const p = withBars(moveOf(result.step.kind).fills!(result.step.parameters), result.before);
  const room = roomOf(p);
  const fill = fillOf(p, shop.materials, result.before);
  const kg = (mass: number) => formatMass(mass, shop.masses);
  const nameOf = (id: string) => materialById(shop.materials, id)?.name ?? id;
  const insertMm3 = fill.inserts.reduce((sum, i) => sum + i.mm3, 0);
  return [
    {
      ...figured('can room', fill.roomMm3),
      value: cm3(fill.roomMm3),
      formula: room.outline ? 'V = inside area × (L − caps)' : 'V = (w − 2a)(h − 2a)(L − caps)',
      inputs: [
        ['inside', formatFineSizes([room.widthMm, room.heightMm, room.depthMm], shop.lengths)],
        ['wall a', formatFine(p.wallMm, shop.lengths)],
      ],
      source: 'follows from the sizes themselves',
    },
    ...p.inserts.map((insert, i): Figure => {
      const of =
        insert.shape === 'bar' ? 'Finished' : isOfLanes(insert) ? 'Patterned' : nameOf(insert.material);
      return {
        ...figured('inserts in', fill.inserts[i].kg, `${of} ${manyOf(insert.shape)}`),
        value: `${fill.inserts[i].count}, ${kg(fill.inserts[i].kg)}`,
        formula: isBall(insert)
          ? 'number × π d³/6 × density'
          : 'number × section × length (of a wire along its middle) × density',
        inputs: [
          ['each', cm3(insertVolume(insert, room))],
          ['at most as they are laid, alone', String(mostThatLie(insert, room))],
          ['all', cm3(fill.inserts[i].mm3)],
        ],
        source: 'true volumes; densities of the material table',
      };
    }),
    ...fill.powders
      .filter((powder) => powder.kg > 0)
      .map(({ powder, kg: mass, areaMm2 }): Figure => ({
        ...figured(
          'powder in',
          mass,
          fill.powders.length > 1 ? `${nameOf(powder)} powder goes in` : undefined,
        ),
        value: kg(mass),
        formula: '(V − ΣVᵢ) · ρ_tap, of its part of the section',
        inputs: [
          ['its part of the section', `${areaMm2.toFixed(0)} mm²`],
          ['room left beside inserts', cm3(fill.roomMm3 - insertMm3)],
          [
            'tap density',
            `${percent(p.tapDensity)} of ${materialById(shop.materials, powder)!.densityKgM3} kg/m³`,
          ],
        ],
        source: `gas-atomised powder vibrated to 60–65 % of solid: ${COMMON_PRACTICE}`,
      })),
    {
      ...figured('powder ready', fill.powderReadyKg),
      value: kg(fill.powderReadyKg),
      formula: 'powder × (1 + spill)',
      inputs: [['lid and spill', percent(p.spill)]],
      source: `3–5 %: ${COMMON_PRACTICE}`,
    },
    {
      ...figured('fill factor', fill.fillFactor),
      value: percent(fill.fillFactor),
      formula: 'φ = (ΣVᵢ + Σ m/ρ_solid) / V',
      inputs: [
        ['inserts', cm3(insertMm3 - fill.inserts.reduce((sum, i) => sum + i.poresMm3, 0))],
        ['powder as solid', cm3(fill.powderMm3)],
        ['room', cm3(fill.roomMm3)],
      ],
      source: 'follows from the volumes',
    },
    {
      ...figured('full weight', fill.fullKg),
      value: kg(fill.fullKg),
      formula: 'box + inserts + powder',
      inputs: [['box', kg(fill.fullKg - fill.powderKg - fill.inserts.reduce((sum, i) => sum + i.kg, 0))]],
      source: 'densities of the material table',
    },
  ];
}

/** About how many balls of each kind find room when they are poured and shaken, alone in the can. */
const pouredFigures = ({ result, shop }: Case): Figure[] => {
  const p = withBars(moveOf(result.step.kind).fills!(result.step.parameters), result.before);
  const room = roomOf(p);
  return p.inserts.filter(isBall).map((insert): Figure => {
    const d = insert.sizeMm;
    const many = pouredCount(room, d);
    return {
      ...figured('poured balls', many, `${manyOf(insert.shape)} of ${formatFine(d, shop.lengths)}, poured`),
      value: `about ${many}`,
      formula:
        '0.64 × (w − 0.35 d)(h − 0.35 d)(D − 0.35 d) / (π d³/6); one layer deep 0.82 of its area; alone in the can',
      inputs: [
        ['room', formatFineSizes([room.widthMm, room.heightMm, room.depthMm], shop.lengths)],
        ['looser at the walls', `0.35 of a diameter is lost each way`],
      ],
      source:
        'random close packing of equal balls: Scott 1960, Bernal & Mason 1960; the walls by our own settling of such rooms',
    };
  });
};

function solidFigures(subject: Case): Figure[] {
  const { shop, result } = subject;
  const { before, solid, passes, flatMm } = passesOf(
    result.before[0],
    moveOf(result.step.kind).closes!(result.step.parameters),
  );
  const stops = flatMm.length > 0 ? flatMm : passes.map((s) => s.stopMm);
  const size = formatFineSizes([solid.widthMm, solid.heightMm], shop.lengths);
  return [
    {
      ...figured('solid outside', solid.widthMm),
      value: size,
      formula: 'the room goes to φ of itself, less what the first press took; the wall keeps its volume',
      inputs: [
        ['fill factor φ', percent(before.fillFactor)],
        ['inside', formatFineSizes([solid.insideWidthMm, solid.insideHeightMm, solid.depthMm], shop.lengths)],
        ['wall then', formatFine(solid.wallXMm, shop.lengths)],
        ['cap then', formatFine(solid.capMm, shop.lengths)],
      ],
      source: 'volumes alone, an even powder: a prediction of first order',
    },
    ...wallFigures(subject, solid),
    {
      ...figured('picture shrinks', solid.scaleX),
      value:
        solid.scaleX === solid.scaleY
          ? percent(solid.scaleX)
          : `${percent(solid.scaleX)} × ${percent(solid.scaleY)}`,
      formula: '√φ both ways when pressed two ways, φ up when pressed one way',
      inputs: [['fill factor φ', percent(before.fillFactor)]],
      source: 'follows from the volumes',
    },
    {
      ...figured('can passes', stops.length),
      value: String(stops.length),
      formula: 'from the outside size down to the solid one, so much a pass, the sides in turn',
      inputs: [
        ['from', formatSizes([before.widthMm, before.heightMm], shop.lengths)],
        ['stops', stops.map((mm) => formatFine(mm, shop.lengths)).join(', ') || 'none'],
      ],
      source: `1.5–3 mm a pass: ${COMMON_PRACTICE}`,
    },
  ];
}

/** What comes off afterwards, and what is left. */
function wallFigures({ result, shop }: Case, solid: SolidCan): Figure[] {
  const bar = result.before[0];
  const wall = bar.jacket?.material ?? '';
  const outside = result.after?.[0] ? outlineArea(result.after[0].outline) : solid.widthMm * solid.heightMm;
  const inside = solid.inside ? outlineArea(solid.inside) : solid.insideWidthMm * solid.insideHeightMm;
  const wallKg = massKg({ [wall]: (outside - inside) * solid.depthMm }, shop.materials);
  const soundMm = Math.max(0, solid.depthMm - 2 * BEYOND_CAPS_MM);
  return [
    {
      ...figured('wall off', wallKg),
      value: formatMass(wallKg, shop.masses),
      formula: 'wall area × depth',
      inputs: [
        ['wall area', `${(outside - inside).toFixed(0)} mm²`],
        ['depth', formatFine(solid.depthMm, shop.lengths)],
      ],
      source: 'follows from the volumes',
    },
    {
      ...figured('billet inside', solid.insideWidthMm),
      value: formatFineSizes([solid.insideWidthMm, solid.insideHeightMm, soundMm], shop.lengths),
      formula: 'the room as it is then, less the caps and a few millimetres at each end',
      inputs: [
        ['crop, each end', formatFine(solid.capMm + BEYOND_CAPS_MM, shop.lengths)],
        ['scale', 'not taken off yet'],
      ],
      source: `a few millimetres beyond the cap: ${COMMON_PRACTICE}`,
    },
  ];
}

/** mm beyond the caps that hold no picture either (handbook, canister: a few millimetres; common practice). */
export const BEYOND_CAPS_MM = 4;

export const judgeCanister: Judge = (subject) => {
  const { fills, closes } = moveOf(subject.result.step.kind);
  if (fills) return { figures: [...fillFigures(subject), ...pouredFigures(subject)], findings: [] };
  if (closes) return { figures: solidFigures(subject), findings: [] };
  return NOTHING_TO_SAY;
};
