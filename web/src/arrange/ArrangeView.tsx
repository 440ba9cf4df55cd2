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
import { Box, Button, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { type KeyboardEvent, useMemo, useRef, useState } from 'react';
import { type SeamFigures, bestMatch, seamFigures } from '../../../core/assembly/index.ts';
import { pieceName } from '../../../core/billet/billet.ts';
import { frontEnd, orientationNamed } from '../../../core/geometry/orientation.ts';
import { materialById } from '../../../core/materials/material.ts';
import { type StepResult, upArrow } from '../../../core/plan/index.ts';
import {
  type AssembleParameters,
  type Laid,
  gridSizes,
  laidPieces,
  pieceAt,
  placesOf,
  stripSizes,
} from '../../../core/steps/assemble.ts';
import type { Placed } from '../../../core/steps/layout.ts';
import { formatLength } from '../../../core/units/index.ts';
import { colours, fonts } from '../app/theme.ts';
import { withSome, setParameters } from '../plan/planStore.ts';
import { useEvaluation } from '../plan/useEvaluation.ts';
import { useSize } from '../plan/useSize.ts';
import { SteelView } from '../steel/SteelView.tsx';
import { QUARTER, ROLL, free, inOrder, movedOn, swapped } from './arranging.ts';

/** The pieces as they lie in the stack, seen on the front end: drag, turn, roll, swap; every seam shows how far it matches. */
export function ArrangeView({ result }: { result: StepResult }) {
  const { shop } = useEvaluation();
  const p = result.step.parameters as AssembleParameters;
  const places = placesOf(p);
  const laid = laidPieces(result.before, p);
  const complete = laid.length === p.columns * p.rows;
  const [chosen, setChosen] = useState(0);
  const [swapping, setSwapping] = useState(false);
  const change = (some: Partial<AssembleParameters>, what: string) =>
    setParameters(result.step.id, withSome(p, some), what);
  const put = (moved: Placed[], what: string) => change(free(moved), what);
  const figures = useMemo(
    () =>
      result.after && complete && p.layout !== 'brick' && laid.every((l) => l.billet.outline.length === 4)
        ? seamFigures(result.before, p, result.after[0])
        : [],
    [result, p, complete, laid],
  );
  if (!complete)
    return (
      <Typography color="text.secondary" sx={{ p: 2 }}>
        Not all pieces of this layout are there yet: see what is said at the right.
      </Typography>
    );
  const press = (i: number) => {
    if (swapping && i !== chosen) put(swapped(places, chosen, i), 'swap');
    setSwapping(false);
    setChosen(i);
  };
  const keys = (key: KeyboardEvent) => {
    if (key.ctrlKey || key.metaKey) return;
    const steps: Record<string, number> = {
      ArrowLeft: -1,
      ArrowRight: 1,
      ArrowUp: -p.columns,
      ArrowDown: p.columns,
    };
    const to = chosen + (steps[key.key] ?? 0);
    if (key.key === 't') put(movedOn(places, chosen, QUARTER), 'turn');
    else if (key.key === 'r') put(movedOn(places, chosen, ROLL), 'roll');
    else if (key.key === 's') setSwapping(!swapping);
    else if (key.key in steps && to >= 0 && to < places.length) {
      if (swapping) put(swapped(places, chosen, to), 'swap');
      setChosen(to);
      (key.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('[data-place]')[to]?.focus();
    } else return;
    key.preventDefault();
    key.stopPropagation();
  };
  const match = bestMatch(laid, p.columns, p.rows);
  const better = match.beforeMm - match.afterMm > 0.5;
  const current = places[Math.min(chosen, places.length - 1)];
  return (
    <Box
      sx={{
        display: 'flex',
        flexDirection: { xs: 'column', md: 'row' },
        minHeight: 0,
        height: '100%',
        gap: 1.5,
      }}
    >
      <Stack
        direction={{ xs: 'row', md: 'column' }}
        useFlexGap
        spacing={0.75}
        sx={{ flexWrap: { xs: 'wrap', md: 'nowrap' }, width: { md: 230 }, flex: 'none', overflowY: 'auto' }}
      >
        <Button size="small" variant="outlined" onClick={() => put(movedOn(places, chosen, QUARTER), 'turn')}>
          Turn (T)
        </Button>
        <Button size="small" variant="outlined" onClick={() => put(movedOn(places, chosen, ROLL), 'roll')}>
          Roll end for end (R)
        </Button>
        <Button
          size="small"
          variant={swapping ? 'contained' : 'outlined'}
          disabled={places.length < 2}
          onClick={() => setSwapping(!swapping)}
        >
          Swap (S)
        </Button>
        <Button
          size="small"
          variant="outlined"
          disabled={!better}
          onClick={() => put(inOrder(places, match.order), 'best match')}
        >
          Best match
        </Button>
        <Typography variant="body2" color="text.secondary" aria-live="polite" sx={{ ml: 0.5 }}>
          {swapping
            ? 'Now press the piece to change places with.'
            : `Piece ${pieceName(pieceAt(result.before, current)!)}: ${current.orientation}`}
          {better &&
            ` · neighbours can lie ${formatLength(match.beforeMm - match.afterMm, shop.lengths)} nearer in the bar${match.exact ? '' : `, no layout better than ${formatLength(match.boundMm, shop.lengths)}`}`}
        </Typography>
        <SeamWords figures={figures} />
      </Stack>
      <Block
        result={result}
        p={p}
        laid={laid}
        figures={figures}
        chosen={chosen}
        onPress={press}
        onSwap={(a, b) => {
          put(swapped(places, a, b), 'swap');
          setChosen(b);
        }}
        onKeys={keys}
      />
    </Box>
  );
}

interface BlockProps {
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

function Block({ result, p, laid, figures, chosen, onPress, onSwap, onKeys }: BlockProps) {
  const { shop } = useEvaluation();
  const room = useRef<HTMLDivElement>(null);
  const size = useSize(room);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 120, tolerance: 8 } }),
  );
  const { widths, heights } = gridSizes(laid, p.columns, p.rows);
  const { uprightMm, levelMm, frameMm } = stripSizes(p);
  const across = startsOf(widths, uprightMm, frameMm);
  const down = startsOf(heights, levelMm, frameMm);
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
                result={result}
                laid={l}
                left={across.at[i % p.columns] * scale}
                top={down.at[Math.floor(i / p.columns)] * scale}
                width={l.widthMm * scale}
                height={l.heightMm * scale}
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
  result: StepResult;
  laid: Laid;
  left: number;
  top: number;
  width: number;
  height: number;
  chosen: boolean;
  onPress(): void;
}

function PieceInPlace({ index, result, laid, left, top, width, height, chosen, onPress }: PieceInPlaceProps) {
  const { plan } = useEvaluation();
  const orientation = orientationNamed(laid.place.orientation);
  const { setNodeRef: setDrag, listeners, transform, isDragging } = useDraggable({ id: String(index) });
  const { setNodeRef: setDrop, isOver } = useDroppable({ id: String(index) });
  const sideways = orientation.turns % 2 === 1;
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
      aria-label={`Piece ${name}, ${laid.place.orientation}`}
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
          transform: `rotate(${-90 * orientation.turns}deg)`,
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
          }}
        />
      )}
      <Box
        component="span"
        sx={{
          position: 'absolute',
          left: 6,
          top: 6,
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
        {width > 70 && ` ${frontEnd(orientation)}${upArrow(laid.place)}`}
      </Box>
    </Box>
  );
}

/** Share of a seam that may differ before it is called a near match, and a mismatch. */
const MATCH = 0.01;
const NEAR = 0.08;

const seamColour = (share: number): string =>
  share <= MATCH ? colours.verdigris : share <= NEAR ? colours.gilding : colours.alarm;

const percent = (share: number): string =>
  `${share < 0.1 && share > 0 ? (100 * share).toFixed(1) : Math.round(100 * share)} %`;

interface SeamMarkProps {
  seam: SeamFigures;
  scale: number;
  between: number;
  left: number;
  top: number;
  width: number;
  height: number;
}

/** A bead on the seam: its left half tells of the front end, its right half of the back, with the worse in figures. */
function SeamMark({ seam, scale, between, left, top, width, height }: SeamMarkProps) {
  const upright = seam.way === 'upright';
  const x = (upright ? left + width + between / 2 : left + width / 2) * scale;
  const y = (upright ? top + height / 2 : top + height + between / 2) * scale;
  const worst = Math.max(seam.frontMismatch, seam.backMismatch);
  const unlike = seam.frontMm === null;
  const room = (upright ? width : height) * scale;
  const wordy = room > 80 && !unlike;
  const colour = (share: number) => (unlike ? colours.line : seamColour(share));
  const halfPx = room > 80 ? 8 : 5;
  return (
    <Box
      aria-hidden
      title={`${seam.names.join(' | ')}: ${percent(seam.frontMismatch)} off in front, ${percent(seam.backMismatch)} at the back`}
      sx={{
        position: 'absolute',
        left: x,
        top: y,
        transform: 'translate(-50%, -50%)',
        zIndex: 3,
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        px: wordy ? 0.75 : 0.4,
        py: 0.25,
        borderRadius: 3,
        background: colours.paper,
        border: `1px solid ${colours.faded}`,
        fontFamily: fonts.numbers,
        fontSize: 13,
        fontWeight: 700,
        color: colours.ink,
        pointerEvents: 'none',
        whiteSpace: 'nowrap',
      }}
    >
      <Half colour={colour(seam.frontMismatch)} px={halfPx} left />
      <Half colour={colour(seam.backMismatch)} px={halfPx} />
      {wordy && (worst <= MATCH ? '✓' : percent(worst))}
    </Box>
  );
}

const Half = ({ colour, px, left }: { colour: string; px: number; left?: boolean }) => (
  <Box
    component="span"
    sx={{
      width: px,
      height: 1.9 * px,
      background: colour,
      borderRadius: left ? '8px 0 0 8px' : '0 8px 8px 0',
      ml: left ? 0 : -0.5,
    }}
  />
);

/** The seams in words: all matching, or the worst of them. */
function SeamWords({ figures }: { figures: SeamFigures[] }) {
  const { shop } = useEvaluation();
  const [end, setEnd] = useState<'front' | 'back'>('front');
  const alike = figures.filter((f) => f.frontMm !== null);
  if (figures.length === 0) return null;
  if (alike.length === 0)
    return (
      <Typography variant="body2" color="text.secondary">
        Every seam is between two bars; their pictures are not meant to meet.
      </Typography>
    );
  const of = (f: SeamFigures) => (end === 'front' ? f.frontMismatch : f.backMismatch);
  const apart = (f: SeamFigures) => (end === 'front' ? f.frontMm : f.backMm);
  const worst = alike.reduce((a, b) => (of(b) > of(a) ? b : a));
  const mm = apart(worst);
  return (
    <Stack
      direction="row"
      useFlexGap
      spacing={1}
      sx={{ flexWrap: 'wrap', alignItems: 'center' }}
      role="status"
    >
      <ToggleButtonGroup
        size="small"
        exclusive
        value={end}
        onChange={(_, chosen: 'front' | 'back' | null) => chosen && setEnd(chosen)}
        aria-label="Seams at which end"
      >
        <ToggleButton value="front" sx={{ py: 0, textTransform: 'none', color: colours.ink }}>
          front
        </ToggleButton>
        <ToggleButton value="back" sx={{ py: 0, textTransform: 'none', color: colours.ink }}>
          back
        </ToggleButton>
      </ToggleButtonGroup>
      <Typography variant="body2" sx={{ color: of(worst) <= MATCH ? colours.verdigris : colours.ink }}>
        {of(worst) <= MATCH
          ? `Every seam matches at the ${end}.`
          : `Worst seam at the ${end}: ${worst.names.join(' | ')}, ${percent(of(worst))} of it differs${mm === null ? '' : `; the two faces stood ${formatLength(mm, shop.lengths)} apart in the bar`}.`}
      </Typography>
    </Stack>
  );
}
