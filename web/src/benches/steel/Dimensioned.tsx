import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { colours, fonts } from '../../ui/theme.ts';

interface DimensionedProps {
  width: number;
  height: number;
  across: string;
  up: string;
  children: ReactNode;
}

/** Room that the dimension lines take beside and below a picture, px. */
export const DIMENSION_ROOM = { right: 104, below: 34 };

/** Baseline of a figure that would else be cut off above, px. */
const LEAST_TEXT = 13;

/** Width of a figure's digit, px. */
const DIGIT_PX = 9.7;

const Tick = ({ x1, y1, x2, y2 }: { x1: number; y1: number; x2: number; y2: number }) => (
  <line x1={x1} y1={y1} x2={x2} y2={y2} stroke={colours.ink} strokeWidth={1} />
);

/** A picture with its two dimension lines: width below, height to the right. */
export function Dimensioned({ width, height, across, up, children }: DimensionedProps) {
  // A figure wider than a narrow bar stands to the right of the bar's left edge rather than being cut off.
  const half = (across.length * DIGIT_PX) / 2;
  const middle = Math.max(width / 2, half);
  const text = { fontFamily: fonts.numbers, fontSize: 16, fill: colours.ink } as const;
  return (
    <Box
      sx={{
        position: 'relative',
        width: width + DIMENSION_ROOM.right,
        height: height + DIMENSION_ROOM.below,
      }}
    >
      {children}
      <svg
        width={width + DIMENSION_ROOM.right}
        height={height + DIMENSION_ROOM.below}
        style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}
        aria-hidden
      >
        <Tick x1={0} y1={height + 4} x2={0} y2={height + 14} />
        <Tick x1={width} y1={height + 4} x2={width} y2={height + 14} />
        <Tick x1={0} y1={height + 9} x2={width} y2={height + 9} />
        <text x={middle} y={height + 29} textAnchor="middle" {...text}>
          {across}
        </text>
        <Tick x1={width + 4} y1={0} x2={width + 14} y2={0} />
        <Tick x1={width + 4} y1={height} x2={width + 14} y2={height} />
        <Tick x1={width + 9} y1={0} x2={width + 9} y2={height} />
        <text x={width + 18} y={Math.max(LEAST_TEXT, height / 2 + 5)} {...text}>
          {up}
        </text>
      </svg>
    </Box>
  );
}
