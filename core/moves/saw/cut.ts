import { z } from 'zod';
import { SAME_PLACE } from '../../billet/fields/field.ts';
import { type Billet, type Loss, distortedMm, pieceName, volumeOf } from '../../billet/billet.ts';
import { distortedWithin } from '../../billet/removal.ts';
import { shareOut } from '../../billet/split.ts';
import { type PieceCut, cutCount, pieceLength, pieceStations, sawMarks } from '../../geometry/cutting.ts';
import { type Volumes, addVolumes, scaleVolumes, totalVolume } from '../../materials/volumes.ts';
import type { Shop } from '../../shop/shop.ts';
import { bareLength, divisionMm, formatLength } from '../../units/length.ts';
import { CAUTIONS, error, needsWelded } from '../contract/common.ts';
import { count, lengthOrNoneMm } from '../../units/quantities.ts';
import { sawEach, sawnInto } from '../contract/each.ts';
import { type Finding, defineMove } from '../contract/move.ts';

/** Equal pieces, with a crop off each end (0: that end is not sawn); kerf as the shop's saw where not given. mm. */
const parameters = z.strictObject({
  pieces: count('Equal pieces', 1, 60),
  cropAMm: lengthOrNoneMm('Crop end A'),
  cropBMm: lengthOrNoneMm('Crop end B'),
  kerfMm: lengthOrNoneMm('Saw kerf', 10, { fine: true, shop: 'kerfMm' }).optional(),
});

export type CutParameters = z.infer<typeof parameters>;

const pieceCut = (bar: Billet, p: CutParameters, shop: Shop): PieceCut => ({
  lengthMm: bar.lengthMm,
  pieces: p.pieces,
  kerfMm: p.kerfMm ?? shop.kerfMm,
  cropAMm: p.cropAMm,
  cropBMm: p.cropBMm,
});

/** What goes into kerfs, crops and each piece: of a bar that is the same all along by length alone. */
function shares(bar: Billet, cut: PieceCut, shop: Shop): { kerf: Volumes; crop: Volumes; each: Volumes[] } {
  const kerfMm = cutCount(cut) * cut.kerfMm;
  const cropMm = cut.cropAMm + cut.cropBMm;
  const stations = pieceStations(cut);
  const of = (mm: number) => scaleVolumes(bar.volumes, mm / bar.lengthMm);
  if (!bar.field.variesAlongZ) {
    const one = of(pieceLength(cut));
    return { kerf: of(kerfMm), crop: of(cropMm), each: stations.map(() => one) };
  }
  const area = volumeOf(bar) / bar.lengthMm;
  const [kerf, crop, ...each] = shareOut(
    bar,
    shop,
    [kerfMm, cropMm, ...stations.map((s) => s.toMm - s.fromMm)].map((mm) => mm * area),
    (_x, _y, z) => {
      const piece = stations.findIndex((s) => z >= s.fromMm && z < s.toMm);
      if (piece >= 0) return 2 + piece;
      return z < cut.cropAMm || z > cut.lengthMm - cut.cropBMm ? 1 : 0;
    },
  );
  return { kerf, crop, each };
}

/** Pieces with less than this many lengths to their width are hard to hold and weld. */
const STUBBY = 1;

export const cut = defineMove({
  kind: 'cut',
  title: 'Cut',
  hint: 'the bar, or every piece, into equal lengths',
  group: 'Saw and grind',
  begins: false,
  wantsSoundEnds: true,
  parameters,
  begin(before, shop) {
    const ends = before.map(distortedMm);
    const division = divisionMm(shop.lengths);
    // Pieces that were sawn off a bar are sound to their ends, unless they were found not to be.
    const least = before.length > 1 ? 0 : shop.cropMm;
    const off = (mm: readonly number[]) =>
      Math.max(least, Math.ceil(Math.max(0, ...mm) / division) * division);
    return {
      pieces: before.length > 1 ? 2 : 4,
      cropAMm: off(ends.map((e) => e.aMm)),
      cropBMm: off(ends.map((e) => e.bMm)),
    };
  },
  check(before, p, shop) {
    const missing = needsWelded(before);
    if (missing.length > 0) return missing.slice(0, 1);
    const findings: Finding[] = [];
    const shortest = before.reduce((a, b) => (b.lengthMm < a.lengthMm ? b : a));
    const cutting = pieceCut(shortest, p, shop);
    const length = pieceLength(cutting);
    if (length <= 0) {
      const needed = p.cropAMm + p.cropBMm + cutCount(cutting) * cutting.kerfMm;
      return [
        error(
          'too short',
          `${shortest.piece ? `Piece ${pieceName(shortest)}` : 'The bar'} is ${formatLength(shortest.lengthMm, shop.lengths)} long; crops and kerfs alone take ${formatLength(needed, shop.lengths)}.`,
          { parameter: 'pieces' },
        ),
      ];
    }
    const width = volumeOf(shortest) / shortest.lengthMm;
    if (length < STUBBY * Math.sqrt(width))
      findings.push({
        code: 'stubby',
        severity: 'warning',
        parameter: 'pieces',
        text: `The pieces are ${formatLength(length, shop.lengths)} long, shorter than they are wide: hard to hold and to weld. Start longer or cut fewer.`,
      });
    findings.push(CAUTIONS.saw());
    return findings;
  },
  apply(before, p, shop) {
    const crops: Volumes[] = [];
    const { pieces, lost } = sawnInto(before, (bar) => {
      const cutting = pieceCut(bar, p, shop);
      const { kerf, crop, each } = shares(bar, cutting, shop);
      crops.push(crop);
      // Along the bar it was cut from: a piece may have been drawn out since.
      const was = bar.piece ?? { fromMm: 0, toMm: bar.lengthMm };
      const along = (mm: number) => was.fromMm + (mm * (was.toMm - was.fromMm)) / bar.lengthMm;
      const parts = pieceStations(cutting).map(({ fromMm, toMm }, i) => ({
        ...bar,
        lengthMm: toMm - fromMm,
        volumes: each[i],
        field: bar.field.through({ ...SAME_PLACE, tz: fromMm }),
        piece: { fromMm: along(fromMm), toMm: along(toMm) },
        distorted: distortedWithin(bar, fromMm, toMm),
      }));
      return { parts, lost: kerf };
    });
    const losses: Loss[] = [
      { cause: 'kerf', volumes: lost },
      { cause: 'crop', volumes: addVolumes(...crops) },
    ];
    return { after: pieces, losses: losses.filter((l) => totalVolume(l.volumes) > 0), added: {} };
  },
  splits: ({ pieces }) => pieces,
  cuts: pieceCut,
  sawing(bar, p, shop) {
    const cutting = pieceCut(bar, p, shop);
    const { marksMm } = sawMarks(cutting, shop.lengths);
    return {
      saws: marksMm.map((mm) => ({ bottomMm: mm, topMm: mm, mark: bareLength(mm, shop.lengths) })),
      names: pieceStations(cutting).map((s, i) => ({ text: String(i + 1), atMm: (s.fromMm + s.toMm) / 2 })),
    };
  },
  does(before, p, shop) {
    const crop = (mm: number, at: number) => (mm > 0 ? [at] : []);
    return sawEach(before, p.pieces, 'from end A', (bar, names, piece) => {
      const cutting = pieceCut(bar, p, shop);
      const { marksMm, largestDifferenceMm } = sawMarks(cutting, shop.lengths);
      const stations = pieceStations(cutting);
      return {
        do: 'saw across',
        ...piece,
        nearMm: [
          ...crop(p.cropAMm, p.cropAMm),
          ...stations.slice(0, -1).map((s) => s.toMm),
          ...crop(p.cropBMm, stations[stations.length - 1].toMm),
        ],
        marksMm,
        kerfMm: cutting.kerfMm,
        parts: [...crop(p.cropAMm, 0).map(() => null), ...names, ...crop(p.cropBMm, 0).map(() => null)],
        eachMm: pieceLength(cutting),
        differMm: largestDifferenceMm,
      };
    });
  },
});
