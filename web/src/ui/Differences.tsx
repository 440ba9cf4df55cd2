import { Box } from '@mui/material';
import { type Plan, type Sides, differencesOf } from '../../../core/plan/index.ts';

/** More than these are not read one by one. */
const MOST_SAID = 12;

/** What differs between two plans of a piece, in words. */
export function Differences({ mine, theirs, sides }: { mine: Plan; theirs: Plan; sides?: Sides }) {
  const all = differencesOf(mine, theirs, sides);
  return (
    <Box component="ul" sx={{ mt: 0, mb: 2, pl: 2.5 }}>
      {all.length === 0 && <li>Nothing differs</li>}
      {all.slice(0, MOST_SAID).map((text) => (
        <li key={text}>{text}</li>
      ))}
      {all.length > MOST_SAID && <li>and {all.length - MOST_SAID} more</li>}
    </Box>
  );
}
