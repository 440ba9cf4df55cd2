import { useEffect, useState } from 'react';

/** An answer that is being worked out: what is there, whether it is the present one, and what went wrong. */
export interface AskedAnswer<T> {
  /** The last answer; while `asking` it is that of an earlier question. */
  readonly value: T | null;
  readonly asking: boolean;
  readonly error: string | null;
}

type Question<T> = (() => Promise<T>) | null;

interface Answered<T> {
  readonly question: Question<T>;
  readonly value: T | null;
  readonly error: string | null;
}

/** Asks again whenever `question` is another function; an answer that comes late is dropped, one that fails is told. */
export function useAsked<T>(question: Question<T>): AskedAnswer<T> {
  const [last, setLast] = useState<Answered<T>>({ question: null, value: null, error: null });
  useEffect(() => {
    if (!question) return;
    let stale = false;
    question().then(
      (value) => !stale && setLast({ question, value, error: null }),
      (error: Error) => !stale && setLast({ question, value: null, error: error.message }),
    );
    return () => {
      stale = true;
    };
  }, [question]);
  const asking = question === null || last.question !== question;
  return { value: last.value, asking, error: asking ? null : last.error };
}
