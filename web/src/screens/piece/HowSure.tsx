import { Box, Button, CircularProgress, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import {
  type Band,
  type Forecast,
  type Surer,
  USUAL_RUNS,
  inHundred,
  inHundredSaid,
} from '../../../../core/forecast/index.ts';
import { numberOf } from '../../../../core/learning/index.ts';
import { type Evaluation, allSteps } from '../../../../core/plan/index.ts';
import { doneSteps } from '../../../../core/records/record.ts';
import { formatLength, formatMass } from '../../../../core/units/index.ts';
import { editPlan } from '../../document/planStore.ts';
import { useForecast, useSurer } from '../../document/learning.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Popup } from '../../ui/Popup.tsx';
import { colours, fonts, numbersStyle } from '../../ui/theme.ts';

/** Quiet where it is likely; a plan that mostly falls short does not stand there as if all were well. */
const colourOf = (forecast: Forecast | null): string =>
  forecast && forecast.reached < forecast.runs / 2 ? colours.alarm : colours.faded;

/** Quietly beside the goal: how many times in a hundred it is reached; pressed, why, and what would make it surer. */
export function HowSure({ evaluation }: { evaluation: Evaluation }) {
  const { forecast } = useForecast(evaluation);
  const [open, setOpen] = useState(false);
  const done = doneSteps(evaluation.plan.records);
  // Of what is made nothing is left to be unsure of.
  const isMade = allSteps(evaluation).every((s) => done.has(s.step.id));
  if (!evaluation.goal.bar || isMade) return null;
  return (
    <>
      <Button
        size="small"
        onClick={() => setOpen(true)}
        aria-label={forecast ? `Reaches it ${inHundredSaid(forecast)}: how sure` : 'How sure is it'}
        sx={{
          textTransform: 'none',
          fontWeight: 600,
          minWidth: 176,
          py: 0,
          px: 0.5,
          justifyContent: 'flex-start',
          color: colourOf(forecast),
        }}
      >
        {forecast ? `reached ${inHundredSaid(forecast)}` : 'how sure is it?'}
      </Button>
      {open && <Closely evaluation={evaluation} onClose={() => setOpen(false)} />}
    </>
  );
}

function Closely({ evaluation, onClose }: { evaluation: Evaluation; onClose(): void }) {
  const { forecast, error } = useForecast(evaluation);
  return (
    <Popup
      title="How sure it is"
      width="md"
      isLong
      onClose={onClose}
      actions={<Button onClick={onClose}>Close</Button>}
    >
      {error && <Typography color="error">{error}</Typography>}
      {!forecast && !error && (
        <Stack direction="row" spacing={1.5} sx={{ alignItems: 'center', minHeight: 200 }}>
          <CircularProgress size={28} aria-label="Running the plan forward" />
          <span>Running the plan forward {USUAL_RUNS.count} times …</span>
        </Stack>
      )}
      {forecast && <Told evaluation={evaluation} forecast={forecast} onClose={onClose} />}
    </Popup>
  );
}

function Told({
  evaluation,
  forecast,
  onClose,
}: {
  evaluation: Evaluation;
  forecast: Forecast;
  onClose(): void;
}) {
  const { lengths, masses } = evaluation.shop;
  const { goal } = evaluation.plan;
  const { finished, face, missDeg, hours, doubt, short, runs } = forecast;
  const shorts = (['length', 'width', 'thickness'] as const).filter((what) => short[what] > 0);
  const size = (mm: number) => formatLength(mm, lengths);
  const mass = (kg: number) => formatMass(kg, masses);
  const angle = (deg: number) => `${deg.toFixed(1)}°`;
  const time = (h: number) => `${h.toFixed(1)} h`;
  return (
    <>
      <Typography>
        Run forward {runs} times with scale, kerf, crops, grinding, heats and hands as they happen to be, it
        reaches the goal <b>{inHundredSaid(forecast)}</b>
        {shorts.length > 0 &&
          `; too ${shorts.map((what) => `${TOO[what]} ${Math.round((100 * short[what]) / runs)} times`).join(', ')}`}
        .
      </Typography>
      <FiguresTable
        heads={['Eight times in ten it comes between', 'Least', 'In the middle', 'Most', 'Wanted']}
        right={['Least', 'In the middle', 'Most', 'Wanted']}
      >
        {finished && (
          <>
            <Row what="Length" band={finished.lengthMm} said={size} wanted={size(goal.lengthMm)} />
            <Row what="Width" band={finished.widthMm} said={size} wanted={size(goal.widthMm)} />
            <Row what="Thickness" band={finished.thicknessMm} said={size} wanted={size(goal.thicknessMm)} />
          </>
        )}
        {face && (
          <>
            <Row
              what="One repeat of the end grain on the face, along"
              band={face.alongMm}
              said={size}
              wanted=""
            />
            <Row what="The same across" band={face.acrossMm} said={size} wanted="" />
          </>
        )}
        {finished && <Row what="Steel in it" band={finished.massKg} said={mass} wanted="" />}
        {missDeg && <Row what="The worst line misses its corner by" band={missDeg} said={angle} wanted="" />}
        <Row what="At the fire, the saw and the bench" band={hours} said={time} wanted="" />
      </FiguresTable>
      {doubt.length > 0 && <Doubt doubt={doubt} />}
      <BeSurer evaluation={evaluation} forecast={forecast} onTaken={onClose} />
    </>
  );
}

const TOO = { length: 'short', width: 'narrow', thickness: 'thin' } as const;

function Row({
  what,
  band,
  said,
  wanted,
}: {
  what: string;
  band: Band;
  said(value: number): string;
  wanted: string;
}) {
  return (
    <tr>
      <td>{what}</td>
      <td style={numbersStyle}>{said(band.low)}</td>
      <td style={numbersStyle}>{said(band.middle)}</td>
      <td style={numbersStyle}>{said(band.high)}</td>
      <td style={numbersStyle}>{wanted}</td>
    </tr>
  );
}

/** From which numbers the doubt about the length comes: those are worth measuring. */
function Doubt({ doubt }: { doubt: Forecast['doubt'] }) {
  // Where one tile drops out by this number or by that, neither alone decides.
  const together = 1 - doubt.reduce((sum, d) => sum + d.share, 0);
  return (
    <Box>
      <Typography variant="h3">Where the doubt about the length comes from</Typography>
      <Typography color="text.secondary" sx={{ mb: 0.5 }}>
        What is measured and written down at the bench is known better next time: the longest bar first.
      </Typography>
      {doubt.map(({ number, share }) => (
        <Share key={number} title={numberOf(number).title} share={share} />
      ))}
      {together >= LEAST_TOGETHER && <Share title="Several of them together" share={together} />}
    </Box>
  );
}

/** Less than so much of the variance is not worth a line. */
const LEAST_TOGETHER = 0.1;

function Share({ title, share }: { title: string; share: number }) {
  const percent = Math.round(100 * share);
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '280px 1fr 56px', alignItems: 'center', gap: 1 }}>
      <span>{title}</span>
      <Box sx={{ height: 14, background: colours.gesso, borderRadius: 1, overflow: 'hidden' }}>
        <Box sx={{ height: 1, width: `${percent}%`, background: colours.oxide }} />
      </Box>
      <span style={{ fontFamily: fonts.numbers, textAlign: 'right' }}>{percent} %</span>
    </Box>
  );
}

function BeSurer({
  evaluation,
  forecast,
  onTaken,
}: {
  evaluation: Evaluation;
  forecast: Forecast;
  onTaken(): void;
}) {
  const { ways, seeking, error } = useSurer(evaluation, forecast);
  const take = (way: Surer) => {
    editPlan(() => way.plan, 'surer');
    onTaken();
  };
  if (error) return <Typography color="error">Surer ways could not be looked for: {error}</Typography>;
  if (!seeking && ways.length === 0)
    return (
      <Typography color="text.secondary">
        {inHundred(forecast) >= 95
          ? 'It is as sure as it need be.'
          : 'Nothing was found that makes it surer.'}
      </Typography>
    );
  return (
    <Box>
      <Typography variant="h3">What would make it surer</Typography>
      {ways.map((way) => (
        <Stack key={way.id} direction="row" spacing={1.5} sx={{ alignItems: 'center', py: 0.5 }}>
          <Box sx={{ flex: 1 }}>{way.title}</Box>
          <b style={{ whiteSpace: 'nowrap' }}>{Math.round(100 * way.reaches)} in 100</b>
          <Button
            size="small"
            variant="outlined"
            onClick={() => take(way)}
            aria-label={`Take it: ${way.title}`}
          >
            Take it
          </Button>
        </Stack>
      ))}
      {seeking && (
        <Stack direction="row" spacing={1} sx={{ alignItems: 'center' }}>
          <CircularProgress size={18} aria-label="Looking for surer ways" />
          <Typography color="text.secondary">Looking for ways …</Typography>
        </Stack>
      )}
    </Box>
  );
}
