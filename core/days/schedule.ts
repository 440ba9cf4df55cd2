import { type WallS, type Window, type WorkHours, hoursOf, DAY_S, openFrom } from './hours.ts';
import type { Leg, Task } from './tasks.ts';

/** A stretch of a task that lies in the days. */
export interface Slot extends Window {
  readonly task: string;
  readonly what: 'soak' | 'dies' | Exclude<Leg['what'], 'heat'>;
  /** Whose hands, from 0; null where it goes by itself. */
  readonly maker: number | null;
}

/** The days of some tasks: in the order in which they begin, and when each task is over. */
export interface Days {
  readonly slots: readonly Slot[];
  readonly ends: ReadonlyMap<string, WallS>;
  /** Tasks that could not be laid, and why. */
  readonly left: readonly { readonly task: string; readonly why: string }[];
}

/** Cold work that is left is gone on with for at least so long, s. */
const LEAST_STRETCH_S = 900;
/** Stretches of one task more than this are no plan. */
const MOST_STRETCHES = 400;

const overlaps = (a: Window, b: Window): boolean => a.fromS < b.toS && b.fromS < a.toS;

/** So many may be in use at once: makers' hands one each, places in the fire, the kiln. */
class Resource {
  readonly taken: Window[] = [];
  private readonly places: number;
  constructor(places: number) {
    this.places = places;
  }

  /** When it may be tried again to have it for all of a window; the window's own begin where it is free. */
  freeFrom(window: Window): WallS {
    const meeting = this.taken.filter((t) => overlaps(t, window));
    const full = [window.fromS, ...meeting.map((t) => t.fromS)].filter((s) => {
      const at = Math.max(s, window.fromS);
      return meeting.filter((t) => t.fromS <= at && at < t.toS).length >= this.places;
    });
    if (full.length === 0) return window.fromS;
    return Math.min(...meeting.map((t) => t.toS).filter((s) => s > window.fromS));
  }

  /** How long it stays free from a moment on. */
  freeUntil(s: WallS): WallS {
    return Math.min(Infinity, ...this.taken.filter((t) => t.toS > s).map((t) => Math.max(s, t.fromS)));
  }
}

/** Longest way to the end of everything, s: what has most behind it comes first. */
function tails(tasks: readonly Task[]): Map<string, number> {
  const known = new Map<string, number>();
  const next = new Map<string, Task[]>();
  for (const task of tasks) for (const id of task.after) next.set(id, [...(next.get(id) ?? []), task]);
  const own = ({ legs }: Task) =>
    legs.reduce((sum, leg) => sum + (leg.what === 'heat' ? leg.soakS + leg.workS : leg.seconds), 0);
  const tail = (task: Task, seen: ReadonlySet<string>): number => {
    const was = known.get(task.id);
    if (was !== undefined) return was;
    if (seen.has(task.id)) return 0;
    const mine = new Set([...seen, task.id]);
    const length = own(task) + Math.max(0, ...(next.get(task.id) ?? []).map((t) => tail(t, mine)));
    known.set(task.id, length);
    return length;
  };
  for (const task of tasks) tail(task, new Set());
  return known;
}

/**
 * Lays tasks of any number of pieces into the shop's hours from `nowS` on: one after the other, what has the longest way before it
 * first, each as early as hands, fire and kiln allow (serial scheduling by priority). A fire is never left alone: soaks lie inside
 * the hours, and not before the forge is hot. Cooling and the kiln go on by themselves, nights too. Cold work may be left and gone
 * on with. Serial schedule generation: R. Kolisch, European Journal of Operational Research 90 (1996), recalled.
 */
export function laidInDays(tasks: readonly Task[], hours: WorkHours, nowS: WallS): Days {
  const makers = Array.from({ length: hours.makers }, () => new Resource(1));
  const fire = new Resource(hours.barsInFire);
  const kiln = new Resource(1);
  const slots: Slot[] = [];
  const ends = new Map<string, WallS>();
  const left: { task: string; why: string }[] = [];
  const byTail = tails(tasks);
  const waiting = [...tasks].sort((a, b) => byTail.get(b.id)! - byTail.get(a.id)!);
  const known = new Set(tasks.map((t) => t.id));
  const take = (what: Slot['what'], task: string, window: Window, maker: number | null = null) => {
    slots.push({ task, what, ...window, maker });
  };

  /** The maker who can begin soonest; of those the one who had this task before. */
  const soonest = (fromS: WallS, had: number | null): number => {
    const starts = makers.map((m) => m.freeFrom({ fromS, toS: fromS + 1 }));
    const best = Math.min(...starts);
    return had !== null && starts[had] === best ? had : starts.indexOf(best);
  };

  function layHeat(task: string, leg: Extract<Leg, { what: 'heat' }>, ready: WallS): WallS | string {
    let s = ready;
    for (let i = 0; i < MOST_STRETCHES * 10; i++) {
      const open = openFrom(hours, s);
      if (!open) return 'The shop is never open.';
      const day = Math.floor(open.fromS / DAY_S);
      const hot = hoursOf(hours, day)!.fromS + 60 * hours.lightMin;
      s = Math.max(open.fromS, hot);
      const [inS, outS, endS] = [s, s + leg.soakS, s + leg.soakS + leg.workS];
      if (hot + leg.soakS + leg.workS > open.toS)
        return `One heat of it takes longer than the shop is open with a hot forge.`;
      if (endS > open.toS) {
        s = (day + 1) * DAY_S;
        continue;
      }
      const inFire = fire.freeFrom({ fromS: inS, toS: outS });
      if (inFire > inS) {
        s = inFire;
        continue;
      }
      const dies = { fromS: outS, toS: endS };
      const frees = makers.map((m) => m.freeFrom(dies));
      const maker = frees.indexOf(outS);
      if (maker < 0) {
        s += Math.min(...frees) - outS;
        continue;
      }
      fire.taken.push({ fromS: inS, toS: outS });
      makers[maker].taken.push(dies);
      take('soak', task, { fromS: inS, toS: outS });
      take('dies', task, dies, maker);
      return endS;
    }
    return 'There is no room for it in the days ahead.';
  }

  function layBench(task: string, seconds: number, ready: WallS): WallS | string {
    let [s, rest, had]: [WallS, number, number | null] = [ready, seconds, null];
    for (let i = 0; i < MOST_STRETCHES; i++) {
      const open = openFrom(hours, s);
      if (!open) return 'The shop is never open.';
      const maker = soonest(open.fromS, had);
      const fromS = makers[maker].freeFrom({ fromS: open.fromS, toS: open.fromS + 1 });
      if (fromS >= open.toS) {
        s = fromS;
        continue;
      }
      const toS = Math.min(open.toS, makers[maker].freeUntil(fromS), fromS + rest);
      if (toS - fromS < Math.min(rest, LEAST_STRETCH_S)) {
        s = Math.max(toS, fromS + 1);
        continue;
      }
      makers[maker].taken.push({ fromS, toS });
      take('bench', task, { fromS, toS }, maker);
      [s, rest, had] = [toS, rest - (toS - fromS), maker];
      if (rest <= 0) return s;
    }
    return 'There is no room for it in the days ahead.';
  }

  function layKiln(task: string, seconds: number, ready: WallS): WallS | string {
    // Somebody begins it.
    const open = openFrom(hours, ready);
    if (!open) return 'The shop is never open.';
    let window = { fromS: open.fromS, toS: open.fromS + seconds };
    for (let s = kiln.freeFrom(window); s > window.fromS; s = kiln.freeFrom(window)) {
      const next = openFrom(hours, s)!.fromS;
      window = { fromS: next, toS: next + seconds };
    }
    kiln.taken.push(window);
    take('kiln', task, window);
    return window.toS;
  }

  // Whole seconds, so that nothing is left over by rounding.
  const layLeg = (task: string, leg: Leg, ready: WallS): WallS | string => {
    if (leg.what === 'heat')
      return layHeat(task, { ...leg, soakS: Math.ceil(leg.soakS), workS: Math.ceil(leg.workS) }, ready);
    const seconds = Math.ceil(leg.seconds);
    if (leg.what === 'bench') return layBench(task, seconds, ready);
    if (leg.what === 'kiln') return layKiln(task, seconds, ready);
    take(leg.what, task, { fromS: ready, toS: ready + seconds });
    return ready + seconds;
  };

  const lay = (task: Task): void => {
    const stuck = task.after.find((id) => left.some((l) => l.task === id));
    let at: WallS | string = task.isStopped
      ? 'It cannot be done as the piece stands: open the piece to see why.'
      : stuck === undefined
        ? Math.max(Math.ceil(nowS), ...task.after.flatMap((id) => ends.get(id) ?? []))
        : 'What comes before it cannot be laid.';
    for (const leg of task.legs) if (typeof at === 'number') at = layLeg(task.id, leg, at);
    if (typeof at === 'number') ends.set(task.id, at);
    else left.push({ task: task.id, why: at });
  };

  while (waiting.length > 0) {
    const isReady = (t: Task) =>
      t.after.every((id) => !known.has(id) || ends.has(id) || left.some((l) => l.task === id));
    const at = waiting.findIndex(isReady);
    if (at < 0) {
      left.push(...waiting.map(({ id }) => ({ task: id, why: 'It waits for something that waits for it.' })));
      break;
    }
    lay(waiting.splice(at, 1)[0]);
  }
  slots.sort((a, b) => a.fromS - b.fromS || a.toS - b.toS);
  return { slots, ends, left };
}
