import { Box, Button, Stack, Typography } from '@mui/material';
import { sightingSaid } from '../../../../core/sighting/said.ts';
import type { Sighting } from '../../../../core/sighting/sighting.ts';
import { useUnits } from '../../ui/units.ts';

interface ToldProps {
  sighting: Sighting;
  where: 'ends' | 'middle';
  takeOver(): void;
  /** Reads it again as this end. */
  isEnd(end: 'A' | 'B'): void;
  again(): void;
}

/** What was read, in words. Where the pattern does not tell which end it is, that is asked before anything is taken over. */
export function Told({ sighting, where, takeOver, isEnd, again }: ToldProps) {
  const { lengths } = useUnits();
  return (
    <>
      <Box role="status" aria-label="What was read">
        <Box component="ul" sx={{ m: 0, pl: 3, '& li': { mb: 0.75 } }}>
          {sightingSaid(sighting, lengths, where).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </Box>
      </Box>
      <Stack direction="row" useFlexGap sx={{ gap: 1, flexWrap: 'wrap' }}>
        {sighting.endTold ? (
          <Button variant="contained" onClick={takeOver}>
            Take it over
          </Button>
        ) : (
          (['A', 'B'] as const).map((end) => (
            <Button key={end} variant="contained" onClick={() => isEnd(end)}>
              {where === 'middle' ? `It is seen as end ${end} is` : `It is end ${end}`}
            </Button>
          ))
        )}
        <Button variant="outlined" onClick={again}>
          Lines again
        </Button>
      </Stack>
      {sighting.endTold && (
        <Typography color="text.secondary">
          From here the plan goes on from what came. Undo, or taking the reading back, returns to what was
          foreseen.
        </Typography>
      )}
    </>
  );
}
