import { Box, Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import {
  type Orientation,
  compose,
  orientationName,
  orientationNamed,
  planeMatrix,
} from '../../../core/geometry/orientation.ts';
import { type AssembleParameters, placesOf } from '../../../core/steps/assemble.ts';
import { type Placed, presetPlaces } from '../../../core/steps/layout.ts';
import { colours } from '../app/theme.ts';
import { Choice, MaterialChoice } from '../fields/Choice.tsx';
import { CountField, LengthField } from '../fields/numberFields.tsx';
import type { EditorProps } from './editor.ts';

const LAYOUTS = [
  ['mirrored', 'Mirrored (kaleidoscope)'],
  ['turned', 'Turned (pinwheel)'],
  ['alike', 'All alike'],
  ['free', 'Each its own way'],
] as const;

const STRIPS = [
  ['none', 'No strips between'],
  ['cross', 'Strips as a cross'],
  ['upright', 'Upright strips'],
  ['level', 'Level strips'],
] as const;

const QUARTER: Orientation = { turns: 1, rolled: false };
const ROLL: Orientation = { turns: 0, rolled: true };

export function AssembleEditor({ parameters: p, change, problem }: EditorProps<AssembleParameters>) {
  const grid = (columns: number, rows: number) => {
    const places = p.layout === 'free' ? presetPlaces('alike', columns, rows) : undefined;
    change({ columns, rows, places });
  };
  const relayout = (layout: AssembleParameters['layout']) =>
    change({ layout, places: layout === 'free' ? placesOf(p) : undefined });
  const setStrips = (where: (typeof STRIPS)[number][0]) =>
    change({
      strips: where === 'none' ? undefined : { material: '15n20', thicknessMm: 1.5, ...p.strips, where },
    });
  return (
    <>
      <Stack direction="row" spacing={1}>
        <CountField
          label="Pieces across"
          value={p.columns}
          least={1}
          most={20}
          onChange={(columns) => grid(columns, p.rows)}
          problem={problem('columns')}
        />
        <CountField
          label="Pieces up"
          value={p.rows}
          least={1}
          most={20}
          onChange={(rows) => grid(p.columns, rows)}
        />
      </Stack>
      <Choice
        label="Lay them"
        value={p.layout}
        options={LAYOUTS}
        onChange={relayout}
        problem={problem('layout')}
      />
      <Places p={p} change={(places) => change({ layout: 'free', places })} />
      <Choice
        label="Between them"
        value={p.strips?.where ?? 'none'}
        options={STRIPS}
        onChange={setStrips}
        problem={problem('strips')}
      />
      {p.strips && (
        <Stack direction="row" spacing={1}>
          <MaterialChoice
            label="Strip"
            value={p.strips.material}
            onChange={(material) => change({ strips: { ...p.strips!, material } })}
          />
          <LengthField
            label="Strip thickness"
            hideLabel
            fine
            width={125}
            value={p.strips.thicknessMm}
            mostMm={500}
            onChange={(thicknessMm) => change({ strips: { ...p.strips!, thicknessMm } })}
          />
        </Stack>
      )}
    </>
  );
}

/** The pieces as they lie: choose one, then turn it, roll it, or change places with another. */
function Places({ p, change }: { p: AssembleParameters; change(places: Placed[]): void }) {
  const [chosen, setChosen] = useState<number | null>(null);
  const [swapping, setSwapping] = useState(false);
  const places = placesOf(p);
  const move = (then: Orientation) =>
    change(
      places.map((place, i) =>
        i === chosen
          ? { ...place, orientation: orientationName(compose(then, orientationNamed(place.orientation))) }
          : place,
      ),
    );
  const press = (i: number) => {
    if (swapping && chosen !== null && chosen !== i) {
      change(places.map((place, k) => (k === i ? places[chosen] : k === chosen ? places[i] : place)));
      setSwapping(false);
    }
    setChosen(i);
  };
  if (places.length > 64) return null;
  const current = chosen === null ? undefined : places[chosen];
  return (
    <Box
      onKeyDown={(key) => {
        if (chosen === null || key.ctrlKey || key.metaKey) return;
        if (key.key === 't') move(QUARTER);
        else if (key.key === 'r') move(ROLL);
        else return;
        key.stopPropagation();
      }}
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: `repeat(${p.columns}, minmax(0, 56px))`, gap: 0.5 }}>
        {places.map((place, i) => (
          <PieceTile key={i} place={place} chosen={i === chosen} onPress={() => press(i)} />
        ))}
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ my: 0.5 }} aria-live="polite">
        {swapping
          ? 'Now press the piece to change places with.'
          : current
            ? `Piece ${current.piece}: ${current.orientation}`
            : 'Press a piece to turn, roll or swap it.'}
      </Typography>
      {current && (
        <Stack direction="row" spacing={0.5}>
          <Button size="small" variant="outlined" onClick={() => move(QUARTER)}>
            Turn
          </Button>
          <Button size="small" variant="outlined" onClick={() => move(ROLL)}>
            Roll over
          </Button>
          <Button
            size="small"
            variant={swapping ? 'contained' : 'outlined'}
            disabled={places.length < 2}
            onClick={() => setSwapping(!swapping)}
          >
            Swap
          </Button>
        </Stack>
      )}
    </Box>
  );
}

function PieceTile({ place, chosen, onPress }: { place: Placed; chosen: boolean; onPress(): void }) {
  const orientation = orientationNamed(place.orientation);
  const [a, b, c, d] = planeMatrix(orientation);
  return (
    <Box
      component="button"
      aria-pressed={chosen}
      aria-label={`Piece ${place.piece}, ${place.orientation}`}
      onClick={onPress}
      sx={{
        aspectRatio: '1',
        minHeight: 36,
        border: `2px solid ${chosen ? colours.gilding : colours.line}`,
        borderRadius: '4px',
        background: orientation.rolled ? colours.verdigrisWash : colours.paper,
        cursor: 'pointer',
        overflow: 'hidden',
        p: 0,
      }}
    >
      {/* The numeral lies as the piece lies; y runs down on the screen, so the off-diagonal signs turn over. */}
      <span
        style={{
          display: 'inline-block',
          fontSize: 20,
          fontWeight: 700,
          color: colours.ink,
          transform: `matrix(${a},${-c},${-b},${d},0,0)`,
        }}
      >
        {place.piece}
      </span>
    </Box>
  );
}
