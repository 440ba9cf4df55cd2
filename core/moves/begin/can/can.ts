import { CannedField, type CannedParts } from '../../../billet/fields/canned.ts';
import {
  type Can,
  USUAL_TAP,
  barsOf,
  canSchema,
  fillOf,
  outsideOf,
  roomOf,
  withBars,
} from '../../../canister/can.ts';
import {
  MOST_PIECES,
  MOST_PLACES,
  bodyOf,
  isBall,
  isBent,
  isFlat,
  isOfLanes,
  isOffcut,
  lengthCount,
  lengthsOf,
  placeCount,
  thicknessOf,
} from '../../../canister/inserts.ts';
import { reachFor } from '../../../canister/flattened.ts';
import { isLooseCan } from '../../../canister/standing.ts';
import { strandsOf, wireLength } from '../../../geometry/bodies.ts';
import { outlineArea, outlineSize } from '../../../geometry/outline.ts';
import { SAME_PLACE } from '../../../billet/fields/field.ts';
import { fillingsOf } from '../../../picture/picture.ts';
import { addVolumes, subtractVolumes } from '../../../materials/volumes.ts';
import { materialCode } from '../../../shop/shop.ts';
import { formatLength } from '../../../units/length.ts';
import { caution, error, freeLength, needsMaterials, note } from '../../contract/common.ts';
import { type Bought, type Toll, defineMove } from '../../contract/move.ts';

import { LONGER_MM, canDoes } from './canDoes.ts';
import { adviseBox, adviseInserts, adviseReady, checkInserts, checkLanes } from './canFindings.ts';
import { powdersOf, spotsOf } from './spots.ts';

const plate = (p: Can, widthMm: number, thicknessMm: number, lengthMm: number, count: number): Bought => ({
  what: 'sheet',
  material: p.wall,
  widthMm,
  thicknessMm,
  lengthMm,
  count,
});

/** Plate for the walls and the caps; a tube or a bent wall is bought flat, as long as it is round about in the middle of its wall. */
function plates(p: Can): Bought[] {
  const room = roomOf(p);
  const { outline } = outsideOf(p);
  const { widthMm, heightMm } = outlineSize(outline);
  const caps = plate(p, widthMm, p.capMm, heightMm, 2);
  if (!room.outline)
    return [
      plate(p, p.widthMm, p.wallMm, room.depthMm, 2),
      plate(p, room.heightMm, p.wallMm, room.depthMm, 2),
      caps,
    ];
  const aroundMm = (outlineArea(outline) - outlineArea(room.outline)) / p.wallMm;
  const capShare = outlineArea(outline) / (widthMm * heightMm);
  // Caps are cut to the outline: as much plate as they are steel.
  return [plate(p, aroundMm, p.wallMm, room.depthMm, 1), { ...caps, lengthMm: heightMm * capShare }];
}

/** Counted by their sizes alone: places of each kind in the section, pieces with all their lengths. */
function canTolls(p: Can): Toll[] {
  const room = roomOf(p);
  const places = p.inserts.map((insert) => placeCount(insert, room));
  const pieces = p.inserts.map((insert) => insert.count * lengthCount(insert, room.depthMm));
  const of = { parameter: 'inserts' } as const;
  return [
    { ...of, what: 'places for one kind of insert', count: Math.max(0, ...places), most: MOST_PLACES },
    {
      ...of,
      what: 'inserts and lengths of inserts',
      count: pieces.reduce((a, b) => a + b, 0),
      most: MOST_PIECES,
    },
  ];
}

export const can = defineMove({
  kind: 'can',
  title: 'Canister',
  hint: 'powder and inserts in a welded box',
  group: 'Begin',
  begins: true,
  onPowder: true,
  parameters: canSchema,
  tolls: (_bars, p) => canTolls(p),
  takes: (p) => p.inserts.flatMap((i) => (isOfLanes(i) ? (i.pieces ?? []) : [])),
  begin: (): Can => ({
    shape: 'box',
    handle: 'stub',
    widthMm: 60,
    heightMm: 60,
    lengthMm: 126,
    wall: '1018',
    wallMm: 3,
    capMm: 3,
    release: 'white coating',
    vent: 'far end',
    ventMm: 1.5,
    powder: '1084',
    tapDensity: USUAL_TAP.tapped,
    filling: 'tapped',
    spill: 0.04,
    inserts: [],
  }),
  check(bars, given, shop) {
    const p = withBars(given, bars);
    const fillings = p.picture ? fillingsOf(p.picture) : [];
    const missing = needsMaterials(
      [p.wall, p.powder, ...p.inserts.map((i) => i.material), ...fillings.map((f) => f.powder)],
      shop,
      'inserts',
    );
    if (missing.length > 0) return missing.slice(0, 1);
    if (p.shape === 'free' && !p.outline)
      return [
        error(
          'no outline',
          'A free can needs its outline: open a drawing of it, or make the can a box or a tube.',
          {
            parameter: 'shape',
            remedy: { label: 'Make it a box', set: { shape: 'box' } },
          },
        ),
      ];
    const room = roomOf(p);
    const wrong = checkLanes(p, bars, shop);
    if (wrong.length > 0) return wrong;
    const standing = barsOf(p, bars).flatMap((own, k) => (p.inserts[k].shape === 'bar' ? own : []));
    const loose = standing.find((bar) => isLooseCan(bar) && bar.lengthMm > room.depthMm + LONGER_MM);
    if (loose)
      return [
        error(
          'long can',
          `A can with loose powder in it cannot be sawn to length: it is ${formatLength(loose.lengthMm, shop.lengths)} long, the room ${formatLength(room.depthMm, shop.lengths)} deep.`,
          {
            parameter: 'lengthMm',
            remedy: {
              label: 'Make this can as deep as that one',
              // No deeper: shorter than the room it may not be.
              set: { lengthMm: Math.floor((loose.lengthMm + 2 * p.capMm) * 100 + 1e-6) / 100 },
            },
          },
        ),
      ];
    const short = standing.find((bar) => bar.lengthMm < room.depthMm - 1e-6);
    if (short)
      return [
        error(
          'too short',
          `A bar that is to stand in the can is ${formatLength(short.lengthMm, shop.lengths)} long; the room is ${formatLength(room.depthMm, shop.lengths)} deep.`,
          {
            parameter: 'lengthMm',
            remedy: {
              label: 'Make the can as deep as the bar',
              set: { lengthMm: Math.floor((short.lengthMm + 2 * p.capMm) * 10) / 10 },
            },
          },
        ),
      ];
    if (Math.min(room.widthMm, room.heightMm, room.depthMm) <= 0)
      return [
        error('no room', 'Walls and caps leave no room inside: a thinner wall, or a larger can.', {
          parameter: 'wallMm',
        }),
      ];
    const inside = checkInserts(p, shop);
    if (inside.some((f) => f.severity === 'error')) return inside;
    return [
      ...inside,
      ...adviseBox(p, shop),
      ...adviseInserts(p, shop),
      ...adviseReady(p, bars, shop),
      ...(standing.some(isLooseCan)
        ? [
            note(
              'can in a can',
              'What is in the inner can must breathe too: leave its own pinhole open, into the powder round it. Both are pressed solid together.',
            ),
          ]
        : []),
      caution(
        'sealed',
        'A can without a vent can burst. Vent away from people and the door; stand aside while it heats; no moisture, oil or solvent inside.',
      ),
      caution(
        'powder dust',
        'Fine metal dust harms lungs and can burn. Nickel powder and nickel-steel dust are hazardous: respirator, wet clean-up, no sweeping, no eating.',
      ),
      ...(p.release === 'white coating'
        ? [
            caution(
              'coating fumes',
              'White coating fumes as it burns: ventilate, respirator. Never galvanised, plated or unknown steel for the can.',
            ),
          ]
        : []),
    ];
  },
  apply(bars, given, shop) {
    const p = withBars(given, bars);
    const room = roomOf(p);
    const fill = fillOf(p, shop.materials, bars);
    const spots = spotsOf(p, bars, shop);
    const insertMm3 = fill.inserts.reduce((sum, i) => sum + i.mm3 - i.poresMm3, 0);
    const cans = bars.flatMap((bar) => {
      const spot = isLooseCan(bar) ? spots.findIndex((s) => s.bar?.field === bar.field) : -1;
      return spot < 0 ? [] : [{ spot, can: bar }];
    });
    const boxMm3 = room.widthMm * room.heightMm * room.depthMm;
    const parts: CannedParts = {
      halfWidthMm: room.widthMm / 2,
      halfHeightMm: room.heightMm / 2,
      fromMm: p.capMm,
      toMm: p.lengthMm - p.capMm,
      wallCode: materialCode(shop, p.wall),
      powderCode: materialCode(shop, p.powder),
      spots,
      // Corners of offcuts that fell into one another lie beside each other.
      reach: p.inserts.some(isOffcut)
        ? reachFor(
            spots,
            room.widthMm / 2,
            room.heightMm / 2,
            p.capMm,
            p.lengthMm - p.capMm,
            insertMm3 / boxMm3,
          )
        : 1,
      powders: powdersOf(p, shop),
      origin: p,
    };
    const finest = p.inserts.flatMap((i) => [i.sizeMm, ...(isFlat(i) ? [thicknessOf(i)] : [])]);
    const outside = outsideOf(p);
    const billet = {
      outline: outside.outline,
      lengthMm: p.lengthMm,
      field: new CannedField(parts, { ...SAME_PLACE, tx: outside.tx, ty: outside.ty }),
      volumes: fill.volumes,
      loose: true,
      bandMm: Math.min(room.widthMm, room.heightMm, ...finest),
      piece: null,
      jacket: { material: p.wall, released: p.release !== 'none', sideMm: p.wallMm, topMm: p.wallMm },
      can: {
        poresMm3: fill.poresMm3,
        capAMm: p.capMm,
        capBMm: p.capMm,
        loose: {
          parts,
          wallMm: p.wallMm,
          inside: room.outline,
          insertMm3,
          ...(cans.length > 0 && { cans }),
        },
      },
    };
    // What a bar of another lane is longer than the room is cut off it; its own steel came in there.
    const used = addVolumes(...fill.inserts.map((i, k) => (isOfLanes(p.inserts[k]) ? i.volumes : {})));
    const whole = addVolumes(...bars.map((bar) => bar.volumes));
    const losses =
      bars.length > 0 ? [{ cause: 'offcut' as const, volumes: subtractVolumes(whole, used) }] : [];
    return { after: [billet], losses, added: subtractVolumes(fill.volumes, used) };
  },
  buys(bars, given, shop) {
    const p = withBars(given, bars);
    const room = roomOf(p);
    const fill = fillOf(p, shop.materials, bars);
    const lying = p.inserts.flatMap((i, k): Bought[] => {
      if (isOfLanes(i)) return [];
      const lengthsOfIt = lengthsOf(i, room.depthMm);
      const body = bodyOf(i, room, 2 * lengthsOfIt[0].half);
      if (body)
        return [
          {
            what: body.kind === 'bent rod' ? 'rod' : body.kind,
            material: i.material,
            widthMm: body.wireMm,
            thicknessMm: body.wireMm,
            lengthMm: wireLength(body) / strandsOf(body),
            count: fill.inserts[k].count * strandsOf(body) * (isBent(i) ? 1 : lengthsOfIt.length),
          },
        ];
      const what = isBall(i) ? 'ball' : i.shape === 'rod' ? 'rod' : 'strip';
      const lengths = lengthsOf(i, room.depthMm);
      const lengthMm = isBall(i) ? i.sizeMm : 2 * lengths[0].half;
      const count = fill.inserts[k].count * (isBall(i) ? 1 : lengths.length);
      return [
        {
          what,
          material: i.material,
          widthMm: i.sizeMm,
          thicknessMm: isFlat(i) ? thicknessOf(i) : i.sizeMm,
          lengthMm,
          count,
        },
      ];
    });
    const powders = fill.powders
      .filter((powder) => powder.solidMm3 > 0)
      .map(({ powder, solidMm3 }): Bought => {
        const side = Math.cbrt(solidMm3);
        return {
          what: 'powder',
          material: powder,
          widthMm: side,
          thicknessMm: side,
          lengthMm: side,
          count: 1,
        };
      });
    return [...plates(p), ...lying.filter((l) => l.count > 0), ...powders];
  },
  stands: (p) =>
    p.inserts.flatMap((i) =>
      i.shape === 'bar' ? (i.pieces ?? []).map(({ lane }) => ({ lane, longMm: roomOf(p).depthMm })) : [],
    ),
  fills: (p) => p,
  does: canDoes,
  free: [freeLength(2000)],
});
