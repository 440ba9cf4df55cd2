import { z } from 'zod';
import { type Beads, type Billet, beadsLeft, eachAlike } from '../../billet/billet.ts';
import { piecesOf } from '../../billet/laidPieces.ts';
import { type Action, care } from '../../instruct/action.ts';
import type { Care } from '../../instruct/careWords.ts';
import { type Shop, codedMaterial } from '../../shop/shop.ts';
import { codeAt } from '../../billet/fields/field.ts';
import { boundingBox } from '../../geometry/outline.ts';
import { meltsLow, weldingWindow } from '../../materials/welding.ts';
import { formatFine } from '../../units/length.ts';
import { formatTemperature } from '../../units/temperature.ts';
import { CAUTIONS, caution, error, heated, needsOneBar, note, warning } from '../contract/common.ts';
import { choice, heats, lengthOrNoneMm, lengthWithinMm, weldingHeat } from '../../units/quantities.ts';
import { facesWithSeams, grindBeadOff, mostBeadMm, withoutBead } from './bead.ts';
import { press } from './press/press.ts';
import { type SeamsAsked, bucklesIn, seamsAsked } from './seams.ts';
import { MOST_SLENDER } from './upset.ts';
import { type Finding, defineMove } from '../contract/move.ts';

const LEAST_BEAD_MM = 0.5;

/** The schools of holding what lies together until it is welded, and of keeping air from its seams. */
const HOLDING = {
  tacks: 'tacks, with filler',
  fused: 'tacks, fused without filler',
  wire: 'wire',
  glue: 'glue, and welds at the ends',
  jacket: 'a jacket of sheet',
} as const;
const TACKED = { ends: 'the ends', 'ends and sides': 'the ends and along the sides' } as const;
const AIR = { flux: 'flux', oil: 'a dunk in light oil', sealed: 'being sealed, no flux' } as const;

/**
 * Heats in the fire and the temperature, °C; whether the edges are welded shut before, and how deep the bead goes that is ground off
 * after, mm; how it is held together, how deep the tacks go and where they are, which stay until they are ground off; how air is kept out; what is asked about the seams, which changes nothing of the bar.
 */
const parameters = z.strictObject({
  temperatureC: weldingHeat,
  heats,
  edges: choice('Edges', {
    open: 'left open, tacked',
    'welded shut': 'welded shut, bead ground off',
  }).optional(),
  beadMm: lengthWithinMm('Bead, how deep', LEAST_BEAD_MM, 20, { fine: true }).optional(),
  held: choice('Held together by', HOLDING).optional(),
  tackMm: lengthOrNoneMm('Tacks, how deep', 20, { fine: true }).optional(),
  tacked: choice('Tacked along', TACKED).optional(),
  air: choice('Air kept out by', AIR).optional(),
  seams: seamsAsked.optional(),
});

export type WeldParameters = z.infer<typeof parameters>;

function checkWindow(bar: Billet, temperatureC: number, shop: Shop): Finding[] {
  const { volumes } = bar;
  const all = weldingWindow(volumes, shop.materials);
  if (!all) return [];
  const degrees = (c: number) => formatTemperature(c, shop.temperatures);
  if (all.low > all.high)
    return [
      error(
        'no window',
        `No welding heat suits everything in this billet: ${all.lowest.name} wants at least ${degrees(all.low)}, ${all.highest.name} stands at most ${degrees(all.high)}.`,
        { parameter: 'temperatureC' },
      ),
    ];
  if (temperatureC > all.high)
    return [
      error(
        'too hot',
        `${degrees(temperatureC)} is too hot: ${all.highest.name} stands at most ${degrees(all.high)}.`,
        {
          parameter: 'temperatureC',
          remedy: { label: `Weld at ${degrees(all.high)}`, set: { temperatureC: all.high } },
        },
      ),
    ];
  if (temperatureC < all.low)
    return [
      {
        code: 'too cold',
        severity: 'warning',
        parameter: 'temperatureC',
        text: `${degrees(temperatureC)} is cold for a weld: ${all.lowest.name} wants at least ${degrees(all.low)}.`,
        remedy: { label: `Weld at ${degrees(all.low)}`, set: { temperatureC: all.low } },
      },
    ];
  if (!all.caps) return [];
  const squirts = caution(
    'squirts',
    `${all.caps.name} squirts out when overheated: stand aside, and press lightly.${all.caps.composition.Zn ? ' Its zinc boils off: do not breathe the white fume.' : ''}`,
  );
  if (!steelOnSteel(bar, shop))
    return [
      note(
        'joined by it',
        `${all.caps.name} lies in every seam here and joins them: ${degrees(all.high)} at most.`,
        { parameter: 'temperatureC' },
      ),
      squirts,
    ];
  return [
    warning(
      'capped',
      `${all.caps.name} caps the heat at ${degrees(all.high)}: there it joins what it lies between, and no seam of steel on steel closes. Weld those before, hotter.`,
      { parameter: 'temperatureC' },
    ),
    squirts,
  ];
}

/** mm. How far off a seam its two sides are asked. */
const OFF_SEAM_MM = 1e-4;

/** Whether steel lies on steel in a seam that is to close; taken to, where it is not known how the pieces lie. */
function steelOnSteel(bar: Billet, shop: Shop): boolean {
  const laid = piecesOf(bar);
  if (!bar.loose || laid?.seen !== 'from the end') return true;
  const soft = (x: number, y: number): boolean => {
    const code = codeAt(bar.field, x, y, bar.lengthMm / 2);
    return code > 0 && meltsLow(codedMaterial(shop, code));
  };
  const boxes = laid.each.map((p) => boundingBox(p.outline));
  return boxes.some((a) =>
    boxes.some((b) => {
      const [x0, x1] = [Math.max(a.minX, b.minX), Math.min(a.maxX, b.maxX)];
      const [y0, y1] = [Math.max(a.minY, b.minY), Math.min(a.maxY, b.maxY)];
      const middle = [(x0 + x1) / 2, (y0 + y1) / 2] as const;
      // b lies on a, or right of it.
      if (x1 - x0 > 1 && Math.abs(b.minY - a.maxY) < 1e-3)
        return !soft(middle[0], a.maxY - OFF_SEAM_MM) && !soft(middle[0], b.minY + OFF_SEAM_MM);
      if (y1 - y0 > 1 && Math.abs(b.minX - a.maxX) < 1e-3)
        return !soft(a.maxX - OFF_SEAM_MM, middle[1]) && !soft(b.minX + OFF_SEAM_MM, middle[1]);
      return false;
    }),
  );
}

/** What is asked about the seams is not done; it can be, as presses of the welded bar. */
function aboutSeams(before: readonly Billet[], asked: SeamsAsked, shop: Shop): Finding[] {
  const passes = asked.presses.map(({ turned, toMm }) => ({ turnDeg: turned ? 90 : 0, toMm }));
  const buckles = bucklesIn(before[0], asked);
  if (buckles > 0)
    return [
      warning(
        'seams buckle',
        `Press ${buckles} stands more than ${MOST_SLENDER} times as tall as it is thick: it buckles unless a jacket or clamps hold it, and that is not in what is worked out.`,
        { parameter: 'seams' },
      ),
    ];
  return [
    {
      code: 'seams asked',
      severity: 'note',
      parameter: 'seams',
      text: 'How its seams shut is only asked: the bar and its instruction stay as they are.',
      ...(piecesOf(before[0])?.seen === 'from the end' && {
        remedy: {
          label: 'Press it so after the weld',
          insertAfter: 'press',
          parameters: { ...press.begin(before, shop), passes },
        },
      }),
    },
  ];
}

/** A bead that a stick or wire welder lays goes so deep at first. mm (common practice, no source) */
export const BEAD_MM = 2;
const beadOf = (p: WeldParameters): number => (p.edges === 'welded shut' ? (p.beadMm ?? BEAD_MM) : 0);

/** What stands on it of the tacks after the weld: as deep at both ends, and on the faces that seams come out at. */
function tacksOf(bar: Billet, p: WeldParameters): Beads | undefined {
  const mm = p.tackMm ?? 0;
  if (!bar.loose || mm <= 0 || p.held === 'wire') return undefined;
  const along = p.tacked === 'ends and sides' && p.held !== 'glue' ? facesWithSeams(bar) : [];
  return { endA: mm, endB: mm, ...Object.fromEntries(along.map((side) => [side, mm])) };
}

/** What a school of holding or of keeping air out wants, or costs. */
function schoolFindings(bar: Billet, p: WeldParameters): Finding[] {
  if (!bar.loose) return [];
  const findings: Finding[] = [];
  if (p.held === 'jacket' && !bar.jacket)
    findings.push(
      error('no jacket round it', 'It is to be held by a jacket, and there is none round it.', {
        parameter: 'held',
        remedy: { label: 'Put a jacket round it', insertBefore: 'jacket' },
      }),
    );
  if (p.air === 'sealed' && !isSealed(bar, p))
    findings.push(
      error(
        'not sealed',
        'Without flux or oil its edges must be shut, or a jacket round it: air gets into the seams.',
        {
          parameter: 'air',
          remedy: {
            label: 'Weld the edges shut',
            set: { edges: 'welded shut', beadMm: p.beadMm ?? BEAD_MM },
          },
        },
      ),
    );
  if (p.air === 'oil')
    findings.push(
      caution(
        'oil dunk',
        'Oil flashes: dunk it away from the fire, cold or barely warm, with an extinguisher at hand and nobody leaning over.',
      ),
    );
  if (airOf(bar, p) === 'sealed')
    findings.push(
      caution(
        'sealed in the fire',
        'What is sealed can burst: nothing damp or oily inside, a pinhole away from you and the door, stand aside while it heats.',
      ),
    );
  return findings;
}

const HELD: Record<keyof typeof HOLDING, Care> = {
  tacks: 'tacked with a handle',
  fused: 'fused with a handle',
  wire: 'wired with a handle',
  glue: 'glued with a handle',
  jacket: 'held by its jacket',
};
const KEPT_OUT: Record<keyof typeof AIR, Care> = { flux: 'fluxed', oil: 'dunked', sealed: 'sealed' };

/** Sheet over top and bottom alone leaves the seams open. */
const isSealed = (bar: Billet, p: WeldParameters): boolean =>
  p.edges === 'welded shut' || (bar.jacket?.sideMm ?? 0) > 0;

/** The schools that hold where none is said. */
export const heldOf = (bar: Billet, p: WeldParameters): keyof typeof HOLDING =>
  p.held ?? (bar.jacket ? 'jacket' : 'tacks');
export const airOf = (bar: Billet, p: WeldParameters): keyof typeof AIR =>
  p.air ?? (isSealed(bar, p) ? 'sealed' : 'flux');

/** How it is held and kept from air before it goes into the fire. */
const madeReady = (bar: Billet, p: WeldParameters): Action[] =>
  bar.loose
    ? care(
        bar.jacket?.sideMm === 0 && heldOf(bar, p) === 'jacket' ? 'held by its sheets' : HELD[heldOf(bar, p)],
        ...(p.edges === 'welded shut' ? (['edges shut'] as const) : []),
        KEPT_OUT[airOf(bar, p)],
      )
    : [];

export const weld = defineMove({
  kind: 'weld',
  title: 'Weld',
  hint: 'make one piece of what lies together',
  group: 'Heat and press',
  begins: false,
  welds: true,
  parameters,
  begin: ([bar], shop): WeldParameters => ({
    heats: 2,
    temperatureC: shop.forge.weldingC,
    // What melts low runs out at open edges.
    ...(bar?.loose &&
      weldingWindow(bar.volumes, shop.materials)?.caps && { edges: 'welded shut', beadMm: BEAD_MM }),
  }),
  check(before, p, shop) {
    const missing = needsOneBar(before);
    if (missing.length > 0) return missing;
    const findings = checkWindow(before[0], p.temperatureC, shop);
    if (p.heats === 0)
      findings.push(
        error('no heat', 'A weld needs at least one heat.', {
          parameter: 'heats',
          remedy: { label: 'One heat', set: { heats: 1 } },
        }),
      );
    // A jacket that is wrapped round solid steel is not on it yet.
    if (!before[0].loose && !before[0].laid)
      findings.push({
        code: 'welded',
        severity: 'note',
        text: 'Everything here is welded already; this heat only costs scale.',
      });
    const most = mostBeadMm(before[0]);
    if (beadOf(p) > most) {
      const shallower = Math.floor(10 * most) / 10;
      findings.push(
        error('bead', 'The bead goes so deep that grinding it off leaves less than half of the bar.', {
          parameter: 'beadMm',
          remedy:
            shallower >= LEAST_BEAD_MM
              ? { label: `A bead ${formatFine(shallower, shop.lengths)} deep`, set: { beadMm: shallower } }
              : { label: 'Leave the edges open', set: { edges: 'open' } },
        }),
      );
    }
    findings.push(...schoolFindings(before[0], p));
    if (p.seams && piecesOf(before[0])) findings.push(...aboutSeams(before, p.seams, shop));
    findings.push(CAUTIONS.fire(), CAUTIONS.press());
    return findings;
  },
  apply(before, p, shop) {
    const { after, losses } = heated(before, p.heats, shop);
    const beadMm = beadOf(p);
    const sides = facesWithSeams(before[0]);
    const tacks = beadsLeft(
      tacksOf(before[0], p),
      Object.fromEntries((['endA', 'endB', ...sides] as const).map((where) => [where, beadMm])),
    );
    const { after: bare, lost } = eachAlike(after, (bar) =>
      beadMm > 0 ? withoutBead(bar, sides, beadMm, shop) : { billet: bar, lost: {} },
    );
    return {
      after: bare.map((billet) => ({
        ...billet,
        loose: false,
        laid: undefined,
        ...(before[0].loose && { beads: tacks }),
      })),
      losses: [...losses, ...(beadMm > 0 ? [{ cause: 'grinding' as const, volumes: lost }] : [])],
      added: {},
    };
  },
  does(before, p) {
    const beadMm = beadOf(p);
    return [
      ...madeReady(before[0], p),
      { do: 'soak', temperatureC: p.temperatureC, heats: p.heats },
      ...care('weld set', 'weld judged'),
      ...(beadMm > 0 ? grindBeadOff(before[0], facesWithSeams(before[0]), beadMm) : []),
    ];
  },
});
