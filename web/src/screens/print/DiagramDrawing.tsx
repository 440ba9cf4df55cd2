import { Box } from '@mui/material';
import type { Diagram } from '../../../../core/print/diagrams.ts';
import { colours, fonts } from '../../ui/theme.ts';

/** Largest size of each kind, CSS px: pieces as they lie, the bar from the side, what is written on the ends, tiles in the row. */
const MOST_HIGH: Record<Diagram['what'], number> = {
  'as they lie': 130,
  'the bar from the side': 48,
  'as they will lie': 74,
  'in the row': 56,
};
const MOST_WIDE = 420;
const MARGIN = 2;
const TINTS = { steel: '#e9e2d3', strip: '#b9b2a4', paper: '#ffffff' } as const;
const TURNED = { up: 0, right: 90, down: 180, left: 270 } as const;

/** A diagram of the sheet for the wall, as in its PDF. */
export function DiagramDrawing({ diagram }: { diagram: Diagram }) {
  const { what, caption, widthMm, heightMm, shapes, cuts, words, arrows } = diagram;
  const perMm = Math.min(MOST_WIDE / widthMm, MOST_HIGH[what] / heightMm);
  const x = (mm: number) => MARGIN + mm * perMm;
  const y = (mm: number) => MARGIN + (heightMm - mm) * perMm;
  return (
    <Box component="figure" sx={{ m: 0, breakInside: 'avoid', maxWidth: '100%' }}>
      <svg
        viewBox={`0 0 ${widthMm * perMm + 2 * MARGIN} ${heightMm * perMm + 2 * MARGIN}`}
        width={widthMm * perMm + 2 * MARGIN}
        style={{ display: 'block', maxWidth: '100%' }}
        role="img"
        aria-label={caption}
      >
        {shapes.map(({ outline, tint }, i) => (
          <polygon
            key={i}
            points={outline.map(([px, py]) => `${x(px)},${y(py)}`).join(' ')}
            fill={TINTS[tint]}
            stroke={colours.faded}
          />
        ))}
        {cuts.map(([from, to], i) => (
          <line
            key={i}
            x1={x(from[0])}
            y1={y(from[1])}
            x2={x(to[0])}
            y2={y(to[1])}
            stroke={colours.oxide}
            strokeWidth={1.6}
          />
        ))}
        {words.map(({ at, text, roomMm }, i) => {
          const size = Math.min(15, Math.max(7, roomMm * perMm * (text.length > 2 ? 0.55 : 0.8)));
          return (
            <text
              key={i}
              x={x(at[0])}
              y={y(at[1])}
              fontSize={size}
              fontWeight={700}
              fontFamily={fonts.numbers}
              textAnchor="middle"
              dominantBaseline="central"
              fill={colours.ink}
            >
              {text}
            </text>
          );
        })}
        {arrows.map(({ at, to, longMm }, i) => {
          const half = Math.min(20, longMm * perMm) / 2;
          return (
            <g key={i} transform={`translate(${x(at[0])} ${y(at[1])}) rotate(${TURNED[to]})`}>
              <line y1={half} y2={-half * 0.2} stroke={colours.ink} strokeWidth={1.6} />
              <polygon
                points={`0,${-half} ${half * 0.4},${-half * 0.15} ${-half * 0.4},${-half * 0.15}`}
                fill={colours.ink}
              />
            </g>
          );
        })}
      </svg>
      <figcaption style={{ fontSize: '8pt', color: colours.faded }}>{caption}</figcaption>
    </Box>
  );
}
