import { z } from 'zod';
import { type Billet, type Loss, keepLength, pieceName, sizeOf } from '../../../billet/billet.ts';
import { GridField, type GridCell } from '../../../billet/fields/grid.ts';
import { SunburstField } from '../../../billet/fields/laid.ts';
import { SolidField } from '../../../billet/fields/layers.ts';
import type { Field } from '../../../billet/fields/field.ts';
import { AS_IT_LIES, frontEnd, orientationNamed, swapsSides } from '../../../geometry/orientation.ts';
import { isRectangle, rectangle, shapeOf } from '../../../geometry/outline.ts';
import { materialById } from '../../../materials/material.ts';
import { type Volumes, addVolumes, scaleVolumes, totalVolume } from '../../../materials/volumes.ts';
import { type Shop, materialCode } from '../../../shop/shop.ts';
import { formatFine, formatLength } from '../../../units/length.ts';
import {
  error,
  needsMaterials,
  needsRectangle,
  needsWelded,
  note,
  plural,
  warning,
} from '../../contract/common.ts';
import { MOST_SECTION_MM, count, lengthMm, materialId } from '../../../units/quantities.ts';
import { FILLS, PRESETS, orientationNames, presetPlaces } from './layout.ts';
import {
  type Bought,
  type Finding,
  type LaneEnds,
  type PieceRef,
  type Placed,
  defineMove,
} from '../../contract/move.ts';

const laneId = z.string().min(1, 'A lane must be named').max(60);

const placed = z.strictObject({
  lane: laneId.optional(),
  piece: count('Piece', 1, 400),
  orientation: z.enum(orientationNames, {
    error: `Orientation must be one of: ${orientationNames.join(', ')}`,
  }),
});

export const STRIPS = ['cross', 'upright', 'level', 'frame', 'cross and frame'] as const;

const strips = z.strictObject({
  material: materialId('Strip'),
  thicknessMm: lengthMm('Strip thickness', MOST_SECTION_MM, { fine: true }),
  where: z.enum(STRIPS),
});

/**
 * Pieces in columns × rows: the lane's own, or those of the lanes in `from`, shared out by `fill`. `places` is read row by row
 * from the top when the layout is free; lengths mm.
 */
const parameters = z.strictObject({
  columns: count('Pieces across', 1, 20),
  rows: count('Pieces up', 1, 20),
  layout: z.enum([...PRESETS, 'free']),
  from: z.array(laneId).min(1, 'Name at least one lane, or none').max(20).optional(),
  fill: z.enum(FILLS).optional(),
  places: z.array(placed).max(400).optional(),
  strips: strips.optional(),
});

export type AssembleParameters = z.infer<typeof parameters>;
type P = AssembleParameters;

/** Places written out before, by their parameters: asked for many times in one evaluation. */
const writtenOut = new WeakMap<P, Placed[]>();

/** Every place of the assembly, rows from the top. */
export function placesOf(p: P): Placed[] {
  if (p.layout === 'free') return p.places ?? [];
  const known = writtenOut.get(p);
  if (known) return known;
  const { columns, rows, layout: preset, from, fill } = p;
  const places = presetPlaces({ columns, rows, preset, from, fill });
  writtenOut.set(p, places);
  return places;
}

/** mm. Pieces that differ by more than this in a column or row leave a gap. */
const FIT_MM = 0.05;
/** mm. Pieces that differ by more than this in length are worth a word. */
const LENGTH_MM = 1;

/** A place with the piece in it. */
export interface Laid {
  billet: Billet;
  place: Placed;
  widthMm: number;
  heightMm: number;
}

const isOwn = (billet: Billet): boolean => billet.piece?.lane === undefined;

/** The piece that a place asks for. */
export const pieceAt = (before: readonly Billet[], place: Placed): Billet | undefined =>
  place.lane === undefined
    ? before.filter(isOwn)[place.piece - 1]
    : before.find((b) => b.piece?.lane === place.lane && b.piece?.number === place.piece);

export function laidPieces(before: readonly Billet[], p: P): Laid[] {
  return placesOf(p).flatMap((place) => {
    const billet = pieceAt(before, place);
    if (!billet) return [];
    const { widthMm: w, heightMm: h } = sizeOf(billet);
    const [widthMm, heightMm] = swapsSides(orientationNamed(place.orientation)) ? [h, w] : [w, h];
    return [{ billet, place, widthMm, heightMm }];
  });
}

/** Column widths and row heights (rows from the top): the largest piece in each. */
export function gridSizes(laid: Laid[], columns: number, rows: number) {
  const widths = Array.from({ length: columns }, (_, c) =>
    Math.max(...laid.filter((_, i) => i % columns === c).map((l) => l.widthMm)),
  );
  const heights = Array.from({ length: rows }, (_, r) =>
    Math.max(...laid.slice(r * columns, (r + 1) * columns).map((l) => l.heightMm)),
  );
  return { widths, heights };
}

/** Thickness of strips between pieces one way, and of the frame, mm. */
export function stripSizes({ strips: s }: P): { uprightMm: number; levelMm: number; frameMm: number } {
  const mm = s?.thicknessMm ?? 0;
  const has = (...where: (typeof STRIPS)[number][]) => (s && where.includes(s.where) ? mm : 0);
  return {
    uprightMm: has('cross', 'upright', 'cross and frame'),
    levelMm: has('cross', 'level', 'cross and frame'),
    frameMm: has('frame', 'cross and frame'),
  };
}

/** Lines of pieces (by index) and strips (−1) one way, with edges centred on 0. */
interface Lines {
  edges: number[];
  of: number[];
}

function linesOf(sizes: number[], between: number, frame: number): Lines {
  const of: number[] = [];
  const widths: number[] = [];
  const put = (index: number, mm: number) => {
    if (mm <= 0) return;
    of.push(index);
    widths.push(mm);
  };
  put(-1, frame);
  sizes.forEach((size, i) => {
    if (i > 0) put(-1, between);
    put(i, size);
  });
  put(-1, frame);
  let at = -widths.reduce((sum, w) => sum + w, 0) / 2;
  return { of, edges: [at, ...widths.map((w) => (at += w))] };
}

/** What an assembly comes to: its field, size, and what the saw and grinder took (bricks only). */
interface Block {
  field: Field;
  widthMm: number;
  heightMm: number;
  lost: Loss[];
}

function gridBlock(laid: Laid[], p: P, shop: Shop): Block {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { uprightMm, levelMm, frameMm } = stripSizes(p);
  const across = linesOf(widths, uprightMm, frameMm);
  const up = linesOf([...heights].reverse(), levelMm, frameMm);
  const strip = p.strips && new SolidField(materialCode(shop, p.strips.material));
  const cells = up.of.flatMap((line) =>
    across.of.map((column): GridCell => {
      if (column < 0 || line < 0) return { field: strip!, orientation: AS_IT_LIES, lengthMm: 0 };
      const { billet, place } = laid[(p.rows - 1 - line) * p.columns + column];
      return {
        field: billet.field,
        orientation: orientationNamed(place.orientation),
        lengthMm: billet.lengthMm,
      };
    }),
  );
  return { field: GridField.of(across.edges, up.edges, cells), ...spanOf(across, up), lost: [] };
}

/** The strips as they must be cut: upright ones from bottom to top, level ones from upright to upright (right across between bricks). */
function stripsOf(laid: Laid[], p: P, shop: Shop): Bought[] {
  if (!p.strips || areWedges(laid.map((l) => l.billet))) return [];
  const { material } = p.strips;
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { uprightMm, levelMm, frameMm } = stripSizes(p);
  const brick = p.layout === 'brick';
  const wide = widths.reduce((sum, mm) => sum + mm, 0) - shop.kerfMm;
  const across = brick ? linesOf([wide], 0, frameMm) : linesOf(widths, uprightMm, frameMm);
  const up = linesOf([...heights].reverse(), levelMm, frameMm);
  const lengthMm = Math.min(...laid.map((l) => l.billet.lengthMm));
  const sizes = ({ edges, of }: Lines, strips: boolean) =>
    of.flatMap((index, i) => (index < 0 === strips ? [edges[i + 1] - edges[i]] : []));
  const strip = (a: number, b: number): Bought => ({
    what: 'strip',
    material,
    widthMm: Math.max(a, b),
    thicknessMm: Math.min(a, b),
    lengthMm,
    count: 1,
  });
  const high = up.edges.at(-1)! - up.edges[0];
  return [
    ...sizes(across, true).map((mm) => strip(high, mm)),
    ...sizes(up, true).flatMap((mm) => sizes(across, false).map((span) => strip(span, mm))),
  ];
}

const spanOf = (across: Lines, up: Lines) => ({
  widthMm: across.edges.at(-1)! - across.edges[0],
  heightMm: up.edges.at(-1)! - up.edges[0],
});

const cellOf = (l: Laid): GridCell => ({
  field: l.billet.field,
  orientation: orientationNamed(l.place.orientation),
  lengthMm: l.billet.lengthMm,
});

/** A solid as a one-cell grid shifted so that its middle stands at its place. */
const shifted = (field: Field, dx: number): Field =>
  field.through({ kx: 1, ky: 1, kz: 1, tx: dx, ty: 0, tz: 0 });

/**
 * Bricks: every other row is shifted by half a piece; what sticks out is sawn off and set in at the other end. Those rows lose
 * a kerf, and the others are ground as much narrower.
 */
function brickBlock(laid: Laid[], p: P, shop: Shop): Block {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { levelMm, frameMm } = stripSizes(p);
  const kerf = shop.kerfMm;
  const width = widths.reduce((sum, w) => sum + w, 0) - kerf;
  const lost: Loss[] = [];
  const rows = heights.map((heightMm, r): Field => {
    const row = laid.slice(r * p.columns, (r + 1) * p.columns);
    const last = row[row.length - 1];
    const share = kerf / last.widthMm;
    const even = r % 2 === 0;
    lost.push({ cause: even ? 'grinding' : 'kerf', volumes: scaleVolumes(last.billet.volumes, share) });
    const edgesY = [-heightMm / 2, heightMm / 2];
    if (even) return GridField.of(centred(row.map((l) => l.widthMm)), edgesY, row.map(cellOf));
    const half = (last.widthMm - kerf) / 2;
    const cut = (dx: number): GridCell => {
      const cell = cellOf(last);
      const lying = GridField.of([-last.widthMm / 2, last.widthMm / 2], edgesY, [cell]);
      return { field: shifted(lying, dx), orientation: AS_IT_LIES, lengthMm: cell.lengthMm };
    };
    const whole = row.slice(0, -1);
    const edgesX = centred([half, ...whole.map((l) => l.widthMm), half]);
    return GridField.of(edgesX, edgesY, [
      cut((half + kerf) / 2),
      ...whole.map(cellOf),
      cut(-(half + kerf) / 2),
    ]);
  });
  const strip = p.strips && new SolidField(materialCode(shop, p.strips.material));
  const across = linesOf([width], 0, frameMm);
  const up = linesOf([...heights].reverse(), levelMm, frameMm);
  const lengthMm = laid[0].billet.lengthMm;
  const cells = up.of.flatMap((line) =>
    across.of.map((column): GridCell => ({
      field: line < 0 || column < 0 ? strip! : rows[p.rows - 1 - line],
      orientation: AS_IT_LIES,
      lengthMm,
    })),
  );
  return { field: GridField.of(across.edges, up.edges, cells), ...spanOf(across, up), lost };
}

function centred(widths: number[]): number[] {
  let at = -widths.reduce((sum, w) => sum + w, 0) / 2;
  return [at, ...widths.map((w) => (at += w))];
}

/** Four wedges with their points together. */
function sunburstBlock(laid: Laid[]): Block {
  const { widthMm } = sizeOf(laid[0].billet);
  const parts = laid.map(({ billet, place }) => ({
    field: billet.field,
    lengthMm: billet.lengthMm,
    mirrored: orientationNamed(place.orientation).rolled,
  }));
  return { field: new SunburstField(parts, widthMm / 2), widthMm, heightMm: widthMm, lost: [] };
}

const areWedges = (before: readonly Billet[]): boolean =>
  before.length > 0 && before.every((b) => shapeOf(b.outline) === 'triangle');

function checkPlaces(before: readonly Billet[], p: P): Finding[] {
  const wanted = p.columns * p.rows;
  const places = placesOf(p);
  const findings: Finding[] = [];
  if (places.length !== wanted)
    findings.push(
      error(
        'places',
        `The layout says how ${plural(places.length, 'piece')} lie; ${p.columns} × ${p.rows} needs ${wanted}.`,
        { parameter: 'places' },
      ),
    );
  const own = before.filter(isOwn).length;
  const highest = Math.max(0, ...places.filter((place) => place.lane === undefined).map((l) => l.piece));
  if (highest > own)
    findings.push(
      error(
        'too few',
        `${p.columns} × ${p.rows} takes ${wanted} pieces and there ${own === 1 ? 'is' : 'are'} ${own}: cut ${highest} pieces, or lay fewer.`,
        {
          parameter: 'columns',
          remedy: own === 1 ? { label: 'Cut first', insertBefore: 'cut' } : undefined,
        },
      ),
    );
  const keys = places.map((place) => `${place.lane ?? ''}\n${place.piece}`);
  const twice = keys.findIndex((key, i) => keys.indexOf(key) !== i);
  if (twice >= 0)
    findings.push(
      error('twice', `Piece ${places[twice].piece} lies in two places.`, { parameter: 'places' }),
    );
  return findings;
}

function checkFit(laid: Laid[], p: P, shop: Shop): Finding[] {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const misfit = laid.findIndex(
    (l, i) =>
      widths[i % p.columns] - l.widthMm > FIT_MM || heights[Math.floor(i / p.columns)] - l.heightMm > FIT_MM,
  );
  if (misfit < 0) return [];
  const l = laid[misfit];
  const size = (w: number, h: number) => `${formatFine(w, shop.lengths)} × ${formatFine(h, shop.lengths)}`;
  const room = [widths[misfit % p.columns], heights[Math.floor(misfit / p.columns)]];
  const gap = Math.max(room[0] - l.widthMm, room[1] - l.heightMm);
  return [
    error(
      'misfit',
      `Piece ${pieceName(l.billet)} lies ${size(l.widthMm, l.heightMm)} in a place of ${size(room[0], room[1])}: turned a quarter or of unlike size, it leaves a gap of ${formatFine(gap, shop.lengths)} beside the others. Draw or grind it to the same size (an oblong piece lies only as it is or half turned).`,
      { parameter: 'layout' },
    ),
  ];
}

function checkWedges(laid: Laid[], p: P): Finding[] {
  if (laid.length !== 4)
    return [
      error('wedges', 'Wedges are laid four together, points to the middle: 2 × 2.', {
        parameter: 'columns',
        remedy: { label: '2 × 2', set: { columns: 2, rows: 2 } },
      }),
    ];
  const open = laid.find(({ billet }) => {
    const { widthMm, heightMm } = sizeOf(billet);
    return Math.abs(widthMm - 2 * heightMm) > 2 * FIT_MM;
  });
  if (open)
    return [error('apex', `Piece ${pieceName(open.billet)} has no 90° point: four of them leave a gap.`)];
  if (p.strips) return [error('strips', 'Strips cannot go between wedges.', { parameter: 'strips' })];
  const turned = laid.find(({ place }) => orientationNamed(place.orientation).turns !== 0);
  return turned
    ? [
        error('turned', 'A wedge goes in as it lies or rolled left–right; turned, its point looks outward.', {
          parameter: 'layout',
          remedy: { label: 'All alike', set: { layout: 'alike', places: undefined } },
        }),
      ]
    : [];
}

/** What is used of the lane's own pieces, by place in `before`. */
const spareOf = (before: readonly Billet[], laid: Laid[]): Billet[] => {
  const used = new Set(laid.map((l) => l.billet));
  return before.filter((b) => isOwn(b) && !used.has(b));
};

function lengthNote(laid: Laid[], shop: Shop): Finding[] {
  const lengths = laid.map((l) => l.billet.lengthMm);
  const over = Math.max(...lengths) - Math.min(...lengths);
  return over > LENGTH_MM
    ? [
        warning(
          'unequal length',
          `The pieces differ by ${formatLength(over, shop.lengths)} in length; the longer ones are trimmed to ${formatLength(Math.min(...lengths), shop.lengths)}.`,
        ),
      ]
    : [];
}

/** A grid that suits what lanes offer: a four-way of one, a chequer of two. */
function beginFrom(lanes: readonly LaneEnds[]): P {
  const [a, b] = lanes;
  if (lanes.length === 1)
    return a.pieces.length >= 4
      ? { columns: 2, rows: 2, layout: 'mirrored', from: [a.id] }
      : { columns: a.pieces.length, rows: 1, layout: 'mirrored', from: [a.id] };
  const from = [a.id, b.id];
  if (a.pieces.length >= 5 && b.pieces.length >= 4)
    return { columns: 3, rows: 3, layout: 'alike', from, fill: 'chequer' };
  if (a.pieces.length >= 2 && b.pieces.length >= 2)
    return { columns: 2, rows: 2, layout: 'alike', from, fill: 'chequer' };
  return { columns: 2, rows: 1, layout: 'alike', from };
}

export const assemble = defineMove({
  kind: 'assemble',
  title: 'Arrange',
  hint: 'pieces of one or more bars side by side: four-way, nine-piece, row',
  group: 'Lay together',
  begins: 'may',
  wantsSoundEnds: true,
  facesMeet: true,
  parameters,
  begin: (before, _shop, lanes = []): P => {
    const offering = lanes.filter((lane) => lane.pieces.length > 0);
    if (before.length === 0 && offering.length > 0) return beginFrom(offering);
    return before.length >= 4
      ? { columns: 2, rows: 2, layout: 'mirrored' }
      : { columns: Math.max(1, before.length), rows: 1, layout: 'mirrored' };
  },
  takes: (p: P): PieceRef[] =>
    placesOf(p).flatMap(({ lane, piece }) => (lane === undefined ? [] : [{ lane, piece }])),
  check(before, p, shop) {
    const missing = [
      ...needsWelded(before),
      ...(p.strips ? needsMaterials([p.strips.material], shop, 'strips') : []),
    ];
    if (missing.length > 0) return missing;
    const wrong = checkPlaces(before, p);
    if (wrong.length > 0) return wrong;
    const laid = laidPieces(before, p);
    if (laid.length < p.columns * p.rows)
      return [error('too few', 'A piece that this layout asks for is not there.', { parameter: 'from' })];
    const pieces = laid.map((l) => l.billet);
    if (areWedges(pieces)) return [...checkWedges(laid, p), ...lengthNote(laid, shop)];
    const odd = pieces.find((b) => !isRectangle(b.outline));
    if (odd) return needsRectangle([odd]);
    if (p.layout === 'brick' && stripSizes(p).uprightMm > 0)
      return [
        error('brick strips', 'Between bricks strips can only lie level, or frame them all.', {
          parameter: 'strips',
          remedy: { label: 'Level strips', set: { strips: { ...p.strips!, where: 'level' } } },
        }),
      ];
    const spare = spareOf(before, laid).length;
    return [
      ...checkFit(laid, p, shop),
      ...lengthNote(laid, shop),
      ...(p.layout === 'brick' && p.rows > 1
        ? [
            note(
              'brick',
              `In every other row the last piece is sawn in two: a kerf of ${formatFine(shop.kerfMm, shop.lengths)} goes there, and the other rows are ground as much narrower.`,
            ),
          ]
        : []),
      ...(spare > 0 ? [note('spare', `${plural(spare, 'piece')} set aside.`)] : []),
    ];
  },
  apply(before, p, shop) {
    const laid = laidPieces(before, p);
    const lengthMm = Math.min(...laid.map((l) => l.billet.lengthMm));
    const trims: Volumes[] = [];
    const trimmed = laid.map((l) => {
      if (l.billet.lengthMm - lengthMm < 1e-9) return l;
      const { billet, lost } = keepLength(l.billet, 0, lengthMm, shop);
      trims.push(lost);
      return { ...l, billet };
    });
    const wedges = areWedges(laid.map((l) => l.billet));
    const lay = wedges ? sunburstBlock : p.layout === 'brick' ? brickBlock : gridBlock;
    const { field, widthMm, heightMm, lost } = lay(trimmed, p, shop);
    const pieces = addVolumes(...trimmed.map((l) => l.billet.volumes));
    const gone = addVolumes(...lost.map((l) => l.volumes));
    const stripVolume = widthMm * heightMm * lengthMm - totalVolume(pieces) + totalVolume(gone);
    const added: Volumes = p.strips && !wedges ? { [p.strips.material]: stripVolume } : {};
    const spare = spareOf(before, laid).map((b) => b.volumes);
    const losses: Loss[] = [...lost];
    if (trims.length > 0) losses.push({ cause: 'offcut', volumes: addVolumes(...trims) });
    if (spare.length > 0) losses.push({ cause: 'set aside', volumes: addVolumes(...spare) });
    const billet: Billet = {
      outline: rectangle(widthMm, heightMm),
      lengthMm,
      field,
      volumes: addVolumes(pieces, added, scaleVolumes(gone, -1)),
      loose: laid.length > 1 || p.strips !== undefined,
      bandMm: Math.min(...laid.map((l) => l.billet.bandMm), p.strips?.thicknessMm ?? Infinity),
      piece: null,
      jacket: null,
    };
    return { after: [billet], losses, added };
  },
  buys: (before, p, shop) => stripsOf(laidPieces(before, p), p, shop),
  lays: (p) => ({ columns: p.columns, rows: p.rows, places: placesOf(p) }),
  say(before, p, shop) {
    const laid = laidPieces(before, p);
    const lines = laid.map(({ billet, place }, i) => {
      const row = Math.floor(i / p.columns);
      const where =
        p.rows === 1 ? `place ${i + 1} from the left` : `row ${row + 1}, place ${(i % p.columns) + 1}`;
      const o = orientationNamed(place.orientation);
      return `Piece ${pieceName(billet)} in ${where}: ${place.orientation}, end ${frontEnd(o)} in front.`;
    });
    const strip = p.strips && materialById(shop.materials, p.strips.material);
    const where =
      p.strips &&
      {
        cross: 'as a cross',
        upright: 'upright',
        level: 'level',
        frame: 'round the outside',
        'cross and frame': 'as a cross, and round the outside',
      }[p.strips.where];
    const long = formatLength(Math.min(...laid.map((l) => l.billet.lengthMm)), shop.lengths);
    return [
      `Before anything is moved, write on each piece's front end its number and an arrow up.`,
      'Sand the faces that will meet: etch residue hinders the weld.',
      ...lines,
      ...(p.strips && strip
        ? [
            `Strips ${where}: ${strip.name} ${formatFine(p.strips.thicknessMm, shop.lengths)} thick, ${long} long.`,
          ]
        : []),
    ];
  },
});
