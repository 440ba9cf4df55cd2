import { type ChildProcess, fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import type { Grey } from '../core/likeness/grey.ts';
import { scoreOf } from '../core/likeness/pose.ts';
import type { Wish } from '../core/plan/index.ts';
import { ANSWERS, type Near, type Piece, type Share } from '../core/recipes/index.ts';
import type { Alike } from './likePart.ts';

/** More of them would each reckon the same flows anew. */
const MOST_PARTS = 4;
const PART = fileURLToPath(new URL('./likePart.ts', import.meta.url));

/** What is looked for: one repeat of a picture, as the face of a piece. */
export interface Asked {
  readonly picture: Grey;
  readonly piece: Piece;
  readonly wish: Wish;
  /** Recipes to look among; all where none is named. */
  readonly among: readonly string[];
  /** Where none is named, what was found is planned. */
  readonly share?: Share;
  readonly found?: readonly Near[];
}

/** Plans like a picture, nearest first: looked for side by side on as many cores as there are, each among recipes of its own. */
export async function alikeInParts(asked: Omit<Asked, 'share' | 'found'>): Promise<Alike[]> {
  const of = Math.min(MOST_PARTS, availableParallelism());
  const parts = Array.from({ length: of }, () =>
    fork(PART, {
      execArgv: ['--import', 'tsx'],
      // Numbers by the thousand, as they are.
      serialization: 'advanced',
    }),
  );
  try {
    const found = await Promise.all(
      parts.map((child, part) => answer<Near[]>(child, { ...asked, share: { part, of } })),
    );
    const best = found
      .flat()
      .sort((a, b) => scoreOf(b) - scoreOf(a))
      .slice(0, ANSWERS);
    const planned = await Promise.all(
      parts.map((child, part) =>
        answer<Alike[]>(child, { ...asked, found: best.filter((_, i) => i % of === part) }),
      ),
    );
    return planned.flat().sort((a, b) => likeness(b) - likeness(a));
  } finally {
    // One that failed leaves none of the others at work.
    for (const child of parts) child.kill();
  }
}

/** What cannot be made comes last. */
const likeness = (alike: Alike): number => (alike.ok && alike.like ? scoreOf(alike.like) : -1);

/** Ends with an error where the other process ends without an answer. */
const answer = <T>(child: ChildProcess, asked: Asked): Promise<T> =>
  new Promise((resolve, reject) => {
    const ended = (): void => {
      reject(new Error('The pictures to compare with could not be worked out'));
    };
    child.once('exit', ended);
    child.once('error', reject);
    child.once('message', (told) => {
      child.off('exit', ended);
      child.off('error', reject);
      resolve(told as T);
    });
    child.send(asked);
  });
