import { z } from 'zod';
import { type Billet, type Loss, keepLength, sizeOf } from '../billet/billet.ts';
import { GridField, type GridCell } from '../billet/fields/grid.ts';
import { SolidField } from '../billet/fields/layers.ts';
import { AS_IT_LIES, frontEnd, orientationNamed, swapsSides } from '../geometry/orientation.ts';
import { rectangle } from '../geometry/outline.ts';
import { materialById } from '../materials/material.ts';
import { type Volumes, addVolumes, totalVolume } from '../materials/volumes.ts';
import { type Shop, materialCode } from '../shop/shop.ts';
import { formatFine, formatLength } from '../units/length.ts';
import { error, needsMaterials, needsWelded, plural } from './common.ts';
import { MOST_SECTION_MM, count, lengthMm, materialId } from './fields.ts';
import { PRESETS, type Placed, orientationNames, presetPlaces } from './layout.ts';
import { type Finding, defineMove } from './step.ts';

const placed = z.strictObject({
  piece: count('Piece', 1, 400),
  orientation: z.enum(orientationNames, {
    error: `Orientation must be one of: ${orientationNames.join(', ')}`,
  }),
});

const strips = z.strictObject({
  material: materialId('Strip material'),
  thicknessMm: lengthMm('Strip thickness', MOST_SECTION_MM),
  where: z.enum(['cross', 'upright', 'level']),
});

/** Pieces in columns × rows. `places` is read row by row from the top when the layout is free; lengths mm. */
const parameters = z.strictObject({
  columns: count('Columns', 1, 20),
  rows: count('Rows', 1, 20),
  layout: z.enum([...PRESETS, 'free']),
  places: z.array(placed).max(400).optional(),
  strips: strips.optional(),
});

export type AssembleParameters = z.infer<typeof parameters>;

/** Every place of the assembly, rows from the top. */
export const placesOf = (p: AssembleParameters): Placed[] =>
  p.layout === 'free' ? (p.places ?? []) : presetPlaces(p.layout, p.columns, p.rows);

/** mm. Pieces that differ by more than this in a column or row leave a gap. */
const FIT_MM = 0.05;

interface Laid {
  billet: Billet;
  place: Placed;
  widthMm: number;
  heightMm: number;
}

function laidPieces(before: readonly Billet[], p: AssembleParameters): Laid[] {
  return placesOf(p).map((place) => {
    const billet = before[place.piece - 1];
    const { widthMm: w, heightMm: h } = sizeOf(billet);
    const [widthMm, heightMm] = swapsSides(orientationNamed(place.orientation)) ? [h, w] : [w, h];
    return { billet, place, widthMm, heightMm };
  });
}

/** Column widths and row heights (rows from the top): the largest piece in each. */
function gridSizes(laid: Laid[], columns: number, rows: number): { widths: number[]; heights: number[] } {
  const widths = Array.from({ length: columns }, (_, c) =>
    Math.max(...laid.filter((_, i) => i % columns === c).map((l) => l.widthMm)),
  );
  const heights = Array.from({ length: rows }, (_, r) =>
    Math.max(...laid.slice(r * columns, (r + 1) * columns).map((l) => l.heightMm)),
  );
  return { widths, heights };
}

const stripBetween = (p: AssembleParameters, way: 'upright' | 'level'): number =>
  p.strips && (p.strips.where === 'cross' || p.strips.where === way) ? p.strips.thicknessMm : 0;

/** Edges of alternating pieces and strips, centred on 0. */
function edgesOf(sizes: number[], stripMm: number): number[] {
  const total = sizes.reduce((sum, s) => sum + s, 0) + stripMm * (sizes.length - 1);
  const edges = [-total / 2];
  sizes.forEach((size, i) => {
    if (i > 0 && stripMm > 0) edges.push(edges[edges.length - 1] + stripMm);
    edges.push(edges[edges.length - 1] + size);
  });
  return edges;
}

/** Piece index of a grid line, or −1 for a strip. */
const pieceLine = (line: number, stripMm: number): number =>
  stripMm === 0 ? line : line % 2 === 0 ? line / 2 : -1;

function gridField(
  laid: Laid[],
  p: AssembleParameters,
  shop: Shop,
): { field: GridField; widthMm: number; heightMm: number } {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const upright = stripBetween(p, 'upright');
  const level = stripBetween(p, 'level');
  const edgesX = edgesOf(widths, upright);
  const edgesY = edgesOf([...heights].reverse(), level);
  const strip = p.strips && new SolidField(materialCode(shop, p.strips.material));
  const cells: GridCell[] = [];
  for (let j = 0; j < edgesY.length - 1; j++)
    for (let i = 0; i < edgesX.length - 1; i++) {
      const column = pieceLine(i, upright);
      const fromBottom = pieceLine(j, level);
      const piece =
        column >= 0 && fromBottom >= 0 ? laid[(p.rows - 1 - fromBottom) * p.columns + column] : null;
      cells.push(
        piece
          ? {
              field: piece.billet.field,
              orientation: orientationNamed(piece.place.orientation),
              lengthMm: piece.billet.lengthMm,
            }
          : { field: strip!, orientation: AS_IT_LIES, lengthMm: 0 },
      );
    }
  return {
    field: GridField.of(edgesX, edgesY, cells),
    widthMm: edgesX[edgesX.length - 1] - edgesX[0],
    heightMm: edgesY[edgesY.length - 1] - edgesY[0],
  };
}

function checkPlaces(before: readonly Billet[], p: AssembleParameters): Finding[] {
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
  const numbers = places.map((place) => place.piece);
  const highest = Math.max(0, ...numbers);
  if (highest > before.length)
    findings.push(
      error(
        'too few',
        `${p.columns} × ${p.rows} takes ${wanted} pieces and there ${before.length === 1 ? 'is' : 'are'} ${before.length}: cut ${highest} pieces, or lay fewer.`,
        {
          parameter: 'columns',
          remedy: before.length === 1 ? { label: 'Cut first', insertBefore: 'cut' } : undefined,
        },
      ),
    );
  const twice = numbers.find((n, i) => numbers.indexOf(n) !== i);
  if (twice !== undefined)
    findings.push(error('twice', `Piece ${twice} lies in two places.`, { parameter: 'places' }));
  return findings;
}

function checkFit(laid: Laid[], p: AssembleParameters, shop: Shop): Finding[] {
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const misfit = laid.findIndex(
    (l, i) =>
      widths[i % p.columns] - l.widthMm > FIT_MM || heights[Math.floor(i / p.columns)] - l.heightMm > FIT_MM,
  );
  if (misfit < 0) return [];
  const l = laid[misfit];
  const size = (w: number, h: number) => `${formatFine(w, shop.lengths)} × ${formatFine(h, shop.lengths)}`;
  const room = [widths[misfit % p.columns], heights[Math.floor(misfit / p.columns)]];
  return [
    error(
      'misfit',
      `Piece ${l.place.piece} lies ${size(l.widthMm, l.heightMm)} in a place of ${size(room[0], room[1])}: turned a quarter, an oblong piece leaves a gap beside the others. Draw or grind square first, or lay it another way.`,
      { parameter: 'layout' },
    ),
  ];
}

export const assemble = defineMove({
  kind: 'assemble',
  title: 'Arrange',
  begins: false,
  parameters,
  begin: (before) =>
    before.length >= 4
      ? { columns: 2, rows: 2, layout: 'mirrored' as const }
      : { columns: Math.max(1, before.length), rows: 1, layout: 'mirrored' as const },
  check(before, p, shop) {
    const missing = [
      ...needsWelded(before),
      ...(p.strips ? needsMaterials([p.strips.material], shop, 'strips') : []),
    ];
    if (missing.length > 0) return missing;
    const wrong = checkPlaces(before, p);
    if (wrong.length > 0) return wrong;
    const laid = laidPieces(before, p);
    const spare = before.length - laid.length;
    return [
      ...checkFit(laid, p, shop),
      ...(spare > 0
        ? [{ code: 'spare', severity: 'note' as const, text: `${plural(spare, 'piece')} set aside.` }]
        : []),
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
    const { field, widthMm, heightMm } = gridField(trimmed, p, shop);
    const pieces = addVolumes(...trimmed.map((l) => l.billet.volumes));
    const stripVolume = widthMm * heightMm * lengthMm - totalVolume(pieces);
    const added: Volumes = p.strips ? { [p.strips.material]: stripVolume } : {};
    const used = new Set(placesOf(p).map((place) => place.piece - 1));
    const spare = before.filter((_, i) => !used.has(i)).map((b) => b.volumes);
    const losses: Loss[] = [];
    if (trims.length > 0) losses.push({ cause: 'offcut', volumes: addVolumes(...trims) });
    if (spare.length > 0) losses.push({ cause: 'set aside', volumes: addVolumes(...spare) });
    const billet: Billet = {
      outline: rectangle(widthMm, heightMm),
      lengthMm,
      field,
      volumes: addVolumes(pieces, added),
      loose: laid.length > 1 || p.strips !== undefined,
      bandMm: Math.min(...laid.map((l) => l.billet.bandMm), p.strips?.thicknessMm ?? Infinity),
      piece: null,
    };
    return { after: [billet], losses, added };
  },
  say(before, p, shop) {
    const lines = placesOf(p).map((place, i) => {
      const row = Math.floor(i / p.columns);
      const where =
        p.rows === 1 ? `place ${i + 1} from the left` : `row ${row + 1}, place ${(i % p.columns) + 1}`;
      const o = orientationNamed(place.orientation);
      return `Piece ${place.piece} in ${where}: ${place.orientation}, end ${frontEnd(o)} in front.`;
    });
    const strip = p.strips && materialById(shop.materials, p.strips.material);
    return [
      'Sand the faces that will meet: etch residue hinders the weld.',
      ...lines,
      ...(p.strips && strip
        ? [
            `Between them, ${{ cross: 'as a cross', upright: 'upright', level: 'level' }[p.strips.where]}: ${strip.name} strips ${formatFine(p.strips.thicknessMm, shop.lengths)} thick, ${formatLength(before[0].lengthMm, shop.lengths)} long.`,
          ]
        : []),
    ];
  },
});
