import { type Billet, sizeOf } from './billet.ts';
import { SAME_PLACE, makePoints } from './fields/field.ts';
import { MappedField } from './fields/mapped.ts';
import type { PressReport } from '../flow/pressing.ts';
import {
  type FlowDone,
  type FlowPass,
  type FlowSpec,
  mapAfter,
  outlineAfter,
  startMesh,
} from '../flow/run.ts';
import { pushAcross } from '../flow/traction.ts';
import { seamWays } from './seams.ts';
import { shaping, squaring } from '../geometry/maps/squaring.ts';
import {
  type Outline,
  boundingBox,
  contains,
  moveOutline,
  outlineArea,
  rectangle,
} from '../geometry/outline.ts';
import { materialById } from '../materials/material.ts';
import { totalVolume } from '../materials/volumes.ts';
import { type Shop, hotOf } from '../shop/shop.ts';
import { remembered } from '../remembered.ts';
import { hardeningPerK, hotClass } from '../forging/force.ts';

/** Cells each way over which the strength of unlike steels is averaged, an even number: finer than the elements. */
const STRENGTH_CELLS = 40;
/** Points asked in each cell, by Fibonacci's lattice: no two in a row or column, so that layers are met in proportion. */
const ASKED = 55;
const ACROSS = 34;
/** Steels whose strength differs by less flow alike: no table knows it better. */
const ALIKE = 0.1;

const heatOf =
  (shop: Shop, forge = shop.forge) =>
  (id: string) =>
    hotOf(shop, materialById(shop.materials, id)!, forge.weldingC);

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

/** How a bar is pressed, where it is not as the shop does it by itself. */
interface Way {
  readonly friction?: number;
  readonly biteMm?: FlowSpec['biteMm'];
  readonly held?: boolean;
}

/** All that decides how this bar flows. */
export function specFor(bar: Billet, passes: readonly FlowPass[], shop: Shop, way: Way = {}): FlowSpec {
  return {
    outline: bar.outline,
    passes,
    exponent: exponentOf(bar, shop),
    friction: way.friction ?? frictionFactor(shop),
    biteMm: way.biteMm ?? shop.biteMm,
    ...(shop.spread !== 1 && { spread: shop.spread }),
    held: way.held ?? true,
    strength: strengthOf(bar, shop, shop.forge),
    ...(passes.some(({ afterS = 0 }) => afterS > 0) && {
      heat: { fireC: shop.forge.weldingC, hardeningPerK: hardeningOf(bar, shop) },
    }),
  };
}

/** By how much of itself a bar's steel grows stronger for each kelvin colder, by volume. */
function hardeningOf(bar: Billet, shop: Shop): number {
  const whole = totalVolume(bar.volumes);
  const sum = Object.entries(bar.volumes).reduce(
    (all, [id, mm3]) => all + hardeningPerK(hotClass(materialById(shop.materials, id)!)) * mm3,
    0,
  );
  return Math.round((1e6 * sum) / whole) / 1e6;
}

/** Whether a bar of several steels flows as one: none is stronger hot than another by more than a tenth. */
export const movesAlike = (bar: Billet, shop: Shop): boolean =>
  Object.values(bar.volumes).filter((mm3) => mm3 > 0).length > 1 &&
  strengthOf(bar, shop, shop.forge) === null;

/** Strength over the section halfway along, cell by cell, against the mean; null where all of it is alike. */
const strengthOf = remembered((bar: Billet, shop: Shop, forge: Shop['forge']) =>
  sampledStrength(bar, shop, (id) => heatOf(shop, forge)(id).cMPa),
);

function sampledStrength(bar: Billet, shop: Shop, of: (id: string) => number): FlowSpec['strength'] {
  const present = Object.keys(bar.volumes)
    .filter((id) => bar.volumes[id] > 0)
    .map(of);
  if (Math.max(...present) - Math.min(...present) < ALIKE * Math.max(...present)) return null;
  const strengths = Float64Array.of(0, ...shop.materials.map(({ id }) => of(id)));
  const { widthMm, heightMm } = sizeOf(bar);
  const n = STRENGTH_CELLS;
  const points = makePoints(n * ASKED);
  const codes = new Uint8Array(n * ASKED);
  const sums: number[] = [];
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++)
      for (let k = 0; k < ASKED; k++) {
        const at = i * ASKED + k;
        // Mirrored in the middle, so that what is alike on both sides is asked alike.
        const within = (cell: number, place: number): number => {
          const part = ((place % ASKED) + 0.5) / ASKED;
          return (cell + (2 * cell < n ? part : 1 - part)) / n - 0.5;
        };
        points.x[at] = within(i, k) * widthMm;
        points.y[at] = within(j, k * ACROSS) * heightMm;
        points.z[at] = bar.lengthMm / 2;
      }
    points.count = n * ASKED;
    bar.field.sample(points, codes);
    for (let i = 0; i < n; i++) {
      let sum = 0;
      for (let k = 0; k < ASKED; k++) sum += strengths[codes[i * ASKED + k]];
      sums.push(sum / ASKED);
    }
  }
  const mean = sums.reduce((a, b) => a + b, 0) / sums.length;
  return { size: STRENGTH_CELLS, values: sums.map((s) => Math.round((1e3 * s) / mean) / 1e3) };
}

/** Mean strength within each of some outlines in the section, against that of all; 1 where all of it is alike. */
export function strengthsOf(bar: Billet, outlines: readonly Outline[], shop: Shop): number[] {
  const grid = strengthOf(bar, shop, shop.forge);
  if (!grid) return outlines.map(() => 1);
  const { widthMm, heightMm } = sizeOf(bar);
  const { size, values } = grid;
  const places = values.map((value, k) => ({
    value,
    x: (((k % size) + 0.5) / size - 0.5) * widthMm,
    y: ((Math.floor(k / size) + 0.5) / size - 0.5) * heightMm,
  }));
  return outlines.map((outline) => {
    const within = places.filter(({ x, y }) => contains(outline, x, y));
    // A sheet may lie between the middles of the cells: then by the nearest.
    const [cx, cy] = [0, 1].map((i) => outline.reduce((sum, p) => sum + p[i], 0) / outline.length);
    const near = (p: (typeof places)[number]) => (p.x - cx) ** 2 + (p.y - cy) ** 2;
    const asked = within.length > 0 ? within : [places.reduce((a, b) => (near(b) < near(a) ? b : a))];
    return Math.round((1e3 * asked.reduce((sum, p) => sum + p.value, 0)) / asked.length) / 1e3;
  });
}

/** Elements are about this share of the section: thinner bands are taken together. */
const ELEMENT_SHARE = 1 / 24;

/** Whether a bar of unlike steels has bands finer than the elements, in a section so high. mm */
export const isTooFine = (bar: Billet, spec: FlowSpec, heightMm: number): boolean =>
  spec.strength !== null && bar.bandMm < ELEMENT_SHARE * heightMm;

/** The bar as it lies between the dies after a stage of its flow. */
export function betweenDies(bar: Billet, spec: FlowSpec, stage: FlowDone): Billet {
  const flowed = outlineAfter(spec, stage);
  const box = boundingBox(flowed);
  const [tx, ty] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const centred = moveOutline(flowed, -tx, -ty);
  // Powder closes, so that what is there for the length is what the dies left of it.
  const lengthMm = spec.density
    ? bar.lengthMm
    : (bar.lengthMm * outlineArea(bar.outline)) / outlineArea(centred);
  return {
    ...bar,
    outline: centred,
    lengthMm,
    field: new MappedField(bar.field, mapAfter(spec, stage)).through({
      ...SAME_PLACE,
      kz: bar.lengthMm / lengthMm,
      tx,
      ty,
    }),
    bandMm: bar.bandMm * Math.sqrt(bar.lengthMm / lengthMm),
    jacket: null,
  };
}

/** A bar left nearly of a shape by the dies, brought to that shape of its own size. */
export function shapedTo(bar: Billet, outline: Outline): Billet {
  const grow = Math.sqrt(outlineArea(bar.outline) / outlineArea(outline));
  const target = outline.map(([x, y]) => [grow * x, grow * y] as const);
  return { ...bar, outline: target, field: new MappedField(bar.field, shaping(bar.outline, target)) };
}

/** A bar left nearly square or flat by the dies, its worn corners filled. */
export function squaredUp(bar: Billet): Billet {
  const { map, widthMm, heightMm } = squaring(bar.outline);
  return { ...bar, outline: rectangle(widthMm, heightMm), field: new MappedField(bar.field, map) };
}

/** Passes from above and from the side, as quarter turns there and back; the bar ends as it lay. */
export function inTurns(
  stops: readonly { readonly side: 'height' | 'width'; readonly stopMm: number }[],
): FlowPass[] {
  const passes = stops.map(({ side, stopMm }, i): FlowPass => {
    const was = i === 0 ? 'height' : stops[i - 1].side;
    return { turnDeg: side === was ? 0 : side === 'width' ? 90 : -90, toMm: stopMm };
  });
  return stops.at(-1)?.side === 'width' ? [...passes, turnedBack(-90)] : passes;
}

/** No pass, but a turn back: the dies do not touch. */
export const turnedBack = (turnDeg: number): FlowPass => ({ turnDeg, toMm: 1e4 });

/** Of an element's size: so far round its middle a seam is looked for. */
const SEAM_REACH = 0.6;

/** Of each element of a stage's grid the greatest push across the seam that runs there, in the solver's stress; not a number where none does. */
export function seamPushes(bar: Billet, spec: FlowSpec, stage: FlowDone): Float64Array {
  const { quads } = startMesh(spec);
  const elements = quads.length / 4;
  const middles = makePoints(elements);
  for (let e = 0; e < elements; e++)
    for (let k = 0; k < 4; k++) {
      middles.x[e] += stage.x[quads[4 * e + k]] / 4;
      middles.y[e] += stage.y[quads[4 * e + k]] / 4;
    }
  middles.count = elements;
  mapAfter(spec, stage).backward(middles);
  const reach = SEAM_REACH * Math.sqrt(outlineArea(spec.outline) / elements);
  const ways = seamWays(bar, middles.x, middles.y, reach);
  return ways.map((way, e) => (Number.isNaN(way) ? NaN : pushAcross(stage.pushes, e, way)));
}

/** What a stress of 1 in the solver is in this bar at welding heat and the speed of the ram, MPa. */
export function stressUnitMPa(bar: Billet, shop: Shop): number {
  const whole = totalVolume(bar.volumes);
  const heat = heatOf(shop);
  const of = (pick: (c: { cMPa: number; m: number }) => number) =>
    Object.entries(bar.volumes).reduce((sum, [id, mm3]) => sum + (pick(heat(id)) * mm3) / whole, 0);
  const m = of((c) => c.m);
  // The solver's steel has K = 1 at a closing of 1 mm a second; C is measured in uniaxial tests: σ = K·√3^(m+1)·ε̇^m.
  return (of((c) => c.cMPa) / Math.sqrt(3) ** (m + 1)) * shop.press.ramMmPerS ** m;
}

/** Force on the dies at the end of a pass, N, over one bite of it. */
export const contactForceN = (bar: Billet, report: PressReport, shop: Shop): number =>
  report.forcePerMm * stressUnitMPa(bar, shop) * shop.biteMm;

/** Seconds between two bites: the bar is moved on and the dies open (common practice, no source). */
const BETWEEN_BITES_S = 1.5;

/** How long the first passes take at the press, every bite along the bar closed at the speed of the ram. s */
export function pressingSeconds(bar: Billet, stages: readonly FlowDone[], shop: Shop): number {
  return stages.reduce((sum, { report, lengthening }) => {
    if (report.steps === 0) return sum;
    const bites = Math.max(1, Math.ceil((bar.lengthMm * lengthening) / shop.biteMm));
    return sum + bites * (BETWEEN_BITES_S + report.closedMm / shop.press.ramMmPerS);
  }, 0);
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
