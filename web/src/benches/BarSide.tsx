import { Box } from '@mui/material';

import { sizeOf } from '../../../core/billet/billet.ts';
import { type StepResult, sawnFromTheSide } from '../../../core/plan/index.ts';
import type { Shop } from '../../../core/shop/shop.ts';
import type { SideSawing } from '../../../core/moves/index.ts';
import { formatLength } from '../../../core/units/index.ts';
import { colours, fonts } from '../ui/theme.ts';
import { useSize } from '../ui/useSize.ts';

const MARGIN = 14;
const BAR_TOP = 4;
/** px. A leaning saw on a short high bar is drawn no higher. */
const MOST_HIGH = 120;

const sawingOf = (result: StepResult, shop: Shop): SideSawing | null =>
  result.after && sawnFromTheSide(result, shop);

/** Keeps every so many marks, so that their figures do not run into one another. */
const everyNth = (count: number, roomPx: number, eachPx: number): number =>
  Math.max(1, Math.ceil((count * eachPx) / roomPx));

/** px. Of a figure as it is written here. */
const LETTER_PX = 8.5;

/** Where the middle of a figure stands that is to be read whole. */
function within(atPx: number, figure: string, widthPx: number): number {
  const half = (figure.length * LETTER_PX) / 2;
  return Math.max(half, Math.min(widthPx - half, atPx));
}

/** The bar from the side with its saw cuts, end A to the left. Nothing for moves that do not saw. */
export function BarSide({ result, shop }: { result: StepResult; shop: Shop }) {
  const [box, { width }] = useSize();
  const sawing = sawingOf(result, shop);
  if (!sawing) return null;
  const [bar] = result.before;
  const { heightMm } = sizeOf(bar);
  const slants = sawing.saws.some((saw) => saw.bottomMm !== saw.topMm);
  // One scale both ways where a saw leans, so that the angle drawn is the angle sawn.
  const perMm = Math.max(
    0,
    Math.min((width - 2 * MARGIN) / bar.lengthMm, slants ? MOST_HIGH / heightMm : Infinity),
  );
  const height = slants ? heightMm * perMm : Math.min(54, Math.max(18, heightMm * perMm));
  const up = height / heightMm;
  const x = (mm: number) => MARGIN + mm * perMm;
  const nameEvery = everyNth(sawing.names.length, width, 22);
  const markEvery = everyNth(sawing.saws.length, width, 78);
  const text = { fontFamily: fonts.numbers, fontSize: 14, textAnchor: 'middle' as const, fill: colours.ink };
  const label = `${result.before.length > 1 ? 'Each piece' : 'The bar'} from the side, ${formatLength(bar.lengthMm, shop.lengths)} long, with ${sawing.saws.length} saw cuts`;
  return (
    <Box ref={box} sx={{ width: '100%' }}>
      <svg width={width} height={height + 26} role="img" aria-label={label}>
        <rect
          x={MARGIN}
          y={BAR_TOP}
          width={bar.lengthMm * perMm}
          height={height}
          fill="#d5cdbd"
          stroke={colours.faded}
        />
        <text x={MARGIN - 3} y={BAR_TOP + height / 2 + 5} {...text} textAnchor="end">
          A
        </text>
        <text x={x(bar.lengthMm) + 3} y={BAR_TOP + height / 2 + 5} {...text} textAnchor="start">
          B
        </text>
        {sawing.saws.map((saw, i) => (
          <g key={i}>
            <line
              x1={x(saw.bottomMm)}
              y1={saw.from === undefined ? BAR_TOP + height + 3 : BAR_TOP + height - saw.from * up}
              x2={x(saw.topMm)}
              y2={saw.to === undefined ? BAR_TOP - 3 : BAR_TOP + saw.to * up}
              stroke={colours.oxide}
              strokeWidth={2}
            />
            {saw.mark && i % markEvery === 0 && (
              <text x={within(x(saw.bottomMm), saw.mark, width)} y={BAR_TOP + height + 19} {...text}>
                {saw.mark}
              </text>
            )}
          </g>
        ))}
        {sawing.names.map((name, i) =>
          i % nameEvery === 0 ? (
            <text key={i} x={x(name.atMm)} y={BAR_TOP + height / 2 + 5} {...text}>
              {name.text}
            </text>
          ) : null,
        )}
      </svg>
    </Box>
  );
}
