import { useEffect, useMemo } from 'react';
import { api } from '../document/api.ts';
import { usePhotographs } from '../document/photographs.ts';
import { usePlanStore } from '../document/planStore.ts';

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
  if (!projectId) return null;
  return (
    <img
      src={own ?? api.photographUrl(projectId, id, 'small')}
      alt={alt}
      style={{ width, maxHeight: width, objectFit: 'contain' }}
    />
  );
}
