import { z } from 'zod';
import { SAME_PLACE } from '../../billet/fields/field.ts';
import { type Billet, type Loss, distortedMm, volumeOf } from '../../billet/billet.ts';
import { distortedWithin } from '../../billet/removal.ts';
import { type PieceCut, cutCount, pieceLength, pieceStations, sawMarks } from '../../geometry/cutting.ts';
import { addVolumes, scaleVolumes, totalVolume } from '../../materials/volumes.ts';
import type { Shop } from '../../shop/shop.ts';
import { bareLength, divisionMm, formatLength } from '../../units/length.ts';
import { CAUTIONS, error, needsOneBar, needsWelded } from '../contract/common.ts';
import { count, lengthOrNoneMm } from '../../units/quantities.ts';
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

/** Pieces with less than this many lengths to their width are hard to hold and weld. */
const STUBBY = 1;

export const cut = defineMove({
  kind: 'cut',
  title: 'Cut',
  hint: 'into equal pieces',
  group: 'Saw and grind',
  begins: false,
  wantsSoundEnds: true,
  parameters,
  begin([bar], shop) {
    const { aMm, bMm } = bar ? distortedMm(bar) : { aMm: 0, bMm: 0 };
    const division = divisionMm(shop.lengths);
    const off = (mm: number) => Math.max(shop.cropMm, Math.ceil(mm / division) * division);
    return { pieces: 4, cropAMm: off(aMm), cropBMm: off(bMm) };
  },
  check(before, p, shop) {
    const missing = [...needsOneBar(before), ...needsWelded(before)];
    if (missing.length > 0) return missing.slice(0, 1);
    const findings: Finding[] = [];
    const cutting = pieceCut(before[0], p, shop);
    const length = pieceLength(cutting);
    if (length <= 0) {
      const needed = p.cropAMm + p.cropBMm + cutCount(cutting) * cutting.kerfMm;
      return [
        error(
          'too short',
          `The bar is ${formatLength(before[0].lengthMm, shop.lengths)} long; crops and kerfs alone take ${formatLength(needed, shop.lengths)}.`,
          { parameter: 'pieces' },
        ),
      ];
    }
    const width = volumeOf(before[0]) / before[0].lengthMm;
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
  apply([bar], p, shop) {
    const cutting = pieceCut(bar, p, shop);
    const length = pieceLength(cutting);
    const share = length / bar.lengthMm;
    const pieceVolumes = scaleVolumes(bar.volumes, share);
    const after = pieceStations(cutting).map(({ fromMm, toMm }, i) => ({
      ...bar,
      lengthMm: length,
      volumes: pieceVolumes,
      field: bar.field.through({ ...SAME_PLACE, tz: fromMm }),
      piece: { number: i + 1, fromMm, toMm },
      distorted: distortedWithin(bar, fromMm, toMm),
    }));
    const losses: Loss[] = [
      {
        cause: 'kerf',
        volumes: scaleVolumes(bar.volumes, (cutCount(cutting) * cutting.kerfMm) / bar.lengthMm),
      },
      { cause: 'crop', volumes: scaleVolumes(bar.volumes, (p.cropAMm + p.cropBMm) / bar.lengthMm) },
    ];
    return { after, losses: losses.filter((l) => totalVolume(addVolumes(l.volumes)) > 0), added: {} };
  },
  cuts: pieceCut,
  sawing(bar, p, shop) {
    const cutting = pieceCut(bar, p, shop);
    const { marksMm } = sawMarks(cutting, shop.lengths);
    return {
      saws: marksMm.map((mm) => ({ bottomMm: mm, topMm: mm, mark: bareLength(mm, shop.lengths) })),
      names: pieceStations(cutting).map((s, i) => ({ text: String(i + 1), atMm: (s.fromMm + s.toMm) / 2 })),
    };
  },
  does([bar], p, shop) {
    const cutting = pieceCut(bar, p, shop);
    const { marksMm, largestDifferenceMm } = sawMarks(cutting, shop.lengths);
    const stations = pieceStations(cutting);
    const names = stations.map((_, i) => String(i + 1));
    const crop = (mm: number, at: number) => (mm > 0 ? [at] : []);
    return [
      { do: 'mark', pieces: names, ends: 'both' },
      {
        do: 'saw across',
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
      },
    ];
  },
});
