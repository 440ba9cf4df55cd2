import { z } from 'zod';
import { type Billet, sizeOf } from '../billet/billet.ts';
import { SAME_PLACE } from '../billet/field.ts';
import { GridField } from '../billet/fields/grid.ts';
import { MappedField } from '../billet/fields/mapped.ts';
import { flowOf } from '../flow/known.ts';
import { type FlowPass, type FlowSpec, type FlowStage, mapAfter, outlineAfter } from '../flow/run.ts';
import type { PressReport } from '../flow/press.ts';
import { hotClass, hotConstants } from '../forging/force.ts';
import { spreadCoefficient } from '../forging/spread.ts';
import { TURNED_180 } from '../geometry/orientation.ts';
import { squaring } from '../geometry/maps/squaring.ts';
import { boundingBox, moveOutline, outlineArea, outlineSize, rectangle } from '../geometry/outline.ts';
import { materialById } from '../materials/material.ts';
import { totalVolume } from '../materials/volumes.ts';
import { type Shop, codedMaterial } from '../shop/shop.ts';
import { bareLength, formatFine, formatSizes } from '../units/length.ts';
import {
  CAUTIONS,
  caution,
  error,
  heated,
  needsOneBar,
  needsWelded,
  note,
  plural,
  reshaped,
  warning,
} from './common.ts';
import { MOST_SECTION_MM, angleDeg, heats, lengthMm } from './fields.ts';
import { resquare } from './resquare.ts';
import { FLOW_PENDING, type Finding, defineMove } from './step.ts';
import { makePoints } from '../billet/field.ts';

/**
 * Passes between flat dies, each after a turn (degrees, counter-clockwise on end B) to a stop height, reckoned by the flow of
 * the section. Friction factor 0…1. Squared: the worn corners are filled as the bar is squared up.
 */
const parameters = z.strictObject({
  passes: z
    .array(
      z.strictObject({
        turnDeg: angleDeg('Turn', -180, 180),
        toMm: lengthMm('Stop height', MOST_SECTION_MM),
      }),
    )
    .min(1, 'At least one pass')
    .max(24, 'At most 24 passes'),
  friction: z
    .number({ error: 'Friction must be a number' })
    .min(0, 'Friction must be at least 0')
    .max(1, 'Friction may be at most 1'),
  held: z.boolean(),
  finish: z.enum(['as pressed', 'squared']),
  heats,
});

export type PressParameters = z.infer<typeof parameters>;
type P = PressParameters;

/** Ready sequences, in shop words, for a bar of a width and height to a side. mm */
export const SEQUENCES: Record<string, (widthMm: number, heightMm: number) => FlowPass[]> = {
  'square up': (w, h) => {
    const side = 0.95 * Math.sqrt(w * h);
    return [
      { turnDeg: 0, toMm: side },
      { turnDeg: 90, toMm: side },
      { turnDeg: 90, toMm: side },
    ];
  },
  'bias re-square': (w, h) => {
    const side = Math.sqrt(w * h);
    return [1, 1, 0.9, 0.9, 0.875, 0.875].map((share, i) => ({
      turnDeg: i === 0 ? 45 : 90,
      toMm: share * side,
    }));
  },
  'corners, then flatten': (w, h) => {
    const side = Math.sqrt(w * h);
    return [
      { turnDeg: 45, toMm: 1.12 * side },
      { turnDeg: 90, toMm: 1.12 * side },
      { turnDeg: 45, toMm: 0.9 * side },
      { turnDeg: 90, toMm: 0.9 * side },
    ];
  },
  'past 45°, then flatten': (w, h) => {
    const side = Math.sqrt(w * h);
    return [
      { turnDeg: 55, toMm: 1.05 * side },
      { turnDeg: 0, toMm: 0.85 * side },
    ];
  },
  'flatten a diamond': (w, h) => {
    const side = Math.sqrt(w * h);
    return [
      { turnDeg: 45, toMm: side },
      { turnDeg: 0, toMm: 0.75 * side },
    ];
  },
};

/** Cells each way over which the strength of unlike steels is averaged: about as fine as the elements. */
const STRENGTH_CELLS = 20;
/** Points asked in each cell, each way. */
const ASKED = 4;
/** Steels whose strength differs by less flow alike. */
const ALIKE = 0.02;

const heatOf = (shop: Shop) => (id: string) =>
  hotConstants(hotClass(materialById(shop.materials, id)!), shop.forge.weldingC);

/** How the stress of a bar's steel grows with the rate at welding heat, by volume. */
export function exponentOf(bar: Billet, shop: Shop): number {
  const whole = totalVolume(bar.volumes);
  const mean = Object.entries(bar.volumes).reduce(
    (sum, [id, mm3]) => sum + (heatOf(shop)(id).m * mm3) / whole,
    0,
  );
  return Math.round(1e4 * mean) / 1e4;
}

/** The friction factor of the shop's dies: Coulomb's μ at the yield in shear. */
export const frictionFactor = (shop: Shop): number =>
  Math.min(1, Math.round(shop.press.friction * Math.sqrt(3) * 100) / 100);

const specs = new WeakMap<Billet, WeakMap<P, FlowSpec>>();
const strengths = new WeakMap<Billet, FlowSpec['strength']>();

/** All that decides how this bar flows. */
export function specOf(bar: Billet, p: P, shop: Shop): FlowSpec {
  const known = specs.get(bar)?.get(p);
  if (known) return known;
  const heat = heatOf(shop);
  const spec: FlowSpec = {
    outline: bar.outline,
    passes: p.passes,
    exponent: exponentOf(bar, shop),
    friction: p.friction,
    spread: Math.round(1e4 * spreadCoefficient(shop.biteMm, sizeOf(bar).widthMm)) / 1e4,
    held: p.held,
    strength: strengthOf(bar, shop, (id) => heat(id).cMPa),
  };
  specs.set(bar, (specs.get(bar) ?? new WeakMap<P, FlowSpec>()).set(p, spec));
  return spec;
}

/** Strength over the section halfway along, cell by cell, against the mean; null where all of it is alike. */
function strengthOf(bar: Billet, shop: Shop, of: (id: string) => number): FlowSpec['strength'] {
  const known = strengths.get(bar);
  if (known !== undefined) return known;
  const fresh = sampledStrength(bar, shop, of);
  strengths.set(bar, fresh);
  return fresh;
}

function sampledStrength(bar: Billet, shop: Shop, of: (id: string) => number): FlowSpec['strength'] {
  const present = Object.keys(bar.volumes)
    .filter((id) => bar.volumes[id] > 0)
    .map(of);
  if (Math.max(...present) - Math.min(...present) < ALIKE * Math.max(...present)) return null;
  const { widthMm, heightMm } = sizeOf(bar);
  const n = STRENGTH_CELLS * ASKED;
  const points = makePoints(n);
  const codes = new Uint8Array(n);
  const sums = new Array<number>(STRENGTH_CELLS * STRENGTH_CELLS).fill(0);
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++) {
      points.x[i] = ((i + 0.5) / n - 0.5) * widthMm;
      points.y[i] = ((j + 0.5) / n - 0.5) * heightMm;
      points.z[i] = bar.lengthMm / 2;
    }
    points.count = n;
    bar.field.sample(points, codes);
    for (let i = 0; i < n; i++)
      sums[Math.floor(j / ASKED) * STRENGTH_CELLS + Math.floor(i / ASKED)] += of(
        codedMaterial(shop, codes[i]).id,
      );
  }
  const mean = sums.reduce((a, b) => a + b, 0) / sums.length;
  return { size: STRENGTH_CELLS, values: sums.map((s) => Math.round((1e3 * s) / mean) / 1e3) };
}

function pressed(bar: Billet, p: P, shop: Shop): Billet {
  const spec = specOf(bar, p, shop);
  const stage = flowOf(spec) as FlowStage & { ok: true };
  const flowed = outlineAfter(spec, stage);
  const box = boundingBox(flowed);
  const [tx, ty] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const centred = moveOutline(flowed, -tx, -ty);
  const lengthMm = (bar.lengthMm * outlineArea(bar.outline)) / outlineArea(centred);
  const along = { ...SAME_PLACE, kz: bar.lengthMm / lengthMm };
  const mapped = new MappedField(bar.field, mapAfter(spec, stage)).through({ ...along, tx, ty });
  const squared = p.finish === 'squared' ? squaring(centred) : null;
  return {
    ...bar,
    outline: squared ? rectangle(squared.widthMm, squared.heightMm) : centred,
    lengthMm,
    field: squared ? new MappedField(mapped, squared.map) : mapped,
    bandMm: bar.bandMm * Math.sqrt(bar.lengthMm / lengthMm),
    jacket: null,
  };
}

/** The bar after the first passes only, as it lies between the dies; null where that is not known. */
export function afterPasses(
  result: { readonly before: readonly Billet[]; readonly step: { readonly parameters: unknown } },
  passes: number,
  shop: Shop,
): Billet | null {
  const [bar] = result.before;
  const p = result.step.parameters as P;
  if (!bar || passes === 0) return bar ?? null;
  const some: P = { ...p, passes: p.passes.slice(0, passes), finish: 'as pressed' };
  return flowOf(specOf(bar, some, shop))?.ok ? pressed(bar, some, shop) : null;
}

/**
 * Force on the dies at the end of a pass, N, over one bite: the section's own, of which a length of bite is held between the
 * dies, at the rate of the ram and welding heat (σ = C·ε̇^m).
 */
export function contactForceN(bar: Billet, report: PressReport, shop: Shop): number {
  const whole = totalVolume(bar.volumes);
  const of = (pick: (c: { cMPa: number; m: number }) => number) =>
    Object.entries(bar.volumes).reduce((sum, [id, mm3]) => {
      const constants = hotConstants(hotClass(materialById(shop.materials, id)!), shop.forge.weldingC);
      return sum + (pick(constants) * mm3) / whole;
    }, 0);
  const m = of((c) => c.m);
  // The solver's steel has K = 1 at a closing of 1 mm a second; C is measured in uniaxial tests: σ = K·√3^(m+1)·ε̇^m.
  return (
    report.forcePerMm *
    (of((c) => c.cMPa) / Math.sqrt(3) ** (m + 1)) *
    shop.press.ramMmPerS ** m *
    shop.biteMm
  );
}

/** The bar after all passes, before scale is reckoned off. */
export const squaredOf = (
  result: { readonly before: readonly Billet[]; readonly step: { readonly parameters: unknown } },
  shop: Shop,
): Billet => pressed(result.before[0], result.step.parameters as P, shop);

/** Degrees. A first turn this near to 45° is a bias re-square. */
const BIAS_WITHIN_DEG = 8;

/** The same bar re-squared by the ideal map, where the passes amount to that; null where they do not. */
export function idealOf(bar: Billet, p: P, shop: Shop): Billet | null {
  const [first] = p.passes;
  if (
    p.finish !== 'squared' ||
    p.passes.length < 4 ||
    Math.abs(Math.abs(first.turnDeg) - 45) > BIAS_WITHIN_DEG
  )
    return null;
  const { widthMm, heightMm } = sizeOf(pressed(bar, p, shop));
  // Turned by so many quarters more than the 45° of the ideal one: its corner line lies on one diagonal or the other, either way up.
  const quarters = Math.round((p.passes.reduce((sum, q) => sum + q.turnDeg, 0) - 45) / 90);
  const way = ((quarters % 4) + 4) % 4;
  const ideal = {
    turn: way % 2 === 0 ? ('left' as const) : ('right' as const),
    sideMm: Math.sqrt(widthMm * heightMm),
    errorDeg: 0,
    heats: 0,
  };
  if (resquare.check([bar], ideal, shop).some((f) => f.severity === 'error')) return null;
  const [made] = resquare.apply([bar], ideal, shop).after;
  if (way === 0 || way === 3) return made;
  const half = ideal.sideMm / 2;
  const cell = { field: made.field, orientation: TURNED_180, lengthMm: made.lengthMm };
  return { ...made, field: GridField.of([-half, half], [-half, half], [cell]) };
}

/** Points each way at which two sections are compared. */
const COMPARED = 140;

/** Share of the section at which two bars of like proportions are of different steel. */
export function sectionDifference(a: Billet, b: Billet): number {
  const codes = [a, b].map((bar) => {
    const { widthMm, heightMm } = sizeOf(bar);
    const all = new Uint8Array(COMPARED * COMPARED);
    const points = makePoints(COMPARED);
    const row = new Uint8Array(COMPARED);
    for (let j = 0; j < COMPARED; j++) {
      for (let i = 0; i < COMPARED; i++) {
        points.x[i] = ((i + 0.5) / COMPARED - 0.5) * widthMm;
        points.y[i] = ((j + 0.5) / COMPARED - 0.5) * heightMm;
        points.z[i] = bar.lengthMm / 2;
      }
      points.count = COMPARED;
      bar.field.sample(points, row);
      all.set(row, j * COMPARED);
    }
    return all;
  });
  return codes[0].reduce((sum, code, k) => sum + (code === codes[1][k] ? 0 : 1), 0) / codes[0].length;
}

/** Share of its box that a section must fill to be called square or flat once its corners are filled. */
const NEARLY_SQUARE = 0.9;
/** An element this much smaller than it was no longer tells the picture. */
const SPENT = 0.12;
/** mm. Elements are about this share of the section: thinner bands are taken together. */
const ELEMENT_SHARE = 1 / 24;

function advise(bar: Billet, p: P, stage: FlowStage & { ok: true }, spec: FlowSpec, shop: Shop): Finding[] {
  const { report } = stage;
  const findings: Finding[] = [];
  if (report.worstElement < SPENT)
    findings.push(
      warning(
        'elements spent',
        'The section is worked so hard in places that the picture there is not to be trusted: fewer or lighter passes.',
        {
          parameter: 'passes',
        },
      ),
    );
  const after = outlineSize(outlineAfter(spec, stage));
  const fills = report.areaMm2 / (after.widthMm * after.heightMm);
  if (p.finish === 'squared' && fills < NEARLY_SQUARE)
    findings.push(
      warning(
        'not square yet',
        `The section fills only ${Math.round(100 * fills)} % of its box: to fill its corners takes more passes.`,
        { parameter: 'finish', remedy: { label: 'Leave it as pressed', set: { finish: 'as pressed' } } },
      ),
    );
  if (!p.held)
    findings.push(note('free', 'Not held, a tipped bar rolls onto its flat.', { parameter: 'held' }));
  if (spec.strength && bar.bandMm < ELEMENT_SHARE * after.heightMm)
    findings.push(
      note(
        'coarse',
        `Bands of ${formatFine(bar.bandMm, shop.lengths)} are finer than the elements: their unlike strength is taken together.`,
      ),
    );
  findings.push(
    note(
      'flow',
      `Reckoned by the flow of the section: ${plural(report.steps, 'step')} in the last pass, ${formatSizes([after.widthMm, after.heightMm], shop.lengths)}, corners filled to ${Math.round(100 * fills)} %.`,
    ),
  );
  return findings;
}

export const press = defineMove({
  kind: 'press',
  title: 'Press, pass by pass',
  hint: 'turn and press as you please; the flow of the section is worked out',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin(before, shop): P {
    const { widthMm, heightMm } = before[0] ? sizeOf(before[0]) : { widthMm: 40, heightMm: 40 };
    const round = (mm: number) => Math.round(mm * 10) / 10;
    return {
      passes: SEQUENCES['bias re-square'](widthMm, heightMm).map((q) => ({ ...q, toMm: round(q.toMm) })),
      friction: frictionFactor(shop),
      held: true,
      finish: 'squared',
      heats: 2,
    };
  },
  check(before, p, shop) {
    const missing = [...needsOneBar(before), ...needsWelded(before)].slice(0, 1);
    if (missing.length > 0) return missing;
    const [bar] = before;
    const spec = specOf(bar, p, shop);
    const stage = flowOf(spec);
    if (!stage) return [error(FLOW_PENDING, 'Working out how the section flows …', { parameter: 'passes' })];
    if (!stage.ok)
      return [
        error(
          'flow',
          `How the section flows could not be worked out: ${stage.why}. Take smaller steps from pass to pass.`,
          {
            parameter: 'passes',
          },
        ),
      ];
    return [
      ...advise(bar, p, stage, spec, shop),
      CAUTIONS.fire(),
      CAUTIONS.press(),
      ...(p.passes.some((q) => q.turnDeg % 90 !== 0)
        ? [
            caution(
              'tip',
              'A bar tipped on its corner rolls onto its flat unless it is held: stand where a kick of the handle does not reach you.',
            ),
          ]
        : []),
    ];
  },
  apply(before, p, shop) {
    const { after, losses } = heated(
      reshaped(before, (bar) => pressed(bar, p, shop)),
      p.heats,
      shop,
    );
    return { after, losses, added: {} };
  },
  flows: ([bar], p, shop) => (bar ? specOf(bar, p, shop) : null),
  presses([bar], p, shop) {
    const stage = flowOf(specOf(bar, p, shop));
    const last = p.passes.at(-1)!;
    if (!stage?.ok) return null;
    return {
      widthMm: Math.max(1, stage.report.contactMm),
      heightMm: last.toMm * 1.03,
      toHeightMm: last.toMm,
      biteMm: shop.biteMm,
    };
  },
  say(_before, p, shop) {
    const mm = shop.lengths.unit === 'in' ? '"' : ' mm';
    return [
      `${plural(p.heats, 'heat')}. ${p.held ? 'Hold the bar so that it does not roll.' : 'Let the bar find its own way.'}`,
      ...p.passes.map(
        (q, i) =>
          `Pass ${i + 1}: ${q.turnDeg === 0 ? 'as it lies' : `turn ${Math.abs(q.turnDeg)}° to the ${q.turnDeg > 0 ? 'left' : 'right'}`}, press to ${bareLength(q.toMm, shop.lengths)}${mm}.`,
      ),
      ...(p.finish === 'squared' ? ['Square up until the corners are filled.'] : []),
    ];
  },
});
