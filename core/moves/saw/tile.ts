import { z } from 'zod';
import { type Action, care, endCrop } from '../../instruct/action.ts';
import { type Billet, type Loss, sizeOf } from '../../billet/billet.ts';
import { TILE_LAYS, type TileLay, TiledField } from '../../billet/fields/tiled.ts';
import { rectangle } from '../../geometry/outline.ts';
import { type TileSizes, tileSizes } from '../../geometry/tiling.ts';
import type { LaidPieces } from '../../loose/pieces.ts';
import { scaleVolumes } from '../../materials/volumes.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatLength } from '../../units/length.ts';
import { error, needsSoundBar, plural, radians } from '../contract/common.ts';
import { MOST_SECTION_MM, angleDeg, count, lengthMm, lengthOrNoneMm } from '../../units/quantities.ts';
import { type Finding, defineMove } from '../contract/move.ts';

/**
 * Saw into slabs at `angleDeg` to the bar's axis (90: straight), thickness and kerf square to the cut, mm. `lay`: every
 * other tile rolled over, all as they lie, or each on its own. `count`: fewer than fit, where given.
 */
const parameters = z.strictObject({
  angleDeg: angleDeg('Angle to the bar', 20, 90),
  thicknessMm: lengthMm('Tile thickness', MOST_SECTION_MM, { fine: true }),
  kerfMm: lengthOrNoneMm('Saw kerf', 10, { fine: true, shop: 'kerfMm' }).optional(),
  count: count('Tiles', 1, 400).optional(),
  lay: z.union([z.enum(['every other rolled', 'as they lie']), z.array(z.enum(TILE_LAYS)).max(400)]),
});

export type TileParameters = z.infer<typeof parameters>;

/** Degrees. Within this of 90 a cut is straight. */
const STRAIGHT_DEG = 1e-6;

/** More than anyone saws of one bar. */
const MOST_TILES = 2000;

export const sizesOf = (bar: Billet, p: TileParameters, shop: Shop): TileSizes =>
  tileSizes(
    {
      heightMm: sizeOf(bar).heightMm,
      lengthMm: bar.lengthMm,
      thicknessMm: p.thicknessMm,
      kerfMm: p.kerfMm ?? shop.kerfMm,
      angleRad: radians(p.angleDeg),
    },
    p.count,
  );

/** How each of `n` tiles lies. */
export function tileLays(p: TileParameters, n: number): TileLay[] {
  return Array.from({ length: n }, (_, i) => {
    if (typeof p.lay !== 'string') return p.lay[i] ?? 'as it lies';
    return p.lay === 'every other rolled' && i % 2 === 1 ? 'rolled over' : 'as it lies';
  });
}

/** Whether a lay fits its neighbours: slanted tiles turned in the plane or about their length slant the wrong way. */
export const tileFits = (lay: TileLay, p: TileParameters): boolean =>
  Math.abs(p.angleDeg - 90) < STRAIGHT_DEG || lay === 'as it lies' || lay === 'rolled over';

/** Length of the gap that a wrongly slanted tile leaves at each end, mm. */
export const tileGapMm = (p: TileParameters): number => (2 * p.thicknessMm) / Math.tan(radians(p.angleDeg));

function checkLays(p: TileParameters, n: number, shop: Shop): Finding[] {
  const lays = tileLays(p, n);
  const wrong = lays.flatMap((lay, i) => (tileFits(lay, p) ? [] : [i + 1]));
  if (wrong.length === 0) return [];
  const mended = lays.map((lay) => (tileFits(lay, p) ? lay : 'rolled over'));
  return [
    error(
      'does not fit',
      `${wrong.length === 1 ? 'Tile' : 'Tiles'} ${wrong.join(', ')} ${lays[wrong[0] - 1]}: cut at ${p.angleDeg}° the slant then runs the wrong way and leaves a wedge ${formatLength(tileGapMm(p), shop.lengths)} wide beside it. Only as it lies or rolled over fits; straight cuts (90°) fit all four ways.`,
      { parameter: 'lay', remedy: { label: 'Roll over instead', set: { lay: mended } } },
    ),
  ];
}

/** Which cut face of a tile is up, and where its old top edge points. */
const LYING = {
  'as it lies': { up: 'B', topTowards: 'A' },
  'rolled over': { up: 'A', topTowards: 'B' },
  'turned in the plane': { up: 'B', topTowards: 'B' },
  'turned about its length': { up: 'A', topTowards: 'A' },
} as const satisfies Record<TileLay, object>;

function row(bar: Billet, p: TileParameters, shop: Shop) {
  const sizes = sizesOf(bar, p, shop);
  const angleRad = radians(p.angleDeg);
  const first = sizes.setbackMm / 2 + p.thicknessMm / 2 / Math.sin(angleRad);
  return {
    sizes,
    row: {
      angleRad,
      faceMm: sizes.faceMm,
      thicknessMm: p.thicknessMm,
      lays: tileLays(p, sizes.count),
      stationsMm: Array.from({ length: sizes.count }, (_, i) => first + i * sizes.pitchMm),
    },
  };
}

/** A tile less long than this on one of its faces is none to press together, mm. */
const LEAST_TILE = 1;

/** The tiles as they lie in a row, seen from the side with end A on the left; nothing where a slanted end leaves none of one. */
function tilesFromSide(
  { count, faceMm, laidMm, soundMm }: TileSizes,
  { thicknessMm }: TileParameters,
): LaidPieces | undefined {
  const slant = laidMm - soundMm;
  const half = thicknessMm / 2;
  /** A joint below and above; the outer ends are cropped square. */
  const joint = (k: number): readonly [number, number] => {
    const at = k * faceMm - soundMm / 2;
    return k === 0
      ? [-soundMm / 2, -soundMm / 2]
      : k === count
        ? [soundMm / 2, soundMm / 2]
        : [at, at - slant];
  };
  if (count < 2 || faceMm - slant < LEAST_TILE) return undefined;
  return {
    seen: 'from the side',
    each: Array.from({ length: count }, (_, i) => {
      const [[a, b], [c, d]] = [joint(i), joint(i + 1)];
      return {
        name: String(i + 1),
        outline: [
          [a, -half],
          [c, -half],
          [d, half],
          [b, half],
        ] as const,
      };
    }),
  };
}

export const tile = defineMove({
  kind: 'tile',
  title: 'Cut and flip',
  hint: 'saw into tiles and bring the end grain to the side',
  group: 'Saw and grind',
  begins: false,
  toTheSide: true,
  wantsSoundEnds: true,
  meets: (before) => before.map(() => ['top', 'bottom']),
  parameters,
  tolls: ([bar], p, shop) =>
    bar
      ? [{ what: 'tiles', count: sizesOf(bar, p, shop).count, most: MOST_TILES, parameter: 'thicknessMm' }]
      : [],
  begin(before) {
    const height = before[0] ? sizeOf(before[0]).heightMm : 30;
    return {
      angleDeg: 45,
      thicknessMm: Math.max(4, Math.round(height / 2)),
      lay: 'every other rolled' as const,
    };
  },
  check(before, p, shop) {
    const missing = needsSoundBar(before);
    if (missing.length > 0) return missing;
    const [bar] = before;
    const sizes = sizesOf(bar, p, shop);
    if (sizes.count < 1)
      return [
        error(
          'too short',
          `Not one tile fits: the bar is ${formatLength(bar.lengthMm, shop.lengths)} long, the slant takes ${formatLength(sizes.setbackMm, shop.lengths)} and a tile ${formatLength(sizes.pitchMm, shop.lengths)}.`,
          { parameter: 'thicknessMm' },
        ),
      ];
    if (sizes.soundMm <= 0)
      return [
        error(
          'no sound steel',
          `${plural(sizes.count, 'tile')} so thick and slanted leave no length that is sound through: cut thinner or steeper, or start longer.`,
          { parameter: 'thicknessMm' },
        ),
      ];
    const findings = checkLays(p, sizes.count, shop);
    if (p.count !== undefined && p.count > sizes.count)
      findings.push({
        code: 'fewer',
        severity: 'warning',
        parameter: 'count',
        text: `Only ${plural(sizes.count, 'tile')} fit in the bar, not ${p.count}.`,
        remedy: { label: `Cut ${sizes.count}`, set: { count: sizes.count } },
      });
    findings.push({
      code: 'saw',
      severity: 'caution',
      text: 'Saws and grinders: face shield, no gloves near rotating tools; clamp the bar at the slant so that it cannot roll.',
    });
    return findings;
  },
  apply([bar], p, shop) {
    const { sizes, row: tiles } = row(bar, p, shop);
    const { widthMm, heightMm } = sizeOf(bar);
    const sin = Math.sin(tiles.angleRad);
    const kerf = p.kerfMm ?? shop.kerfMm;
    const perMm = 1 / bar.lengthMm;
    const tileShare = (sizes.count * p.thicknessMm * perMm) / sin;
    const kerfShare = ((sizes.count - 1) * kerf * perMm) / sin;
    const soundShare = (sizes.soundMm * p.thicknessMm) / (heightMm * bar.lengthMm);
    const after: Billet = {
      ...bar,
      outline: rectangle(widthMm, p.thicknessMm),
      lengthMm: sizes.soundMm,
      field: new TiledField(bar.field, tiles),
      volumes: scaleVolumes(bar.volumes, soundShare),
      loose: sizes.count > 1,
      laid: tilesFromSide(sizes, p),
      tiled: sizes.count > 1,
      piece: null,
      jacket: null,
      distorted: undefined,
      beads: undefined,
    };
    const losses: Loss[] = [
      { cause: 'kerf', volumes: scaleVolumes(bar.volumes, kerfShare) },
      { cause: 'crop', volumes: scaleVolumes(bar.volumes, tileShare - soundShare) },
      { cause: 'offcut', volumes: scaleVolumes(bar.volumes, 1 - tileShare - kerfShare) },
    ];
    return { after: [after], losses, added: {} };
  },
  sawing(bar, p, shop) {
    const sizes = sizesOf(bar, p, shop);
    const tileMm = p.thicknessMm / Math.sin(radians(p.angleDeg));
    const stations = Array.from({ length: sizes.count }, (_, i) => i * sizes.pitchMm);
    const ends = stations.map((s) => s + tileMm);
    const saws = (sizes.setbackMm > 1e-6 ? [0, ...ends] : ends).filter((mm) => mm < bar.lengthMm - 1e-6);
    return {
      saws: saws.map((mm) => ({ bottomMm: mm, topMm: mm + sizes.setbackMm })),
      names: stations.map((s, i) => ({ text: String(i + 1), atMm: s + (tileMm + sizes.setbackMm) / 2 })),
    };
  },
  joints(bar, p, shop) {
    const sizes = sizesOf(bar, p, shop);
    const cropped = (sizes.laidMm - sizes.soundMm) / 2;
    return Array.from({ length: sizes.count - 1 }, (_, i) => (i + 1) * sizes.faceMm - cropped);
  },
  does([bar], p, shop) {
    const { sizes, row: tiles } = row(bar, p, shop);
    const { sin, cos } = { sin: Math.sin(tiles.angleRad), cos: Math.cos(tiles.angleRad) };
    const kerfMm = p.kerfMm ?? shop.kerfMm;
    const names = tiles.lays.map((_, i) => String(i + 1));
    const ends = names.map((_, i) => i * sizes.pitchMm + p.thicknessMm / sin);
    const straight = Math.abs(p.angleDeg - 90) < STRAIGHT_DEG;
    const leftOver = straight && ends[ends.length - 1] > bar.lengthMm - 1e-6 ? 1 : 0;
    const over = straight ? 0 : (p.thicknessMm * cos) / sin;
    return [
      {
        do: 'saw slanting',
        bottomMm: [...(straight ? [] : [-kerfMm / sin]), ...ends.slice(0, ends.length - leftOver)],
        angleDeg: p.angleDeg,
        topTowards: 'B',
        kerfMm,
        parts: [...(straight ? [] : [null]), ...names, ...(leftOver ? [] : [null])],
        thicknessMm: p.thicknessMm,
        everyMm: sizes.pitchMm,
      },
      ...TILE_LAYS.flatMap((lay): Action[] => {
        const pieces = names.filter((_, i) => tiles.lays[i] === lay);
        return pieces.length > 0 ? [{ do: 'lay down', pieces, what: 'tile', ...LYING[lay] }] : [];
      }),
      { do: 'row', pieces: names, longMm: sizes.laidMm },
      ...endCrop('A', over, sizes.laidMm),
      ...endCrop('B', over, sizes.soundMm),
      ...(straight ? care('butts squeezed') : []),
    ];
  },
});
