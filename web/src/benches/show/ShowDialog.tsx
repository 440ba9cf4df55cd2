import PauseIcon from '@mui/icons-material/Pause';
import PlayArrowIcon from '@mui/icons-material/PlayArrow';
import SkipNextIcon from '@mui/icons-material/SkipNext';
import SkipPreviousIcon from '@mui/icons-material/SkipPrevious';
import { Box, Button, CircularProgress, Dialog, Stack, Typography, useTheme } from '@mui/material';
import { Suspense, lazy, useEffect, useId, useMemo, useState } from 'react';
import { sayingsOf } from '../../../../core/instruct/words.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import { type Evaluation, type StepResult, actionsOf } from '../../../../core/plan/index.ts';
import { scenesOf } from '../../../../core/pose/scenes.ts';
import { Drawn } from './Drawn.tsx';

const Stage = lazy(() => import('./Stage.tsx'));

/** Between what is shown and the next while it is played, ms. */
const READ_MS = 2200;

const hasThreeDimensions = (): boolean => {
  try {
    return document.createElement('canvas').getContext('webgl2') !== null;
  } catch {
    return false;
  }
};

interface ShowDialogProps {
  evaluation: Evaluation;
  result: StepResult;
  onClose(): void;
}

/** An instruction played sentence by sentence: the pieces as they lie, turned, sawn and laid as the words say. */
export default function ShowDialog({ evaluation, result, onClose }: ShowDialogProps) {
  const { palette } = useTheme();
  const heading = useId();
  const { plan, shop } = evaluation;
  const frames = useMemo(() => {
    const sayings = sayingsOf(actionsOf(result.reckoned ?? result, shop), shop);
    // All of it is done; what has no words of its own is seen with what comes next.
    const scenes = scenesOf(
      result.before,
      sayings.map((s) => s.actions),
    );
    const shown = { plan, stepId: result.step.id, when: 'before' as const };
    const spoken = scenes
      .map((scene, i) => ({ scene, text: i === 0 ? 'As it lies before' : sayings[i - 1].said.join(' ') }))
      .filter(({ text }) => text !== '');
    const told = spoken.map((one, i) => ({ ...one, before: spoken[Math.max(0, i - 1)].scene, shown }));
    const [made] = scenesOf(result.after ?? [], []);
    const last = {
      scene: made,
      before: made,
      text: result.reckoned ? 'What came of it' : 'What comes of it',
      shown: { ...shown, when: 'after' as const },
    };
    const lays = told.filter(({ scene }) => scene.things.length > 0);
    return made.things.length > 0 ? [...lays, last] : lays;
  }, [plan, shop, result]);
  const [at, setAt] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [isThere, setThere] = useState<number | null>(null);
  const [solid] = useState(hasThreeDimensions);
  const frame = frames[at];
  const go = (by: 1 | -1) => setAt((now) => Math.min(Math.max(now + by, 0), frames.length - 1));
  // Read before the next is shown; whoever stops it in between stays there.
  useEffect(() => {
    if (!playing || isThere !== at) return;
    const timer = setTimeout(() => (at === frames.length - 1 ? setPlaying(false) : setAt(at + 1)), READ_MS);
    return () => clearTimeout(timer);
  }, [playing, isThere, at, frames.length]);
  const play = () => {
    if (playing) return setPlaying(false);
    setPlaying(true);
    setAt(at === frames.length - 1 ? 0 : at + 1);
  };
  return (
    <Dialog open fullScreen onClose={onClose} aria-labelledby={heading}>
      <Stack sx={{ height: '100dvh', background: palette.background.default }}>
        <Stack direction="row" sx={{ alignItems: 'center', px: 2, py: 1, gap: 2 }}>
          <Typography id={heading} variant="h2" sx={{ flex: 1 }}>
            {moveOf(result.step.kind).title}
          </Typography>
          <Button variant="outlined" onClick={onClose}>
            Close
          </Button>
        </Stack>
        <Box sx={{ flex: 1, minHeight: 0, position: 'relative' }} data-there={isThere === at || undefined}>
          {!frame ? (
            <Typography sx={{ p: 3 }}>Nothing lies on the bench for this move yet.</Typography>
          ) : solid ? (
            <Suspense fallback={<CircularProgress aria-label="Opening" sx={{ m: 4 }} />}>
              <Stage
                key={frame.shown.when}
                scene={frame.scene}
                before={frame.before}
                shown={frame.shown}
                materials={shop.materials}
                ground={palette.background.default}
                onThere={() => setThere(at)}
              />
            </Suspense>
          ) : (
            <Drawn scene={frame.scene} ink={palette.text.primary} ground={palette.background.paper} />
          )}
        </Box>
        <Typography
          role="status"
          aria-label="What is shown"
          sx={{
            px: 2,
            py: 1,
            fontSize: 22,
            lineHeight: 1.3,
            minHeight: 84,
            maxHeight: '24dvh',
            overflowY: 'auto',
          }}
        >
          {frame?.text}
        </Typography>
        <Stack direction="row" sx={{ px: 2, pb: 2, gap: 1, alignItems: 'center' }}>
          <Button
            variant="outlined"
            size="large"
            startIcon={<SkipPreviousIcon />}
            disabled={at === 0}
            onClick={() => go(-1)}
          >
            Back
          </Button>
          <Button
            variant="contained"
            size="large"
            startIcon={playing ? <PauseIcon /> : <PlayArrowIcon />}
            disabled={frames.length < 2 || !solid}
            onClick={play}
          >
            {playing ? 'Stop' : 'Play'}
          </Button>
          <Button
            variant="outlined"
            size="large"
            startIcon={<SkipNextIcon />}
            disabled={at >= frames.length - 1}
            onClick={() => go(1)}
          >
            Next
          </Button>
          <Typography color="text.secondary" sx={{ ml: 'auto' }}>
            {at + 1} of {frames.length}
          </Typography>
        </Stack>
      </Stack>
    </Dialog>
  );
}
