import { Box, Typography } from '@mui/material';
import {
  type Example,
  type LaneResult,
  MOTIFS,
  type StepResult,
  FITNESS,
  type Fitness,
} from '../../../../core/plan/index.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { colours } from '../../ui/theme.ts';
import { useSize } from '../../ui/useSize.ts';
import { SteelView } from '../steel/SteelView.tsx';

const COLOUR: Record<Fitness, string> = {
  good: colours.verdigris,
  usable: colours.amber,
  not: colours.alarm,
};
const GAP = 16;
/** px. A section is drawn so wide at most. */
const MOST_PX = 210;

/** What to look for in the middle of a bar: the bar as it is planned, and made-up ones that will do, may do or will not. */
export function WillDo({ result }: { lane: LaneResult; result: StepResult }) {
  const { plan } = useEvaluation();
  const [room, { width }] = useSize();
  const side = Math.floor(Math.min(MOST_PX, (width - 2 * GAP) / 3));
  const [bar] = result.after ?? [];
  return (
    <Box ref={room} sx={{ height: '100%', overflowY: 'auto' }}>
      <Typography sx={{ mb: 1 }}>
        Look at a cut through the <b>middle</b> of the bar: the ends are milder, or skewed, and tell less. How
        much is still good is common practice; these bars are made up.
      </Typography>
      {width > 0 && bar && !bar.blank && (
        <Box sx={{ display: 'flex', gap: 2, mb: 2, alignItems: 'center' }}>
          <SteelView
            plan={plan}
            stepId={result.step.id}
            when="after"
            face="middle"
            view="etched"
            width={side}
            height={side}
            urgency={0}
            label="This bar in the middle, as it is planned"
          />
          <Typography>This bar in the middle, as it is planned: hold what you see against it.</Typography>
        </Box>
      )}
      {MOTIFS.map(({ id, title, look, examples }) => (
        <Box key={id} component="section" aria-label={title} sx={{ mb: 2.5 }}>
          <Typography variant="h3">{title}</Typography>
          <Typography sx={{ mb: 1 }}>{look}</Typography>
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, minmax(0, 1fr))', gap: `${GAP}px` }}>
            {width > 0 && examples.map((one) => <One key={one.verdict} {...one} side={side} />)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

const One = ({ verdict, why, plan, stepId, side }: Example & { side: number }) => (
  <Box>
    <SteelView
      plan={plan}
      stepId={stepId}
      when="after"
      face="middle"
      view="etched"
      width={side}
      height={side}
      urgency={2}
      label={`${FITNESS[verdict]}: ${why}`}
    />
    <Typography component="p" sx={{ fontWeight: 700, color: COLOUR[verdict] }}>
      {FITNESS[verdict]}
    </Typography>
    <Typography variant="body2">{why}</Typography>
  </Box>
);
