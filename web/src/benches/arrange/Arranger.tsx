import { Box, Button, Stack, Typography } from '@mui/material';
import { type KeyboardEvent, type ReactNode, useState } from 'react';
import { QUARTER, type SeamFigures } from '../../../../core/assembly/index.ts';
import { pieceName } from '../../../../core/billet/billet.ts';
import { ORIENTATION_SAID } from '../../../../core/instruct/words.ts';
import type { Placed } from '../../../../core/moves/index.ts';
import { type AssembleParameters, type Laid, pieceAt } from '../../../../core/moves/lay/assemble/laid.ts';
import type { Evaluation, StepResult } from '../../../../core/plan/index.ts';
import { LaidBlock } from './LaidBlock.tsx';
import { ROLL, movedOn, swapped } from './arranging.ts';

interface ArrangerProps {
  evaluation: Evaluation;
  result: StepResult;
  p: AssembleParameters;
  laid: Laid[];
  /** Wedges have their turns from the side they lie on. */
  turns?: boolean;
  figures?: SeamFigures[];
  /** What else can be done to the pieces. */
  more?: ReactNode;
  /** Said after how the chosen piece lies. */
  alsoSaid?: string;
  /** Under the presses. */
  below?: ReactNode;
  onPut(places: Placed[], what: string): void;
}

/** The pieces of a stack, seen on the front end, to be dragged, turned, rolled and swapped: by hand, by press and by key. */
export function Arranger(props: ArrangerProps) {
  const {
    evaluation,
    result,
    p,
    laid,
    turns = true,
    figures = [],
    more,
    alsoSaid = '',
    below,
    onPut,
  } = props;
  const places = laid.map((l) => l.place);
  const [asked, setChosen] = useState(0);
  const [swapping, setSwapping] = useState(false);
  const chosen = Math.min(asked, places.length - 1);
  const turn = () => onPut(movedOn(places, chosen, QUARTER), 'turn');
  const roll = () => onPut(movedOn(places, chosen, ROLL), 'roll');
  const press = (i: number) => {
    if (swapping && i !== chosen) onPut(swapped(places, chosen, i), 'swap');
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
    if (key.key === 't' && turns) turn();
    else if (key.key === 'r') roll();
    else if (key.key === 's') setSwapping(!swapping);
    else if (key.key in steps && to >= 0 && to < places.length) {
      if (swapping) onPut(swapped(places, chosen, to), 'swap');
      setChosen(to);
      (key.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('[data-place]')[to]?.focus();
    } else return;
    key.preventDefault();
    key.stopPropagation();
  };
  const current = places[chosen];
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
        <Button size="small" variant="outlined" disabled={!turns} onClick={turn}>
          Quarter left (T)
        </Button>
        <Button size="small" variant="outlined" onClick={roll}>
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
        {more}
        <Typography variant="body2" color="text.secondary" aria-live="polite" sx={{ ml: 0.5 }}>
          {swapping
            ? 'Now press the piece to change places with.'
            : `Piece ${pieceName(pieceAt(result.before, current)!)}: ${ORIENTATION_SAID[current.orientation]}${turns ? '' : ', then turned to its side of the square'}`}
          {alsoSaid}
        </Typography>
        {below}
      </Stack>
      <LaidBlock
        evaluation={evaluation}
        result={result}
        p={p}
        laid={laid}
        figures={figures}
        chosen={chosen}
        onPress={press}
        onSwap={(a, b) => {
          onPut(swapped(places, a, b), 'swap');
          setChosen(b);
        }}
        onKeys={keys}
      />
    </Box>
  );
}
