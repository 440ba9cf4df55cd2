import { z } from 'zod';
import { craft } from '../../instruct/action.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { drifting } from '../../geometry/maps/drifting.ts';
import { formatLength } from '../../units/length.ts';
import { CAUTIONS, needsOneBar, needsRectangle, note, radians, warning } from '../contract/common.ts';
import { MOST_SECTION_MM, angleDeg, lengthOrNoneMm } from '../../units/quantities.ts';
import { defineMove } from '../contract/move.ts';

/**
 * What a check-etch of both ends showed: the pattern turned against the faces at end A, how much more per metre towards end
 * B, and how much of each end is distorted. Degrees counter-clockwise seen on end B; mm.
 */
const parameters = z.strictObject({
  turnDeg: angleDeg('Turned, end A', -90, 90, 'More than 0: counter-clockwise, seen on end B'),
  twistDegPerM: angleDeg(
    'Twist per metre',
    -720,
    720,
    'More than 0: further counter-clockwise towards end B',
  ),
  zoneAMm: lengthOrNoneMm('Distorted, end A', 4 * MOST_SECTION_MM),
  zoneBMm: lengthOrNoneMm('Distorted, end B', 4 * MOST_SECTION_MM),
});

type P = z.infer<typeof parameters>;

/** Degrees. Between the ends, less than this passes unseen in a four-way (common practice, no source). */
const SEEN_DEG = 3;

const overLength = (bar: Billet, p: P): number => (p.twistDegPerM * bar.lengthMm) / 1000;

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
    const missing = needsOneBar(before);
    if (missing.length > 0) return missing;
    const shape = needsRectangle(before);
    if (shape.length > 0) return shape;
    const over = overLength(before[0], p);
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
              `${formatLength(p.zoneAMm, shop.lengths)} at end A and ${formatLength(p.zoneBMm, shop.lengths)} at end B are distorted: crop them before the picture counts.`,
              { remedy: undefined },
            ),
          ]
        : []),
      CAUTIONS.etchant(),
    ];
  },
  apply([bar], p) {
    if (p.turnDeg === 0 && p.twistDegPerM === 0) return { after: [bar], losses: [], added: {} };
    const { widthMm, heightMm } = sizeOf(bar);
    const map = drifting(radians(p.turnDeg), radians(p.twistDegPerM) / 1000, widthMm / 2, heightMm / 2);
    return { after: [{ ...bar, field: new MappedField(bar.field, map) }], losses: [], added: {} };
  },
  does() {
    return craft(
      'Grind both ends, etch lightly, and measure the pattern against the faces with a protractor. Cut the bar in half and look at the middle when the ends disagree.',
    );
  },
});
