import { figured } from '../../../words/figures.ts';
import type { Billet } from '../../../billet/billet.ts';
import { type Can, USUAL_TAP, barsOf, fillOf, roomOf } from '../../../canister/can.ts';
import {
  type Insert,
  halfSizes,
  insertVolume,
  isBall,
  isBent,
  isOfLanes,
  isToothed,
  isWire,
  isRound,
  worstOverlap,
} from '../../../canister/inserts.ts';
import { allPlaced, closeLayers, insideBent, layOut, mostThatLie } from '../../../canister/layout.ts';
import { isLooseCan } from '../../../canister/standing.ts';
import { totalVolume } from '../../../materials/volumes.ts';
import { leastPitch } from '../../../geometry/bodies.ts';
import { beyondWall } from '../../../canister/room.ts';
import { manyOf } from '../../../instruct/canWords.ts';
import { materialById } from '../../../materials/material.ts';
import { type Shop } from '../../../shop/shop.ts';
import { formatFine, formatLength, formatSizes } from '../../../units/length.ts';
import { formatMass } from '../../../units/mass.ts';
import { error, note, warning } from '../../contract/common.ts';
import { type Finding } from '../../contract/move.ts';

/** Gaps between close-packed balls take balls up to this share of their diameter (octahedral; handbook, canister). */
const NESTS = 0.414;
/** mm. A vent wider than this lets air in (handbook, canister: one pinhole of 1–2 mm). */
const WIDEST_VENT_MM = 2;
/** Poured powder lies no closer (handbook, canister: 50–55 % of solid; balls that were only poured to 60 %). */
const MOST_POURED = 0.58;
/** Wider than this many heights the middle is neither heated nor pressed well (common practice, no source). */
const MOST_ASPECT = 2;

const insertName = (i: Insert, shop: Shop): string =>
  i.shape === 'bar'
    ? 'Bars of other lanes'
    : isOfLanes(i)
      ? 'Patterned offcuts'
      : `${materialById(shop.materials, i.material)?.name ?? i.material} ${manyOf(i.shape)}`;

/** A wire that cannot be wound, or linked, so: what is wrong, and the nearest that can. */
function checkWire(
  insert: Insert,
  put: (some: Partial<Insert>) => Record<string, unknown>,
  shop: Shop,
): Finding[] {
  if (!isWire(insert)) return [];
  const { shape, sizeMm, wireMm = 0, pitchMm = 0, strands = 1 } = insert;
  const fine = (mm: number) => formatFine(mm, shop.lengths);
  const name = insertName(insert, shop);
  const wrong = (code: string, text: string, label: string, some: Partial<Insert>) => [
    error(code, text, { parameter: 'inserts', remedy: { label, set: put(some) } }),
  ];
  // The inside of a link holds the two beside it; a coil has a hollow.
  const thickest = shape === 'chain' ? sizeMm / LINK_WIRES : sizeMm / 2;
  if (wireMm > thickest * (1 - 1e-9)) {
    const thinner = Math.floor(10 * thickest * 0.9) / 10;
    return wrong(
      'thick wire',
      `${name} ${fine(sizeMm)} wide cannot be made of wire ${fine(wireMm)} thick: it must be thinner than ${fine(thickest)}.`,
      `Wire of ${fine(thinner)}`,
      { wireMm: thinner },
    );
  }
  const least =
    shape === 'chain'
      ? Math.max(2 * wireMm, sizeMm - 2 * wireMm)
      : leastPitch(wireMm, sizeMm - wireMm, strands);
  if (pitchMm >= least * (1 - 1e-9)) return [];
  const longer = Math.ceil(10 * least) / 10;
  return wrong(
    'close turns',
    `${name}: ${shape === 'chain' ? 'links' : 'turns'} every ${fine(pitchMm)} run into each other; at least every ${fine(least)}.`,
    `Every ${fine(longer)}`,
    { pitchMm: longer },
  );
}

/** Pieces of other lanes that are too little for the offcuts that are to be sawn off them, or that none can be sawn off. */
export function checkLanes(p: Can, pieces: readonly Billet[], shop: Shop): Finding[] {
  const room = roomOf(p);
  return barsOf(p, pieces).flatMap((bars, i): Finding[] => {
    const insert = p.inserts[i];
    if (insert.shape === 'bar') return [];
    if (bars.some(isLooseCan))
      return [
        error(
          'loose offcuts',
          'Of a can whose powder is still loose nothing can be sawn off: press it solid in its own lane first, or stand it in whole, as a bar.',
          {
            parameter: 'inserts',
            remedy: {
              label: 'Stand it in whole',
              set: {
                inserts: p.inserts.map((o, k) => (k === i ? { ...o, shape: 'bar', lay: 'rows' } : o)),
              },
            },
          },
        ),
      ];
    const there = bars.reduce((sum, b) => sum + totalVolume(b.volumes), 0);
    const most = Math.floor(there / insertVolume(insert, room));
    if (bars.length === 0 || insert.count <= most) return [];
    return [
      error(
        'too few offcuts',
        `The pieces that the offcuts are sawn from make ${most} of ${formatFine(insert.sizeMm, shop.lengths)}, not ${insert.count}.`,
        {
          parameter: 'inserts',
          ...(most > 0 && {
            remedy: {
              label: `Only ${most} of them`,
              set: { inserts: p.inserts.map((o, k) => (k === i ? { ...o, count: most } : o)) },
            },
          }),
        },
      ),
    ];
  });
}

/** Teeth deeper than half the blade leave nothing that holds them. */
function checkTeeth(insert: Insert, put: (some: Partial<Insert>) => Record<string, unknown>, shop: Shop) {
  const deepest = insert.sizeMm / 2;
  if (!isToothed(insert) || insert.toothMm! < deepest) return [];
  const shallower = Math.floor(5 * deepest) / 10;
  return [
    error(
      'deep teeth',
      `${insertName(insert, shop)} ${formatFine(insert.sizeMm, shop.lengths)} wide cannot have teeth ${formatFine(insert.toothMm!, shop.lengths)} deep: at most half of it.`,
      {
        parameter: 'inserts',
        remedy: {
          label: `Teeth ${formatFine(shallower, shop.lengths)} deep`,
          set: put({ toothMm: shallower }),
        },
      },
    ),
  ];
}

/** A link is at least so many wires wide outside: the next one's wire goes through it. */
const LINK_WIRES = 3;

/** What keeps inserts in: the wall, or the rods that are bent round it. */
const wallSaid = (p: Can): string => (p.inserts.some(isBent) ? 'the wall or the bent rods' : 'the wall');

export function checkInserts(p: Can, shop: Shop): Finding[] {
  const room = roomOf(p);
  const findings = p.inserts.flatMap((insert, i) => {
    const put = (some: Partial<Insert>) => ({
      inserts: p.inserts.map((o, k) => (k === i ? { ...o, ...some } : o)),
    });
    return [...checkWire(insert, put, shop), ...checkTeeth(insert, put, shop)];
  });
  if (findings.length > 0) return findings;
  const places = layOut(p.inserts, room);
  p.inserts.forEach((insert, i) => {
    const most = places[i].length;
    const name = insertName(insert, shop);
    const fewer = (count: number) => ({ inserts: p.inserts.map((o, k) => (k === i ? { ...o, count } : o)) });
    if (most === 0)
      findings.push(
        error(
          'too large',
          p.inserts.length > 1 && mostThatLie(insert, room) > 0
            ? `${name} of ${formatFine(insert.sizeMm, shop.lengths)} find no room beside what else stands in the can.`
            : `${name} of ${formatFine(insert.sizeMm, shop.lengths)} do not fit into the can at all.`,
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
  const placed = allPlaced(p.inserts, room);
  const worst = worstOverlap(placed, insideBent(p.inserts, room));
  if (worst)
    findings.push(
      warning(
        'overlap',
        `${insertName(placed[worst.first].insert, shop)} run ${formatFine(worst.mm, shop.lengths)} into ${
          worst.second === 'wall' ? wallSaid(p) : insertName(placed[worst.second].insert, shop)
        }: they cannot lie so. Lay fewer, or pour them again.`,
        { parameter: 'inserts' },
      ),
    );
  return findings;
}

/** Balls of unlike size, balls in two layers, and inserts pressed against a flat wall. */
export function adviseInserts(p: Can, shop: Shop): Finding[] {
  const room = roomOf(p);
  const findings: Finding[] = [];
  // Where all were poured they have settled round one another already.
  const allBalls = p.inserts.filter(isBall);
  const balls = allBalls.every((i) => i.lay === 'placed') ? [] : allBalls.map((i) => i.sizeMm);
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
                isBall(i) && i.sizeMm < large && i.sizeMm > NESTS * large
                  ? { ...i, sizeMm: Math.floor(NESTS * large * 10) / 10 }
                  : i,
              ),
            },
          },
          why: {
            ...figured('ball in a gap', NESTS * large),
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
  if (atWall && !p.inserts.some((i) => i.lay === 'rim' || isBent(i)))
    findings.push(
      warning(
        'flat wall',
        'Inserts lie against a flat wall, where nothing round presses back: the weld fails there. Rods around the rim cure it.',
        {
          parameter: 'inserts',
          ...rimRemedy(p, shop),
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
    layOut(p.inserts, room)[p.inserts.indexOf(insert)].some(
      ({ x, y }) => beyondWall(room, x, y, a, b, true) > -near,
    )
  );
};

/** Rods as thick as a sixteenth of the can are tried first, then thinner ones. */
const RIM_SHARES = [1 / 16, 1 / 20, 1 / 24, 1 / 32];
const THINNEST_RIM_MM = 2;

/** A can larger by a rim of thin rods, set around what is there; nothing where none fit. */
function rimRemedy(p: Can, shop: Shop) {
  const inches = shop.lengths.unit === 'in';
  const rods = RIM_SHARES.map((share) => {
    const mm = share * Math.min(p.widthMm, p.heightMm);
    return inches ? 25.4 * (Math.round((mm / 25.4) * 32) / 32) : Math.round(2 * mm) / 2;
  });
  for (const rodMm of rods.filter((mm) => mm >= THINNEST_RIM_MM)) {
    const [widthMm, heightMm] = [p.widthMm + 2 * rodMm, p.heightMm + 2 * rodMm];
    const wider = { ...p, widthMm, heightMm };
    const rim: Insert = {
      shape: 'rod',
      material: p.inserts[0].material,
      sizeMm: rodMm,
      count: 1,
      lay: 'rim',
    };
    const count = mostThatLie(rim, roomOf(wider));
    const inserts = [...p.inserts, { ...rim, count }];
    if (count < 4 || worstOverlap(allPlaced(inserts, roomOf(wider)), roomOf(wider))) continue;
    return {
      remedy: {
        label: `${count} rods of ${formatFine(rodMm, shop.lengths)} around the rim`,
        set: { widthMm, heightMm, inserts },
      },
    };
  }
  return {};
}

export function adviseBox(p: Can, shop: Shop): Finding[] {
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
  if (p.filling === 'poured' && p.tapDensity > MOST_POURED)
    say(
      'poured loosely',
      `Powder that is poured in alone seldom fills more than 50 to 55 % with steel, not ${Math.round(100 * p.tapDensity)} %: it weighs less then, and comes out smaller.`,
      'tapDensity',
      `Reckon with ${Math.round(100 * USUAL_TAP.poured)} %`,
      { tapDensity: USUAL_TAP.poured },
    );
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

/** Less made ready than goes in. */
export function adviseReady(p: Can, bars: readonly Billet[], shop: Shop): Finding[] {
  const fill = fillOf(p, shop.materials, bars);
  const counted = p.inserts.flatMap((insert, i) => {
    const { readyCount = 0 } = insert;
    if (readyCount === 0 || readyCount >= insert.count) return [];
    const name = insertName(insert, shop);
    const inserts = p.inserts.map((o, k) => (k === i ? { ...o, count: readyCount } : o));
    return [
      warning(
        'not enough',
        `${readyCount} ${name} are ready and ${insert.count} go in: ${insert.count - readyCount} more.`,
        {
          parameter: 'inserts',
          remedy: { label: `Lay ${readyCount}`, set: { inserts } },
        },
      ),
    ];
  });
  const weighed = fill.powders.flatMap(({ powder, kg }) => {
    const ready = p.readyKg?.[powder] ?? 0;
    const wanted = kg * (1 + p.spill);
    if (ready <= 0 || ready >= wanted) return [];
    const name = materialById(shop.materials, powder)?.name ?? powder;
    // Everything but the caps is as long as the room: so much shorter the same powder fills it.
    const depthMm = Math.floor(10 * roomOf(p).depthMm * (ready / wanted)) / 10;
    return [
      warning(
        'not enough',
        `${formatMass(ready, shop.masses)} of ${name} powder are on the shelf; ${formatMass(wanted, shop.masses)} are wanted with what is spilt: ${formatMass(wanted - ready, shop.masses)} more.`,
        {
          parameter: 'readyKg',
          remedy: {
            label: `Shorten the can to ${formatLength(depthMm + 2 * p.capMm, shop.lengths)}`,
            set: { lengthMm: depthMm + 2 * p.capMm },
          },
        },
      ),
    ];
  });
  return [...counted, ...weighed];
}
