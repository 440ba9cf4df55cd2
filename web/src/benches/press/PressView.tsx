import PauseIcon from '@mui/icons-material/Pause';
import PlayArrowIcon from '@mui/icons-material/PlayArrow';
import { Box, IconButton, LinearProgress, Slider, Stack, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { sizeOf } from '../../../../core/billet/billet.ts';
import { type FlowDone, outlineAfter } from '../../../../core/flow/run.ts';
import { outlineSize } from '../../../../core/geometry/outline.ts';
import {
  contactForceN,
  pressingSeconds,
  seamPushes,
  stressUnitMPa,
} from '../../../../core/billet/sectionFlow.ts';
import { heatAfter } from '../../../../core/judgement/index.ts';
import {
  type LaneResult,
  type StepResult,
  afterPasses,
  besideUsual,
  flowingOf,
  turnedOff,
} from '../../../../core/plan/index.ts';
import { formatFine, formatForce, formatLength, formatTemperature } from '../../../../core/units/index.ts';
import { colours } from '../../ui/theme.ts';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';
import { Legend } from '../steel/Legend.tsx';
import { AngleOff } from './AngleOff.tsx';
import { Beside } from './Beside.tsx';
import { Between } from './Between.tsx';
import { useFlows } from '../../document/flows.ts';
import { SCALE, type Shade, type Shading, shadingOf } from './shading.ts';

/** How long a pass stands still while it plays, ms. */
const BEAT_MS = 900;

type Shown = 'layers' | Shade;
const SHADES: Record<Shown, string> = {
  layers: 'Layers',
  strain: 'Strain',
  push: 'Push across the seams',
  density: 'Density',
};
type Aspect = 'between' | 'usual' | 'angle';

/** The section between the dies, pass by pass; beside the usual; and with its tipping turned off. */
export function PressView({ result }: { lane: LaneResult; result: StepResult }) {
  const evaluation = useEvaluation();
  const { plan, shop } = evaluation;
  const flows = useFlows((state) => state.flows);
  const running = useFlows((state) => state.running);
  const flowing = flowingOf(result, shop);
  const [chosen, setChosen] = useState<number | null>(null);
  const [playing, setPlaying] = useState(false);
  const [shown, setShown] = useState<Shown>('layers');
  const [wished, setAspect] = useState<Aspect>('between');
  const [frame, size] = useSize();
  const passes = flowing?.spec.passes ?? [];
  const stages = flowing
    ? passes.map((_, i) => flows.stageOf(flowing.spec, i + 1)).filter((s): s is FlowDone => s?.ok === true)
    : [];
  const known = stages.length;
  const pass = Math.min(chosen ?? known, known);
  useEffect(() => {
    if (!playing) return;
    const timer = setTimeout(() => {
      if (pass >= known) setPlaying(false);
      else setChosen(pass + 1);
    }, BEAT_MS);
    return () => clearTimeout(timer);
  }, [playing, pass, known]);
  if (!flowing)
    return (
      <Typography color="text.secondary">
        {result.before.length === 0
          ? 'There is no bar to press yet.'
          : 'This is how such bars usually flow. Have it worked out for this bar (under “The section flows”) to see it between the dies.'}
      </Typography>
    );
  const { bar, spec } = flowing;
  const whole = known === passes.length;
  const beside = whole ? besideUsual(result, evaluation) : null;
  const canTip = whole && turnedOff(result, 1) !== null;
  const aspect: Aspect =
    (wished === 'usual' && !beside) || (wished === 'angle' && !canTip) ? 'between' : wished;
  const stage = pass > 0 ? stages[pass - 1] : null;
  const after = afterPasses(result, pass, evaluation);
  const { widthMm, heightMm } = sizeOf(after ?? bar);
  const shading =
    stage && shown !== 'layers'
      ? shadingOf(stage, shown, stressUnitMPa(bar, shop), () => seamPushes(bar, spec, stage))
      : null;
  const first = sizeOf(bar);
  const sizes = stages.filter((s) => s.report.steps > 0).map((s) => outlineSize(outlineAfter(spec, s)));
  const most = {
    widthMm: Math.max(first.widthMm, ...sizes.map((z) => z.widthMm)),
    heightMm: Math.max(first.heightMm, ...sizes.map((z) => z.heightMm)),
  };
  const seconds = pressingSeconds(bar, stages.slice(0, pass), shop);
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0, gap: 0.75 }}>
      <Stack direction="row" useFlexGap sx={{ flexWrap: 'wrap', gap: 1, justifyContent: 'space-between' }}>
        {(beside || canTip) && (
          <Toggles<Aspect>
            label="What is compared"
            value={aspect}
            options={[
              ['between', 'Between the dies'],
              ...(beside ? [['usual', 'Beside the usual'] as const] : []),
              ...(canTip ? [['angle', 'Angle off'] as const] : []),
            ]}
            onChange={setAspect}
          />
        )}
        {aspect === 'between' && stage && (
          <Toggles<Shown>
            label="What is shown as colour"
            value={shown}
            options={(Object.keys(SHADES) as Shown[])
              .filter((s) => s !== 'density' || stage.density)
              .map((s) => [s, SHADES[s]] as const)}
            onChange={setShown}
          />
        )}
      </Stack>
      <Box
        ref={frame}
        sx={{ flex: 1, minHeight: 200, display: 'grid', placeContent: 'center', overflow: 'hidden' }}
      >
        {size.width > 0 && aspect === 'between' && (
          <Between
            plan={plan}
            stepId={result.step.id}
            spec={spec}
            pass={pass}
            stage={stage}
            dies={pass > 0 ? passes[pass - 1] : null}
            shading={shading}
            width={Math.floor(size.width)}
            height={Math.floor(size.height)}
            most={most}
          />
        )}
        {size.width > 0 && aspect === 'usual' && beside && (
          <Beside plan={plan} stepId={result.step.id} bars={beside} size={size} />
        )}
        {size.width > 0 && aspect === 'angle' && <AngleOff result={result} size={size} />}
      </Box>
      {running && (
        <Box role="status">
          <Typography variant="body2">
            Working out how the section flows: pass {running.pass + 1} of {running.of}
          </Typography>
          <LinearProgress
            variant="determinate"
            aria-label="Flow worked out"
            value={(100 * (running.pass + running.share)) / running.of}
          />
        </Box>
      )}
      {aspect === 'between' && (
        <>
          <Stack direction="row" useFlexGap spacing={1} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
            <IconButton
              aria-label={playing ? 'Stop' : 'Play the passes'}
              disabled={known === 0}
              onClick={() => {
                if (!playing && pass >= known) setChosen(0);
                setPlaying(!playing);
              }}
            >
              {playing ? <PauseIcon /> : <PlayArrowIcon />}
            </IconButton>
            <Box sx={{ flex: '1 1 180px', px: 1 }}>
              <Slider
                aria-label="Pass"
                value={pass}
                max={passes.length}
                step={1}
                marks
                disabled={known === 0}
                onChange={(_, v) => setChosen(v as number)}
                sx={{ color: colours.oxide, display: 'block' }}
              />
            </Box>
            <Typography sx={{ flex: '0 1 auto' }} aria-live="polite">
              {pass === 0
                ? `Before: ${formatLength(widthMm, shop.lengths)} × ${formatLength(heightMm, shop.lengths)}.`
                : `Pass ${pass}, ${passes[pass - 1].turnDeg}°: ${formatLength(widthMm, shop.lengths)} wide, ${formatLength(heightMm, shop.lengths)} high.`}
            </Typography>
          </Stack>
          <Typography variant="body2" color="text.secondary">
            {stage && stage.report.steps > 0
              ? `Contact ${formatFine(stage.report.contactMm, shop.lengths)}, force at the end about ${formatForce(contactForceN(bar, stage.report, shop) / 1000, shop.masses)} of the press’s ${formatForce(shop.press.ratingKN, shop.masses)} on a bite of ${formatLength(shop.biteMm, shop.lengths)}. After ${Math.round(seconds)} s at the press, without another heat, the bar is at ${formatTemperature(heatAfter(bar, shop.forge.weldingC, seconds), shop.temperatures)}.`
              : pass === 0
                ? 'As it lies before it is pressed.'
                : 'Turned back as it lay.'}
          </Typography>
          {shading ? (
            <Scale shading={shading} shown={shown as Shade} />
          ) : (
            <Legend view="etched" billets={[bar]} />
          )}
        </>
      )}
    </Box>
  );
}

const numberOf: Record<Shade, (v: number) => string> = {
  strain: (v) => v.toFixed(2),
  push: (v) => `${v.toFixed(0)} MPa`,
  density: (v) => `${(100 * v).toFixed(1)} %`,
};
const SAYS: Record<Shade, string> = {
  strain: 'Strain: how much the steel has been worked, counted over all passes.',
  push: 'Push square across the seams, the most each has seen. Where it stays low a seam may not weld. Grey: no seam.',
  density: 'Density of the powder, of solid. Where it stays low the powder has not welded.',
};

/** What the colours mean. */
function Scale({ shading, shown }: { shading: Shading; shown: Shade }) {
  const say = numberOf[shown];
  return (
    <Stack direction="row" useFlexGap spacing={1} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
      <span>{say(shading.least)}</span>
      <Box sx={{ width: 180, height: 16, background: SCALE, borderRadius: 0.5 }} />
      <span>{say(shading.most)}</span>
      <Typography variant="body2" color="text.secondary">
        {SAYS[shown]}
      </Typography>
    </Stack>
  );
}
