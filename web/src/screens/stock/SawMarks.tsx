import { Box, Typography } from '@mui/material';
import { type Evaluation, sawings } from '../../../../core/plan/index.ts';
import { bareLength, formatFine, formatLength } from '../../../../core/units/index.ts';
import { pieceFigure } from '../../../../core/judgement/index.ts';
import { fonts } from '../../ui/theme.ts';
import { Asked } from '../../ui/Asked.tsx';
import { Section } from '../../ui/Section.tsx';

/** Marks for the saw and centre lines of every cut, as distances from end A in the shop's finest division. */
export function SawMarksOnBar({ evaluation }: { evaluation: Evaluation }) {
  const { lengths } = evaluation.shop;
  const all = sawings(evaluation);
  if (all.length === 0) return null;
  const list = (mm: readonly number[]) => mm.map((m) => bareLength(m, lengths)).join(' · ');
  return (
    <Section title="Marks for the saw">
      <Typography variant="body2" color="text.secondary">
        All from end A, so that errors do not add up; {lengths.unit === 'in' ? 'inches' : 'mm'}. Saw on the
        far side of a mark.
      </Typography>
      {all.map((s) => (
        <Box
          key={`${s.stepId} ${s.cutting.lengthMm}`}
          component="article"
          aria-label={`${s.lane}, move ${s.number}`}
        >
          <Typography>
            <b>
              {s.lane}, move {s.number}
            </b>
            : {s.cutting.pieces} pieces of <Asked figure={pieceFigure(s, evaluation.shop)} /> from{' '}
            {s.alike > 1 && `each of ${s.alike} that are `}
            {formatLength(s.cutting.lengthMm, lengths)}
            {s.alike > 1 && ' long'}
            {s.largestDifferenceMm > 1e-6 &&
              `; rounding leaves at most ${formatFine(s.largestDifferenceMm, lengths)} between pieces`}
          </Typography>
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: '110px 1fr',
              fontFamily: fonts.numbers,
              rowGap: 0.25,
            }}
          >
            <span style={{ fontFamily: fonts.body }}>saw marks</span>
            <span>{list(s.marksMm) || 'none'}</span>
            <span style={{ fontFamily: fonts.body }}>centre lines</span>
            <span>{list(s.centresMm)}</span>
          </Box>
        </Box>
      ))}
    </Section>
  );
}
