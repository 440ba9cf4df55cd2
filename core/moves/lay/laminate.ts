import { z } from 'zod';
import { type Action, SIDES, type Side, care, endCrop, turnsTo } from '../../instruct/action.ts';
import { type Billet, type Loss, pieceName, sizeOf } from '../../billet/billet.ts';
import { keepLength } from '../../billet/removal.ts';
import { type LoosePiece, laidAt } from '../../loose/pieces.ts';
import { GridField, type GridCell } from '../../billet/fields/grid.ts';
import { SolidField } from '../../billet/fields/layers.ts';
import { AS_IT_LIES, ROLLED_TOP_BOTTOM, type Orientation } from '../../geometry/orientation.ts';
import { rectangle } from '../../geometry/outline.ts';
import { materialById } from '../../materials/material.ts';
import { meltsLow } from '../../materials/welding.ts';
import { type Volumes, addVolumes } from '../../materials/volumes.ts';
import { type Shop, materialCode } from '../../shop/shop.ts';
import { formatFine } from '../../units/length.ts';
import {
  caution,
  error,
  needsMaterials,
  needsSoundBars,
  note,
  steelCautions,
  warning,
} from '../contract/common.ts';
import { MOST_SECTION_MM, choice, lengthMm, materialId } from '../../units/quantities.ts';
import { type Bought, type Finding, defineMove } from '../contract/move.ts';

const sheet = z.strictObject({
  material: materialId('Sheet'),
  thicknessMm: lengthMm('Sheet thickness', MOST_SECTION_MM, { fine: true }),
});

/**
 * Bought steel married to the bar: a core between two pieces of it, cladding on both broad sides of it, a strip along one
 * edge, or a rim all round; with thin sheet between where given. mm.
 */
const parameters = z.strictObject({
  where: choice('Where', {
    'core between': 'A core between two pieces',
    'cladding both sides': 'Plates on both sides of the bar',
    'along one edge': 'A strip along one edge',
    'rim all round': 'A rim all round',
  }),
  material: materialId('Of'),
  thicknessMm: lengthMm('Thickness', MOST_SECTION_MM, { fine: true }),
  sheet: sheet.optional(),
  edgesSealed: z.boolean().optional(),
  lie: choice('Rolled over', {
    'upper one rolled': 'The upper one',
    'as they lie': 'Neither: as they lay',
    'both rolled': 'Both (ripped: sawn faces out)',
    'lower one rolled': 'The lower one',
  }).optional(),
});

type P = z.infer<typeof parameters>;

type Part = { bar: Billet; orientation: Orientation } | { material: string };

interface Band {
  part: Part;
  mm: number;
}

const bought = (material: string, mm: number): Band => ({ part: { material }, mm });

/** Bands from the bottom (or left) with sheets between unlike ones. */
function withSheets(bands: Band[], { sheet: s }: P): Band[] {
  return bands.flatMap((band, i) => (i > 0 && s ? [bought(s.material, s.thicknessMm), band] : [band]));
}

/** Whether the lower (0) or the upper (1) of two pieces about a core is rolled end for end, its top down. */
const rolledOver = ({ lie = 'upper one rolled' }: P, which: 0 | 1): boolean =>
  lie === 'both rolled' || lie === (which === 0 ? 'lower one rolled' : 'upper one rolled');

const FIT_MM = 0.05;
/** Thinner than this is sheet. */
const SHEET_MM = 1.6;
/** Bands level (from the bottom) and upright (from the left) that make the block; the bar is where they cross. */
function bandsOf(pieces: readonly Billet[], p: P): { level: Band[]; upright: Band[] } {
  const [bar] = pieces;
  const { widthMm, heightMm } = sizeOf(bar);
  const own = (mm: number, orientation = AS_IT_LIES, piece = bar): Band => ({
    part: { bar: piece, orientation },
    mm,
  });
  const extra = bought(p.material, p.thicknessMm);
  switch (p.where) {
    case 'core between':
      return {
        level: withSheets(
          [
            own(heightMm, rolledOver(p, 0) ? ROLLED_TOP_BOTTOM : AS_IT_LIES),
            extra,
            own(sizeOf(pieces[1]).heightMm, rolledOver(p, 1) ? ROLLED_TOP_BOTTOM : AS_IT_LIES, pieces[1]),
          ],
          p,
        ),
        upright: [own(widthMm)],
      };
    case 'cladding both sides':
      return { level: withSheets([extra, own(heightMm), extra], p), upright: [own(widthMm)] };
    case 'along one edge':
      return { level: [own(heightMm)], upright: withSheets([own(widthMm), extra], p) };
    case 'rim all round':
      return {
        level: withSheets([extra, own(heightMm), extra], p),
        upright: withSheets([extra, own(widthMm), extra], p),
      };
  }
}

const edges = (bands: Band[]): number[] => {
  const total = bands.reduce((sum, b) => sum + b.mm, 0);
  let at = -total / 2;
  return [at, ...bands.map((b) => (at += b.mm))];
};

/** What lies where a level and an upright band cross: the bar where both are the bar's, otherwise what was bought. */
function crossing(level: Band, upright: Band): Part {
  if ('material' in level.part) return level.part;
  if ('material' in upright.part) return upright.part;
  return level.part;
}

/** What lies where: level strips right across, upright ones and the bars between them. */
function laidBands(level: Band[], upright: Band[], bars: readonly Billet[]): LoosePiece[] {
  const [xs, ys] = [edges(upright), edges(level)];
  const wide = xs.at(-1)! - xs[0];
  let strips = 0;
  const strip = (x: number, y: number, across: number, high: number) =>
    laidAt(`strip ${++strips}`, [x, y], [across, high], true);
  return level.flatMap((row, j): LoosePiece[] => {
    if ('material' in row.part) return [strip(xs[0], ys[j], wide, row.mm)];
    const { bar } = row.part;
    const name = bars.length > 1 ? pieceName(bar) : '1';
    return upright.map(({ part, mm }, i) =>
      'material' in part ? strip(xs[i], ys[j], mm, row.mm) : laidAt(name, [xs[i], ys[j]], [mm, row.mm]),
    );
  });
}

/** The strips and sheets between and around the bars: level ones right across, upright ones between them. */
function boughtFor(level: Band[], upright: Band[], lengthMm: number): Bought[] {
  const across = upright.reduce((sum, b) => sum + b.mm, 0);
  const own = level.filter((b) => !('material' in b.part));
  const strips = (bands: Band[], spans: number[]): Bought[] =>
    bands.flatMap(({ part, mm }) =>
      'material' in part
        ? spans.map((span): Bought => ({
            what: mm < SHEET_MM ? 'sheet' : 'strip',
            material: part.material,
            widthMm: Math.max(mm, span),
            thicknessMm: Math.min(mm, span),
            lengthMm,
            count: 1,
          }))
        : [],
    );
  return [
    ...strips(level, [across]),
    ...strips(
      upright,
      own.map((b) => b.mm),
    ),
  ];
}

const piecesUsed = (p: P): number => (p.where === 'core between' ? 2 : 1);

function checkSheet(p: P, shop: Shop): Finding[] {
  const low = p.sheet && materialById(shop.materials, p.sheet.material);
  if (!low || !meltsLow(low)) return [];
  return p.edgesSealed
    ? []
    : [
        warning(
          'open edges',
          `${low.name} melts low and runs out at open edges: weld the edges shut all round before the fire.`,
          { parameter: 'sheet', remedy: { label: 'Edges sealed', set: { edgesSealed: true } } },
        ),
        caution('squirts', `${low.name} squirts out when overheated; stand aside.`),
      ];
}

export const laminate = defineMove({
  kind: 'laminate',
  title: 'Core, cladding or rim',
  short: 'Core, cladding',
  hint: 'marry the bar to a core, plates, an edge strip or a rim; sheet between',
  group: 'Lay together',
  begins: false,
  wantsSoundEnds: true,
  meets: (before, p) => {
    const inner = (which: 0 | 1): readonly Side[] => [
      (which === 0) === rolledOver(p, which) ? 'bottom' : 'top',
    ];
    const sides: Record<Exclude<P['where'], 'core between'>, readonly Side[]> = {
      'cladding both sides': ['top', 'bottom'],
      'along one edge': ['right'],
      'rim all round': SIDES,
    };
    return before
      .slice(0, piecesUsed(p))
      .map((_, i) => (p.where === 'core between' ? inner(i as 0 | 1) : sides[p.where]));
  },
  parameters,
  begin: (before) => ({
    where: before.length >= 2 ? ('core between' as const) : ('cladding both sides' as const),
    material: before.length >= 2 ? '80crv2' : '1018',
    thicknessMm: 4,
  }),
  check(before, p, shop) {
    const missing = [
      ...needsSoundBars(before),
      ...needsMaterials([p.material, ...(p.sheet ? [p.sheet.material] : [])], shop, 'material'),
    ];
    if (missing.length > 0) return missing.slice(0, 1);
    if (before.length < piecesUsed(p))
      return [
        error('one piece', 'A core lies between two pieces of the bar: cut or rip it into two first.', {
          parameter: 'where',
          remedy: { label: 'Cut it first', insertBefore: 'cut' },
        }),
      ];
    const [a, b] = before.map(sizeOf);
    if (p.where === 'core between' && Math.abs(a.widthMm - b.widthMm) > FIT_MM)
      return [
        error(
          'unequal',
          `The two pieces are ${formatFine(a.widthMm, shop.lengths)} and ${formatFine(b.widthMm, shop.lengths)} wide: they do not cover the same core.`,
        ),
      ];
    const spare = before.length - piecesUsed(p);
    return [
      ...checkSheet(p, shop),
      ...steelCautions([p.material]),
      ...(spare > 0 ? [note('spare', `${spare} more set aside.`)] : []),
    ];
  },
  apply(before, p, shop) {
    const laid = before.slice(0, piecesUsed(p));
    const lengthMm = Math.min(...laid.map((b) => b.lengthMm));
    const trims: Volumes[] = [];
    const pieces = laid.map((bar) => {
      const { billet, lost } = keepLength(bar, 0, lengthMm, shop);
      trims.push(lost);
      return billet;
    });
    const { level, upright } = bandsOf(pieces, p);
    const added = addVolumes(
      ...boughtFor(level, upright, lengthMm).map((b) => ({
        [b.material]: b.widthMm * b.thicknessMm * b.lengthMm,
      })),
    );
    const cells = level.flatMap((row) =>
      upright.map((column): GridCell => {
        const part = crossing(row, column);
        if (!('material' in part)) return { field: part.bar.field, orientation: part.orientation, lengthMm };
        return {
          field: new SolidField(materialCode(shop, part.material)),
          orientation: AS_IT_LIES,
          lengthMm,
        };
      }),
    );
    const [edgesX, edgesY] = [edges(upright), edges(level)];
    const after: Billet = {
      ...pieces[0],
      outline: rectangle(edgesX.at(-1)! - edgesX[0], edgesY.at(-1)! - edgesY[0]),
      lengthMm,
      field: GridField.of(edgesX, edgesY, cells),
      laid: { seen: 'from the end', each: laidBands(level, upright, pieces) },
      volumes: addVolumes(...pieces.map((b) => b.volumes), added),
      loose: true,
      piece: null,
      jacket: null,
      distorted: undefined,
      beads: undefined,
    };
    const aside = before.slice(piecesUsed(p)).map((b) => b.volumes);
    const losses: Loss[] = [
      { cause: 'offcut' as const, volumes: addVolumes(...trims) },
      { cause: 'set aside' as const, volumes: addVolumes(...aside) },
    ].filter((l) => Object.keys(l.volumes).length > 0);
    return { after: [after], losses, added };
  },
  buys(before, p) {
    const laid = before.slice(0, piecesUsed(p));
    const { level, upright } = bandsOf(laid, p);
    return boughtFor(level, upright, Math.min(...laid.map((b) => b.lengthMm)));
  },
  core: (p) => p.material,
  does(before, p, shop) {
    const laid = before.slice(0, piecesUsed(p));
    const longMm = Math.min(...laid.map((b) => b.lengthMm));
    const { level, upright } = bandsOf(laid, p);
    const nameOf = (id: string) => materialById(shop.materials, id)?.name ?? id;
    const alone = before.length === 1;
    const names = laid.map((b) => (alone ? null : pieceName(b)));
    const pile = (from: 'left' | 'bottom', bands: Band[]): Action[] => {
      if (bands.length < 2) return [];
      const own = [...names];
      const parts = bands.map(({ part, mm }) =>
        'material' in part
          ? { material: nameOf(part.material), thickMm: mm }
          : { piece: own.shift() ?? null },
      );
      return [{ do: 'pile', from, parts, longMm }];
    };
    const pieces = names.flatMap((name) => name ?? []);
    return [
      ...(alone ? [] : [{ do: 'mark', pieces, ends: 'front' } as const]),
      ...care('faces bright'),
      ...laid.flatMap((b, i) => endCrop('B', b.lengthMm - longMm, longMm, names[i] ?? undefined)),
      ...(p.where === 'core between'
        ? pieces.flatMap((piece, i) => (rolledOver(p, i as 0 | 1) ? turnsTo(piece, 'rolled top–bottom') : []))
        : []),
      ...pile('left', upright),
      ...pile('bottom', level),
      ...(p.edgesSealed ? care('edges shut') : []),
    ];
  },
});
