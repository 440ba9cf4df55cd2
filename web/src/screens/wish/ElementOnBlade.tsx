import { Box } from '@mui/material';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { outlineMm } from '../../../../core/blade/index.ts';
import type { Plan, Wish } from '../../../../core/plan/index.ts';
import { handy } from '../../../../core/units/handy.ts';
import { formatLength, quantitiesOf } from '../../../../core/units/index.ts';
import { wishSchema } from '../../../../core/plan/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { colours, fonts } from '../../ui/theme.ts';

interface ElementOnBladeProps {
  plan: Plan;
  wish: Wish;
  change(some: Partial<Wish>): void;
}

const of = quantitiesOf(wishSchema);
/** mm. Round the blade. */
const MARGIN = 6;
/** Of the blade's width, one element where nothing was wished yet. */
const FIRST = 0.45;

/** The blade, or the bar, with one element on it: its corner is dragged to the size that is wished for. */
export function ElementOnBlade({ plan, wish, change }: ElementOnBladeProps) {
  const shop = useShop();
  const svg = useRef<SVGSVGElement>(null);
  const { blade, goal } = plan;
  const [long, high] = blade ? [blade.lengthMm, blade.heightMm] : [goal.lengthMm, goal.widthMm];
  const along = wish.alongMm ?? FIRST * high;
  const across = wish.acrossMm ?? FIRST * high;
  const isOpen = wish.alongMm === undefined && wish.acrossMm === undefined;
  const outline = blade
    ? outlineMm(blade)
        .map(([u, v]) => `${u},${high - v}`)
        .join(' ')
    : `0,0 ${long},0 ${long},${high} 0,${high}`;
  // It lies where the blade is wide.
  const [left, top] = [0.12 * long, (high - Math.min(across, high)) / 2];
  const set = (a: number, b: number) =>
    change({
      alongMm: handy(
        Math.min(of('alongMm').most, Math.max(of('alongMm').least, Math.min(a, long))),
        of('alongMm'),
        shop,
      ),
      acrossMm: handy(
        Math.min(of('acrossMm').most, Math.max(of('acrossMm').least, Math.min(b, high))),
        of('acrossMm'),
        shop,
      ),
    });
  const drag = (event: PointerEvent) => {
    const matrix = svg.current?.getScreenCTM();
    if (event.buttons === 0 || !matrix) return;
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    // The middle stays where it is across the blade.
    set(at.x - left, 2 * (at.y - high / 2));
  };
  const step = (key: KeyboardEvent) => {
    const by = key.shiftKey ? 5 : 1;
    const moves: Record<string, readonly [number, number]> = {
      ArrowRight: [by, 0],
      ArrowLeft: [-by, 0],
      ArrowDown: [0, by],
      ArrowUp: [0, -by],
    };
    const move = moves[key.key];
    if (!move) return;
    key.preventDefault();
    set(along + move[0], across + move[1]);
  };
  const said = `${formatLength(along, shop.lengths)} along, ${formatLength(across, shop.lengths)} across`;
  const type = Math.max(high / 9, long / 45);
  return (
    <Box sx={{ touchAction: 'none' }}>
      <svg
        ref={svg}
        viewBox={`${-MARGIN} ${-MARGIN} ${long + 2 * MARGIN} ${high + 2 * MARGIN}`}
        style={{ display: 'block', width: '100%', maxHeight: 150 }}
      >
        <polygon points={outline} fill={colours.gesso} stroke={colours.ink} strokeWidth={0.6} />
        <rect
          x={left}
          y={top}
          width={along}
          height={Math.min(across, high)}
          fill={isOpen ? 'none' : colours.gilding}
          fillOpacity={0.35}
          stroke={colours.oxide}
          strokeDasharray={isOpen ? '3 2' : undefined}
          strokeWidth={0.8}
        />
        <text
          x={left + along + 5}
          y={high / 2 + type / 3}
          fontSize={type}
          fontFamily={fonts.numbers}
          fill={colours.ink}
        >
          {isOpen ? 'drag the corner to say how big' : said}
        </text>
        <circle
          cx={left + along}
          cy={top + Math.min(across, high)}
          r={Math.max(3, high / 16)}
          fill={colours.oxide}
          tabIndex={0}
          role="slider"
          aria-label="Size of one element"
          aria-valuenow={Math.round(along)}
          aria-valuetext={isOpen ? 'left open' : said}
          style={{ cursor: 'nwse-resize' }}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={drag}
          onKeyDown={step}
        />
      </svg>
    </Box>
  );
}
