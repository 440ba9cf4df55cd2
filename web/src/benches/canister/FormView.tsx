import { formSchema } from '../../../../core/picture/picture.ts';
import {
  Alert,
  Box,
  Button,
  Checkbox,
  CircularProgress,
  FormControlLabel,
  Stack,
  Typography,
} from '@mui/material';
import { useCallback, useState } from 'react';
import { type FaceName, tellingFace } from '../../../../core/billet/face.ts';
import type { Can } from '../../../../core/canister/can.ts';
import { type ThinPlace, droppedThin, thickened } from '../../../../core/picture/fitting.ts';
import type { Filling, FormSizes, Picture } from '../../../../core/picture/picture.ts';
import {
  type Evaluation,
  type Plan,
  type StepResult,
  lastReached,
  canOf,
} from '../../../../core/plan/index.ts';
import { formatFine, quantitiesOf } from '../../../../core/units/index.ts';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { download, fileName } from '../../ui/download.ts';
import { changeParameters, setParameters } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';
import type { CanReport, FormReport } from '../../document/workers/forms.ts';
import { InCan, OnFace } from './FormPictures.tsx';
import { type AskedAnswer, useAsked } from '../../document/useAsked.ts';
import { ask, askOf } from '../../document/workers/host.ts';

const of = quantitiesOf(formSchema);

/** The picture wanted, the form that makes it, and what comes out. */
export function FormView({ result }: { result: StepResult }) {
  const evaluation = useEvaluation();
  const { plan, shop } = evaluation;
  const can = canOf(result)!;
  const picture = can.picture!;
  const stepId = result.step.id;
  const { value: reports, asking, error } = useReports(plan, stepId);
  const put = (some: Partial<Picture>, what: string) =>
    changeParameters(
      stepId,
      (now) => ({ picture: { ...((now as Can).picture ?? picture), ...some } }),
      `picture ${what}`,
    );
  const form = (some: Partial<FormSizes>) =>
    put({ form: { ...picture.form, ...some } }, Object.keys(some).join());
  const onFace = picture.place.on !== 'can';
  const wish = async () => {
    const { on } = picture.place;
    const place = await askOf('forms', plan, (api, key) =>
      api.placeOn(key, stepId, on === 'can' ? telling(evaluation) : on),
    );
    if (place) put({ place, walked: null }, 'place');
  };
  const [sheet, { height }] = useSize();
  // Both drawings are seen whole, with room for what is said of them.
  const mostPx = Math.max(230, height - 150);
  const { face, inCan, thinOnFace } = reports ?? NOTHING_YET;
  const walk = face?.walk;
  const stale = onFace && walk?.ok && JSON.stringify(walk.fillings) !== JSON.stringify(picture.walked);
  function fix(how: (fillings: readonly Filling[], leastMm: number) => Filling[]): void {
    if (onFace) {
      if (picture.walked) put({ walked: how(picture.walked, picture.form.leastMm) }, 'mend');
      return;
    }
    put({ drawn: how(picture.drawn, picture.form.leastMm / picture.place.widthMm) }, 'mend');
  }

  return (
    <Box
      ref={sheet}
      sx={{ flex: 1, minHeight: 0, overflowY: 'auto', display: 'grid', gap: 1.25, alignContent: 'start' }}
    >
      {error && <Alert severity="error">The form could not be worked out: {error}.</Alert>}
      {!reports && asking && <CircularProgress aria-label="Figure the form" sx={{ m: 4 }} />}
      <Box sx={{ display: 'grid', gridTemplateColumns: onFace ? '1fr 1fr' : '1fr', gap: 1.5 }}>
        {onFace && face && (
          <OnFace
            plan={plan}
            stepId={stepId}
            picture={picture}
            report={face}
            thin={thinOnFace}
            mostPx={mostPx}
          />
        )}
        {inCan && <InCan report={inCan} mostPx={mostPx} />}
      </Box>
      {!onFace && (
        <Stack direction="row" useFlexGap spacing={1.5} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
          <Typography sx={{ flex: '1 1 320px' }}>
            The picture is drawn in the can as it is filled. Drawing it on the finished bar instead lets it be
            walked back through every move, so that it comes out as drawn.
          </Typography>
          <Button variant="outlined" onClick={() => void wish()}>
            Draw it on the finished bar
          </Button>
        </Stack>
      )}
      {reports && onFace && !face && (
        <Alert severity="warning">
          The plan does not come to a bar with steel of this can on that face yet.
        </Alert>
      )}
      {onFace && face && (
        <>
          {walk && !walk.ok && (
            <Alert
              severity="error"
              action={
                <Button color="inherit" onClick={() => void wish()}>
                  Place it in the largest copy
                </Button>
              }
            >
              {walk.message}
            </Alert>
          )}
          {walk?.ok && stale && (
            <Alert
              severity="warning"
              action={
                <Button color="inherit" onClick={() => put({ walked: walk.fillings }, 'walked')}>
                  Walk it back
                </Button>
              }
            >
              {picture.walked
                ? 'The plan or the picture has changed since the form was walked back, or thin places were mended by hand.'
                : 'The picture is not in the can yet: walk its outlines back through the planned moves.'}
            </Alert>
          )}
          {face.difference && picture.walked && <Differs report={face} stale={Boolean(stale)} />}
        </>
      )}
      {inCan && (
        <Thin
          where="in the can"
          least={formatFine(picture.form.leastMm, shop.lengths)}
          places={inCan.thinInCan}
          say="powder does not fill there"
          fixes={
            <>
              <Button size="small" onClick={() => fix(thickened)}>
                Thicken them
              </Button>
              <Button size="small" onClick={() => fix(droppedThin)}>
                Drop them
              </Button>
              {can.shape === 'box' && (
                <Button size="small" onClick={() => setParameters(stepId, larger(can), 'larger can')}>
                  Enlarge the can by a quarter
                </Button>
              )}
            </>
          }
        />
      )}
      {onFace && (
        <Thin
          where="on the finished bar"
          least="the eye tells at arm’s length"
          places={thinOnFace}
          say="they will not be seen: fewer rounds, or a larger picture"
        />
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: 'repeat(auto-fill, minmax(130px, 1fr))',
          gap: 1.25,
          mt: 0.5,
        }}
      >
        <QuantityField
          of={of('wallMm')}
          value={picture.form.wallMm}
          onChange={(wallMm) => form({ wallMm })}
        />
        <QuantityField of={of('lipMm')} value={picture.form.lipMm} onChange={(lipMm) => form({ lipMm })} />
        <QuantityField
          of={of('bridgeMm')}
          value={picture.form.bridgeMm}
          onChange={(bridgeMm) => form({ bridgeMm })}
        />
        <QuantityField
          of={of('baseMm')}
          value={picture.form.baseMm}
          onChange={(baseMm) => form({ baseMm })}
        />
        <QuantityField
          of={of('leastMm')}
          value={picture.form.leastMm}
          onChange={(leastMm) => form({ leastMm })}
        />
      </Box>
      <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap', alignItems: 'center' }}>
        <FormControlLabel
          control={<Checkbox checked={picture.form.handle} onChange={(_, handle) => form({ handle })} />}
          label="Handle to pull by"
        />
        <FormControlLabel
          control={<Checkbox checked={picture.form.leftIn} onChange={(_, leftIn) => form({ leftIn })} />}
          label="Left in, burns away"
        />
        <Files plan={plan} stepId={stepId} report={inCan} />
      </Stack>
    </Box>
  );
}

/** The face of the finished bar that tells most. */
const telling = (evaluation: Evaluation): FaceName => {
  const bar = evaluation.goalLane.ends[0] ?? lastReached(evaluation)?.after?.[0];
  return bar ? tellingFace(bar) : 'end B';
};

const larger = (can: Can): Can => {
  const round = (mm: number) => Math.round(mm * 1.25);
  const place =
    can.picture!.place.on === 'can'
      ? { ...can.picture!.place, widthMm: can.picture!.place.widthMm * 1.25 }
      : can.picture!.place;
  return {
    ...can,
    widthMm: round(can.widthMm),
    heightMm: round(can.heightMm),
    picture: { ...can.picture!, place },
  };
};

interface Reports {
  face: FormReport | null;
  inCan: CanReport | null;
  thinOnFace: ThinPlace[];
}

const NOTHING_YET: Reports = { face: null, inCan: null, thinOnFace: [] };

/** What the worker finds of the plan as it now stands; the last answer stays, greyed, until the next is there. */
function useReports(plan: Plan, stepId: string): AskedAnswer<Reports> {
  const question = useCallback(async (): Promise<Reports> => {
    const [face, inCan] = await Promise.all([
      askOf('forms', plan, (api, key) => api.faceReport(key, stepId)),
      askOf('forms', plan, (api, key) => api.canReport(key, stepId)),
    ]);
    const thinOnFace = face
      ? await ask('forms', (api) => api.thinOnFace([...face.wanted], face.faceWidthMm, face.faceHeightMm))
      : [];
    return { face, inCan, thinOnFace };
  }, [plan, stepId]);
  return useAsked(question);
}

const WITHIN_MM = 0.1;
const WITHIN = 0.01;

function Differs({ report, stale }: { report: FormReport; stale: boolean }) {
  const { shop } = useEvaluation();
  const { outlineShare, sampledShare, farthestMm } = report.difference!;
  const good = farthestMm < WITHIN_MM && outlineShare < WITHIN;
  const percent = (share: number) => `${(100 * share).toFixed(share < 0.001 ? 3 : 2)} %`;
  return (
    <Alert severity={good ? 'success' : 'warning'}>
      {good
        ? 'It comes out as wanted: '
        : stale
          ? 'As the can is now filled: '
          : 'It comes out otherwise than wanted: '}
      {percent(outlineShare)} of its area differs (sampled in the steel {percent(sampledShare)}), the farthest
      edge by{' '}
      {Number.isFinite(farthestMm)
        ? farthestMm < 0.01
          ? 'less than 0.01 mm'
          : formatFine(farthestMm, shop.lengths)
        : 'all of it'}
      .
    </Alert>
  );
}

function Thin({
  where,
  least,
  places,
  say,
  fixes,
}: {
  where: string;
  least: string;
  places: readonly ThinPlace[];
  say: string;
  fixes?: React.ReactNode;
}) {
  if (places.length === 0) return null;
  return (
    <Alert severity="warning">
      {places.length === 1 ? 'One place' : `${places.length} places`} {where} thinner than {least}: {say}.
      {fixes && (
        <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap', mt: 0.5 }}>
          {fixes}
        </Stack>
      )}
    </Alert>
  );
}

/** The form's files: to print, and outlines in true size to cut. */
function Files({ plan, stepId, report }: { plan: Plan; stepId: string; report: CanReport | null }) {
  const [state, setState] = useState<'ready' | 'working' | 'nothing'>('ready');
  const make = async (kind: 'stl' | '3mf' | 'svg' | 'dxf') => {
    setState('working');
    const blob = await askOf('forms', plan, (api, key) => api.file(key, stepId, kind)).catch(() => null);
    if (blob) download(fileName(plan.name, `-form.${kind}`), blob);
    setState(blob ? 'ready' : 'nothing');
  };
  const { shop } = useEvaluation();
  const { solid } = report ?? {};
  return (
    <>
      {(['stl', '3mf', 'svg', 'dxf'] as const).map((kind) => (
        <Button
          key={kind}
          size="small"
          variant="outlined"
          disabled={state === 'working'}
          onClick={() => void make(kind)}
        >
          {kind === 'stl' || kind === '3mf'
            ? `Print: ${kind.toUpperCase()}`
            : `Outlines: ${kind.toUpperCase()}`}
        </Button>
      ))}
      {solid && (
        <Typography variant="body2" color="text.secondary">
          {(solid.volumeMm3 / 1000).toFixed(1)} cm³ to print, {formatFine(solid.heightMm, shop.lengths)} high
          {solid.pieces > 1 ? `, ${solid.pieces} separate pieces` : ', one piece'}.
        </Typography>
      )}
      {state === 'nothing' && (
        <Alert severity="info">There is no outline in the can yet to print a wall along.</Alert>
      )}
    </>
  );
}
