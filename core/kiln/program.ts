import { z } from 'zod';
import { nameText } from '../units/names.ts';
import { plainNumber, rateKPerH, temperatureC } from '../units/quantities.ts';

/** One leg: to a temperature (°C) at a rate (K/h; null: as fast as it goes), then held so many minutes. */
const segmentSchema = z.strictObject({
  rateKPerH: rateKPerH('Rate', 1, 5000).nullable(),
  targetC: temperatureC('Target', 0, 1400),
  holdMin: plainNumber('Hold', 0, 2880, 'min'),
  /** What to do by hand when the hold ends. */
  then: z.string().max(120).optional(),
});

export const programSchema = z.strictObject({
  id: z.string().min(1).max(60),
  name: nameText(80, 'The program needs a name'),
  material: z.string().min(1).max(40),
  segments: z
    .array(segmentSchema)
    .min(1, 'A program needs at least one leg')
    .max(30, 'A program may have at most 30 legs'),
  /** By the clock, minutes after midnight. */
  startMin: plainNumber('Start', 0, 1439, 'min'),
});

export type KilnSegment = z.infer<typeof segmentSchema>;
export type KilnProgram = z.infer<typeof programSchema>;

/** Of a program what the kiln is told. */
export interface Legs {
  readonly segments: readonly KilnSegment[];
}

/** What a kiln can do: hottest °C, K/h when cold at full power, thermocouple lag s. */
export interface Kiln {
  readonly maxC: number;
  readonly fullRateKPerH: number;
  readonly lagS: number;
}

export const ROOM_C = 20;

/** Seconds in which it would come most of the way to its greatest heat: first-order heater, τ = (T_max − T_room)/rate. */
export const kilnTimeConstant = ({ maxC, fullRateKPerH }: Kiln): number =>
  ((maxC - ROOM_C) / fullRateKPerH) * 3600;

/** K/h it can still climb at a temperature, at full power. */
export const climbAt = (kiln: Kiln, atC: number): number =>
  (3600 * (kiln.maxC - atC)) / kilnTimeConstant(kiln);

/** K/h it falls by itself at a temperature, power off and door shut. */
export const fallAt = (kiln: Kiln, atC: number): number => (3600 * (atC - ROOM_C)) / kilnTimeConstant(kiln);

/** Nearest to its greatest heat, or to the room, that a kiln is taken to get, K. */
const NEAR_K = 2;

/** Seconds from one temperature to another as fast as the kiln goes by itself. */
export function freeSeconds(kiln: Kiln, fromC: number, toC: number): number {
  const tau = kilnTimeConstant(kiln);
  if (toC >= fromC) return tau * Math.log((kiln.maxC - fromC) / Math.max(NEAR_K, kiln.maxC - toC));
  return tau * Math.log((fromC - ROOM_C) / Math.max(NEAR_K, toC - ROOM_C));
}

export interface KilnLeg {
  readonly segment: KilnSegment;
  readonly fromC: number;
  /** s after the start: when the leg begins, when it is at its target, when its hold ends. */
  readonly beginS: number;
  readonly thereS: number;
  readonly endS: number;
}

/** When each leg begins, arrives and ends, if the kiln keeps to the program. */
export function legsOf(program: Legs, kiln: Kiln): KilnLeg[] {
  let fromC = ROOM_C;
  let at = 0;
  return program.segments.map((segment) => {
    const span = Math.abs(segment.targetC - fromC);
    const free = freeSeconds(kiln, fromC, segment.targetC);
    const travel = segment.rateKPerH === null ? free : (3600 * span) / segment.rateKPerH;
    const leg = { segment, fromC, beginS: at, thereS: at + travel, endS: at + travel + 60 * segment.holdMin };
    at = leg.endS;
    fromC = segment.targetC;
    return leg;
  });
}

/** The setpoint so many seconds after the start, °C; after the end the last target. */
export function setpointAt(legs: readonly KilnLeg[], kiln: Kiln, seconds: number): number {
  const leg = legs.find((l) => seconds < l.endS) ?? legs[legs.length - 1];
  const { segment, fromC, beginS, thereS } = leg;
  if (seconds >= thereS || thereS === beginS) return segment.targetC;
  if (segment.rateKPerH !== null)
    return fromC + ((segment.targetC - fromC) * (seconds - beginS)) / (thereS - beginS);
  const left = Math.exp(-(seconds - beginS) / kilnTimeConstant(kiln));
  const towards = segment.targetC >= fromC ? kiln.maxC : ROOM_C;
  return towards + (fromC - towards) * left;
}

/** Clock time, `14:05`, with the day where it is not the first. */
export function clockTime(startMin: number, seconds: number): string {
  const minutes = Math.round(startMin + seconds / 60);
  const day = Math.floor(minutes / 1440);
  const [h, m] = [Math.floor((minutes % 1440) / 60), minutes % 60];
  const time = `${String(h).padStart(2, '0')}:${String(m).padStart(2, '0')}`;
  return day === 0 ? time : `${time} (${day === 1 ? 'next day' : `day ${day + 1}`})`;
}

/** Something a kiln cannot do, and what it can. */
export interface KilnProblem {
  readonly segment: number;
  readonly code: 'too hot' | 'too fast' | 'falls slower';
  /** What the kiln can do instead: °C, or K/h. */
  readonly possible: number;
  readonly set: Partial<KilnSegment>;
}

/** Checks a program against the shop's kiln: hottest, climbing rate near the target, falling rate by itself. */
export function kilnProblems(program: KilnProgram, kiln: Kiln): KilnProblem[] {
  return legsOf(program, kiln).flatMap(({ segment, fromC }, i): KilnProblem[] => {
    const { targetC, rateKPerH } = segment;
    const most = kiln.maxC - NEAR_K;
    if (targetC > most) return [{ segment: i, code: 'too hot', possible: most, set: { targetC: most } }];
    if (rateKPerH === null || targetC === fromC) return [];
    const climbs = targetC > fromC;
    const can = climbs ? climbAt(kiln, targetC) : fallAt(kiln, targetC);
    if (rateKPerH <= can * (1 + 1e-9)) return [];
    const possible = Math.floor(can / 5) * 5;
    return [
      {
        segment: i,
        code: climbs ? 'too fast' : 'falls slower',
        possible,
        set: { rateKPerH: possible >= 5 ? possible : null },
      },
    ];
  });
}
