import { type InsertSpot, CannedField, type CannedParts } from '../billet/fields/canned.ts';
import { type Can, canSchema, fillOf, roomOf } from '../canister/can.ts';
import {
  type Insert,
  type Placed,
  allPlaced,
  closeLayers,
  halfSizes,
  isRound,
  mostThatLie,
  placesOf,
  worstOverlap,
} from '../canister/inserts.ts';
import { rectangle } from '../geometry/outline.ts';
import { materialById } from '../materials/material.ts';
import { type Shop, materialCode } from '../shop/shop.ts';
import { formatFine, formatLength, formatSizes } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import { caution, error, needsMaterials, note, plural, warning } from './common.ts';
import { type Bought, type Finding, defineMove } from './step.ts';

/** Gaps between close-packed balls take balls up to this share of their diameter (octahedral; handbook, canister). */
const NESTS = 0.414;
/** mm. A vent wider than this lets air in (handbook, canister: one pinhole of 1–2 mm). */
const WIDEST_VENT_MM = 2;
/** Wider than this many heights the middle is neither heated nor pressed well (common practice, no source). */
const MOST_ASPECT = 2;

const placedIn = (p: Can): Placed[] => allPlaced(p.inserts, roomOf(p));

const spotOf = ({ insert, x, y, z, halfX, halfY }: Placed, zFrom: number, shop: Shop): InsertSpot => ({
  x,
  y,
  z: z + zFrom,
  halfX,
  halfY,
  round: isRound(insert),
  ball: insert.shape === 'ball',
  code: materialCode(shop, insert.material),
});

const insertName = (i: Insert, shop: Shop): string =>
  `${materialById(shop.materials, i.material)?.name ?? i.material} ${i.shape === 'strip' ? 'strips' : `${i.shape}s`}`;

function checkInserts(p: Can, shop: Shop): Finding[] {
  const room = roomOf(p);
  const findings: Finding[] = [];
  p.inserts.forEach((insert, i) => {
    const most = mostThatLie(insert, room);
    const name = insertName(insert, shop);
    const fewer = (count: number) => ({ inserts: p.inserts.map((o, k) => (k === i ? { ...o, count } : o)) });
    if (most === 0)
      findings.push(
        error(
          'too large',
          `${name} of ${formatFine(insert.sizeMm, shop.lengths)} do not fit into the can at all.`,
          {
            parameter: 'inserts',
          },
        ),
      );
    else if (insert.count > most)
      findings.push(
        error('too many', `${insert.count} ${name} do not fit as they are laid: ${most} do.`, {
          parameter: 'inserts',
          remedy: { label: `Take ${most}`, set: fewer(most) },
        }),
      );
  });
  if (findings.length > 0) return findings;
  const placed = placedIn(p);
  const worst = worstOverlap(placed, room);
  if (worst)
    findings.push(
      warning(
        'overlap',
        `${insertName(placed[worst.first].insert, shop)} run ${formatFine(worst.mm, shop.lengths)} into ${
          worst.second === 'wall' ? 'the wall' : insertName(placed[worst.second].insert, shop)
        }: they cannot lie so. Lay fewer, or pour them again.`,
        { parameter: 'inserts' },
      ),
    );
  return findings;
}

/** Balls of unlike size, balls in two layers, and inserts pressed against a flat wall. */
function adviseInserts(p: Can, shop: Shop): Finding[] {
  const room = roomOf(p);
  const findings: Finding[] = [];
  const balls = p.inserts.filter((i) => i.shape === 'ball').map((i) => i.sizeMm);
  const [large, small] = [Math.max(...balls), Math.min(...balls)];
  if (balls.length > 1 && small < large && small > NESTS * large)
    findings.push(
      warning(
        'do not nest',
        `Balls of ${formatFine(small, shop.lengths)} do not fit the gaps between balls of ${formatFine(large, shop.lengths)}: the largest that does is ${formatFine(NESTS * large, shop.lengths)}. They push the others apart.`,
        {
          parameter: 'inserts',
          remedy: {
            label: `Take ${formatFine(Math.floor(NESTS * large * 10) / 10, shop.lengths)} balls`,
            set: {
              inserts: p.inserts.map((i) =>
                i.shape === 'ball' && i.sizeMm < large && i.sizeMm > NESTS * large
                  ? { ...i, sizeMm: Math.floor(NESTS * large * 10) / 10 }
                  : i,
              ),
            },
          },
          why: {
            what: 'Largest ball in a gap',
            value: formatFine(NESTS * large, shop.lengths),
            formula: '(√2 − 1) × diameter, the octahedral gap of close-packed balls',
            inputs: [['larger ball', formatFine(large, shop.lengths)]],
            source: 'geometry of close packing',
          },
        },
      ),
    );
  const depthways = balls.length > 0 ? closeLayers(Math.min(room.widthMm, room.heightMm), large) : 0;
  if (depthways === 2)
    findings.push(
      note(
        'two layers',
        `Across the can two layers of ${formatFine(large, shop.lengths)} balls fit and no third: they lie in order, not at random.`,
      ),
    );
  const atWall = p.inserts.some((i) => i.lay !== 'rim' && touchesWall(i, p));
  if (atWall && !p.inserts.some((i) => i.lay === 'rim'))
    findings.push(
      warning(
        'flat wall',
        'Inserts lie against a flat wall, where nothing round presses back: the weld fails there. Rods around the rim cure it.',
        {
          parameter: 'inserts',
          ...rimRemedy(p),
        },
      ),
    );
  return findings;
}

const touchesWall = (insert: Insert, p: Can): boolean => {
  const room = roomOf(p);
  const [a, b] = halfSizes(insert);
  const near = 0.1 * insert.sizeMm;
  return (
    isRound(insert) &&
    placesOf(insert, room).some(
      ({ x, y }) => room.widthMm / 2 - Math.abs(x) - a < near || room.heightMm / 2 - Math.abs(y) - b < near,
    )
  );
};

/** A can larger by a rim of thin rods, set around what is there. */
function rimRemedy(p: Can) {
  const rodMm = Math.max(3, Math.round(Math.min(p.widthMm, p.heightMm) / 16));
  const [widthMm, heightMm] = [p.widthMm + 2 * rodMm, p.heightMm + 2 * rodMm];
  const rim: Insert = { shape: 'rod', material: p.inserts[0].material, sizeMm: rodMm, count: 1, lay: 'rim' };
  const count = mostThatLie(rim, roomOf({ ...p, widthMm, heightMm }));
  return {
    remedy: {
      label: `${count} rods of ${rodMm} mm around the rim`,
      set: { widthMm, heightMm, inserts: [...p.inserts, { ...rim, count }] },
    },
  };
}

function adviseBox(p: Can, shop: Shop): Finding[] {
  const findings: Finding[] = [];
  const say = (code: string, text: string, parameter: string, label: string, set: Record<string, unknown>) =>
    findings.push(warning(code, text, { parameter, remedy: { label, set } }));
  if (p.vent === 'none' || p.ventMm === 0)
    say(
      'no vent',
      'A sealed can without a vent can burst: leave a pinhole.',
      'vent',
      'A 1.5 mm vent at the far end',
      { vent: 'far end', ventMm: 1.5 },
    );
  else {
    if (p.vent === 'handle end')
      say(
        'vent at the hand',
        'The vent blows towards the hand and the door of the forge.',
        'vent',
        'Put it at the far end',
        { vent: 'far end' },
      );
    if (p.ventMm > WIDEST_VENT_MM)
      say(
        'wide vent',
        `A vent of ${formatFine(p.ventMm, shop.lengths)} lets air in: the powder scales and does not weld.`,
        'ventMm',
        `Make it ${formatFine(1.5, shop.lengths)}`,
        { ventMm: 1.5 },
      );
  }
  const [wide, high] = [Math.max(p.widthMm, p.heightMm), Math.min(p.widthMm, p.heightMm)];
  if (wide > MOST_ASPECT * high)
    say(
      'too wide',
      `The can is ${(wide / high).toFixed(1)} times as wide as deep: the middle stays cold and unpressed, and its seams fail. Keep it narrow and forge the width out afterwards.`,
      p.widthMm > p.heightMm ? 'widthMm' : 'heightMm',
      `Make it ${formatSizes([MOST_ASPECT * high, high], shop.lengths)}`,
      p.widthMm > p.heightMm ? { widthMm: MOST_ASPECT * high } : { heightMm: MOST_ASPECT * high },
    );
  return findings;
}

export const can = defineMove({
  kind: 'can',
  title: 'Canister',
  hint: 'powder and inserts in a welded box',
  group: 'Begin',
  begins: true,
  onPowder: true,
  parameters: canSchema,
  begin: (): Can => ({
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
    tapDensity: 0.62,
    spill: 0.04,
    inserts: [],
  }),
  check(_before, p, shop) {
    const missing = needsMaterials([p.wall, p.powder, ...p.inserts.map((i) => i.material)], shop, 'inserts');
    if (missing.length > 0) return missing.slice(0, 1);
    const room = roomOf(p);
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
  apply(_before, p, shop) {
    const room = roomOf(p);
    const fill = fillOf(p, shop.materials);
    const spots = placedIn(p).map((placed) => spotOf(placed, p.capMm, shop));
    const parts: CannedParts = {
      halfWidthMm: room.widthMm / 2,
      halfHeightMm: room.heightMm / 2,
      fromMm: p.capMm,
      toMm: p.lengthMm - p.capMm,
      wallCode: materialCode(shop, p.wall),
      powderCode: materialCode(shop, p.powder),
      spots,
      reach: 1,
    };
    const finest = p.inserts.flatMap((i) => halfSizes(i).map((half) => 2 * half));
    const billet = {
      outline: rectangle(p.widthMm, p.heightMm),
      lengthMm: p.lengthMm,
      field: new CannedField(parts),
      volumes: fill.volumes,
      loose: true,
      bandMm: Math.min(room.widthMm, room.heightMm, ...finest),
      piece: null,
      jacket: { material: p.wall, released: p.release !== 'none', sideMm: p.wallMm, topMm: p.wallMm },
      can: {
        poresMm3: fill.poresMm3,
        capAMm: p.capMm,
        capBMm: p.capMm,
        loose: { parts, insertMm3: fill.inserts.reduce((sum, i) => sum + i.mm3, 0) },
      },
    };
    return { after: [billet], losses: [], added: fill.volumes };
  },
  buys(_before, p, shop) {
    const room = roomOf(p);
    const plate = (widthMm: number, thicknessMm: number, lengthMm: number): Bought => ({
      what: 'sheet',
      material: p.wall,
      widthMm,
      thicknessMm,
      lengthMm,
      count: 2,
    });
    const { inserts, powderMm3 } = fillOf(p, shop.materials);
    const lying = p.inserts.flatMap((i, k): Bought[] => {
      const [a, b] = halfSizes(i);
      const what = i.shape === 'ball' ? 'ball' : i.shape === 'rod' ? 'rod' : 'strip';
      const lengthMm = i.shape === 'ball' ? i.sizeMm : room.depthMm;
      return [
        { what, material: i.material, widthMm: 2 * a, thicknessMm: 2 * b, lengthMm, count: inserts[k].count },
      ];
    });
    const side = Math.cbrt(powderMm3);
    return [
      plate(p.widthMm, p.wallMm, room.depthMm),
      plate(room.heightMm, p.wallMm, room.depthMm),
      plate(p.widthMm, p.capMm, p.heightMm),
      ...lying.filter((l) => l.count > 0),
      { what: 'powder', material: p.powder, widthMm: side, thicknessMm: side, lengthMm: side, count: 1 },
    ];
  },
  say(_before, p, shop) {
    const fill = fillOf(p, shop.materials);
    const name = (id: string) => materialById(shop.materials, id)?.name ?? id;
    const kg = (mass: number) => formatMass(mass, shop.masses);
    return [
      `Weld a box of ${name(p.wall)} plate ${formatFine(p.wallMm, shop.lengths)}: ${formatSizes([p.widthMm, p.heightMm], shop.lengths)} outside, ${formatLength(p.lengthMm, shop.lengths)} long with caps of ${formatFine(p.capMm, shop.lengths)}${p.release === 'none' ? '' : `; ${p.release} inside`}.`,
      ...p.inserts.map(
        (i, k) =>
          `Set in ${plural(fill.inserts[k].count, i.shape)} of ${name(i.material)}, ${formatFine(i.sizeMm, shop.lengths)}${i.shape === 'strip' ? ` × ${formatFine(i.thicknessMm ?? i.sizeMm, shop.lengths)}` : ''}: ${kg(fill.inserts[k].kg)}.`,
      ),
      `Make ${kg(fill.powderReadyKg)} of ${name(p.powder)} powder ready; ${kg(fill.powderKg)} goes in, in lifts, each tapped until it sinks no more.`,
      `Full, the can weighs ${kg(fill.fullKg)}: less, and there is a hollow.`,
      p.vent === 'none'
        ? 'Cap it.'
        : `Cap it and weld it shut but for a pinhole of ${formatFine(p.ventMm, shop.lengths)} at the ${p.vent}.`,
    ];
  },
  free: [
    {
      id: 'length',
      label: 'length',
      whole: false,
      most: 2000,
      of: (p) => p.lengthMm,
      with: (p, lengthMm) => ({ ...p, lengthMm }),
    },
  ],
});
