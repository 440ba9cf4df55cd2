import { type Billet, type Loss, pieceName } from '../../../billet/billet.ts';
import { keepLength } from '../../../billet/removal.ts';
import { care, endCrop } from '../../../instruct/action.ts';
import { facesThatMeet, layPiece } from './laying.ts';
import { areWedges, layWedge, pointedBase } from './wedges.ts';
import { wedgeOf } from '../../../geometry/shapes.ts';
import { isRectangle, rectangle } from '../../../geometry/outline.ts';
import { materialById } from '../../../materials/material.ts';
import { type Volumes, addVolumes, scaleVolumes, totalVolume } from '../../../materials/volumes.ts';
import { formatFine } from '../../../units/length.ts';
import { type LaneEnds, type PieceRef, defineMove } from '../../contract/move.ts';
import { type P, STRIPS, groundToFit, laidPieces, parameters, gridPlacesOf, stripSizes } from './laid.ts';
import { checkFit, checkPlaces, checkWedges, lengthNote, spareOf } from './fits.ts';
import { apartMm, brickBlock, gridBlock, stripsOf, sunburstBlock } from './blocks.ts';
import { needsWelded, needsMaterials, error, needsRectangle, note, plural } from '../../contract/common.ts';

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
  meets: facesThatMeet,
  parameters,
  begin: (before, _shop, lanes = []): P => {
    const offering = lanes.filter((lane) => lane.pieces.length > 0);
    if (before.length === 0 && offering.length > 0) return beginFrom(offering);
    if (areWedges(before) && before.length >= 4) return { columns: 2, rows: 2, layout: 'alike' };
    return before.length >= 4
      ? { columns: 2, rows: 2, layout: 'mirrored' }
      : { columns: Math.max(1, before.length), rows: 1, layout: 'mirrored' };
  },
  takes: (p: P): PieceRef[] =>
    gridPlacesOf(p).flatMap(({ lane, piece }) => (lane === undefined ? [] : [{ lane, piece }])),
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
    if (areWedges(pieces)) return [...checkWedges(laid, p, shop), ...lengthNote(laid, shop)];
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
    const groundOff: Volumes[] = [];
    const trimmed = laid.map((l) => {
      const fits = groundToFit(l, shop);
      if (totalVolume(fits.lost) > 0) groundOff.push(fits.lost);
      if (l.billet.lengthMm - lengthMm < 1e-9) return { ...l, billet: fits.billet };
      const { billet, lost } = keepLength(fits.billet, 0, lengthMm, shop);
      trims.push(lost);
      return { ...l, billet };
    });
    const wedges = areWedges(laid.map((l) => l.billet));
    const lay = wedges ? sunburstBlock : p.layout === 'brick' ? brickBlock : gridBlock;
    const { field, pieces: each, widthMm, heightMm, lost } = lay(trimmed, p, shop);
    const pieces = addVolumes(...trimmed.map((l) => l.billet.volumes));
    const gone = addVolumes(...lost.map((l) => l.volumes));
    const stripVolume = widthMm * heightMm * lengthMm - totalVolume(pieces) + totalVolume(gone);
    const added: Volumes = p.strips ? { [p.strips.material]: stripVolume } : {};
    const spare = spareOf(before, laid).map((b) => b.volumes);
    const ofCause = (cause: Loss['cause']) => lost.filter((l) => l.cause === cause).map((l) => l.volumes);
    const ground = [...groundOff, ...ofCause('grinding')];
    const losses: Loss[] = [];
    if (ground.length > 0) losses.push({ cause: 'grinding', volumes: addVolumes(...ground) });
    if (ofCause('kerf').length > 0) losses.push({ cause: 'kerf', volumes: addVolumes(...ofCause('kerf')) });
    if (trims.length > 0) losses.push({ cause: 'offcut', volumes: addVolumes(...trims) });
    if (spare.length > 0) losses.push({ cause: 'set aside', volumes: addVolumes(...spare) });
    const billet: Billet = {
      outline: rectangle(widthMm, heightMm),
      lengthMm,
      field,
      volumes: addVolumes(pieces, added, scaleVolumes(gone, -1)),
      loose: laid.length > 1 || p.strips !== undefined,
      laid: { seen: 'from the end', each },
      bandMm: Math.min(...laid.map((l) => l.billet.bandMm), p.strips?.thicknessMm ?? Infinity),
      piece: null,
      jacket: null,
    };
    return { after: [billet], losses, added };
  },
  buys: (before, p, shop) => stripsOf(laidPieces(before, p), p, shop),
  lays: (p) => ({ columns: p.columns, rows: p.rows, places: gridPlacesOf(p) }),
  does(before, p, shop) {
    const laid = laidPieces(before, p);
    const lengthMm = Math.min(...laid.map((l) => l.billet.lengthMm));
    const wedges = areWedges(laid.map((l) => l.billet));
    const { strips } = p;
    const among = (...where: (typeof STRIPS)[number][]) =>
      strips !== undefined && where.includes(strips.where);
    return [
      { do: 'mark', pieces: laid.map((l) => pieceName(l.billet)), ends: 'front' },
      ...care('faces sanded'),
      ...laid.flatMap((l, i) => [
        ...endCrop('B', l.billet.lengthMm - lengthMm, lengthMm, pieceName(l.billet)),
        ...(wedges ? layWedge(l, i) : layPiece(l, i, p, shop)),
      ]),
      ...(strips && wedges
        ? [
            {
              do: 'lay cross',
              material: materialById(shop.materials, strips.material)?.name ?? strips.material,
              thickMm: strips.thicknessMm,
              longMm: lengthMm,
              squareMm: pointedBase(wedgeOf(laid[0].billet.outline)!) + 2 * apartMm(p),
            } as const,
          ]
        : []),
      ...(strips && !wedges
        ? [
            {
              do: 'lay strips',
              material: materialById(shop.materials, strips.material)?.name ?? strips.material,
              thickMm: strips.thicknessMm,
              betweenPlaces: among('cross', 'upright', 'cross and frame'),
              betweenRows: among('cross', 'level', 'cross and frame'),
              outside: among('frame', 'cross and frame'),
              longMm: lengthMm,
            } as const,
          ]
        : []),
    ];
  },
});
