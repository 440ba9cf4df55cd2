import { Box, Button, Slider, Stack, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import type { Dots } from '../../../../core/sighting/overlay.ts';
import type { ShownOver } from '../../document/workers/flowing.ts';
import { fire } from '../../ui/fireTheme.ts';
import { useSize } from '../../ui/useSize.ts';

/** Between the one and the other while they blink, ms. */
const BLINK_MS = 600;
const LARGEST_PX = 520;
/** What is so much longer than wide takes all the room there is. */
const LONG = 2;

interface LaidOverProps extends ShownOver {
  /** What it is called to those who do not see it. */
  what: string;
  /** Width over height as they lie. */
  aspect: number;
}

const WAYS = [
  ['outlines', 'Outlines of the bands'],
  ['blink', 'By turns'],
  ['difference', 'Where they differ'],
] as const;

/** Where they differ shows bright. */
const difference = (a: Dots, b: Dots): Dots =>
  a.map((value, i) => (i % 4 === 3 ? 255 : Math.abs(value - b[i])));

/** The one where it shows anything, over the other. */
const over = (below: Dots, above: Dots): Dots =>
  below.map((value, i) => (above[4 * Math.floor(i / 4) + 3] > 0 ? above[i] : value));

/** The photographed section and what was foreseen, one over the other: mixed, by turns, or where they differ. */
export function LaidOver({ widthPx, photo, read, planned, aspect, what }: LaidOverProps) {
  const [frame, { width: room }] = useSize();
  const [share, setShare] = useState(50);
  const [way, setWay] = useState<'mixed' | 'blink' | 'outlines' | 'difference'>('mixed');
  const [asPlanned, setAsPlanned] = useState(false);
  const { foreseen, outlines } = asPlanned ? planned : read;
  const [seen, setSeen] = useState(false);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (way !== 'blink') return;
    const timer = setInterval(() => setSeen((now) => !now), BLINK_MS);
    return () => clearInterval(timer);
  }, [way]);
  const part = way === 'blink' ? (seen ? 1 : 0) : share / 100;
  const heightPx = photo.length / 4 / widthPx;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!context) return;
    const dots =
      way === 'difference'
        ? difference(photo, foreseen)
        : way === 'outlines'
          ? over(photo, outlines)
          : photo.map((value, i) => (1 - part) * value + part * foreseen[i]);
    context.putImageData(new ImageData(dots, widthPx, heightPx), 0, 0);
  }, [photo, foreseen, outlines, way, part, widthPx, heightPx]);
  const width = aspect > LONG ? room : Math.min(room, LARGEST_PX, LARGEST_PX * aspect);
  return (
    <Stack ref={frame} sx={{ gap: 1, alignItems: 'center', minWidth: 0 }}>
      <canvas
        ref={canvas}
        width={widthPx}
        height={heightPx}
        role="img"
        aria-label={`${what} and what was foreseen, laid over each other`}
        style={{ width, height: width / aspect }}
      />
      <Stack
        direction="row"
        sx={{ gap: 2, alignItems: 'center', width: '100%', maxWidth: LARGEST_PX, px: 2 }}
      >
        <Typography>Photograph</Typography>
        <Slider
          aria-label="How much of the plan is seen"
          value={share}
          onChange={(_, to) => {
            setWay('mixed');
            setShare(to);
          }}
          sx={{ color: fire.ember, '& .MuiSlider-thumb': { width: 32, height: 32 } }}
        />
        <Typography noWrap sx={{ flex: 'none' }}>
          {asPlanned ? 'Planned' : 'As read'}
        </Typography>
      </Stack>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', justifyContent: 'center' }}>
        <Button variant="outlined" aria-pressed={asPlanned} onClick={() => setAsPlanned(!asPlanned)}>
          Over the plan itself
        </Button>
        {WAYS.map(([key, title]) => (
          <Button
            key={key}
            variant="outlined"
            aria-pressed={way === key}
            onClick={() => setWay(way === key ? 'mixed' : key)}
          >
            {title}
          </Button>
        ))}
      </Box>
    </Stack>
  );
}
