import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import type { Field } from '../../billet/fields/field.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { bowing } from '../../geometry/maps/bowing.ts';
import { drifting, driftingAlong } from '../../geometry/maps/drifting.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatLength } from '../../units/length.ts';
import { CAUTIONS, needsSoundBars, note, radians, warning } from '../contract/common.ts';
import { MOST_SECTION_MM, angleDeg, lengthOrNoneMm, signedMm, twistDegPerM } from '../../units/quantities.ts';
import { eachPiece } from '../contract/each.ts';
import { type Finding, defineMove } from '../contract/move.ts';

/** Of a level layer in the middle, against what was foreseen. */
const BOW = {
  fine: true,
  hint: 'How much higher its middle stands over its ends than foreseen; less than 0: milder',
};

/**
 * What a check-etch of both ends showed: the pattern turned against the faces at end A, how much more per metre towards end
 * B, the pattern in the middle where the bar was cut there, how much more or less its layers bow at the three places, and how much of each end is distorted. Degrees counter-clockwise seen on end B; mm.
 */
const parameters = z.strictObject({
  turnDeg: angleDeg('Turned, end A', -90, 90, 'More than 0: counter-clockwise, seen on end B'),
  twistDegPerM: twistDegPerM('Twist along', 720, 'More than 0: further counter-clockwise towards end B'),
  turnMiddleDeg: angleDeg(
    'Turned, middle',
    -90,
    90,
    'Where it does not lie on the way from end to end',
  ).optional(),
  bowAMm: signedMm('Bowed more, end A', MOST_SECTION_MM, BOW).optional(),
  bowMiddleMm: signedMm('Bowed more, middle', MOST_SECTION_MM, BOW).optional(),
  bowBMm: signedMm('Bowed more, end B', MOST_SECTION_MM, BOW).optional(),
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
  begin: (): P => ({ turnDeg: 0, twistDegPerM: 0, zoneAMm: 0, zoneBMm: 0 }),
  check(before, p, shop) {
    const missing = needsSoundBars(before);
    if (missing.length > 0) return missing;
    const { fromMm, toMm } = measuredStretch(before);
    const toEndB = (p.twistDegPerM * (toMm - fromMm)) / 1000;
    const turns = [0, toEndB, ...(p.turnMiddleDeg === undefined ? [] : [p.turnMiddleDeg - p.turnDeg])];
    const over = p.turnMiddleDeg === undefined ? toEndB : Math.max(...turns) - Math.min(...turns);
    const zones = p.zoneAMm + p.zoneBMm;
    return [
      ...(Math.abs(over) > SEEN_DEG
        ? [
            warning(
              'twisted',
              `${p.turnMiddleDeg === undefined ? 'From end A to end B' : 'Between the ends and the middle'} the picture turns ${over.toFixed(1)}°: pieces from far apart will not meet. Lay neighbours together (best match), or twist it back hot.`,
              { parameter: 'twistDegPerM' },
            ),
          ]
        : []),
      ...unlikeAlong(before, p, shop),
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
    const wholeMm = whole.toMm - whole.fromMm;
    const after = before.map((bar): Billet => {
      const { fromMm, toMm } = stretchOf(bar);
      // A long zone goes on into the next piece.
      const share = (mm: number) => Math.min(1, Math.max(0, mm / bar.lengthMm));
      const endA = share(p.zoneAMm - (fromMm - whole.fromMm));
      const endB = share(p.zoneBMm - (whole.toMm - toMm));
      return {
        ...bar,
        field: bowedField(
          turnedField(bar, p, fromMm - whole.fromMm, wholeMm),
          bar,
          p,
          fromMm - whole.fromMm,
          wholeMm,
        ),
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

/** Where the layers bow so unlike along the bar that a layer no longer meets itself. */
function unlikeAlong(before: readonly Billet[], p: P, shop: Shop): Finding[] {
  const bows = [p.bowAMm ?? 0, p.bowMiddleMm ?? 0, p.bowBMm ?? 0];
  const range = Math.max(...bows) - Math.min(...bows);
  if (range <= Math.min(...before.map((b) => b.bandMm))) return [];
  return [
    warning(
      'unlike along',
      `The layers bow ${formatLength(range, shop.lengths)} more in one place than in another: pieces from the middle and from the ends do not meet. Lay neighbours together (best match), or crop the ends that differ.`,
      { parameter: 'bowMiddleMm' },
    ),
  ];
}

const ends = ({ zoneAMm, zoneBMm }: P, { lengths }: Shop): string =>
  [
    ...(zoneAMm > 0 ? [`${formatLength(zoneAMm, lengths)} at end A`] : []),
    ...(zoneBMm > 0 ? [`${formatLength(zoneBMm, lengths)} at end B`] : []),
  ].join(' and ');

/** What is known at end A, in the middle and at end B, along the bar: the parabola through the three. */
const through = (a: number, middle: number, b: number, lengthMm: number) => (z: number) => {
  const t = z / lengthMm;
  return a * (1 - t) * (1 - 2 * t) + 4 * middle * t * (1 - t) + b * t * (2 * t - 1);
};

/** The picture turned as it was measured; `alongMm`: how far from the measured end A the bar or piece begins, of so long a bar. */
function turnedField(bar: Billet, p: P, alongMm: number, wholeMm: number): Field {
  const { widthMm, heightMm } = sizeOf(bar);
  const perMm = radians(p.twistDegPerM) / 1000;
  if (p.turnDeg === 0 && p.twistDegPerM === 0 && !p.turnMiddleDeg) return bar.field;
  if (p.turnMiddleDeg === undefined) {
    const map = drifting(radians(p.turnDeg) + perMm * alongMm, perMm, widthMm / 2, heightMm / 2);
    return new MappedField(bar.field, map);
  }
  const endB = p.turnDeg + (p.twistDegPerM * wholeMm) / 1000;
  const at = through(p.turnDeg, p.turnMiddleDeg, endB, wholeMm);
  return new MappedField(
    bar.field,
    driftingAlong((z) => radians(at(alongMm + z)), widthMm / 2, heightMm / 2),
  );
}

/** The layers bowed as they were measured: an end or the middle of which nothing was said is as foreseen. */
function bowedField(field: Field, bar: Billet, p: P, alongMm: number, wholeMm: number): Field {
  const [a, middle, b] = [p.bowAMm ?? 0, p.bowMiddleMm ?? 0, p.bowBMm ?? 0];
  if (a === 0 && middle === 0 && b === 0) return field;
  const { widthMm, heightMm } = sizeOf(bar);
  const at = through(a, middle, b, wholeMm);
  return new MappedField(
    field,
    bowing((z) => at(alongMm + z), widthMm / 2, heightMm / 2),
  );
}
