import { Box, Typography } from '@mui/material';
import type { Band } from '../../../../core/forecast/index.ts';
import { type StepResult } from '../../../../core/plan/index.ts';
import { isDone } from '../../../../core/records/record.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { useExperience, useForecast } from '../../document/learning.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { colours, fonts } from '../../ui/theme.ts';

/** How sizes after a move may come, and what the shop's experience says of it: nothing of a move that is done. */
export function Expected({ result }: { result: StepResult }) {
  const evaluation = useEvaluation();
  const { forecast } = useForecast(evaluation);
  const { shop } = evaluation;
  const experience = useExperience(result, shop);
  if (isDone(result.records)) return null;
  const bands = forecast?.steps.find((s) => s.step === result.step.id);
  if (!bands && experience.length === 0) return null;
  const named = [
    ['Width', bands?.widthMm],
    ['Height', bands?.heightMm],
    ['Length', bands?.lengthMm],
  ] as const;
  return (
    <Box component="section" aria-label="How it may come">
      {bands && (
        <>
          <Typography variant="h3">How it may come</Typography>
          <Typography variant="body2" color="text.secondary">
            Eight times in ten within the bar, in the middle at the mark.
          </Typography>
          {named.map(([name, band]) =>
            band ? (
              <Whisker key={name} name={name} band={band} said={(mm) => formatLength(mm, shop.lengths)} />
            ) : null,
          )}
        </>
      )}
      {experience.map((text) => (
        <Box
          key={text}
          sx={{ mt: 1, p: 1, borderLeft: `4px solid ${colours.gilding}`, background: colours.gesso }}
        >
          {text}
        </Box>
      ))}
    </Box>
  );
}

/** Share of the scale to either side of a band. */
const ASIDE = 0.25;

function Whisker({ name, band, said }: { name: string; band: Band; said(mm: number): string }) {
  const { low, middle, high } = band;
  const [from, to] = [said(low), said(high)];
  const wide = (high - low) * (1 + 2 * ASIDE) || 1;
  const at = (value: number) => `${(100 * (value - low + ASIDE * (high - low))) / wide}%`;
  return (
    <Box
      sx={{ display: 'grid', gridTemplateColumns: '62px 1fr', alignItems: 'center', columnGap: 1, mt: 0.5 }}
    >
      <span>{name}</span>
      <Box sx={{ fontFamily: fonts.numbers, display: 'flex', justifyContent: 'space-between' }}>
        <span>{from}</span>
        {from !== to && <span>{to}</span>}
      </Box>
      {from !== to && (
        <Box
          aria-hidden
          sx={{ gridColumn: 2, position: 'relative', height: 10, background: colours.gesso, borderRadius: 1 }}
        >
          <Box
            sx={{
              position: 'absolute',
              top: 3,
              height: 4,
              left: at(low),
              width: `calc(${at(high)} - ${at(low)})`,
              background: colours.oxide,
              borderRadius: 1,
            }}
          />
          <Box
            sx={{
              position: 'absolute',
              top: 0,
              width: 3,
              height: 10,
              left: at(middle),
              background: colours.ink,
            }}
          />
        </Box>
      )}
    </Box>
  );
}
