import { figured } from '../words/figures.ts';
import { type Billet, sizeOf } from '../billet/billet.ts';
import { outlineArea } from '../geometry/outline.ts';
import { shapeOf } from '../geometry/shapes.ts';
import {
  type Conduction,
  HOT_STEEL,
  type Soaking,
  heatingOf,
  packedSteel,
  soakSeconds,
} from '../heat/soak.ts';
import { cooledTo, coolingRate, coolingSeconds } from '../heat/cooling.ts';
import { materialById } from '../materials/material.ts';
import { weldingWindow } from '../materials/welding.ts';
import type { Shop } from '../shop/shop.ts';
import { type Finding, moveOf } from '../moves/index.ts';
import { caution, warning } from '../moves/contract/common.ts';
import { formatFine, formatSizes } from '../units/length.ts';
import { COMMON_PRACTICE, type Figure } from '../units/figure.ts';
import { formatDegrees, formatTemperature } from '../units/temperature.ts';
import { formatTime } from '../units/time.ts';
import { type Judge, NOTHING_TO_SAY, heatsOf, heaviest, lowestIn } from './judgement.ts';

const ROOM_C = 20;
/** Minutes beyond which scale and grain are worth a warning (common practice, no source). */
const LONG_SOAK_S = 45 * 60;
/** A bar this many widths long is soaked as if it had no ends. */
const LONG = 4;
const INCROPERA = 'F. P. Incropera and D. P. DeWitt, Fundamentals of Heat and Mass Transfer, ch. 5';

const soaking = (bar: Billet, fireC: number, shop: Shop): Soaking => {
  const { widthMm, heightMm } = sizeOf(bar);
  const short = bar.lengthMm < LONG * Math.max(widthMm, heightMm);
  return {
    round: shapeOf(bar.outline) === 'round',
    widthMm,
    heightMm,
    lengthMm: short ? bar.lengthMm : undefined,
    fromC: ROOM_C,
    fireC,
    surfaceWm2K: shop.forge.surfaceWm2K,
    conduction: conductionOf(bar),
  };
};

/** Solid steel, or what a can is full of while it is loose. */
function conductionOf(bar: Billet): Conduction {
  if (!bar.can?.loose) return HOT_STEEL;
  const { parts, insertMm3, inside } = bar.can.loose;
  const across = inside ? outlineArea(inside) : 4 * parts.halfWidthMm * parts.halfHeightMm;
  const room = across * (parts.toMm - parts.fromMm);
  return packedSteel(1 - bar.can.poresMm3 / room, insertMm3 / room);
}

const known = new WeakMap<Billet, Map<string, number>>();

/** Seconds until a bar is hot through in one heat; worked out once for a bar, fire and shop. */
export function soakOf(bar: Billet, fireC: number, shop: Shop): number {
  const { surfaceWm2K, withinK } = shop.forge;
  const key = `${fireC} ${surfaceWm2K} ${withinK}`;
  const mine = known.get(bar) ?? new Map<string, number>();
  known.set(bar, mine);
  const seconds = mine.get(key) ?? soakSeconds(soaking(bar, fireC, shop), withinK);
  mine.set(key, seconds);
  return seconds;
}

const POINTS = 48;

function soakFigure(bar: Billet, fireC: number, shop: Shop): Figure {
  const soak = soaking(bar, fireC, shop);
  const seconds = soakOf(bar, fireC, shop);
  const heating = heatingOf(soak);
  const double = soakSeconds(
    { ...soak, widthMm: 2 * soak.widthMm, heightMm: 2 * soak.heightMm },
    shop.forge.withinK,
  );
  const inUnit = (c: number) => (shop.temperatures === 'C' ? c : (c * 9) / 5 + 32);
  const line = (name: string, at: (s: number) => number) => ({
    name,
    points: Array.from({ length: POINTS + 1 }, (_, i): [number, number] => {
      const s = (1.4 * seconds * i) / POINTS;
      return [s / 60, inUnit(at(s))];
    }),
  });
  return {
    ...figured('soak', seconds),
    value: formatTime(seconds),
    formula: soak.round
      ? 'θ = Σ Cₙ exp(−ζₙ² Fo), ζ J₁(ζ)/J₀(ζ) = Bi: a long cylinder'
      : 'θ = Σ Cₙ exp(−ζₙ² Fo), ζ tan ζ = Bi; the slabs’ product for a bar',
    inputs: [
      ['section', formatSizes([soak.widthMm, soak.heightMm], shop.lengths)],
      ['fire', formatTemperature(fireC, shop.temperatures)],
      ['hot through', `middle within ${formatDegrees(shop.forge.withinK, shop.temperatures)}`],
      ['heat from the fire', `${shop.forge.surfaceWm2K} W/m²K`],
      [
        bar.can?.loose ? 'powder and inserts' : 'steel',
        `k ${conductionOf(bar).kWmK.toFixed(1)} W/mK, ρc ${(conductionOf(bar).heatJm3K / 1e6).toFixed(2)} MJ/m³K`,
      ],
      ['twice as thick', formatTime(double)],
    ],
    source: INCROPERA,
    curve: () => ({
      across: 'min',
      up: shop.temperatures === 'C' ? '°C' : '°F',
      lines: [line('edge', (s) => heating.edgeC(s)), line('middle', (s) => heating.centreC(s))],
    }),
  };
}

/** Volume over radiating surface of a long bar, mm. */
function radiating(bar: Billet): number {
  const round = bar.outline.reduce((sum, [x, y], i) => {
    const [x1, y1] = bar.outline[(i + 1) % bar.outline.length];
    return sum + Math.hypot(x1 - x, y1 - y);
  }, 0);
  return outlineArea(bar.outline) / round;
}

/** What a bar falls to, °C, after so many seconds out of the fire. */
export const heatAfter = (bar: Billet, fromC: number, seconds: number): number =>
  cooledTo({ thicknessMm: radiating(bar), heatJm3K: HOT_STEEL.heatJm3K }, fromC, seconds);

/** Where work has to stop: the bottom of the welding window, or where steel cracks. */
function leastHeat(bar: Billet, welds: boolean, shop: Shop): number {
  if (!welds) return shop.forge.stopC;
  return Math.max(shop.forge.stopC, weldingWindow(bar.volumes, shop.materials)?.low ?? 0);
}

function timeFigure(bar: Billet, atC: number, leastC: number, shop: Shop): Figure & { seconds: number } {
  const cooling = { thicknessMm: radiating(bar), heatJm3K: HOT_STEEL.heatJm3K };
  const seconds = coolingSeconds(cooling, atC, leastC);
  return {
    seconds,
    ...figured('time in hand', seconds),
    value: formatTime(seconds),
    formula: 't = ρcV / (3εσA) · (1/T₁³ − 1/T₀³), kelvin',
    inputs: [
      ['out of the fire at', formatTemperature(atC, shop.temperatures)],
      ['down to', formatTemperature(leastC, shop.temperatures)],
      ['volume over surface', formatFine(cooling.thicknessMm, shop.lengths)],
      ['falls at first', `${formatDegrees(coolingRate(cooling, atC), shop.temperatures)} a second`],
      ['emissivity', '0.8'],
    ],
    source: 'Stefan–Boltzmann law, the bar taken as one temperature',
  };
}

function hotFindings(bar: Billet, atC: number, welds: boolean, shop: Shop): Finding[] {
  if (welds) return [];
  const soft = lowestIn(bar, shop);
  const at = (c: number) => formatTemperature(c, shop.temperatures);
  if (soft && atC === soft.limitC)
    return [
      caution(
        'forged cooler',
        `${soft.name} inside: forge it at ${at(soft.limitC)} at most, not at the shop’s ${at(shop.forge.forgingC)}. Hotter it squirts out: stand aside, and press lightly.`,
      ),
    ];
  const low = Object.keys(bar.volumes)
    .filter((id) => bar.volumes[id] > 0)
    .map((id) => materialById(shop.materials, id)!)
    .reduce((a, b) => (b.limitC < a.limitC ? b : a));
  if (atC <= low.limitC) return [];
  return [
    warning(
      'forging hot',
      `Forged at ${formatTemperature(atC, shop.temperatures)}, ${low.name} inside stands at most ${formatTemperature(low.limitC, shop.temperatures)}: it squirts out or burns.`,
      {
        remedy: {
          label: `Forge at ${formatTemperature(low.limitC, shop.temperatures)}`,
          shop: { forge: { ...shop.forge, forgingC: low.limitC } },
        },
        why: {
          ...figured('hottest allowed', low.limitC),
          value: formatTemperature(low.limitC, shop.temperatures),
          formula: 'the lowest limit of everything in the billet',
          inputs: [[low.name, formatTemperature(low.limitC, shop.temperatures)]],
          source: low.source,
        },
      },
    ),
  ];
}

export const judgeFire: Judge = (subject) => {
  const { shop, result } = subject;
  const { heats, atC } = heatsOf(subject);
  const bar = heaviest(subject);
  if (heats === 0 || !bar) return NOTHING_TO_SAY;
  const welds = moveOf(result.step.kind).welds ?? false;
  const leastC = leastHeat(bar, welds, shop);
  const soak = soakFigure(bar, atC, shop);
  const { seconds, ...time } = timeFigure(bar, atC, leastC, shop);
  const wait = soakOf(bar, atC, shop);
  const findings: Finding[] = hotFindings(bar, atC, welds, shop);
  if (wait > LONG_SOAK_S)
    findings.push(
      warning(
        'slow soak',
        `The middle needs ${formatTime(wait)} to come within ${formatDegrees(shop.forge.withinK, shop.temperatures)} of the fire; scale and grain grow all the while. Nearer square, or a thinner section, soaks sooner.`,
        { why: soak },
      ),
    );
  if (seconds < shop.forge.carryS) {
    const hottest = welds ? (weldingWindow(bar.volumes, shop.materials)?.high ?? Infinity) : atC;
    const better = timeFigure(bar, hottest, leastC, shop).seconds;
    findings.push(
      warning(
        'no time',
        `It is below ${formatTemperature(leastC, shop.temperatures)} ${formatTime(seconds)} out of the fire, and the dies are ${formatTime(shop.forge.carryS)} away.`,
        {
          ...(welds && better >= shop.forge.carryS
            ? {
                parameter: 'temperatureC',
                remedy: {
                  label: `Take it to ${formatTemperature(hottest, shop.temperatures)}`,
                  set: { temperatureC: hottest },
                },
              }
            : {}),
          why: time,
        },
      ),
    );
  }
  return { figures: [...(welds ? [windowFigure(bar, shop)] : []), soak, time], findings };
};

function windowFigure(bar: Billet, shop: Shop): Figure {
  const degrees = (c: number) => formatTemperature(c, shop.temperatures);
  const all = Object.keys(bar.volumes)
    .filter((id) => bar.volumes[id] > 0)
    .map((id) => materialById(shop.materials, id)!);
  const window = weldingWindow(bar.volumes, shop.materials);
  return {
    ...figured('welding window', window?.low ?? 0),
    value: !window
      ? 'none known'
      : window.low > window.high
        ? 'no overlap'
        : `${degrees(window.low)} to ${degrees(window.high)}`,
    formula: window?.caps
      ? 'the window of what melts low: it caps the heat'
      : 'the overlap of the windows of everything in the billet',
    inputs: all.map((m) => [
      m.name,
      m.weldC ? `${degrees(m.weldC[0])} to ${degrees(m.weldC[1])}` : 'does not weld',
    ]),
    source: COMMON_PRACTICE,
  };
}
