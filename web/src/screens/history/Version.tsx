import { Box, Typography } from '@mui/material';
import { sizeOf } from '../../../../core/billet/billet.ts';
import { type Plan, type Sides, differencesOf, lastReached } from '../../../../core/plan/index.ts';
import { formatSizes } from '../../../../core/units/index.ts';
import { SmallFace } from '../../benches/steel/SmallFace.tsx';
import { evaluated } from '../../document/useEvaluation.ts';

/** A plan among others of its piece: how many moves, what it comes to, its picture. */
export function Version({ title, plan, large }: { title: string; plan: Plan; large?: boolean }) {
  const evaluation = evaluated(plan);
  const { goal, shop, lanes } = evaluation;
  const last = lastReached(evaluation);
  return (
    <Box>
      <Typography variant="h3">{title}</Typography>
      <Typography color="text.secondary">
        {lanes.reduce((n, l) => n + l.steps.length, 0)} moves
        {goal.bar &&
          `, comes to ${formatSizes([goal.bar.lengthMm, sizeOf(goal.bar).widthMm, sizeOf(goal.bar).heightMm], shop.lengths)}`}
      </Typography>
      {last && (
        <SmallFace
          plan={plan}
          result={last}
          width={large ? 420 : 320}
          height={large ? 260 : 180}
          urgency={5}
          label={title}
        />
      )}
    </Box>
  );
}

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
