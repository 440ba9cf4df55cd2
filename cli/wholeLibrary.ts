import { fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { Known } from '../core/recipes/finding.ts';

/** More of them would each reckon the same flows anew. */
const MOST_PARTS = 4;
const PART = fileURLToPath(new URL('./libraryPart.ts', import.meta.url));

/** What all recipes show, worked out in parts on as many cores as there are. */
export async function wholeLibrary(): Promise<Known[]> {
  const of = Math.min(MOST_PARTS, availableParallelism());
  return (await Promise.all(Array.from({ length: of }, (_, part) => libraryPart(part, of)))).flat();
}

/** Ends with an error where the other process ends without an answer. */
const libraryPart = (part: number, of: number): Promise<readonly Known[]> =>
  new Promise((resolve, reject) => {
    const child = fork(PART, [String(part), String(of)], {
      execArgv: ['--import', 'tsx'],
      // Numbers by the thousand, as they are.
      serialization: 'advanced',
    });
    child.once('message', (known) => resolve(known as readonly Known[]));
    child.once('error', reject);
    child.once('exit', () => reject(new Error('The pictures to compare with could not be worked out')));
  });
