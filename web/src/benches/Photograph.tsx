import { useEffect, useMemo, useRef, useState } from 'react';
import { api } from '../document/api.ts';
import { usePhotographs } from '../document/photographs.ts';
import { usePlanStore } from '../document/planStore.ts';

/** Between looks for one that is not there yet, ms. */
const AGAIN_MS = 3000;

/** A photograph, small: from the server, or from here until it is there. */
export function Photograph({ id, alt, width = 180 }: { id: string; alt: string; width?: number }) {
  const projectId = usePlanStore((state) => state.projectId);
  const file = usePhotographs((state) => state.waiting.get(id)?.file);
  const own = useMemo(() => file && URL.createObjectURL(file), [file]);
  useEffect(
    () => () => {
      if (own) URL.revokeObjectURL(own);
    },
    [own],
  );
  const [tried, setTried] = useState(0);
  const missing = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => () => clearTimeout(missing.current), []);
  if (!projectId) return null;
  return (
    <img
      src={own ?? `${api.photographUrl(projectId, id, 'small')}${tried > 0 ? `&again=${tried}` : ''}`}
      alt={alt}
      // Another device may have written of it and not sent it yet.
      onError={() => {
        missing.current = setTimeout(() => setTried(tried + 1), AGAIN_MS);
      }}
      style={{ width, maxHeight: width, objectFit: 'contain' }}
    />
  );
}
