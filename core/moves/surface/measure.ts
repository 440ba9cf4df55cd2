import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import type { Field } from '../../billet/fields/field.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { drifting } from '../../geometry/maps/drifting.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatLength } from '../../units/length.ts';
import { CAUTIONS, needsSoundBars, note, radians, warning } from '../contract/common.ts';
import { MOST_SECTION_MM, angleDeg, lengthOrNoneMm, twistDegPerM } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { defineMove } from '../contract/move.ts';

/**
 * What a check-etch of both ends showed: the pattern turned against the faces at end A, how much more per metre towards end
 * B, and how much of each end is distorted. Degrees counter-clockwise seen on end B; mm.
 */
const parameters = z.strictObject({
  turnDeg: angleDeg('Turned, end A', -90, 90, 'More than 0: counter-clockwise, seen on end B'),
  twistDegPerM: twistDegPerM('Twist along', 720, 'More than 0: further counter-clockwise towards end B'),
  zoneAMm: lengthOrNoneMm('Distorted, end A', 4 * MOST_SECTION_MM),
  zoneBMm: lengthOrNoneMm('Distorted, end B', 4 * MOST_SECTION_MM),
});

type P = z.infer<typeof parameters>;

/** Degrees. Between the ends, less than this passes unseen in a four-way (common practice, no source). */
const SEEN_DEG = 3;

/** Where a bar or piece lay in the bar that was measured, mm. */
const stretchOf = ({ piece, lengthMm }: Billet): { fromMm: number; toMm: number } =>
  piece ?? { fromMm: 0, toMm: lengthMm };

/** From the first face that was sawn to the last, mm. */
function measuredStretch(bars: readonly Billet[]): { fromMm: number; toMm: number } {
  const all = bars.map(stretchOf);
  return { fromMm: Math.min(...all.map((s) => s.fromMm)), toMm: Math.max(...all.map((s) => s.toMm)) };
}

export const measure = defineMove({
  kind: 'measure',
  title: 'What the ends show',
  short: 'Ends show',
  hint: 'enter a measured twist, a turned pattern, distorted ends: the rest follows',
  group: 'Surface',
  begins: false,
  parameters,
  begin: () => ({ turnDeg: 0, twistDegPerM: 0, zoneAMm: 0, zoneBMm: 0 }),
  check(before, p, shop) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    const { fromMm, toMm } = measuredStretch(before);
    const over = (p.twistDegPerM * (toMm - fromMm)) / 1000;
    const zones = p.zoneAMm + p.zoneBMm;
    return [
      ...(Math.abs(over) > SEEN_DEG
        ? [
            warning(
              'twisted',
              `From end A to end B the picture turns ${over.toFixed(1)}°: pieces from far apart will not meet. Lay neighbours together (best match), or twist it back hot.`,
              { parameter: 'twistDegPerM' },
            ),
          ]
        : []),
      ...(zones > 0
        ? [
            note(
              'zones',
              `${ends(p, shop)} are distorted: a cut after this begins with such crops, and says so where they are left on.`,
            ),
          ]
        : []),
      CAUTIONS.etchant(),
    ];
  },
  apply(before, p) {
    const whole = measuredStretch(before);
    const after = before.map((bar): Billet => {
      const { fromMm, toMm } = stretchOf(bar);
      // A long zone goes on into the next piece.
      const share = (mm: number) => Math.min(1, Math.max(0, mm / bar.lengthMm));
      const endA = share(p.zoneAMm - (fromMm - whole.fromMm));
      const endB = share(p.zoneBMm - (whole.toMm - toMm));
      return {
        ...bar,
        field: turnedField(bar, p, fromMm - whole.fromMm),
        distorted: endA > 0 || endB > 0 ? { endA, endB } : bar.distorted,
      };
    });
    return { after, losses: [], added: {} };
  },
  does: (before) =>
    before.length > 1
      ? eachPiece(before, () => care('ends measured'))
      : care('ends measured', 'middle looked at'),
});

const ends = ({ zoneAMm, zoneBMm }: P, { lengths }: Shop): string =>
  [
    ...(zoneAMm > 0 ? [`${formatLength(zoneAMm, lengths)} at end A`] : []),
    ...(zoneBMm > 0 ? [`${formatLength(zoneBMm, lengths)} at end B`] : []),
  ].join(' and ');

/** The picture turned as it was measured; `alongMm`: how far from the measured end A the bar or piece begins. */
function turnedField(bar: Billet, p: P, alongMm: number): Field {
  if (p.turnDeg === 0 && p.twistDegPerM === 0) return bar.field;
  const { widthMm, heightMm } = sizeOf(bar);
  const perMm = radians(p.twistDegPerM) / 1000;
  const map = drifting(radians(p.turnDeg) + perMm * alongMm, perMm, widthMm / 2, heightMm / 2);
  return new MappedField(bar.field, map);
}
