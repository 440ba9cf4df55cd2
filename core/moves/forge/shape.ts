import { z } from 'zod';
import { type Billet, type Blank, sizeOf } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { keepLength } from '../../billet/removal.ts';
import { shareOut } from '../../billet/split.ts';
import {
  type BlankAsked,
  PROFILES,
  TIP_SIDES,
  bladeFrom,
  bladeSchema,
  placesIn,
  saidSections,
  spreadNeeded,
  stationsOf,
  tipCutFor,
} from '../../blade/index.ts';
import { Forged } from '../../geometry/maps/forged.ts';
import { rectangle } from '../../geometry/outline.ts';
import { type Action, care, endCrop } from '../../instruct/action.ts';
import { addVolumes, subtractVolumes, withoutSlivers } from '../../materials/volumes.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatFine, formatLength } from '../../units/length.ts';
import { MOST_SECTION_MM, choice, heats, lengthMm, lengthOrNoneMm, share } from '../../units/quantities.ts';
import { CAUTIONS, error, heated, needsSoundBar, note, warning } from '../contract/common.ts';
import { type Finding, defineMove } from '../contract/move.ts';

const { outline, lengthMm: bladeLength, heightMm, tangLengthMm, tangHeightMm, edges } = bladeSchema.shape;

/** The outline of the blade and so much over; thicknesses as forged, what is ground later included. mm */
const parameters = z.strictObject({
  outline,
  lengthMm: bladeLength,
  heightMm,
  tangLengthMm,
  tangHeightMm,
  edges,
  overMm: lengthOrNoneMm('Over all round', 20, { fine: true }),
  spineMm: lengthMm('Spine at heel', 50, { fine: true }),
  tipMm: lengthMm('Spine at tip', 50, { fine: true }),
  edgeMm: lengthMm('Edge, forged', 20, { fine: true }),
  bevelShare: share('Bevel, of the width', 0.1, 1),
  tip: choice('Tip of the bar', TIP_SIDES),
  bolsterMm: lengthOrNoneMm('Bolster left square', MOST_SECTION_MM),
  heats,
});

export type ShapeParameters = z.infer<typeof parameters>;

/** What is forged of a blade that is laid on a bar: left to grind all round and on each side, and how thick the edge stays. mm (common practice, no source) */
const LEFT_MM = { over: 1, sides: 0.4, edge: 1.5 } as const;

const HEATS = 4;

/** The forging to shape that suits a blade, of a bar that is so thick out of the fire. */
export const forgedFor = (
  blade: BlankAsked | z.infer<typeof bladeSchema>,
  barThicknessMm: number,
): ShapeParameters => {
  const most = Math.floor(10 * barThicknessMm) / 10;
  const thick = (mm: number) => Math.min(most, Math.round(10 * (mm + 2 * LEFT_MM.sides)) / 10);
  const spineMm = thick(blade.spineMm);
  const bevelled = 'bevel' in blade && blade.bevel !== 'full' && blade.edges === 1;
  return {
    outline: blade.outline,
    lengthMm: blade.lengthMm,
    heightMm: blade.heightMm,
    tangLengthMm: blade.tangLengthMm,
    tangHeightMm: blade.tangHeightMm,
    edges: blade.edges,
    overMm: LEFT_MM.over,
    spineMm,
    tipMm: Math.min(spineMm, thick(blade.tipMm)),
    edgeMm: Math.min(spineMm, Math.max(LEFT_MM.edge, blade.edgeMm)),
    bevelShare: bevelled
      ? Math.min(1, Math.max(0.1, Math.round((100 * blade.bevelMm) / blade.heightMm) / 100))
      : 1,
    tip: 'spine',
    bolsterMm: 0,
    heats: HEATS,
  };
};

/** The same of the bar that is there, its scale fallen. */
export function forgedOn(blade: z.infer<typeof bladeSchema>, bar: Billet, shop: Shop): ShapeParameters {
  const [hot] = heated([bar], HEATS, shop).after;
  return forgedFor(blade, sizeOf(hot).heightMm);
}

/** A forging that stands there, done for another blade: what of it is not of the blade stays. */
export const forgedAnew = (
  { heats, tip, bolsterMm, overMm }: ShapeParameters,
  blade: z.infer<typeof bladeSchema>,
  bar: Billet,
  shop: Shop,
): ShapeParameters => ({ ...forgedOn(blade, bar, shop), heats, tip, bolsterMm, overMm });

/** Steel that lengthens more than this near the tip is as good as drawn to a wire. */
const MOST_LENGTHENING = 6;
/** mm from the tip at which that is looked at. */
const NEAR_TIP_MM = [5, 10, 20] as const;
/** mm. Shorter tangs are not offered. */
const LEAST_TANG_MM = 20;
/** mm. Less than this is not sawn off. */
const LEAST_OFF_MM = 0.5;

const asked = (p: ShapeParameters): BlankAsked => p;

/** The bar as it comes out of its heats, and what it becomes. */
function forgedOf(bar: Billet, p: ShapeParameters): Pick<Blank, 'forged' | 'heelMm' | 'bolster'> {
  const { widthMm, heightMm: thicknessMm } = sizeOf(bar);
  const flat = { widthMm, thicknessMm };
  const stations = stationsOf(asked(p), flat);
  const cut = tipCutFor(stations, flat, p.tip);
  const { heelMm, bolster, rampMm } = placesIn(asked(p), flat);
  return {
    forged: new Forged(stations, { ...flat, cut }),
    heelMm,
    bolster: bolster && { fromMm: bolster.fromMm - rampMm, toMm: heelMm },
  };
}

/** What is wrong with the shape by itself, on a bar of this section. */
function shapeFindings(bar: Billet, p: ShapeParameters, shop: Shop): Finding[] {
  const { heightMm: thickness, widthMm } = sizeOf(bar);
  const fine = (mm: number) => formatFine(mm, shop.lengths);
  const thickest = Math.floor(10 * thickness) / 10;
  const tooThick = (['spineMm', 'tipMm'] as const).filter((key) => p[key] > thickness + 1e-9);
  if (tooThick.length > 0)
    return [
      error(
        'thicker than the bar',
        `The bar is ${fine(thickness)} thick out of the fire: no spine of ${fine(p[tooThick[0]])} is forged of it.`,
        {
          parameter: tooThick[0],
          remedy: {
            label: `Forge it ${fine(thickest)} thick`,
            set: Object.fromEntries(tooThick.map((key) => [key, thickest])),
          },
        },
      ),
    ];
  if (p.edgeMm > p.spineMm)
    return [
      error('edge thicker', `An edge of ${fine(p.edgeMm)} is thicker than the spine.`, {
        parameter: 'edgeMm',
        remedy: { label: `An edge of ${fine(p.spineMm)}`, set: { edgeMm: p.spineMm } },
      }),
    ];
  const { bolster } = placesIn(asked(p), { widthMm, thicknessMm: thickness });
  if (bolster && bolster.fromMm < p.overMm)
    return [
      error(
        'bolster',
        `The bolster with its ramps is longer than the tang: it would begin ${formatLength(p.overMm - bolster.fromMm, shop.lengths)} behind its end.`,
        {
          parameter: 'bolsterMm',
          remedy: {
            label: `A tang of ${formatLength(Math.ceil(p.tangLengthMm + p.overMm - bolster.fromMm), shop.lengths)}`,
            set: { tangLengthMm: Math.ceil(p.tangLengthMm + p.overMm - bolster.fromMm) },
          },
        },
      ),
    ];
  return [];
}

/** Whether there is steel enough, and what is done about it where there is not. */
function steelFindings(bar: Billet, p: ShapeParameters, forged: Forged, shop: Shop): Finding[] {
  const length = (mm: number) => formatLength(mm, shop.lengths);
  const shortMm = forged.barLengthMm - bar.lengthMm;
  if (shortMm <= 1e-9) return [];
  const { widthMm, thicknessMm } = forged.bar;
  const tangArea = forged.areaAt(p.overMm + 1);
  const shorter = Math.ceil((shortMm * widthMm * thicknessMm) / tangArea + 0.5);
  const tang = p.tangLengthMm - shorter;
  const thinner = Math.floor((10 * p.spineMm * bar.lengthMm) / forged.barLengthMm) / 10;
  return [
    error(
      'too little steel',
      `This blade takes ${length(forged.barLengthMm)} of the bar; it is ${length(bar.lengthMm)} long: ${length(shortMm)} short.`,
      {
        parameter: 'tangLengthMm',
        remedy:
          tang >= LEAST_TANG_MM
            ? { label: `A tang of ${length(tang)}`, set: { tangLengthMm: tang } }
            : {
                label: `Forge the spine ${formatFine(thinner, shop.lengths)} thick`,
                set: {
                  spineMm: thinner,
                  tipMm: Math.min(p.tipMm, thinner),
                  edgeMm: Math.min(p.edgeMm, thinner),
                },
              },
      },
    ),
  ];
}

/** Beyond this no flat dies spread a bar, whatever the bite (the handbook's spread relation). */
export const MOST_SPREAD = 0.56;

/** Where a blade is widest, from end A, and the spread that its width calls for there; how many times as long its steel becomes, least and most. */
export function hammered(
  forged: Forged,
  heelMm: number,
): { widestMm: number; spread: number | null; lengthening: readonly [number, number] } {
  const bladeMm = forged.lengthMm - heelMm;
  const places = Array.from({ length: 41 }, (_, i) => heelMm + (i / 40) * bladeMm);
  const width = (z: number) => forged.sectionAt(z).hi - forged.sectionAt(z).lo;
  const widestMm = places.reduce((a, b) => (width(b) > width(a) ? b : a));
  const longer = places.map((z) => forged.lengtheningAt(z));
  return {
    widestMm,
    spread: spreadNeeded(forged, widestMm),
    lengthening: [Math.min(...longer), Math.max(...longer)],
  };
}

/** What the hammer is asked for: spread, and how far the steel runs at the tip. */
function hammerFindings(forged: Forged, p: ShapeParameters, heelMm: number, shop: Shop): Finding[] {
  const findings: Finding[] = [];
  const { widestMm: widest, spread } = hammered(forged, heelMm);
  if (spread !== null && spread > MOST_SPREAD)
    findings.push(
      warning(
        'spreads more than dies do',
        `${formatLength(forged.sectionAt(widest).hi - forged.sectionAt(widest).lo, shop.lengths)} wide is more than flat dies spread this bar to (a spread of ${spread.toFixed(2)}, where ${MOST_SPREAD} is the most): cross peen, or begin with a wider bar.`,
        { parameter: 'heightMm' },
      ),
    );
  else if (spread !== null && spread < 0)
    findings.push(
      note('blows on the edge', 'The blade is narrower than the bar: it wants blows on the edge as well.'),
    );
  const near = NEAR_TIP_MM.map((mm) => forged.lengtheningAt(forged.lengthMm - mm));
  const where = NEAR_TIP_MM.map((mm) => formatLength(mm, shop.lengths)).join(', ');
  if (Math.max(...near) > MOST_LENGTHENING)
    findings.push(
      warning(
        'drawn out at the tip',
        `${where} from the tip the steel becomes ${near.map((n) => n.toFixed(1)).join(', ')} times as long: the picture runs to lines there. A tip cut beforehand keeps it.`,
        {
          parameter: 'tip',
          remedy: { label: 'Cut the tip beforehand', set: { tip: p.edges === 2 ? 'both' : 'spine' } },
        },
      ),
    );
  return findings;
}

export const shape = defineMove({
  kind: 'shape',
  title: 'Forge to shape',
  short: 'Forge to shape',
  hint: 'point, bevels, shoulders and tang forged: the picture follows the outline',
  group: 'Heat and press',
  begins: false,
  wantsSoundEnds: true,
  parameters,
  begin([bar], shop): ShapeParameters {
    const size = bar ? sizeOf(bar) : { widthMm: 38, heightMm: 6 };
    const long = bar?.lengthMm ?? 250;
    const left = (1 - shop.scalePerHeat) ** HEATS;
    // As large a blade as there is steel for.
    const profile = PROFILES[1];
    const of = (scale: number) =>
      forgedFor(
        {
          ...bladeFrom(profile, scale * long, size.widthMm, Math.min(6, size.heightMm)),
          spineMm: Math.min(4, 0.8 * size.heightMm),
        },
        left * size.heightMm,
      );
    const fits = (p: ShapeParameters) =>
      !bar || forgedOf(heated([bar], p.heats, shop).after[0], p).forged.barLengthMm <= bar.lengthMm;
    const scale = [1.6, 1.3, 1, 0.8, 0.6, 0.45, 0.3].find((s) => fits(of(s))) ?? 0.3;
    return of(scale);
  },
  check(before, p, shop) {
    const missing = needsSoundBar(before);
    if (missing.length > 0) return missing;
    const [bar] = heated(before, p.heats, shop).after;
    const wrong = shapeFindings(bar, p, shop);
    if (wrong.length > 0) return wrong;
    const { forged, heelMm } = forgedOf(bar, p);
    const short = steelFindings(bar, p, forged, shop);
    if (short.length > 0) return short;
    const overMm = bar.lengthMm - forged.barLengthMm;
    return [
      ...hammerFindings(forged, p, heelMm, shop),
      ...(p.tip !== 'as it is' && !forged.bar.cut
        ? [
            note(
              'no cut wanted',
              'The tip is so broad that no cut beforehand is wanted: it is left square.',
              {
                parameter: 'tip',
              },
            ),
          ]
        : []),
      ...(overMm > LEAST_OFF_MM
        ? [
            note(
              'bar left over',
              `The blade takes ${formatLength(forged.barLengthMm, shop.lengths)} of the bar: ${formatLength(overMm, shop.lengths)} are cut off at end A and count as lost. Cut the bar before, to keep them.`,
            ),
          ]
        : []),
      CAUTIONS.press(),
      CAUTIONS.fire(),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    const [bar] = after;
    const { forged, heelMm, bolster } = forgedOf(bar, p);
    const cropped = keepLength(bar, Math.max(0, bar.lengthMm - forged.barLengthMm), bar.lengthMm, shop);
    const kept = cropped.billet;
    const { cut } = forged.bar;
    const inTip = (x: number, _y: number, zMm: number): number => {
      const [from, to] = forged.barSpan(zMm);
      return x < from || x > to ? 1 : 0;
    };
    const [volumes, tip] = cut
      ? shareOut(kept, shop, [forged.volumeMm3, forged.cutOffMm3], inTip).map(withoutSlivers)
      : [kept.volumes, {}];
    const { stations } = forged;
    const half = Math.max(...stations.hi, ...stations.lo.map((mm) => -mm));
    const thickest = Math.max(...stations.spine, ...stations.edge);
    const blank: Billet = {
      ...kept,
      outline: rectangle(2 * half, thickest),
      lengthMm: forged.lengthMm,
      field: new MappedField(kept.field, forged),
      volumes,
      bandMm: kept.bandMm * Math.min(1, p.spineMm / forged.bar.thicknessMm),
      piece: null,
      distorted: undefined,
      beads: undefined,
      blank: {
        forged,
        heelMm,
        bolster,
        was: { lengthMm: bar.lengthMm, ...sizeOf(before[0]) },
      },
    };
    const lost = addVolumes(cropped.lost, cut ? subtractVolumes(kept.volumes, volumes) : tip);
    return { after: [blank], losses: [...losses, { cause: 'crop', volumes: lost }], added: {} };
  },
  does(before, p, shop) {
    const [bar] = heated(before, p.heats, shop).after;
    const { forged, heelMm } = forgedOf(bar, p);
    const offMm = bar.lengthMm - forged.barLengthMm;
    const { cut } = forged.bar;
    const named = new Map([
      [0, 'end of the tang'],
      [heelMm, 'heel'],
      [forged.lengthMm, 'tip'],
    ]);
    const nameAt = (mm: number) => [...named].find(([at]) => Math.abs(at - mm) < stationEvery(forged))?.[1];
    const sections = saidSections(forged, [heelMm]).map((s) => {
      const name = nameAt(s.atMm);
      return name ? { ...s, name } : s;
    });
    return [
      ...(offMm > LEAST_OFF_MM ? endCrop('A', offMm, forged.barLengthMm) : []),
      ...(cut
        ? [
            {
              do: 'cut tip',
              alongMm: cut.alongMm,
              offEdgeMm: cut.offEdgeMm,
              offSpineMm: cut.offSpineMm,
            } satisfies Action,
          ]
        : []),
      { do: 'forge to shape', sections, bevel: p.bevelShare, edges: p.edges, heats: p.heats },
      ...care('marks come to lie'),
    ];
  },
});

const stationEvery = (forged: Forged): number => forged.stations.everyMm;
