import { useEffect, useRef } from 'react';
import type { MoveKind } from '../../../../core/moves/index.ts';
import type { Painted } from '../../../../core/render/paint.ts';
import { ask } from '../../document/workers/host.ts';

/** What each move does to a striped bar: worked out once, one after another as they are asked for. */
const pictures = new Map<MoveKind, Promise<Painted | null>>();

function pictureOf(kind: MoveKind): Promise<Painted | null> {
  const known = pictures.get(kind) ?? ask('moves', (api) => api.movePicture(kind));
  pictures.set(kind, known);
  // Asked again the next time.
  known.catch(() => pictures.delete(kind));
  return known;
}

/** Hangs a move's picture into a canvas as soon as it is there; without one the canvas stays empty. */
export function useMovePicture(kind: MoveKind) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let gone = false;
    pictureOf(kind).then(
      (picture) => {
        if (gone || !picture || !canvas.current) return;
        const { widthPx, heightPx, rgba } = picture;
        Object.assign(canvas.current, { width: widthPx, height: heightPx });
        canvas.current.getContext('2d')?.putImageData(new ImageData(rgba, widthPx, heightPx), 0, 0);
      },
      () => undefined,
    );
    return () => {
      gone = true;
    };
  }, [kind]);
  return canvas;
}
