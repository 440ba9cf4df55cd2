import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, type Loss, sizeOf } from '../../billet/billet.ts';
import { contentsOf } from '../../billet/split.ts';
import { TiledField } from '../../billet/fields/tiled.ts';
import { type AccordionSizes, accordionSizes } from '../../geometry/tiling.ts';
import { rectangle } from '../../geometry/outline.ts';
import { subtractVolumes } from '../../materials/volumes.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatFine, formatLength } from '../../units/length.ts';
import { CAUTIONS, error, needsSoundBar, note, radians, warning } from '../contract/common.ts';
import { MOST_SECTION_MM, angleDeg, lengthMm } from '../../units/quantities.ts';
import { type Finding, type SideCut, defineMove } from '../contract/move.ts';

/** V-cuts from alternate sides, opened flat: full angle of the V, root left uncut, thickness of a leg square to its faces. mm. */
const parameters = z.strictObject({
  openingDeg: angleDeg('Opening of the V', 30, 120),
  rootMm: lengthMm('Root left uncut', MOST_SECTION_MM, { fine: true }),
  legMm: lengthMm('Leg thickness', MOST_SECTION_MM, { fine: true }),
});

export type AccordionParameters = z.infer<typeof parameters>;

/** More than anyone folds of one bar. */
const MOST_LEGS = 1000;

const accordionOf = (bar: Billet, p: AccordionParameters): AccordionSizes =>
  accordionSizes({
    heightMm: sizeOf(bar).heightMm,
    lengthMm: bar.lengthMm,
    rootMm: p.rootMm,
    legMm: p.legMm,
    openingRad: radians(p.openingDeg),
  });

/** Where the middle line of each V meets the bar, from end A; the first comes from the top. mm */
function middlesOf(bar: Billet, p: AccordionParameters): number[] {
  const { legs, firstMm, pitchMm } = accordionOf(bar, p);
  return Array.from({ length: legs - 1 }, (_, i) => firstMm + (i + 0.5) * pitchMm);
}

/** The outer walls of the first and the last leg, which lie as the walls of the Vs beside them: from end A, mm. */
function endsOf(bar: Billet, p: AccordionParameters) {
  const middles = middlesOf(bar, p);
  const [first, last] = [middles[0], middles[middles.length - 1]];
  const half = radians(p.openingDeg) / 2;
  const along = p.legMm / Math.cos(half);
  const tip = p.rootMm * Math.tan(half);
  const mouth = (sizeOf(bar).heightMm - p.rootMm) * Math.tan(half);
  const [bottomMm, topMm] =
    middles.length % 2 === 1 ? [last - tip, last + mouth] : [last + mouth, last - tip];
  return {
    A: { bottomMm: first + tip - along, topMm: first - mouth - along },
    B: { bottomMm: bottomMm + along, topMm: topMm + along },
  };
}

/** A root thinner than this share of a leg tears when it is opened, a thicker one will not open (common practice, no source). */
const LEAST_ROOT = 0.25;
const MOST_ROOT = 0.8;

function checkRoot(p: AccordionParameters, shop: Shop): Finding[] {
  const share = p.rootMm / p.legMm;
  if (share >= LEAST_ROOT && share <= MOST_ROOT) return [];
  // To a tenth, and of the thinnest legs as it is.
  const half = Math.round(p.legMm * 5) / 10 || p.legMm / 2;
  return [
    warning(
      'root',
      `A root ${share < LEAST_ROOT ? 'so thin tears' : 'so thick does not open'} when it is unfolded: about half a leg, ${formatFine(half, shop.lengths)}, is usual.`,
      {
        parameter: 'rootMm',
        remedy: { label: `Root ${formatFine(half, shop.lengths)}`, set: { rootMm: half } },
      },
    ),
  ];
}

export const accordion = defineMove({
  kind: 'accordion',
  title: 'Accordion',
  hint: 'V-cuts from alternate sides, opened out flat: end grain up, no loose tiles',
  group: 'Saw and grind',
  begins: false,
  toTheSide: true,
  parameters,
  tolls: ([bar], p) =>
    bar ? [{ what: 'legs', count: accordionOf(bar, p).legs, most: MOST_LEGS, parameter: 'legMm' }] : [],
  begin: (before) => {
    const height = before[0] ? sizeOf(before[0]).heightMm : 30;
    return {
      openingDeg: 90,
      rootMm: Math.max(2, Math.round(height / 5)),
      legMm: Math.max(4, Math.round(height / 2.5)),
    };
  },
  check(before, p, shop) {
    const missing = needsSoundBar(before);
    if (missing.length > 0) return missing;
    const { heightMm } = sizeOf(before[0]);
    const mostMm = heightMm / 2;
    if (p.rootMm >= mostMm)
      return [
        error(
          'no cut',
          `The bar is ${formatLength(heightMm, shop.lengths)} high: with a root of half of it or more the cuts from both sides do not pass each other, and no leg comes free.`,
          {
            parameter: 'rootMm',
            remedy: { label: `Root ${formatLength(mostMm / 2, shop.lengths)}`, set: { rootMm: mostMm / 2 } },
          },
        ),
      ];
    const sizes = accordionOf(before[0], p);
    if (sizes.legs < 2)
      return [
        error(
          'too short',
          `Not two legs fit: the bar is ${formatLength(before[0].lengthMm, shop.lengths)} long and a leg takes ${formatLength(sizes.pitchMm, shop.lengths)}.`,
          { parameter: 'legMm' },
        ),
      ];
    return [
      ...checkRoot(p, shop),
      note(
        'roots',
        'Roots bend and distort: the picture is torn there over about the thickness of the root.',
      ),
      CAUTIONS.saw(),
      CAUTIONS.press(),
    ];
  },
  apply([bar], p, shop) {
    const sizes = accordionOf(bar, p);
    const { widthMm, heightMm } = sizeOf(bar);
    const row = {
      angleRad: sizes.angleRad,
      faceMm: sizes.faceMm,
      thicknessMm: p.legMm,
      lays: Array.from({ length: sizes.legs }, (_, i) =>
        i % 2 === 1 ? ('rolled over' as const) : ('as it lies' as const),
      ),
      stationsMm: Array.from({ length: sizes.legs }, (_, i) => sizes.firstMm + i * sizes.pitchMm),
      accordionOfMm: heightMm,
    };
    const shape = {
      outline: rectangle(widthMm, p.legMm),
      lengthMm: sizes.laidMm,
      field: new TiledField(bar.field, row),
    };
    const volumes = contentsOf(shape, shop);
    const after: Billet = {
      ...bar,
      ...shape,
      volumes,
      loose: true,
      laid: undefined,
      piece: null,
      jacket: null,
      distorted: undefined,
      beads: undefined,
    };
    const losses: Loss[] = [{ cause: 'offcut', volumes: subtractVolumes(bar.volumes, volumes) }];
    return { after: [after], losses, added: {} };
  },
  /** V roots by turns from the top and from the bottom; each is drawn as its middle line. */
  sawing(bar, p) {
    const sizes = accordionOf(bar, p);
    const half = (sizeOf(bar).heightMm - p.rootMm) * Math.tan((p.openingDeg * Math.PI) / 360);
    const legs = Array.from({ length: sizes.legs }, (_, i) => sizes.firstMm + i * sizes.pitchMm);
    const { A, B } = endsOf(bar, p);
    const vAt = (mm: number, fromTop: boolean): SideCut[] =>
      [-half, half].map((aside) =>
        fromTop
          ? { bottomMm: mm, topMm: mm + aside, from: p.rootMm }
          : { bottomMm: mm + aside, topMm: mm, to: p.rootMm },
      );
    return {
      saws: [A, ...middlesOf(bar, p).flatMap((mm, i) => vAt(mm, i % 2 === 0)), B],
      names: legs.map((mm, i) => ({ text: String(i + 1), atMm: mm })),
    };
  },
  does([bar], p) {
    const { pitchMm, faceMm, laidMm } = accordionOf(bar, p);
    return [
      {
        do: 'cut Vs',
        openingDeg: p.openingDeg,
        deepMm: sizeOf(bar).heightMm - p.rootMm,
        middlesMm: middlesOf(bar, p),
        everyMm: pitchMm,
        ends: endsOf(bar, p),
      },
      ...care('Vs clean'),
      {
        do: 'open Vs',
        wideMm: sizeOf(bar).widthMm,
        thickMm: p.legMm,
        eachMm: faceMm,
        longMm: laidMm,
      },
    ];
  },
});
