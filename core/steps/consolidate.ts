import { z } from 'zod';
import { type Billet, loseSkin, sizeOf } from '../billet/billet.ts';
import { CannedField } from '../billet/fields/canned.ts';
import { type PressedCan, type Pressing, mostEndMm, passesTo, solidCan } from '../canister/consolidate.ts';
import { reachFor } from '../canister/flattened.ts';
import { outlineArea, rectangle } from '../geometry/outline.ts';
import { SAME_PLACE } from '../billet/field.ts';
import { centred, walled } from '../canister/can.ts';
import { totalVolume } from '../materials/volumes.ts';
import type { Shop } from '../shop/shop.ts';
import { bareLength, formatFine, formatLength, formatSizes } from '../units/length.ts';
import { formatTemperature } from '../units/temperature.ts';
import { CAUTIONS, error, needsOneBar, note, plural, scaleShare, warning } from './common.ts';
import { heats, lengthMm, lengthOrNoneMm } from './fields.ts';
import { type Finding, defineMove } from './step.ts';

/** End to end first, then the sides in small passes, at welding heat. mm, °C. */
const parameters = z.strictObject({
  endMm: lengthOrNoneMm('First press end to end', 500),
  sides: z.enum(['two ways', 'one way']),
  passMm: lengthMm('Pass', 30),
  heats,
  temperatureC: z
    .number({ error: 'Temperature must be a number' })
    .min(500, 'Temperature must be at least 500 °C')
    .max(1400, 'Temperature may be at most 1400 °C'),
});

type P = z.infer<typeof parameters>;

/** mm. Larger passes dent the can, and a deep dent locks it on (handbook, canister: 1.5–3 mm a pass). */
const LARGEST_PASS_MM = 3;
/** mm. The least first press that seats caps (common practice, no source). */
const SEATS_MM = 3;

/** A loose can as it stands before the press. */
export function pressedCan(bar: Billet): PressedCan {
  const { widthMm, heightMm } = sizeOf(bar);
  const { parts, wallMm, inside } = bar.can!.loose!;
  const section = inside ? outlineArea(inside) : 4 * parts.halfWidthMm * parts.halfHeightMm;
  const room = section * (parts.toMm - parts.fromMm);
  return {
    widthMm,
    heightMm,
    lengthMm: bar.lengthMm,
    wallMm,
    capMm: parts.fromMm,
    fillFactor: 1 - bar.can!.poresMm3 / room,
    inside,
  };
}

export const passesOf = (bar: Billet, p: P) => {
  const before = pressedCan(bar);
  const solid = solidCan(before, p);
  return { before, solid, passes: passesTo(before, solid, p.sides, p.passMm) };
};

/**
 * The same steel pressed `share` (0…1) of the way to solid: middles of inserts move with the room, inserts keep their size,
 * powder closes round them. Anything that knows better how the section flows takes the place of this one function.
 */
export function pressedTo(bar: Billet, p: Pressing, share: number): Billet {
  const before = pressedCan(bar);
  const { parts, insertMm3 } = bar.can!.loose!;
  const solid = solidCan(before, p, share);
  const along = solid.depthMm / (parts.toMm - parts.fromMm);
  // A rod pressed end to end grows thicker by what it loses in length.
  const swell = Math.sqrt(1 / along);
  const spots = parts.spots.map((s) => ({
    ...s,
    x: s.x * solid.scaleX,
    y: s.y * solid.scaleY,
    z: solid.capMm + (s.z - parts.fromMm) * along,
    ...(!s.ball && { halfX: s.halfX * swell, halfY: s.halfY * swell }),
    ...(s.halfZ !== undefined && { halfZ: s.halfZ * along }),
  }));
  const [halfX, halfY] = [solid.insideWidthMm / 2, solid.insideHeightMm / 2];
  const room = (solid.inside ? outlineArea(solid.inside) : 4 * halfX * halfY) * solid.depthMm;
  const [from, to] = [solid.capMm, solid.capMm + solid.depthMm];
  const reach = reachFor(spots, halfX, halfY, from, to, insertMm3 / (4 * halfX * halfY * solid.depthMm));
  const outside = solid.inside
    ? centred(walled(solid.inside, solid.wallXMm))
    : { outline: rectangle(solid.widthMm, solid.heightMm), tx: 0, ty: 0 };
  const poresMm3 = share < 1 ? Math.max(0, room * (1 - share) * emptiness(before, share)) : 0;
  return {
    ...bar,
    outline: outside.outline,
    lengthMm: (totalVolume(bar.volumes) + poresMm3) / outlineArea(outside.outline),
    field: new CannedField(
      {
        ...parts,
        halfWidthMm: halfX,
        halfHeightMm: halfY,
        fromMm: from,
        toMm: to,
        spots,
        reach,
        scaleX: solid.scaleX,
        scaleY: solid.scaleY,
      },
      { ...SAME_PLACE, tx: outside.tx, ty: outside.ty },
    ),
    loose: share < 1,
    jacket: bar.jacket && { ...bar.jacket, sideMm: solid.wallXMm, topMm: solid.wallYMm },
    can: { poresMm3, capAMm: solid.capMm, capBMm: solid.capMm, loose: null },
  };
}

/** Emptiness that is left, per closed share, of the room as it then is. */
const emptiness = ({ fillFactor }: PressedCan, share: number): number =>
  (1 - fillFactor) / (1 - share * (1 - fillFactor));

function advise(bar: Billet, p: P, shop: Shop): Finding[] {
  const { before, solid } = passesOf(bar, p);
  const most = mostEndMm(before);
  const findings: Finding[] = [];
  if (p.endMm < SEATS_MM)
    findings.push(
      warning('loose caps', 'Pressed on the sides first, loose caps pop. Press end to end first, a little.', {
        parameter: 'endMm',
        remedy: {
          label: `Press ${formatFine(Math.min(SEATS_MM, most), shop.lengths)} end to end first`,
          set: { endMm: Math.min(SEATS_MM, most) },
        },
      }),
    );
  if (p.passMm > LARGEST_PASS_MM)
    findings.push(
      warning(
        'deep dent',
        `Passes of ${formatFine(p.passMm, shop.lengths)} dent the can, and a deep dent locks it on.`,
        {
          parameter: 'passMm',
          remedy: {
            label: `Take ${formatFine(LARGEST_PASS_MM, shop.lengths)} a pass`,
            set: { passMm: LARGEST_PASS_MM },
          },
        },
      ),
    );
  findings.push(
    note(
      'first order',
      `A prediction of first order: powder closes evenly to ${Math.round(100 * solid.scaleX)} % across and ${Math.round(100 * solid.scaleY)} % up; inserts keep their size and flatten where they meet.`,
    ),
  );
  return findings;
}

export const consolidate = defineMove({
  kind: 'consolidate',
  title: 'Press solid',
  hint: 'heat a can through and press it until its powder is solid',
  group: 'Heat and press',
  begins: false,
  onPowder: true,
  parameters,
  begin: (_before, shop): P => ({
    endMm: 5,
    sides: 'two ways',
    passMm: 2.5,
    heats: 6,
    temperatureC: shop.forge.weldingC,
  }),
  check(before, p, shop) {
    const missing = needsOneBar(before);
    if (missing.length > 0) return missing;
    const [bar] = before;
    if (!bar.can?.loose)
      return [error('no can', 'There is no loose can here: this presses the powder of a can solid.')];
    const most = mostEndMm(pressedCan(bar));
    if (p.endMm > most)
      return [
        error(
          'too far',
          `End to end it gives ${formatLength(most, shop.lengths)} at most: then it is solid.`,
          {
            parameter: 'endMm',
            remedy: { label: `Press ${formatLength(most / 2, shop.lengths)}`, set: { endMm: most / 2 } },
          },
        ),
      ];
    return [...advise(bar, p, shop), CAUTIONS.fire(), CAUTIONS.press()];
  },
  apply([bar], p, shop) {
    const solid = pressedTo(bar, p, 1);
    const { billet, lost } = loseSkin(solid, scaleShare(p.heats, shop), shop);
    return { after: [billet], losses: [{ cause: 'scale', volumes: lost }], added: {} };
  },
  presses([bar], p, shop) {
    const { before, solid, passes } = passesOf(bar, p);
    const last = passes.at(-1);
    if (!last) return null;
    return {
      widthMm: last.side === 'height' ? before.widthMm : solid.heightMm,
      heightMm: last.stopMm + p.passMm,
      toHeightMm: last.stopMm,
      biteMm: shop.biteMm,
    };
  },
  say([bar], p, shop) {
    const { solid, passes } = passesOf(bar, p);
    const stops = passes.map((s) => bareLength(s.stopMm, shop.lengths)).join(', ');
    return [
      `Soak at ${formatTemperature(p.temperatureC, shop.temperatures)} until it is hot right through; ${plural(p.heats, 'heat')}.`,
      ...(p.endMm > 0
        ? [`First press end to end, ${formatFine(p.endMm, shop.lengths)}, to seat the caps.`]
        : []),
      `Then the ${p.sides === 'two ways' ? 'sides in turn, a quarter turn after every pass' : 'top only'}, stops at: ${stops}${shop.lengths.unit === 'in' ? '"' : ' mm'}.`,
      `Solid at ${formatSizes([solid.widthMm, solid.heightMm], shop.lengths)} outside. Then crop the caps: ${formatFine(solid.capMm, shop.lengths)} and a few millimetres hold no picture.`,
    ];
  },
});
