import CloseIcon from '@mui/icons-material/Close';
import {
  Alert,
  Box,
  Button,
  Dialog,
  IconButton,
  LinearProgress,
  Stack,
  Typography,
  useTheme,
} from '@mui/material';
import { useCallback, useEffect, useId, useRef, useState } from 'react';
import type { Billet } from '../../../../core/billet/billet.ts';
import { sizeOf } from '../../../../core/billet/billet.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import type { PieceCame } from '../../../../core/records/record.ts';
import { pieceCameSchema } from '../../../../core/records/record.ts';
import type { Four } from '../../../../core/sighting/homography.ts';
import type { Photo } from '../../../../core/sighting/photo.ts';
import { endOf, sightingSaid } from '../../../../core/sighting/said.ts';
import { REFUSED } from '../../../../core/sighting/sighting.ts';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { foreseenOf, photoOf, readBeside } from '../../document/sights.ts';
import { useAsked } from '../../document/useAsked.ts';
import type { SightShown } from '../../document/workers/flowing.ts';
import { OptionalField, QuantityField } from '../../ui/fields/QuantityField.tsx';
import { fire } from '../../ui/fireTheme.ts';
import { useUnits } from '../../ui/units.ts';
import { Corners } from './Corners.tsx';
import { LaidOver } from './LaidOver.tsx';

const of = quantitiesOf(pieceCameSchema);

export interface SightProps {
  plan: Plan;
  projectId: string;
  stepId: string;
  bar: Billet;
  piece: string;
  came: PieceCame | undefined;
  photograph: string;
  /** Its focal length as a part of its diagonal, where the camera said it. */
  focal: number | undefined;
  /** As the photograph's caption has it. */
  end: 'A' | 'B' | null;
  take(some: Partial<PieceCame>): void;
  onClose(): void;
}

/** The lines first lie where a section that fills the middle would. */
function firstCorners({ width, height }: Photo, aspect: number): Four {
  const half = 0.3 * Math.min(width, height);
  const [w, h] = [half * Math.min(1, aspect), half / Math.max(1, aspect)];
  const [x, y] = [width / 2, height / 2];
  return [
    [x - w, y - h],
    [x + w, y - h],
    [x + w, y + h],
    [x - w, y + h],
  ];
}

/** A photographed end against what was foreseen: lines onto its edges, sizes, and what it shows; taken over by a press. */
export default function SightDialog(props: SightProps) {
  const { plan, projectId, stepId, bar, piece, photograph, onClose } = props;
  const { palette } = useTheme();
  const heading = useId();
  const photo = useAsked(useCallback(() => photoOf(projectId, photograph), [projectId, photograph]));
  const foreseen = useAsked(useCallback(() => foreseenOf(plan, stepId, piece), [plan, stepId, piece]));
  const trouble = photo.error ?? foreseen.error;
  return (
    <Dialog open fullScreen onClose={onClose} aria-labelledby={heading}>
      <Stack sx={{ minHeight: '100dvh', background: palette.background.default, p: 2, gap: 2 }}>
        <Stack direction="row" sx={{ alignItems: 'center', gap: 2 }}>
          <Typography id={heading} variant="h2" sx={{ flex: 1 }}>
            What the photograph shows
          </Typography>
          <IconButton aria-label="Close" onClick={onClose}>
            <CloseIcon fontSize="large" />
          </IconButton>
        </Stack>
        {trouble && <Alert severity="error">{trouble}</Alert>}
        {!trouble && (!photo.value || foreseen.asking) && (
          <LinearProgress aria-label="Fetching the photograph" />
        )}
        {foreseen.value === null && !foreseen.asking && !foreseen.error && (
          <Alert severity="info">
            What is foreseen of this end is not known yet: its flow is being worked out. Try again in a
            moment.
          </Alert>
        )}
        {photo.value && foreseen.value && (
          <Reader {...props} photo={photo.value} foreseen={foreseen.value} key={sizeOf(bar).widthMm} />
        )}
      </Stack>
    </Dialog>
  );
}

type ReaderProps = SightProps & {
  photo: Photo;
  foreseen: NonNullable<Awaited<ReturnType<typeof foreseenOf>>>;
};

function Reader({ photo, foreseen, bar, came, photograph, focal, end: said, take, onClose }: ReaderProps) {
  const units = useUnits();
  const size = sizeOf(bar);
  const [corners, setCorners] = useState(() => firstCorners(photo, size.widthMm / size.heightMm));
  const [widthMm, setWidth] = useState(came?.widthMm ?? size.widthMm);
  const [heightMm, setHeight] = useState(came?.heightMm ?? size.heightMm);
  const [d1, setD1] = useState<number>();
  const [d2, setD2] = useState<number>();
  const [end, setEnd] = useState(said);
  const [done, setDone] = useState<number | null>(null);
  const [shown, setShown] = useState<SightShown | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const under = useRef<{ end(): void }>(undefined);
  useEffect(() => () => under.current?.end(), []);
  /** What was read of other lines or sizes is no longer shown. */
  const changed =
    <T,>(set: (value: T) => void) =>
    (value: T) => {
      under.current?.end();
      setDone(null);
      setShown(null);
      set(value);
    };
  const read = () => {
    const mine = readBeside(
      {
        photo,
        taps: corners,
        sizes: { acrossMm: widthMm, heightMm },
        ...(d1 !== undefined && d2 !== undefined && { diagonalsMm: [d1, d2] as const }),
        ...(end && { end }),
        ...(focal !== undefined && { focalPx: focal * Math.hypot(photo.width, photo.height) }),
      },
      foreseen,
      setDone,
    );
    under.current = mine;
    setFailed(null);
    setDone(0);
    mine.answer
      .then(setShown, (error: Error) => under.current === mine && setFailed(error.message))
      .finally(() => under.current === mine && setDone(null));
  };
  const sight = shown?.sight;
  const sighting = sight?.ok ? sight.sighting : null;
  const takeOver = () => {
    if (!sighting) return;
    const key = `end${endOf(sighting)}` as const;
    // A lean that is no more than its own uncertainty is none.
    const { leansDeg, leansWithinDeg } = sighting;
    const lean = leansDeg !== null && Math.abs(leansDeg) > 2 * (leansWithinDeg ?? 0) ? leansDeg : null;
    take({
      [key]: { ...came?.[key], sighting: { ...sighting, photograph } },
      ...(lean !== null && { leansDeg: Number(lean.toFixed(1)) }),
    });
    onClose();
  };
  const isTurned = sighting ? sighting.orientation % 2 === 1 : false;
  const aspect = isTurned ? heightMm / widthMm : widthMm / heightMm;
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 2,
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 3fr) minmax(0, 2fr)' },
      }}
    >
      {shown?.shown ? (
        <LaidOver {...shown.shown} aspect={aspect} />
      ) : (
        <Corners photo={photo} corners={corners} onChange={changed(setCorners)} />
      )}
      <Stack sx={{ gap: 1.5, minWidth: 0 }}>
        {sighting ? (
          <>
            <Box role="status" aria-label="What was read">
              <Box component="ul" sx={{ m: 0, pl: 3, '& li': { mb: 0.75 } }}>
                {sightingSaid(sighting, units.lengths).map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </Box>
            </Box>
            <Stack direction="row" useFlexGap sx={{ gap: 1, flexWrap: 'wrap' }}>
              <Button variant="contained" onClick={takeOver}>
                Take it over
              </Button>
              <Button variant="outlined" onClick={() => setShown(null)}>
                Lines again
              </Button>
            </Stack>
            <Typography color="text.secondary">
              From here the plan goes on from what came. Undo, or taking the photograph’s reading back,
              returns to what was foreseen.
            </Typography>
          </>
        ) : (
          <>
            <Typography>
              Drag the four lines onto the edges of the section; what is dragged is enlarged.
            </Typography>
            {sight && !sight.ok && <Alert severity="warning">{REFUSED[sight.why]}</Alert>}
            {failed && <Alert severity="error">{failed}</Alert>}
            <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
              <QuantityField
                of={of('widthMm')}
                label="Width by caliper"
                value={widthMm}
                onChange={changed(setWidth)}
              />
              <QuantityField
                of={of('heightMm')}
                label="Height by caliper"
                value={heightMm}
                onChange={changed(setHeight)}
              />
              <OptionalField
                of={of('widthMm')}
                label="Lower left to upper right"
                value={d1}
                onChange={changed(setD1)}
                none="–"
              />
              <OptionalField
                of={of('widthMm')}
                label="Lower right to upper left"
                value={d2}
                onChange={changed(setD2)}
                none="–"
              />
            </Box>
            <Typography color="text.secondary">
              Both diagonals, seen on end B, say whether it leans; they may stay empty.
            </Typography>
            <Stack
              direction="row"
              useFlexGap
              role="group"
              aria-label="Which end it is"
              sx={{ gap: 1, flexWrap: 'wrap' }}
            >
              {(['A', 'B', null] as const).map((which) => (
                <Button
                  key={which}
                  variant="outlined"
                  aria-pressed={end === which}
                  onClick={() => changed(setEnd)(which)}
                  sx={end === which ? { borderColor: fire.ember, color: fire.ember } : {}}
                >
                  {which ? `End ${which}` : 'Not known'}
                </Button>
              ))}
            </Stack>
            {done === null ? (
              <Button variant="contained" onClick={read} sx={{ alignSelf: 'start' }}>
                Read it
              </Button>
            ) : (
              <Stack direction="row" sx={{ gap: 2, alignItems: 'center' }}>
                <LinearProgress
                  aria-label="Reading"
                  variant="determinate"
                  value={100 * done}
                  sx={{ flex: 1 }}
                />
                <Button
                  variant="outlined"
                  onClick={() => {
                    under.current?.end();
                    under.current = undefined;
                    setDone(null);
                  }}
                >
                  Stop
                </Button>
              </Stack>
            )}
          </>
        )}
      </Stack>
    </Box>
  );
}
