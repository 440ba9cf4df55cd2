import type { Billet } from '../billet/billet.ts';
import type { Action } from '../instruct/action.ts';
import { Bench } from './bench.ts';
import type { Thing } from './thing.ts';

/** What lies on the bench once some of an instruction is done. */
export interface Scene {
  readonly things: readonly Thing[];
  /** It was just pressed, between dies above and below. */
  readonly dies: boolean;
  /** And a quarter turn about its length was made between the stops, there and back. */
  readonly rolls: boolean;
}

/** What is done between the dies. */
const PRESSED: ReadonlySet<Action['do']> = new Set([
  'draw',
  'press both ways',
  'knock corners',
  'lean',
  'press',
  'press wedge',
  'press bow-tie',
  'press solid',
  'forge flat',
]);

/** Whether both sides come between the dies by turns. */
function rollsIn(a: Action): boolean {
  if (a.do === 'draw' || a.do === 'press solid') return new Set(a.passes.map((p) => p.pressed)).size > 1;
  return a.do === 'press both ways' || a.do === 'knock corners';
}

/**
 * How the pieces lie before an instruction, and after each part of it: the same data as its words are made from. Every scene is as
 * the words leave it; between two of them each thing goes the shortest way.
 */
export function scenesOf(bars: readonly Billet[], parts: readonly (readonly Action[])[]): Scene[] {
  // Once through to know the places: the first piece of a row lies where it does once the row is full.
  const through = new Bench(bars, null);
  for (const action of parts.flat()) through.follow(action);
  const bench = new Bench(bars, through.assembly());
  const scenes: Scene[] = [{ things: bench.lying(), dies: false, rolls: false }];
  for (const actions of parts) {
    for (const action of actions) bench.follow(action);
    scenes.push({
      things: bench.lying(),
      dies: actions.some((a) => PRESSED.has(a.do)),
      rolls: actions.some(rollsIn),
    });
  }
  return scenes;
}
