import { Box, Stack, Typography } from '@mui/material';
import { useMemo } from 'react';
import { type Billet, sizeOf } from '../../../../core/billet/billet.ts';
import { sectionDifference } from '../../../../core/billet/sectionFlow.ts';
import { shareSaid } from '../../../../core/moves/forge/usualOrFlow.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import { SteelView } from '../steel/SteelView.tsx';

interface BesideProps {
  plan: Plan;
  stepId: string;
  bars: { readonly usual: Billet; readonly flowed: Billet };
  size: { width: number; height: number };
}

/** The usual and the computed section, at one size, and how far they differ. */
export function Beside({ plan, stepId, bars, size }: BesideProps) {
  const { widthMm, heightMm } = sizeOf(bars.usual);
  const scale = Math.max(0.05, Math.min((size.width - 40) / (2 * widthMm), (size.height - 70) / heightMm));
  const [w, h] = [Math.max(1, Math.round(widthMm * scale)), Math.max(1, Math.round(heightMm * scale))];
  const { usual, flowed } = bars;
  const differs = useMemo(() => sectionDifference(usual, flowed), [usual, flowed]);
  return (
    <Box>
      <Stack direction="row" spacing={2} sx={{ justifyContent: 'center' }}>
        {(['usual', 'flow'] as const).map((which) => (
          <Box key={which}>
            <Typography variant="h3">
              {which === 'usual' ? 'As such bars usually flow' : 'Worked out for this bar'}
            </Typography>
            <SteelView
              plan={plan}
              stepId={stepId}
              when="before"
              face="middle"
              view="etched"
              width={w}
              height={h}
              urgency={0}
              passes={which}
              label={which === 'usual' ? 'As such bars usually flow' : 'Worked out for this bar'}
            />
          </Box>
        ))}
      </Stack>
      <Typography sx={{ mt: 0.5 }} aria-live="polite">
        They differ on {shareSaid(differs)} of the section. The computed one is what dies and friction make of
        it.
      </Typography>
    </Box>
  );
}
