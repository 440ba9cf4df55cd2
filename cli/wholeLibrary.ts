import { fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { KnownFlows } from '../core/flow/flows.ts';
import type { FlowStage } from '../core/flow/run.ts';
import type { Known } from '../core/recipes/finding.ts';

/** More of them would each reckon the same flows anew. */
const MOST_PARTS = 4;
const PART = fileURLToPath(new URL('./libraryPart.ts', import.meta.url));

/** What a part comes to. */
export interface LibraryPart {
  readonly known: readonly Known[];
  readonly stages: readonly (readonly [key: string, stage: FlowStage])[];
}

/** What all recipes show, worked out in parts on as many cores as there are; the flows that it took are known then too. */
export async function wholeLibrary(flows: KnownFlows): Promise<Known[]> {
  const of = Math.min(MOST_PARTS, availableParallelism());
  const stop = new AbortController();
  const parts = await Promise.all(
    Array.from({ length: of }, (_, part) => libraryPart(part, of, stop.signal)),
  ).catch((error: unknown) => {
    // One that failed leaves none of the others at work.
    stop.abort();
    throw error;
  });
  for (const [key, stage] of parts.flatMap((part) => part.stages)) flows.keep(key, stage);
  return parts.flatMap((part) => part.known);
}

/** Ends with an error where the other process ends without an answer. */
const libraryPart = (part: number, of: number, signal: AbortSignal): Promise<LibraryPart> =>
  new Promise((resolve, reject) => {
    const child = fork(PART, [String(part), String(of)], {
      execArgv: ['--import', 'tsx'],
      // Numbers by the thousand, as they are.
      serialization: 'advanced',
      signal,
    });
    child.once('message', (answer) => resolve(answer as LibraryPart));
    child.once('error', reject);
    child.once('exit', () => reject(new Error('The pictures to compare with could not be worked out')));
  });
