import { Alert, Box, Button, LinearProgress, Typography } from '@mui/material';
import { useCallback } from 'react';
import type { Evaluation, StepResult } from '../../../../core/plan/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { formatFine } from '../../../../core/units/index.ts';
import { carryOut } from '../../document/carryOut.ts';
import { useAsked } from '../../document/useAsked.ts';
import { askOf } from '../../document/workers/host.ts';
import type { WayShown } from '../../document/workers/answers.ts';
import { useSize } from '../../ui/useSize.ts';
import { PaintedView } from '../steel/PaintedView.tsx';

const GAP = 16;
/** Pictures are drawn so wide at least and at most, px. */
const [LEAST, MOST] = [190, 340];

interface WaysProps {
  evaluation: Evaluation;
  result: StepResult;
  /** Without it they are only looked at. */
  mayChange: boolean;
  /** Said where there is none. */
  none: string;
  carriedOut?(): void;
}

/** Ways on from a bar that was looked at: what its pieces look like laid together, what that costs, one press each. */
export function Ways({ evaluation, result, mayChange, none, carriedOut }: WaysProps) {
  const { plan, shop } = evaluation;
  const { id } = result.step;
  const { value, asking, error } = useAsked(
    useCallback(() => askOf('answers', plan, (work, planKey) => work.waysOn(planKey, id)), [plan, id]),
  );
  const [room, size] = useSize();
  if (error) return <Alert severity="error">Ways on could not be worked out: {error}</Alert>;
  if (asking || !value) return <LinearProgress aria-label="Working out ways on" />;
  if (value.length === 0) return <Typography color="text.secondary">{none}</Typography>;
  const columns = Math.max(1, Math.min(value.length, Math.floor((size.width + GAP) / (LEAST + GAP))));
  const side = Math.floor(Math.min(MOST, (size.width - (columns - 1) * GAP) / columns));
  return (
    <Box
      ref={room}
      sx={{ display: 'grid', gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, gap: `${GAP}px` }}
    >
      {size.width > 0 &&
        value.map(({ picture, ...way }) => (
          <Box
            key={way.id}
            component="section"
            aria-label={way.title}
            sx={{ display: 'flex', flexDirection: 'column', alignItems: 'flex-start', gap: 0.75 }}
          >
            <PaintedView picture={picture} width={side} label={`Laid together: ${way.title}`} />
            <Typography component="h3" sx={{ fontWeight: 700 }}>
              {way.title}
            </Typography>
            <Typography variant="body2" sx={{ flex: 1 }}>
              {saidOf(way, shop)}
            </Typography>
            {way.remedies.length > 0 && mayChange && (
              <Button
                variant="contained"
                onClick={() => {
                  carryOut(evaluation, result, way.remedies);
                  carriedOut?.();
                }}
              >
                Go this way
              </Button>
            )}
          </Box>
        ))}
    </Box>
  );
}

/** Points that miss each other by less meet to the eye. */
const MEETS_MM = 0.05;
/** Share of a seam from which it is said to differ. */
const SEEN = 0.01;

/** What a way comes to: size and loss, points, seams. */
function saidOf(
  { sideMm, lostShare, points, mismatch }: Omit<WayShown, 'picture'>,
  { lengths }: Shop,
): string {
  const cost =
    lostShare > 0.0005
      ? `${formatFine(sideMm, lengths)} a side, ${(100 * lostShare).toFixed(1)} % of the steel gone.`
      : `${formatFine(sideMm, lengths)} a side, nothing lost.`;
  const missMm = Math.abs(points?.missMm ?? 0);
  const star = !points
    ? ' No lines run to the middle.'
    : missMm < MEETS_MM
      ? ' Points meet in the middle.'
      : ` Points miss the middle by ${formatFine(missMm, lengths)}.`;
  const seams =
    mismatch > SEEN ? ` The worst seam differs on ${Math.round(100 * mismatch)} %.` : ' Every seam matches.';
  return cost + star + seams;
}
