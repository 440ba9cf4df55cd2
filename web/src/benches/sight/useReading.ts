import { useEffect, useRef, useState } from 'react';

/** Something that is read beside the page; `end` stops it. */
interface Under<T> {
  readonly answer: Promise<T>;
  end(): void;
}

/** A reading under way: one at a time, the answers of earlier ones dropped, stopped when the page goes on without it. */
export function useReading<T>() {
  const [isReading, setIsReading] = useState(false);
  const [value, setValue] = useState<T | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const under = useRef<Under<T>>(undefined);
  const stop = () => {
    under.current?.end();
    under.current = undefined;
    setIsReading(false);
  };
  useEffect(() => () => under.current?.end(), []);
  return {
    isReading,
    /** The last answer; null once what it was asked of is no longer so. */
    value,
    failed,
    begin(mine: Under<T>) {
      stop();
      under.current = mine;
      const isLatest = () => under.current === mine;
      setFailed(null);
      setIsReading(true);
      mine.answer
        .then(
          (answer) => isLatest() && setValue(answer),
          (error: Error) => isLatest() && setFailed(error.message),
        )
        .finally(() => isLatest() && stop());
    },
    stop,
    forget() {
      stop();
      setValue(null);
    },
  };
}
