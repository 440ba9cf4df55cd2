import * as Comlink from 'comlink';
import { create } from 'zustand';
import { digestOf } from '../../../core/flow/stored.ts';
import { type SeamQuestion, seamKey } from '../../../core/loose/question.ts';
import type { SeamAnswer } from '../../../core/loose/stored.ts';
import { request } from './api.ts';
import { askApart } from './workers/host.ts';

/** Answers kept beside the page at most. */
const MOST = 40;

interface SeamState {
  readonly answers: ReadonlyMap<string, SeamAnswer>;
  /** The question that is being worked out, and how far it is. */
  readonly running: { readonly key: string; readonly share: number } | null;
  /** What went wrong with a question, in words. */
  readonly failed: { readonly key: string; readonly why: string } | null;
}

/** What is known of seams, by the question word for word: an answer is shown for no other. */
export const useSeams = create<SeamState>()(() => ({ answers: new Map(), running: null, failed: null }));

let under: { readonly key: string; end(): void } | null = null;

function learn(key: string, answer: SeamAnswer): void {
  const answers = new Map(useSeams.getState().answers).set(key, answer);
  if (answers.size > MOST) answers.delete(answers.keys().next().value!);
  useSeams.setState({ answers });
}

/** Takes over what the database has of a question; what is still worked out for another is stopped. */
export async function lookUpSeams(question: SeamQuestion): Promise<void> {
  const key = seamKey(question);
  if (under && under.key !== key) stopSeams();
  if (useSeams.getState().answers.has(key)) return;
  try {
    const { answer } = await request<{ answer: SeamAnswer | null }>('GET', `/seams/${digestOf(key)}`);
    if (answer) learn(key, answer);
  } catch {
    // Then it is worked out here, when it is asked for.
  }
}

/** Has a question worked out; what was under way before it is stopped. */
export function workOutSeams(question: SeamQuestion): void {
  stopSeams();
  const key = seamKey(question);
  const mine = askApart('seams', (api) =>
    api.seamReport(
      question,
      Comlink.proxy((share) => under?.key === key && useSeams.setState({ running: { key, share } })),
    ),
  );
  under = { key, end: mine.end };
  useSeams.setState({ running: { key, share: 0 }, failed: null });
  mine.answer.then(
    (answer) => {
      learn(key, answer);
      // If it cannot be kept it is worked out again another time: nothing is lost by it.
      request('PUT', `/seams/${digestOf(key)}`, answer).catch(() => undefined);
      over(key);
    },
    (error: Error) => {
      if (under?.key !== key) return;
      useSeams.setState({ failed: { key, why: error.message } });
      over(key);
    },
  );
}

function over(key: string): void {
  if (under?.key !== key) return;
  under = null;
  useSeams.setState({ running: null });
}

/** Stops what is under way. */
export function stopSeams(): void {
  under?.end();
  under = null;
  useSeams.setState({ running: null });
}
