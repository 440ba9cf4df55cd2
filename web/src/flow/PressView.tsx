import PauseIcon from '@mui/icons-material/Pause';
import PlayArrowIcon from '@mui/icons-material/PlayArrow';
import { Box, Button, IconButton, LinearProgress, Slider, Stack, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { type Billet, sizeOf } from '../../../core/billet/billet.ts';
import { stageOf } from '../../../core/flow/known.ts';
import type { LaneResult, Plan, StepResult } from '../../../core/plan/index.ts';
import {
  type PressParameters,
  afterPasses,
  contactForceN,
  idealOf,
  sectionDifference,
  specOf,
  squaredOf,
} from '../../../core/steps/press.ts';
import { formatFine, formatForce, formatLength } from '../../../core/units/index.ts';
import { colours } from '../app/theme.ts';
import { useEvaluation } from '../plan/useEvaluation.ts';
import { useSize } from '../plan/useSize.ts';
import { Legend } from '../steel/Legend.tsx';
import { SteelView } from '../steel/SteelView.tsx';
import { useFlows } from './flows.ts';

/** How long a pass stands still while it plays, ms. */
const BEAT_MS = 900;
/** How thick a die is drawn, px. */
const DIE_PX = 16;

/** The section between the dies, pass by pass. */
export function PressView({ result }: { lane: LaneResult; result: StepResult }) {
  const { plan, shop } = useEvaluation();
  const running = useFlows((state) => state.running);
  const p = result.step.parameters as PressParameters;
  const [bar] = result.before;
  const [chosen, setChosen] = useState<number | null>(null);
  const [playing, setPlaying] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  const size = useSize(frame);
  const spec = bar ? specOf(bar, p, shop) : null;
  const known = spec ? p.passes.filter((_, i) => stageOf(spec, i + 1)?.ok).length : 0;
  const pass = Math.min(chosen ?? known, known);
  useEffect(() => {
    if (!playing) return;
    const timer = setTimeout(() => {
      if (pass >= known) setPlaying(false);
      else setChosen(pass + 1);
    }, BEAT_MS);
    return () => clearTimeout(timer);
  }, [playing, pass, known]);
  const [beside, setBeside] = useState(false);
  const ideal = bar && result.after && known === p.passes.length ? idealOf(bar, p, shop) : null;
  if (!bar || !spec) return <Typography color="text.secondary">There is no bar to press yet.</Typography>;
  const shown = afterPasses(result, pass, shop);
  const stage = pass > 0 ? stageOf(spec, pass) : undefined;
  const report = stage?.ok ? stage.report : null;
  const { widthMm, heightMm } = shown ? sizeOf(shown) : sizeOf(bar);
  // One scale for all passes, so that the section is seen to change: that of the widest.
  const diagonal = Math.hypot(sizeOf(bar).widthMm, sizeOf(bar).heightMm);
  const scale = Math.max(
    0.05,
    Math.min((size.width - 20) / (1.25 * diagonal), (size.height - 2 * DIE_PX - 20) / diagonal),
  );
  const [w, h] = [Math.max(1, Math.round(widthMm * scale)), Math.max(1, Math.round(heightMm * scale))];
  const die = {
    height: DIE_PX,
    width: Math.max(w, 1.1 * diagonal * scale),
    background: '#6d6a64',
    mx: 'auto',
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0, gap: 0.75 }}>
      <Box
        ref={frame}
        sx={{ flex: 1, minHeight: 160, display: 'grid', placeContent: 'center', overflow: 'hidden' }}
      >
        {size.width > 0 && ideal && beside && (
          <Pair
            plan={plan}
            stepId={result.step.id}
            ideal={ideal}
            size={size}
            differs={sectionDifference(ideal, squaredOf(result, shop))}
          />
        )}
        {size.width > 0 && shown && !(ideal && beside) && (
          <Box>
            {pass > 0 && <Box sx={{ ...die, borderRadius: '4px 4px 0 0' }} />}
            <Box sx={{ width: w, mx: 'auto' }}>
              <SteelView
                plan={plan}
                stepId={result.step.id}
                when="before"
                face="middle"
                view="etched"
                width={w}
                height={h}
                urgency={0}
                passes={pass}
                label={pass === 0 ? 'The section before the first pass' : `The section after pass ${pass}`}
              />
            </Box>
            {pass > 0 && <Box sx={{ ...die, borderRadius: '0 0 4px 4px' }} />}
          </Box>
        )}
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
      <Stack direction="row" useFlexGap spacing={2} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
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
        <Box sx={{ flex: '1 1 200px', px: 1 }}>
          <Slider
            aria-label="Pass"
            value={pass}
            min={0}
            max={p.passes.length}
            step={1}
            marks
            disabled={known === 0}
            onChange={(_, v) => setChosen(v as number)}
            sx={{ color: colours.oxide }}
          />
        </Box>
        <Typography sx={{ flex: '2 1 320px' }} aria-live="polite">
          {pass === 0
            ? `Before: ${formatLength(widthMm, shop.lengths)} × ${formatLength(heightMm, shop.lengths)}.`
            : `Pass ${pass}, ${p.passes[pass - 1].turnDeg}°: ${formatLength(widthMm, shop.lengths)} wide, ${formatLength(heightMm, shop.lengths)} high.`}{' '}
          {report && (
            <span style={{ color: colours.faded }}>
              Contact {formatFine(report.contactMm, shop.lengths)}, force at the end about{' '}
              {formatForce(contactForceN(bar, report, shop) / 1000, shop.masses)} on a bite of{' '}
              {formatLength(shop.biteMm, shop.lengths)}.
            </span>
          )}
        </Typography>
      </Stack>
      <Stack direction="row" useFlexGap spacing={2} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
        <Legend view="etched" billets={[bar]} />
        {ideal && (
          <Button size="small" onClick={() => setBeside(!beside)}>
            {beside ? 'Between the dies' : 'Beside the ideal re-square'}
          </Button>
        )}
      </Stack>
    </Box>
  );
}

interface PairProps {
  plan: Plan;
  stepId: string;
  ideal: Billet;
  size: { width: number; height: number };
  differs: number;
}

/** The ideal re-square and the computed one, at one size, and how far they differ. */
function Pair({ plan, stepId, ideal, size, differs }: PairProps) {
  const { widthMm, heightMm } = sizeOf(ideal);
  const scale = Math.max(0.05, Math.min((size.width - 40) / (2 * widthMm), (size.height - 70) / heightMm));
  const [w, h] = [Math.max(1, Math.round(widthMm * scale)), Math.max(1, Math.round(heightMm * scale))];
  return (
    <Box>
      <Stack direction="row" spacing={2}>
        {(['ideal', 'computed'] as const).map((which) => (
          <Box key={which}>
            <Typography variant="h3">{which === 'ideal' ? 'By the ideal map' : 'By the flow'}</Typography>
            <SteelView
              plan={plan}
              stepId={stepId}
              when={which === 'ideal' ? 'before' : 'after'}
              face="middle"
              view="etched"
              width={w}
              height={h}
              urgency={0}
              {...(which === 'ideal' && { passes: 'ideal' as const })}
              label={which === 'ideal' ? 'Re-squared by the ideal map' : 'As the flow has it'}
            />
          </Box>
        ))}
      </Stack>
      <Typography sx={{ mt: 0.5 }} aria-live="polite">
        They differ on {Math.round(100 * differs)} % of the section. The computed one is what dies and
        friction make of it.
      </Typography>
    </Box>
  );
}
