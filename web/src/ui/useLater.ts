import { useDeferredValue } from 'react';

/** False when a component is first drawn, true soon after: for what takes long, so that the rest is on the screen before it. */
export const useLater = (): boolean => useDeferredValue(true, false);
