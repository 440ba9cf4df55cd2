import { type RefObject, useEffect, useState } from 'react';

/** The size of an element on screen, px, as it changes. */
export function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    if (!element.current) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      setSize((old) =>
        Math.abs(old.width - width) < 1 && Math.abs(old.height - height) < 1 ? old : { width, height },
      );
    });
    observer.observe(element.current);
    return () => observer.disconnect();
  }, [element]);
  return size;
}
