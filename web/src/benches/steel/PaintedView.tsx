import { useEffect, useRef } from 'react';
import type { Painted } from '../../../../core/render/paint.ts';

/** A picture that was painted beside the page, `widthPx` wide on the screen. */
export function PaintedView({ picture, label, width }: { picture: Painted; label: string; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { widthPx, heightPx, rgba } = picture;
  useEffect(() => {
    canvas.current?.getContext('2d')?.putImageData(new ImageData(rgba, widthPx, heightPx), 0, 0);
  }, [rgba, widthPx, heightPx]);
  return (
    <canvas
      ref={canvas}
      width={widthPx}
      height={heightPx}
      data-painted="sharp"
      role="img"
      aria-label={label}
      style={{ display: 'block', width, height: (width * heightPx) / widthPx }}
    />
  );
}
