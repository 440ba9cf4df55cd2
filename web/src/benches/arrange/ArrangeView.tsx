import { type Placed } from '../../../../core/moves/index.ts';
import { Box, Button, Stack, Typography } from '@mui/material';
import { type KeyboardEvent, useMemo, useState } from 'react';
import {
  QUARTER,
  type SeamFigures,
  bestMatch,
  readingOrder,
  seamFigures,
  turnedBefore,
} from '../../../../core/assembly/index.ts';
import { pieceName } from '../../../../core/billet/billet.ts';
import { isRectangle } from '../../../../core/geometry/outline.ts';
import { areWedges } from '../../../../core/moves/lay/assemble/wedges.ts';
import { ORIENTATION_SAID } from '../../../../core/instruct/words.ts';
import type { StepResult } from '../../../../core/plan/index.ts';
import {
  type AssembleParameters,
  laidPieces,
  pieceAt,
  gridPlacesOf,
} from '../../../../core/moves/lay/assemble/laid.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { setParameters } from '../../document/planStore.ts';
import { withSome } from '../../../../core/plan/index.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { LaidBlock } from './LaidBlock.tsx';
import { SeamWords } from './SeamMark.tsx';
import { ROLL, free, movedOn, swapped } from './arranging.ts';

const useSeams = (result: StepResult, judged: boolean): SeamFigures[] =>
  useMemo(
    () =>
      result.after && judged
        ? seamFigures(result.before, result.step.parameters as AssembleParameters, result.after[0])
        : [],
    [result, judged],
  );

/** The pieces as they lie in the stack, seen on the front end: drag, turn, roll, swap; every seam shows how far it matches. */
export function ArrangeView({ result }: { result: StepResult }) {
  const { shop } = useEvaluation();
  const p = result.step.parameters as AssembleParameters;
  const laid = laidPieces(result.before, p);
  const complete = laid.length === p.columns * p.rows;
  const places = complete ? laid.map((l) => l.place) : gridPlacesOf(p);
  // Wedges have their turns from the side they lie on.
  const turns = !areWedges(laid.map((l) => l.billet));
  const [chosen, setChosen] = useState(0);
  const [swapping, setSwapping] = useState(false);
  const change = (some: Partial<AssembleParameters>, what: string) =>
    setParameters(result.step.id, withSome(p, some), what);
  const put = (moved: Placed[], what: string) => change(free(moved), what);
  const unjudged =
    p.layout === 'brick'
      ? 'The seams of bricks are not judged.'
      : turns
        ? null
        : 'The seams of wedges are not judged.';
  const rectangles = laid.every((l) => isRectangle(l.billet.outline));
  const judged = complete && p.layout !== 'brick' && rectangles;
  const figures = useSeams(result, judged);
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
    if (key.key === 't' && turns) put(movedOn(places, chosen, QUARTER), 'turn');
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
        <Button
          size="small"
          variant="outlined"
          disabled={!turns}
          onClick={() => put(movedOn(places, chosen, QUARTER), 'turn')}
        >
          Quarter left (T)
        </Button>
        <Button
          size="small"
          variant="outlined"
          disabled={!turns}
          onClick={() => put(turnedBefore(places), 'turn all')}
        >
          Next corner to the middle
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
          onClick={() => put(readingOrder(places, match.order), 'best match')}
        >
          Best match
        </Button>
        <Typography variant="body2" color="text.secondary" aria-live="polite" sx={{ ml: 0.5 }}>
          {swapping
            ? 'Now press the piece to change places with.'
            : `Piece ${pieceName(pieceAt(result.before, current)!)}: ${ORIENTATION_SAID[current.orientation]}${turns ? '' : ', then turned to its side of the square'}`}
          {better &&
            ` · neighbours can lie ${formatLength(match.beforeMm - match.afterMm, shop.lengths)} nearer in the bar${match.exact ? '' : `, no layout better than ${formatLength(match.boundMm, shop.lengths)}`}`}
        </Typography>
        <SeamWords
          figures={figures}
          unjudged={unjudged}
          onClash={(seams, clash) => {
            const others = (p.clash ?? []).filter(
              ([a, b]) => !seams.some((s) => s.first === a && s.second === b),
            );
            const added = clash ? seams.map((s): [number, number] => [s.first, s.second]) : [];
            change({ clash: [...others, ...added] }, 'clash');
          }}
        />
      </Stack>
      <LaidBlock
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
