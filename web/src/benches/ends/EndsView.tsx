import { Box, Button, Typography } from '@mui/material';
import { useMemo } from 'react';
import { type WayOn, waysOn } from '../../../../core/judgement/index.ts';
import type { StepResult } from '../../../../core/plan/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { formatFine } from '../../../../core/units/index.ts';
import { carryOut } from '../../document/carryOut.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';
import { SteelView } from '../steel/SteelView.tsx';

const GAP = 16;
/** Room under a picture for its words and its button, px. */
const WORDS = 150;
/** The least that a four-way is drawn, px; narrower rooms take two rows. */
const LEAST = 150;

/** Ways on from a bar whose picture stands turned: the four-way that each comes to, and what it costs. */
export function EndsView({ result }: { result: StepResult }) {
  const evaluation = useEvaluation();
  const ways = useMemo(() => waysOn(evaluation, result), [evaluation, result]);
  const [room, size] = useSize();
  const columns = size.width / Math.max(1, ways.length) - GAP < LEAST ? 2 : ways.length;
  const rows = Math.ceil(ways.length / Math.max(1, columns));
  const side = Math.floor(Math.min(size.width / columns - GAP, size.height / rows - WORDS));
  return (
    <Box ref={room} sx={{ height: '100%', minHeight: 220, overflowY: 'auto' }}>
      {ways.length === 0 ? (
        <Typography color="text.secondary">
          Enter how far the picture stands turned against the faces: what a four-way of it looks like, what
          grinding it true costs, and what that brings, is shown here.
        </Typography>
      ) : (
        size.width > 0 && (
          <Box sx={{ display: 'grid', gridTemplateColumns: `repeat(${columns}, 1fr)`, gap: `${GAP}px` }}>
            {ways.map((way) => (
              <Box key={way.id} component="section" aria-label={way.title}>
                <SteelView
                  plan={way.plan}
                  stepId={way.result.step.id}
                  when="after"
                  face="end B"
                  view="etched"
                  width={Math.max(LEAST / 2, side)}
                  height={Math.max(LEAST / 2, side)}
                  urgency={0}
                  label={`The four-way: ${way.title}`}
                />
                <Typography variant="h3" component="h3" sx={{ mt: 0.75 }}>
                  {way.title}
                </Typography>
                <Typography variant="body2">{saidOf(way, evaluation.shop)}</Typography>
                {way.remedy && (
                  <Button
                    size="small"
                    variant="contained"
                    sx={{ mt: 0.75 }}
                    onClick={() => carryOut(evaluation, result, way.remedy!)}
                  >
                    {way.remedy.label}
                  </Button>
                )}
              </Box>
            ))}
          </Box>
        )
      )}
    </Box>
  );
}

/** Share of a seam from which it is said to differ. */
const SEEN = 0.01;

/** What a way comes to: size and loss, points, seams. */
function saidOf({ sideMm, lostShare, points, mismatch }: WayOn, { lengths }: Shop): string {
  const cost =
    lostShare > 0
      ? `${formatFine(sideMm, lengths)} a side, ${(100 * lostShare).toFixed(1)} % of the steel gone.`
      : `${formatFine(sideMm, lengths)} a side, nothing lost.`;
  const star = points
    ? ` Points miss the middle by ${formatFine(Math.abs(points.missMm), lengths)}.`
    : ' No lines run to the middle.';
  const seams =
    mismatch > SEEN ? ` The worst seam differs on ${Math.round(100 * mismatch)} %.` : ' Every seam matches.';
  return cost + star + seams;
}
