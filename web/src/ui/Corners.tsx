import { Box } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import type { Four, Point } from '../../../core/sighting/homography.ts';
import type { Photo } from '../../../core/sighting/photo.ts';
import { inOrder } from '../../../core/sighting/sighting.ts';
import { fire } from './fireTheme.ts';
import { useSize } from './useSize.ts';

/** A handle is pressed within so many px of it; the magnifier shows so much, so large. */
const TOUCH_PX = 34;
/** Of a narrow section no more than this share of its side, so that one is not taken for another; nor less than a fingertip finds. */
const TOUCH_SHARE = 0.45;
const LEAST_TOUCH_PX = 14;
const GLASS_PX = 190;
const ENLARGED = 3;
/** A step of the arrow keys, dots of the photograph; with Shift. */
const STEP = 1;
const STRIDE = 10;

const KEYS: Readonly<Record<string, Point>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

interface CornersProps {
  photo: Photo;
  corners: Four;
  onChange(corners: Four): void;
}

/** A picture of the dots, drawn once. */
function usePicture({ width, height, rgba }: Photo): HTMLCanvasElement {
  const [canvas] = useState(() => {
    const made = document.createElement('canvas');
    made.width = width;
    made.height = height;
    const dots = new ImageData(Uint8ClampedArray.from(rgba), width, height);
    made.getContext('2d')?.putImageData(dots, 0, 0);
    return made;
  });
  return canvas;
}

/** The photograph with the four lines of the section, dragged by their corners or their middles; what is dragged is enlarged beside it. */
export function Corners({ photo, corners, onChange }: CornersProps) {
  const [frame, { width: room }] = useSize();
  const [held, setHeld] = useState<{ readonly which: readonly number[]; readonly at: Point } | null>(null);
  const picture = usePicture(photo);
  const sheet = useRef<HTMLCanvasElement>(null);
  const glass = useRef<HTMLCanvasElement>(null);
  const scale = Math.min(room / photo.width, 620 / photo.height) || 0;
  const [width, height] = [Math.round(photo.width * scale), Math.round(photo.height * scale)];
  useEffect(() => {
    const context = sheet.current?.getContext('2d');
    context?.drawImage(picture, 0, 0, width, height);
  }, [picture, width, height]);
  const [shownX, shownY] = held?.at ?? [0, 0];
  useEffect(() => {
    const context = glass.current?.getContext('2d');
    if (!context) return;
    const half = GLASS_PX / 2;
    const by = Math.max(1, ENLARGED * scale);
    context.fillStyle = fire.ground;
    context.fillRect(0, 0, GLASS_PX, GLASS_PX);
    context.drawImage(picture, half - shownX * by, half - shownY * by, photo.width * by, photo.height * by);
    context.strokeStyle = fire.ember;
    context.beginPath();
    context.moveTo(half, 0);
    context.lineTo(half, GLASS_PX);
    context.moveTo(0, half);
    context.lineTo(GLASS_PX, half);
    context.stroke();
  }, [picture, photo, scale, shownX, shownY, held]);
  const move = (which: readonly number[], [dx, dy]: Point): void => {
    const within = (v: number, most: number) => Math.max(-0.1 * most, Math.min(1.1 * most, v));
    const moved = corners.map(([x, y], k): Point =>
      which.includes(k) ? [within(x + dx, photo.width), within(y + dy, photo.height)] : [x, y],
    );
    onChange(moved as unknown as Four);
    setHeld({ which, at: placeOf(moved as unknown as Four, which) });
  };
  // Corners lie over the middles, which they share.
  const handles = [[0, 1], [1, 2], [2, 3], [3, 0], [0], [1], [2], [3]];
  const shortest = Math.min(
    ...corners.map(([x, y], k) => Math.hypot(corners[(k + 1) % 4][0] - x, corners[(k + 1) % 4][1] - y)),
  );
  const touchPx = Math.max(LEAST_TOUCH_PX, Math.min(TOUCH_PX, TOUCH_SHARE * shortest * scale));
  return (
    <Box ref={frame} sx={{ minWidth: 0 }}>
      <Box sx={{ position: 'relative', width, height, mx: 'auto' }}>
        <canvas ref={sheet} width={width} height={height} style={{ display: 'block' }} aria-hidden />
        <svg
          width={width}
          height={height}
          style={{ position: 'absolute', inset: 0, touchAction: 'none', overflow: 'visible' }}
          role="group"
          aria-label="The edges of the section on the photograph"
        >
          <polygon
            points={inOrder(corners)
              .map(([x, y]) => `${x * scale},${y * scale}`)
              .join(' ')}
            fill="none"
            stroke={fire.ember}
            strokeWidth={2}
          />
          {handles.map((which) => (
            <Handle
              key={which.join()}
              at={placeOf(corners, which)}
              which={which}
              scale={scale}
              touchPx={touchPx}
              drag={(by) => move(which, by)}
              hold={(on) => setHeld(on ? { which, at: placeOf(corners, which) } : null)}
            />
          ))}
        </svg>
        {held && (
          <canvas
            ref={glass}
            width={GLASS_PX}
            height={GLASS_PX}
            aria-hidden
            style={{
              position: 'absolute',
              top: 0,
              // On the side where no finger is.
              [held.at[0] * scale > width / 2 ? 'left' : 'right']: 0,
              border: `2px solid ${fire.ember}`,
              borderRadius: '50%',
              pointerEvents: 'none',
            }}
          />
        )}
      </Box>
    </Box>
  );
}

/** A corner, or the middle between two. */
function placeOf(corners: Four, which: readonly number[]): Point {
  const at = (axis: 0 | 1) => which.reduce((sum, k) => sum + corners[k][axis] / which.length, 0);
  return [at(0), at(1)];
}

interface HandleProps {
  at: Point;
  which: readonly number[];
  scale: number;
  /** It is pressed within so many px of it. */
  touchPx: number;
  /** By how much, dots of the photograph. */
  drag(by: Point): void;
  hold(on: boolean): void;
}

function Handle({ at, which, scale, touchPx, drag, hold }: HandleProps) {
  const [from, setFrom] = useState<Point | null>(null);
  const [x, y] = [at[0] * scale, at[1] * scale];
  const isCorner = which.length === 1;
  const name = isCorner ? `Corner ${which[0] + 1}` : `Edge ${which[0] + 1}`;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${name}, at ${Math.round(at[0])}, ${Math.round(at[1])}: drag it, or move it with the arrow keys`}
      onFocus={() => hold(true)}
      onBlur={() => hold(false)}
      onKeyDown={(event) => {
        const way = KEYS[event.key];
        if (!way) return;
        event.preventDefault();
        const by = event.shiftKey ? STRIDE : STEP;
        drag([way[0] * by, way[1] * by]);
      }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setFrom([event.clientX, event.clientY]);
        hold(true);
      }}
      onPointerMove={(event) => {
        if (!from) return;
        drag([(event.clientX - from[0]) / scale, (event.clientY - from[1]) / scale]);
        setFrom([event.clientX, event.clientY]);
      }}
      onPointerUp={() => setFrom(null)}
      onPointerCancel={() => setFrom(null)}
      style={{ cursor: 'grab' }}
    >
      <circle cx={x} cy={y} r={touchPx} fill="transparent" />
      {isCorner ? (
        <circle
          cx={x}
          cy={y}
          r={11}
          fill={fire.ground}
          fillOpacity={0.35}
          stroke={fire.ember}
          strokeWidth={3}
        />
      ) : (
        <rect x={x - 7} y={y - 7} width={14} height={14} fill={fire.ember} />
      )}
    </g>
  );
}
