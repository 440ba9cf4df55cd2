import { Box } from '@mui/material';
import { useRef } from 'react';
import { type Billet, sizeOf } from '../../../core/billet/billet.ts';
import type { StepResult } from '../../../core/plan/index.ts';
import type { Shop } from '../../../core/shop/shop.ts';
import { type CutParameters, pieceCut } from '../../../core/moves/saw/cut.ts';
import { pieceStations, sawMarks } from '../../../core/geometry/cutting.ts';
import { type AccordionParameters, accordionOf } from '../../../core/moves/saw/accordion.ts';
import { type TileParameters, sizesOf } from '../../../core/moves/saw/tile.ts';
import { bareLength, formatLength } from '../../../core/units/index.ts';
import { colours, fonts } from '../ui/theme.ts';
import { useSize } from '../ui/useSize.ts';

const MARGIN = 14;
const BAR_TOP = 4;

interface Saw {
  /** Station of the cut at the bar's bottom and top edge, mm. */
  bottomMm: number;
  topMm: number;
  mark?: string;
  /** Begins so far above the bottom, or ends so far below the top, mm: a cut that does not go through. */
  from?: number;
  to?: number;
}

interface Sawing {
  saws: Saw[];
  /** Names of the pieces and where their middles are, mm. */
  names: { text: string; atMm: number }[];
}

function pieceSawing(bar: Billet, p: CutParameters, shop: Shop): Sawing {
  const cutting = pieceCut(bar, p, shop);
  const { marksMm } = sawMarks(cutting, shop.lengths);
  return {
    saws: marksMm.map((mm) => ({ bottomMm: mm, topMm: mm, mark: bareLength(mm, shop.lengths) })),
    names: pieceStations(cutting).map((s, i) => ({ text: String(i + 1), atMm: (s.fromMm + s.toMm) / 2 })),
  };
}

function tileSawing(bar: Billet, p: TileParameters, shop: Shop): Sawing {
  const sizes = sizesOf(bar, p, shop);
  const tileMm = p.thicknessMm / Math.sin((p.angleDeg * Math.PI) / 180);
  const stations = Array.from({ length: sizes.count }, (_, i) => i * sizes.pitchMm);
  const slanted = sizes.setbackMm > 1e-6;
  const ends = stations.map((s) => s + tileMm);
  const saws = (slanted ? [0, ...ends] : ends).filter((mm) => mm < bar.lengthMm - 1e-6);
  return {
    saws: saws.map((mm) => ({ bottomMm: mm, topMm: mm + sizes.setbackMm })),
    names: stations.map((s, i) => ({ text: String(i + 1), atMm: s + (tileMm + sizes.setbackMm) / 2 })),
  };
}

/** V roots by turns from the top and from the bottom; each is drawn as its middle line. */
function accordionSawing(bar: Billet, p: AccordionParameters): Sawing {
  const sizes = accordionOf(bar, p);
  const half = (sizeOf(bar).heightMm - p.rootMm) * Math.tan((p.openingDeg * Math.PI) / 360);
  const legs = Array.from({ length: sizes.legs }, (_, i) => sizes.firstMm + i * sizes.pitchMm);
  const roots = legs.slice(0, -1).map((s) => s + sizes.pitchMm / 2);
  return {
    saws: roots.flatMap((mm, i): Saw[] =>
      i % 2 === 0
        ? [
            { bottomMm: mm, topMm: mm - half, from: p.rootMm },
            { bottomMm: mm, topMm: mm + half, from: p.rootMm },
          ]
        : [
            { bottomMm: mm - half, topMm: mm, to: p.rootMm },
            { bottomMm: mm + half, topMm: mm, to: p.rootMm },
          ],
    ),
    names: legs.map((mm, i) => ({ text: String(i + 1), atMm: mm })),
  };
}

function sawingOf(result: StepResult, shop: Shop): Sawing | null {
  if (!result.after || result.before.length !== 1) return null;
  if (result.step.kind === 'cut')
    return pieceSawing(result.before[0], result.step.parameters as CutParameters, shop);
  if (result.step.kind === 'tile')
    return tileSawing(result.before[0], result.step.parameters as TileParameters, shop);
  if (result.step.kind === 'accordion')
    return accordionSawing(result.before[0], result.step.parameters as AccordionParameters);
  return null;
}

/** Keeps every so many marks, so that their figures do not run into one another. */
const everyNth = (count: number, roomPx: number, eachPx: number): number =>
  Math.max(1, Math.ceil((count * eachPx) / roomPx));

/** The bar from the side with its saw cuts, end A to the left. Nothing for moves that do not saw. */
export function BarSide({ result, shop }: { result: StepResult; shop: Shop }) {
  const box = useRef<HTMLDivElement>(null);
  const { width } = useSize(box);
  const sawing = sawingOf(result, shop);
  if (!sawing) return null;
  const [bar] = result.before;
  const perMm = Math.max(0, width - 2 * MARGIN) / bar.lengthMm;
  const height = Math.min(54, Math.max(18, sizeOf(bar).heightMm * perMm));
  const up = height / sizeOf(bar).heightMm;
  const x = (mm: number) => MARGIN + mm * perMm;
  const nameEvery = everyNth(sawing.names.length, width, 22);
  const markEvery = everyNth(sawing.saws.length, width, 78);
  const text = { fontFamily: fonts.numbers, fontSize: 14, textAnchor: 'middle' as const, fill: colours.ink };
  const label = `The bar from the side, ${formatLength(bar.lengthMm, shop.lengths)} long, with ${sawing.saws.length} saw cuts`;
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
        <text x={width - MARGIN + 3} y={BAR_TOP + height / 2 + 5} {...text} textAnchor="start">
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
              <text x={x(saw.bottomMm)} y={BAR_TOP + height + 19} {...text}>
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
