import type { ReactNode } from 'react';
import { colours } from '../../ui/theme.ts';

const DARK = '#3a3a3c';
const BRIGHT = '#d5cdbd';

/** An end grain drawn plainly, 60 × 60, for a choice that has no steel of its own yet. */
const drawn = (inside: ReactNode) => (
  <svg
    viewBox="-1 -1 62 62"
    height="84"
    style={{ display: 'block', margin: '0 auto 10px' }}
    stroke={colours.ink}
    strokeWidth={0.8}
    aria-hidden
  >
    {inside}
  </svg>
);

const LAYERS = [0, 1, 2, 3, 4, 5];

/** A re-squared quarter of a mirrored four-way: its layers bow round the outer corner, and leave a star in the middle. */
const Corner = ({ turn }: { turn: number }) => (
  <g transform={`rotate(${turn} 30 30)`}>
    {[30, 22, 14, 6].map((r, i) => (
      <path
        key={r}
        d={`M ${r} 0 A ${r} ${r} 0 0 1 0 ${r} L 0 0 Z`}
        fill={i % 2 ? DARK : BRIGHT}
        stroke="none"
      />
    ))}
  </g>
);

/** What a bar may begin as, each told by its end. */
export const PICTURES = {
  stack: drawn(
    LAYERS.map((i) => <rect key={i} x={0} y={10 * i} width={60} height={10} fill={i % 2 ? BRIGHT : DARK} />),
  ),
  bar: drawn(<rect x={8} y={8} width={44} height={44} fill={DARK} />),
  found: drawn(
    <>
      <rect x={0} y={0} width={60} height={60} fill={DARK} />
      {[0, 1, 2].map((i) => (
        <path
          key={i}
          d={`M ${4 + 18 * i} 0 C ${24 + 18 * i} 20 ${-12 + 18 * i} 40 ${8 + 18 * i} 60 l 7 0 C ${-4 + 18 * i} 40 ${32 + 18 * i} 20 ${11 + 18 * i} 0 Z`}
          fill={BRIGHT}
          stroke="none"
        />
      ))}
    </>,
  ),
  canister: drawn(
    <>
      <rect x={0} y={0} width={60} height={60} fill={DARK} />
      <rect x={4} y={4} width={52} height={52} fill={BRIGHT} />
      {[0, 1, 2].flatMap((i) =>
        [0, 1, 2].map((j) => (
          <circle key={`${i}${j}`} cx={14 + 16 * i} cy={14 + 16 * j} r={6.5} fill={DARK} />
        )),
      )}
    </>,
  ),
  pieces: drawn(
    [0, 1, 2].flatMap((i) =>
      [0, 1, 2].map((j) => (
        <rect
          key={`${i}${j}`}
          x={20 * i + 1}
          y={20 * j + 1}
          width={18}
          height={18}
          fill={(i + j) % 2 ? BRIGHT : DARK}
        />
      )),
    ),
  ),
  wish: drawn(
    <>
      <rect x={0} y={0} width={60} height={60} fill={DARK} />
      {[0, 90, 180, 270].map((turn) => (
        <Corner key={turn} turn={turn} />
      ))}
      <path d="M 30 0 V 60 M 0 30 H 60" />
    </>,
  ),
} as const;
