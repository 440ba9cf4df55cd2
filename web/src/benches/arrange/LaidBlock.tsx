import {
  DndContext,
  type DragEndEvent,
  MouseSensor,
  TouchSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { Box } from '@mui/material';
import { type KeyboardEvent } from 'react';
import type { SeamFigures } from '../../../../core/assembly/index.ts';
import { pieceName } from '../../../../core/billet/billet.ts';
import { frontEnd, orientationNamed } from '../../../../core/geometry/orientation.ts';
import { arrowAfter } from '../../../../core/instruct/action.ts';
import { ORIENTATION_SAID } from '../../../../core/instruct/words.ts';
import { materialById } from '../../../../core/materials/material.ts';
import { type Evaluation, type Plan, type StepResult, arrowSign } from '../../../../core/plan/index.ts';
import {
  type AssembleParameters,
  type Laid,
  gridSizes,
  stripSizes,
} from '../../../../core/moves/lay/assemble/laid.ts';
import { apartMm } from '../../../../core/moves/lay/assemble/blocks.ts';
import {
  WEDGE_SIDES,
  areWedges,
  pointedBase,
  wedgeLies,
} from '../../../../core/moves/lay/assemble/wedges.ts';
import { wedgeOf } from '../../../../core/geometry/shapes.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { useSize } from '../../ui/useSize.ts';
import { SteelView } from '../steel/SteelView.tsx';
import { SeamMark } from './SeamMark.tsx';

interface LaidBlockProps {
  evaluation: Evaluation;
  result: StepResult;
  p: AssembleParameters;
  laid: Laid[];
  figures: SeamFigures[];
  chosen: number;
  onPress(place: number): void;
  onSwap(a: number, b: number): void;
  onKeys(key: KeyboardEvent): void;
}

/** Left (top) edges of columns (rows) with strips between and a frame outside, mm. */
function startsOf(sizes: readonly number[], between: number, frame: number): { at: number[]; whole: number } {
  let next = frame;
  const at = sizes.map((size) => {
    const start = next;
    next += size + between;
    return start;
  });
  return { at, whole: next - between + frame };
}

/** Where a piece is drawn, in the block's own mm from its upper left; quarter turns counter-clockwise, and what of its box is steel. */
interface Spot {
  left: number;
  top: number;
  width: number;
  height: number;
  turns: 0 | 1 | 2 | 3;
  clip?: string;
}

/** A wedge, its point to the middle of the square; of a blunt one, what is left when it is ground to a point. */
function wedgeSpot(l: Laid, i: number, squareMm: number): Spot {
  const [side] = WEDGE_SIDES[i];
  const wedge = wedgeOf(l.billet.outline)!;
  const { baseMm, bluntMm, deepMm } = wedge;
  const lying = side === 'left' || side === 'right';
  const from = (squareMm - baseMm) / 2;
  const [a, b] = [`${(50 * bluntMm) / baseMm}%`, `${100 - (50 * bluntMm) / baseMm}%`];
  const clips = {
    top: `${a} 0, ${b} 0, 50% 100%`,
    right: `100% ${a}, 100% ${b}, 0 50%`,
    bottom: `${a} 100%, ${b} 100%, 50% 0`,
    left: `0 ${a}, 0 ${b}, 100% 50%`,
  };
  return {
    left: side === 'right' ? squareMm - deepMm : lying ? 0 : from,
    top: side === 'bottom' ? squareMm - deepMm : lying ? from : 0,
    width: lying ? deepMm : baseMm,
    height: lying ? baseMm : deepMm,
    turns: wedgeLies(l, i).turns,
    clip: `polygon(${clips[side]})`,
  };
}

/** The block as it stands, to scale: every piece in its place, strips between, a bead on every seam. */
export function LaidBlock(props: LaidBlockProps) {
  const { evaluation, result, p, laid, figures, chosen, onPress, onSwap, onKeys } = props;
  const { shop } = evaluation;
  const [room, size] = useSize();
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 120, tolerance: 8 } }),
  );
  const wedges = laid.length === WEDGE_SIDES.length && areWedges(laid.map((l) => l.billet));
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { uprightMm, levelMm, frameMm } = stripSizes(p);
  const square = {
    at: [],
    whole: wedges ? pointedBase(wedgeOf(laid[0].billet.outline)!) + 2 * apartMm(p) : 0,
  };
  const across = wedges ? square : startsOf(widths, uprightMm, frameMm);
  const down = wedges ? square : startsOf(heights, levelMm, frameMm);
  const spots = laid.map((l, i): Spot =>
    wedges
      ? wedgeSpot(l, i, square.whole)
      : {
          left: across.at[i % p.columns],
          top: down.at[Math.floor(i / p.columns)],
          width: l.widthMm,
          height: l.heightMm,
          turns: orientationNamed(l.place.orientation).turns,
        },
  );
  const scale = Math.max(0, Math.min((size.width - 8) / across.whole, (size.height - 8) / down.whole));
  const strip = p.strips && materialById(shop.materials, p.strips.material);
  const tone = strip ? (strip.tint ?? [255, 255, 255]).map((c) => Math.round(c * strip.tone)) : null;
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) onSwap(Number(active.id), Number(over.id));
  };
  return (
    <Box
      ref={room}
      sx={{
        flex: 1,
        minHeight: { xs: 420, md: 0 },
        minWidth: 0,
        display: 'grid',
        placeContent: 'center',
        overflow: 'hidden',
      }}
      onKeyDown={onKeys}
      role="group"
      aria-label="The pieces as they lie, front end"
    >
      <DndContext sensors={sensors} onDragEnd={drop}>
        <Box
          sx={{
            position: 'relative',
            width: across.whole * scale,
            height: down.whole * scale,
            background: tone ? `rgb(${tone.join(' ')})` : colours.gesso,
            outline: `1px solid ${colours.line}`,
          }}
        >
          {scale > 0 &&
            laid.map((l, i) => (
              <PieceInPlace
                key={i}
                index={i}
                plan={evaluation.plan}
                result={result}
                laid={l}
                spot={spots[i]}
                scale={scale}
                chosen={i === chosen}
                onPress={() => onPress(i)}
              />
            ))}
          {scale > 0 &&
            figures.map((seam) => (
              <SeamMark
                key={`${seam.first}-${seam.second}`}
                seam={seam}
                scale={scale}
                between={seam.way === 'upright' ? uprightMm : levelMm}
                left={across.at[seam.first % p.columns]}
                top={down.at[Math.floor(seam.first / p.columns)]}
                width={widths[seam.first % p.columns]}
                height={heights[Math.floor(seam.first / p.columns)]}
              />
            ))}
        </Box>
      </DndContext>
    </Box>
  );
}

interface PieceInPlaceProps {
  index: number;
  plan: Plan;
  result: StepResult;
  laid: Laid;
  spot: Spot;
  scale: number;
  chosen: boolean;
  onPress(): void;
}

function PieceInPlace({ index, plan, result, laid, spot, scale, chosen, onPress }: PieceInPlaceProps) {
  const { turns, clip } = spot;
  const [left, top, width, height] = [spot.left, spot.top, spot.width, spot.height].map((mm) => mm * scale);
  const orientation = orientationNamed(laid.place.orientation);
  const { setNodeRef: setDrag, listeners, transform, isDragging } = useDraggable({ id: String(index) });
  const { setNodeRef: setDrop, isOver } = useDroppable({ id: String(index) });
  const sideways = turns % 2 === 1;
  const [w, h] = sideways ? [height, width] : [width, height];
  const name = pieceName(laid.billet);
  return (
    <Box
      component="button"
      data-place={index}
      ref={(node: HTMLElement | null) => {
        setDrag(node);
        setDrop(node);
      }}
      {...listeners}
      onClick={onPress}
      aria-pressed={chosen}
      aria-label={`Piece ${name}, ${ORIENTATION_SAID[laid.place.orientation]}`}
      tabIndex={chosen ? 0 : -1}
      sx={{
        position: 'absolute',
        left,
        top,
        width,
        height,
        p: 0,
        border: 0,
        background: 'none',
        cursor: 'grab',
        touchAction: 'none',
        overflow: 'hidden',
        clipPath: clip,
        zIndex: isDragging ? 5 : chosen ? 2 : 1,
        transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined,
        opacity: isDragging ? 0.85 : 1,
      }}
    >
      {/* Rolled, end A is in front and shows its mirror image; turns run counter-clockwise. */}
      <Box
        sx={{
          position: 'absolute',
          left: (width - w) / 2,
          top: (height - h) / 2,
          transform: `rotate(${-90 * turns}deg)`,
        }}
      >
        <SteelView
          plan={plan}
          stepId={result.step.id}
          when="before"
          piece={result.before.indexOf(laid.billet)}
          face={orientation.rolled ? 'end A' : 'end B'}
          view="etched"
          width={Math.max(1, Math.round(w))}
          height={Math.max(1, Math.round(h))}
          urgency={2}
          label=""
        />
      </Box>
      {(chosen || isOver) && (
        <Box
          sx={{
            position: 'absolute',
            inset: 0,
            border: chosen ? `4px solid ${colours.gilding}` : `4px dashed ${colours.oxide}`,
            // A wedge is clipped to its steel, and most of the frame with it.
            ...(clip ? { background: colours.gilding, opacity: 0.3 } : {}),
          }}
        />
      )}
      <Box
        component="span"
        sx={{
          position: 'absolute',
          ...(clip ? { left: '50%', top: '50%', transform: 'translate(-50%, -50%)' } : { left: 6, top: 6 }),
          px: 0.75,
          borderRadius: '4px',
          background: colours.paper,
          border: `1px solid ${colours.faded}`,
          fontFamily: fonts.numbers,
          fontWeight: 700,
          fontSize: width > 90 ? 17 : 13,
          color: colours.ink,
          lineHeight: 1.35,
        }}
      >
        {name}
        {width > 70 && ` ${frontEnd(orientation)}${arrowSign(arrowAfter(turns))}`}
      </Box>
    </Box>
  );
}
