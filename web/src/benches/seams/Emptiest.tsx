import { Box, Typography } from '@mui/material';
import type { LoosePiece } from '../../../../core/loose/pieces.ts';
import type { SeamAnswer } from '../../../../core/loose/stored.ts';
import { formatFine, formatFineArea } from '../../../../core/units/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { colours } from '../../ui/theme.ts';
import { Steel } from './LoosePieces.tsx';

/** How large the lens is, px, and how much it shows to each side, mm. */
const LENS_PX = 150;
const LENS_MM = 2;
/** A void smaller than this needs no lens, mm². */
const LEAST_VOID = 0.01;

interface EmptiestProps {
  answer: SeamAnswer;
  at: number;
  pieces: readonly LoosePiece[];
}

/** The corner with the most that no steel fills, under a lens. */
export function Emptiest({ answer, at, pieces }: EmptiestProps) {
  const { lengths } = useShop();
  const state = answer.states[at];
  if (answer.crosses.length === 0) return null;
  const worst = state.voidsMm2.reduce((best, v, i) => (v > state.voidsMm2[best] ? i : best), 0);
  const voidMm2 = state.voidsMm2[worst];
  const place = placeOf(answer, at, worst);
  if (voidMm2 < LEAST_VOID || !place)
    return (
      <Typography>
        Where corners meet less than {formatFineArea(LEAST_VOID, lengths)} is left empty.
      </Typography>
    );
  const stepMm = state.stepsMm[worst];
  const fine = (mm: number) => formatFine(mm, lengths);
  const [x, y] = place;
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: `${LENS_PX}px 1fr`, gap: 1.5, alignItems: 'center' }}>
      <svg
        width={LENS_PX}
        height={LENS_PX}
        role="img"
        aria-label="The emptiest corner"
        viewBox={`${x - LENS_MM} ${-y - LENS_MM} ${2 * LENS_MM} ${2 * LENS_MM}`}
        style={{ border: `1px solid ${colours.ink}`, background: colours.alarmWash }}
      >
        <Steel state={state} pieces={pieces} line={0.02} />
      </svg>
      <Typography>
        Empty where corners meet: up to {formatFineArea(voidMm2, lengths)}
        {stepMm > 0.02 && `, and the seams meet there in a step of ${fine(stepMm)}`}. True,{' '}
        {fine(2 * LENS_MM)} across.
      </Typography>
    </Box>
  );
}

/** Where a cross now is: the ends of the seams that meet there have gone where it has. */
function placeOf({ crosses, seams, states }: SeamAnswer, at: number, cross: number): [number, number] | null {
  const [cx, cy] = crosses[cross].at;
  const near = ([x, y]: readonly [number, number]) => Math.hypot(x - cx, y - cy) < 0.1;
  const ends = seams.flatMap((seam, i) => {
    const { places } = states[at].seams[i];
    return near(seam.from) ? [places[0]] : near(seam.to) ? [places[places.length - 1]] : [];
  });
  const mean = (k: 0 | 1) => ends.reduce((sum, p) => sum + p[k], 0) / ends.length;
  return ends.length > 0 ? [mean(0), mean(1)] : null;
}
