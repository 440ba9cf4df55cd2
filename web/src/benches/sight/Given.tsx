import { Alert, Box, Button, LinearProgress, Stack, Typography } from '@mui/material';
import { pieceCameSchema } from '../../../../core/records/record.ts';
import type { Four } from '../../../../core/sighting/homography.ts';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { OptionalField, QuantityField } from '../../ui/fields/QuantityField.tsx';

const of = quantitiesOf(pieceCameSchema);

/** What a photograph is read by: lines on its edges, sizes, and which end it is, where that is known. mm */
export interface Given {
  readonly corners: Four;
  readonly widthMm: number;
  readonly heightMm: number;
  /** The diagonals, seen on end B: from lower left, and from lower right. */
  readonly rising: number | undefined;
  readonly falling: number | undefined;
  readonly end: 'A' | 'B' | null;
}

const SIZES = { widthMm: 'Width by caliper', heightMm: 'Height by caliper' } as const;
const DIAGONALS = { rising: 'Lower left to upper right', falling: 'Lower right to upper left' } as const;
const keys = <T extends object>(of: T) => Object.keys(of) as (keyof T)[];

interface GivenFieldsProps {
  given: Given;
  where: 'ends' | 'middle';
  change(some: Partial<Given>): void;
  /** Why it was not read. */
  trouble: string | null;
  /** How much of the reading is done, 0 to 1; null while none is under way. */
  done: number | null;
  read(): void;
  stop(): void;
}

export function GivenFields({ given, where, change, trouble, done, read, stop }: GivenFieldsProps) {
  return (
    <>
      <Typography>Drag the four lines onto the edges of the section; what is dragged is enlarged.</Typography>
      {trouble && <Alert severity="warning">{trouble}</Alert>}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
        {keys(SIZES).map((key) => (
          <QuantityField
            key={key}
            of={of(key)}
            label={SIZES[key]}
            value={given[key]}
            onChange={(mm) => change({ [key]: mm })}
          />
        ))}
        {keys(DIAGONALS).map((key) => (
          <OptionalField
            key={key}
            of={of('widthMm')}
            label={DIAGONALS[key]}
            value={given[key]}
            onChange={(mm) => change({ [key]: mm })}
            none="–"
          />
        ))}
      </Box>
      <Typography color="text.secondary">
        Both diagonals, seen on end B, say whether it leans; they may stay empty.
      </Typography>
      <Stack
        direction="row"
        useFlexGap
        role="group"
        aria-label={where === 'middle' ? 'From which end it is seen' : 'Which end it is'}
        sx={{ gap: 1, flexWrap: 'wrap' }}
      >
        {(['A', 'B', null] as const).map((which) => (
          <Button
            key={which}
            variant="outlined"
            aria-pressed={given.end === which}
            onClick={() => change({ end: which })}
          >
            {which ? `${where === 'middle' ? 'As end' : 'End'} ${which}` : 'Not known'}
          </Button>
        ))}
      </Stack>
      {done === null ? (
        <Button variant="contained" onClick={read} sx={{ alignSelf: 'start' }}>
          Read it
        </Button>
      ) : (
        <Stack direction="row" sx={{ gap: 2, alignItems: 'center' }}>
          <LinearProgress aria-label="Reading" variant="determinate" value={100 * done} sx={{ flex: 1 }} />
          <Button variant="outlined" onClick={stop}>
            Stop
          </Button>
        </Stack>
      )}
    </>
  );
}
