import { Box, Typography } from '@mui/material';
import { type Plan, lastReached } from '../../../../core/plan/index.ts';
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
        {goal.sizes && `, comes to ${formatSizes(Object.values(goal.sizes), shop.lengths)}`}
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
