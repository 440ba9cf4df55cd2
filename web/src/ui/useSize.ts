import { useCallback, useState } from 'react';

interface Size {
  readonly width: number;
  readonly height: number;
}

const NONE: Size = { width: 0, height: 0 };

/** The size of an element on screen, px, as it changes: whichever element is given to the ref, and whenever it comes. */
export function useSize(): readonly [
  ref: (element: HTMLElement | null) => (() => void) | undefined,
  size: Size,
] {
  const [size, setSize] = useState(NONE);
  const ref = useCallback((element: HTMLElement | null) => {
    if (!element) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize((old) =>
        Math.abs(old.width - width) < 1 && Math.abs(old.height - height) < 1 ? old : { width, height },
      );
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
      setSize(NONE);
    };
  }, []);
  return [ref, size];
}
