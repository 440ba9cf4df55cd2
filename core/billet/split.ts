import { type Outline, boundingBox, contains, moveOutline, outlineArea } from '../geometry/outline.ts';
import {
  type Volumes,
  addVolumes,
  scaleVolumes,
  subtractVolumes,
  withoutSlivers,
} from '../materials/volumes.ts';
import { type Shop, codedMaterial } from '../shop/shop.ts';
import type { Billet } from './billet.ts';
import { BLOCK, type Points, SAME_PLACE, makePoints } from './fields/field.ts';
import { scattered } from './scatter.ts';

/** Points asked to learn how a section divides; they err by some 0.2 % of a part. As many more as there are more parts. */
const SPLIT_POINTS = 4 * BLOCK;
const PARTS = 4;

/** Share of a region that a steel is given which was not met there. */
const TRACE = 1e-3;
const GONE = 1e-8;

/** Rounds of proportional fitting; each brings the table a hundredfold nearer. */
const FITTING_ROUNDS = 60;

/**
 * Divides the volumes of a billet among regions: `regionOf` names each point's region (or −1), `regionsMm3` their volumes.
 * Sampled counts are fitted so that the regions add up exactly, and so do the materials.
 */
export function shareOut(
  billet: Billet,
  shop: Shop,
  regionsMm3: readonly number[],
  regionOf: (x: number, y: number, z: number) => number,
): Volumes[] {
  const ids = Object.keys(billet.volumes).filter((id) => billet.volumes[id] > 0);
  const whole = ids.reduce((sum, id) => sum + billet.volumes[id], 0);
  if (ids.length === 1) {
    const before = regionsMm3.slice(0, -1);
    const last = whole - before.reduce((sum, mm3) => sum + mm3, 0);
    return [...before, last].map((mm3) => ({ [ids[0]]: mm3 }));
  }
  const hits = regionsMm3.map(() => ids.map(() => 0));
  const points = SPLIT_POINTS * Math.ceil(regionsMm3.length / PARTS);
  count(billet, points, regionOf, (region, code) => {
    const id = ids.indexOf(codedMaterial(shop, code).id);
    if (id >= 0) hits[region][id]++;
  });
  // Of a sheet too thin to be hit a trace everywhere, so that it is not lost; of one that was hit elsewhere next to nothing, or a steel that is gone would stay in the list.
  const met = ids.map((_, k) => hits.some((row) => row[k] > 0));
  const table = regionsMm3.map((mm3, r) =>
    ids.map(
      (id, k) => (hits[r][k] * whole) / points + ((met[k] ? GONE : TRACE) * mm3 * billet.volumes[id]) / whole,
    ),
  );
  fit(
    table,
    regionsMm3,
    ids.map((id) => billet.volumes[id]),
  );
  return table.map((row) => Object.fromEntries(ids.map((id, i) => [id, row[i]])));
}

function count(
  billet: Pick<Billet, 'outline' | 'lengthMm' | 'field'>,
  wanted: number,
  regionOf: (x: number, y: number, z: number) => number,
  found: (region: number, code: number) => void,
): void {
  const box = boundingBox(billet.outline);
  const points: Points = makePoints();
  const codes = new Uint8Array(BLOCK);
  const regions = new Int8Array(BLOCK);
  for (let done = 0; done < wanted; done += BLOCK) {
    points.count = 0;
    for (let i = done; i < done + BLOCK; i++) {
      const x = box.minX + (box.maxX - box.minX) * scattered(i, 0);
      const y = box.minY + (box.maxY - box.minY) * scattered(i, 1);
      const z = billet.lengthMm * scattered(i, 2);
      const region = contains(billet.outline, x, y) ? regionOf(x, y, z) : -1;
      if (region < 0) continue;
      regions[points.count] = region;
      points.x[points.count] = x;
      points.y[points.count] = y;
      points.z[points.count++] = z;
    }
    const asked = points.count;
    billet.field.sample(points, codes);
    for (let i = 0; i < asked; i++) found(regions[i], codes[i]);
  }
}

/** Iterative proportional fitting of a table to its row and column sums; the last row takes up the rounding. */
function fit(table: number[][], rows: readonly number[], columns: readonly number[]): void {
  for (let round = 0; round < FITTING_ROUNDS; round++) {
    columns.forEach((wanted, c) => {
      const sum = table.reduce((total, row) => total + row[c], 0);
      if (sum > 0) for (const row of table) row[c] *= wanted / sum;
    });
    table.forEach((row, r) => {
      const sum = row.reduce((total, v) => total + v, 0);
      if (sum > 0) row.forEach((v, c) => (row[c] = (v * rows[r]) / sum));
    });
  }
  columns.forEach((wanted, c) => {
    const others = table.slice(0, -1).reduce((total, row) => total + row[c], 0);
    table[table.length - 1][c] = wanted - others;
  });
}

/** What a billet is made of by its own picture, scaled to its volume: for moves whose picture is first order. */
export function contentsOf(billet: Pick<Billet, 'outline' | 'lengthMm' | 'field'>, shop: Shop): Volumes {
  const counts: Record<string, number> = {};
  let all = 0;
  count(
    billet,
    SPLIT_POINTS,
    () => 0,
    (_region, code) => {
      const { id } = codedMaterial(shop, code);
      counts[id] = (counts[id] ?? 0) + 1;
      all++;
    },
  );
  return scaleVolumes(counts, (outlineArea(billet.outline) * billet.lengthMm) / all);
}

export interface Split {
  /** One billet for each outline asked for, centred on its own axis. */
  readonly parts: Billet[];
  readonly lost: Volumes;
}

/** Cuts a bar lengthwise into the parts inside `outlines` (which must not overlap); the rest is lost. */
export function splitSection(billet: Billet, outlines: readonly Outline[], shop: Shop): Split {
  const whole = outlineArea(billet.outline) * billet.lengthMm;
  const partsMm3 = outlines.map((o) => outlineArea(o) * billet.lengthMm);
  const restMm3 = whole - partsMm3.reduce((sum, v) => sum + v, 0);
  const regions = [...partsMm3, Math.max(0, restMm3)];
  const volumes = shareOut(billet, shop, regions, (x, y) => {
    const part = outlines.findIndex((o) => contains(o, x, y));
    return part < 0 ? outlines.length : part;
  });
  const parts = outlines.map((outline, i) => {
    const box = boundingBox(outline);
    const tx = (box.minX + box.maxX) / 2;
    const ty = (box.minY + box.maxY) / 2;
    return {
      ...billet,
      outline: moveOutline(outline, -tx, -ty),
      field: billet.field.through({ ...SAME_PLACE, tx, ty }),
      volumes: withoutSlivers(volumes[i]),
      jacket: null,
    };
  });
  return { parts, lost: subtractVolumes(billet.volumes, addVolumes(...parts.map((p) => p.volumes))) };
}
