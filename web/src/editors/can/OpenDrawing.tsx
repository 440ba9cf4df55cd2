import { nameWith } from '../../../../core/plan/index.ts';
import { LevelField } from '../../ui/fields/LevelField.tsx';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { Alert, Box, Button, Stack, Typography } from '@mui/material';
import { useEffect, useRef, useState } from 'react';
import { type Drawing, MOST_MENDED } from '../../../../core/picture/drawing.ts';
import { FIRST_FORM, type Filling, type Picture } from '../../../../core/picture/picture.ts';
import { fitted } from '../../../../core/picture/fitting.ts';
import { type Dots, type Tracing, tracingSchema } from '../../../../core/picture/traced.ts';
import { colours } from '../../ui/theme.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { FileButton } from '../../ui/FileButton.tsx';
import { useShop } from '../../document/useEvaluation.ts';
import { ask } from '../../document/workers/host.ts';
import { IMPORT_LIMIT, openFile } from './openFile.ts';
import type { Cropping } from '../../document/workers/forms.ts';
import { svgPathOf } from '../../ui/regionPath.ts';
import { Popup } from '../../ui/Popup.tsx';

const SHOWN = 300;
const WHOLE: Cropping = { left: 0, right: 0, top: 0, bottom: 0, turnDeg: 0 };
const of = quantitiesOf(tracingSchema);
/** How finely each is set. */
const STEPS = {
  tones: 1,
  threshold: 0.01,
  smoothPx: 0.5,
  speckPx: 10,
  simplifyPx: 0.1,
  turnDeg: 1,
  left: 0.01,
  right: 0.01,
  top: 0.01,
  bottom: 0.01,
} as const;
const FIRST_TRACING = { tones: 2, threshold: 0.5, smoothPx: 1, speckPx: 30, simplifyPx: 0.3 };

interface OpenDrawingProps {
  room: { widthMm: number; heightMm: number };
  /** The ground's powder, so that the first powder proposed differs from it. */
  ground: string;
  take(picture: Picture): void;
  onClose(): void;
}

/** Opens a drawing or a picture of dots and turns it into outlines: how it was, how it becomes, which powder fills what. */
export function OpenDrawing({ room, ground, take, onClose }: OpenDrawingProps) {
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [drawing, setDrawing] = useState<Drawing | null>(null);
  const [isDots, setIsDots] = useState(false);
  const [dots, setDots] = useState<Dots | null>(null);
  const [cropping, setCropping] = useState(WHOLE);
  const [how, setHow] = useState(FIRST_TRACING);
  const [powders, setPowders] = useState<Record<number, string>>({});
  const { materials } = useShop();
  const show = (read: { ok: true; drawing: Drawing } | { ok: false; message: string }) => {
    setDrawing(read.ok ? read.drawing : null);
    setProblem(read.ok ? null : read.message);
  };
  const open = async (file: File) => {
    setName(nameWith(file.name.replace(/\.[^.]*$/, ''), ''));
    setPowders({});
    setDots(null);
    const opened = await openFile(file).catch(({ message }: Error) => ({
      ok: false as const,
      message,
    }));
    setIsDots(opened.ok && opened.kind === 'dots');
    if (!opened.ok) show(opened);
    else if (opened.kind === 'drawing') show(opened.read);
    else {
      setProblem(null);
      setCropping({ ...WHOLE });
    }
  };
  useEffect(() => {
    if (!isDots) return;
    let stale = false;
    void ask('forms', (api) => api.dots(cropping)).then(
      (found) => !stale && setDots(found),
      ({ message }: Error) => !stale && show({ ok: false, message }),
    );
    return () => void (stale = true);
  }, [isDots, cropping]);
  useEffect(() => {
    if (!dots) return;
    let stale = false;
    void ask('forms', (api) => api.trace(dots, tracingOf(how)), IMPORT_LIMIT).then(
      (read) => !stale && show(read),
      ({ message }: Error) => !stale && show({ ok: false, message }),
    );
    return () => void (stale = true);
  }, [dots, how]);
  const chosen = (drawing: Drawing, i: number): string =>
    powders[i] ??
    proposed(
      drawing,
      i,
      ground,
      materials.map((m) => m.id),
    );
  const use = () => {
    if (!drawing) return;
    const drawn: Filling[] = drawing.tones.flatMap(({ region }, i) =>
      chosen(drawing, i) === 'ground'
        ? []
        : [
            {
              powder: chosen(drawing, i),
              region: region.map((ring) => ring.map(([x, y]) => [fine(x), fine(y)])),
            },
          ],
    );
    if (drawn.length === 0)
      return setProblem('Every tone is given to the ground: choose a powder for one at least.');
    const place = {
      on: 'can' as const,
      x: 0,
      y: 0,
      widthMm: 1,
      turnDeg: 0,
      mirrored: false,
      columns: 1,
      rows: 1,
    };
    take({ name, drawn, place: fitted({ drawn, place }, room), walked: null, form: FIRST_FORM });
  };
  return (
    <Popup
      title="A picture in powder"
      onClose={onClose}
      width="md"
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button variant="contained" disabled={!drawing} onClick={use}>
            Put it into the can
          </Button>
        </>
      }
    >
      <Stack direction="row" useFlexGap spacing={2} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
        <FileButton
          text="Open an SVG, PNG or JPEG"
          variant="outlined"
          accept=".svg,.png,.jpg,.jpeg,image/svg+xml,image/png,image/jpeg"
          take={open}
        />
        <Typography color="text.secondary">
          {name || 'A drawing of filled shapes, or a photograph with clear light and dark.'}
        </Typography>
      </Stack>
      {problem && <Alert severity="error">{problem}</Alert>}
      {drawing && (
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
          {dots && <Before dots={dots} />}
          <After drawing={drawing} />
          <Box sx={{ flex: 1, minWidth: 220, display: 'grid', gap: 1.25, alignContent: 'start' }}>
            {drawing.tones.map(({ colour }, i) => (
              <Stack key={i} direction="row" spacing={1} sx={{ alignItems: 'center' }}>
                <Box
                  sx={{
                    width: 26,
                    height: 26,
                    background: colour,
                    border: `1px solid ${colours.faded}`,
                    flex: 'none',
                  }}
                />
                <Choice
                  label={`Tone ${i + 1} becomes`}
                  value={chosen(drawing, i)}
                  options={[
                    ['ground', 'the ground'],
                    ...materials.filter((m) => m.weldC).map((m) => [m.id, `${m.name} powder`] as const),
                  ]}
                  onChange={(id) => setPowders({ ...powders, [i]: id })}
                />
              </Stack>
            ))}
            {drawing.mended.length > 0 && (
              <Alert severity="warning">
                Outlines crossed themselves in{' '}
                {drawing.mended.length === MOST_MENDED ? 'many' : drawing.mended.length} places (marked) and
                were parted there.
              </Alert>
            )}
            {drawing.notes.map((note) => (
              <Alert key={note} severity="info">
                {note}
              </Alert>
            ))}
          </Box>
        </Box>
      )}
      {isDots && <Tracer how={how} change={setHow} cropping={cropping} crop={setCropping} />}
    </Popup>
  );
}

const fine = (v: number): number => Math.round(v * 1e5) / 1e5;

/** One threshold for two tones; more of them evenly spread about it. */
function tracingOf({ tones, threshold, ...rest }: typeof FIRST_TRACING): Tracing {
  const n = tones - 1;
  const thresholds = Array.from({ length: n }, (_, i) =>
    n === 1 ? threshold : Math.min(0.98, Math.max(0.02, threshold + ((i - (n - 1) / 2) * 0.7) / n)),
  );
  return { ...rest, thresholds };
}

/** Dark tones are first proposed as another steel than the ground; the lightest is the ground where all else is left. */
function proposed(drawing: Drawing, i: number, ground: string, known: readonly string[]): string {
  const last = drawing.tones.length - 1;
  if (i === last && last > 0 && drawing.tones[i].tone > 0.85) return 'ground';
  const others = ['1084', '15n20', '52100', '80crv2'].filter((id) => id !== ground && known.includes(id));
  return others[i % Math.max(1, others.length)] ?? known[0];
}

function Before({ dots }: { dots: Dots }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const scale = SHOWN / Math.max(dots.widthPx, dots.heightPx);
  useEffect(() => {
    canvas.current
      ?.getContext('2d')
      ?.putImageData(new ImageData(new Uint8ClampedArray(dots.rgba), dots.widthPx, dots.heightPx), 0, 0);
  }, [dots]);
  return (
    <Box>
      <Typography variant="h3">Before</Typography>
      <canvas
        ref={canvas}
        width={dots.widthPx}
        height={dots.heightPx}
        data-painted="sharp"
        role="img"
        aria-label="The picture as it was opened"
        style={{
          width: dots.widthPx * scale,
          height: dots.heightPx * scale,
          display: 'block',
          border: `1px solid ${colours.line}`,
        }}
      />
    </Box>
  );
}

function After({ drawing }: { drawing: Drawing }) {
  const high = Math.max(1, drawing.aspect);
  const scale = SHOWN / high;
  const place = (x: number, y: number) => [(x + 0.5) * scale, (drawing.aspect / 2 - y) * scale] as const;
  return (
    <Box>
      <Typography variant="h3">As outlines</Typography>
      <svg
        width={scale}
        height={drawing.aspect * scale}
        role="img"
        aria-label={`${drawing.tones.length} tones as outlines`}
        style={{ border: `1px solid ${colours.line}`, background: colours.gesso, display: 'block' }}
      >
        {drawing.tones.map(({ colour, region }, i) => (
          <path
            key={i}
            d={svgPathOf(region, place)}
            fill={colour}
            fillRule="evenodd"
            stroke={colours.gilding}
            strokeWidth={0.6}
          />
        ))}
        {drawing.mended.map(([x, y], i) => {
          const [cx, cy] = place(x, y);
          return (
            <circle key={i} cx={cx} cy={cy} r={7} fill="none" stroke={colours.alarm} strokeWidth={2.5} />
          );
        })}
      </svg>
    </Box>
  );
}

interface TracerProps {
  how: typeof FIRST_TRACING;
  change(how: typeof FIRST_TRACING): void;
  cropping: Cropping;
  crop(cropping: Cropping): void;
}

/** Sliders for how dots become outlines. */
function Tracer({ how, change, cropping, crop }: TracerProps) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(auto-fill, minmax(190px, 1fr))',
        columnGap: 3,
        rowGap: 0.5,
      }}
    >
      {(['tones', 'threshold', 'smoothPx', 'speckPx', 'simplifyPx'] as const).map((key) => (
        <LevelField
          key={key}
          of={of(key)}
          value={how[key]}
          step={STEPS[key]}
          onChange={(value) => change({ ...how, [key]: value })}
        />
      ))}
      {(['turnDeg', 'left', 'right', 'top', 'bottom'] as const).map((key) => (
        <LevelField
          key={key}
          of={of(key)}
          value={cropping[key]}
          step={STEPS[key]}
          onChange={(value) => crop({ ...cropping, [key]: value })}
        />
      ))}
    </Box>
  );
}
