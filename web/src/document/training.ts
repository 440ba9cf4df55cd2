import { type Card, Rating, type ReviewLog, createEmptyCard, fsrs } from 'ts-fsrs';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { KINDS, type Level } from '../../../core/trainer/index.ts';

/** One exercise: always the same. */
export interface Asked {
  readonly kind: string;
  readonly level: Level;
  readonly seed: number;
}

/** Something that is to come back: a kind at a level, or one exercise that was missed. */
interface Due {
  readonly card: Card;
  readonly asked: Asked;
}

interface Training {
  readonly level: Level;
  /** Which kind alone, or all of them. */
  readonly kind: string;
  /** By kind and level, when the next of it is due. */
  readonly skills: Readonly<Record<string, Card>>;
  readonly missed: readonly Due[];
  /** Answered, and rightly, by kind and level. */
  readonly counts: Readonly<Record<string, readonly [asked: number, right: number]>>;
  readonly lastSeed: number;
}

export const ALL_KINDS = 'all';

/** Kept in the browser: nobody needs an account to practise. */
export const useTraining = create<Training>()(
  persist((): Training => ({ level: 1, kind: ALL_KINDS, skills: {}, missed: [], counts: {}, lastSeed: 0 }), {
    name: 'retablo-training',
    version: 1,
  }),
);

/** Intervals as the scheduler has them (FSRS, of the package ts-fsrs); half-known things come back sooner. */
const scheduler = fsrs({ enable_fuzz: false });

const keyOf = ({ kind, level }: Pick<Asked, 'kind' | 'level'>): string => `${kind} ${level}`;
const dueAt = (card: Card): number => new Date(card.due).getTime();
const rated = (card: Card, isRight: boolean): Card =>
  (scheduler.next(card, new Date(), isRight ? Rating.Good : Rating.Again) as { card: Card; log: ReviewLog })
    .card;

/** So many that were missed are kept. */
const MOST_MISSED = 60;

/** The next exercise: what was missed and is due; else of the kinds that are practised the one longest due, new ones first. */
export function nextAsked(): Asked {
  const { level, kind, skills, missed, lastSeed } = useTraining.getState();
  const wanted = (a: Asked) => kind === ALL_KINDS || a.kind === kind;
  const now = Date.now();
  const back = missed.filter((m) => wanted(m.asked) && dueAt(m.card) <= now);
  if (back.length > 0) return back.reduce((a, b) => (dueAt(b.card) < dueAt(a.card) ? b : a)).asked;
  const kinds = KINDS.filter((k) => kind === ALL_KINDS || k.id === kind);
  const due = (id: string): number => {
    const card = skills[keyOf({ kind: id, level })];
    return card ? dueAt(card) : 0;
  };
  const next = kinds.reduce((a, b) => (due(b.id) < due(a.id) ? b : a));
  return { kind: next.id, level, seed: lastSeed + 1 };
}

/** What was answered is kept, and when it comes back. */
export function answered(asked: Asked, isRight: boolean): void {
  const { skills, missed, counts, lastSeed } = useTraining.getState();
  const key = keyOf(asked);
  const [all, right] = counts[key] ?? [0, 0];
  const same = (m: Due) =>
    m.asked.kind === asked.kind && m.asked.level === asked.level && m.asked.seed === asked.seed;
  const known = missed.find(same);
  const others = missed.filter((m) => !same(m));
  // Once it is right after a wrong answer, and so learned, it goes; the kind itself comes again anyway.
  const again = isRight ? [] : [{ asked, card: rated(known?.card ?? createEmptyCard(), false) }];
  useTraining.setState({
    skills: { ...skills, [key]: rated(skills[key] ?? createEmptyCard(), isRight) },
    missed: [...others, ...again].slice(-MOST_MISSED),
    counts: { ...counts, [key]: [all + 1, right + (isRight ? 1 : 0)] },
    lastSeed: Math.max(lastSeed, asked.seed),
  });
}
