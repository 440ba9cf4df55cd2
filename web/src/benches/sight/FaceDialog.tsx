import { Alert, Box, Button, LinearProgress, Stack, Typography } from '@mui/material';
import { useCallback, useState } from 'react';
import { type Billet, sizeOf } from '../../../../core/billet/billet.ts';
import type { Remedy } from '../../../../core/moves/index.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import { pieceCameSchema, type PieceCame } from '../../../../core/records/record.ts';
import { FACE_REFUSED, faceSaid } from '../../../../core/render/faceSaid.ts';
import type { Along } from '../../../../core/sighting/along.ts';
import type { Four } from '../../../../core/sighting/homography.ts';
import type { Photo } from '../../../../core/sighting/photo.ts';
import { firstCorners } from '../../../../core/sighting/sighting.ts';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { faceReadBeside, photoOf } from '../../document/sights.ts';
import { useAsked } from '../../document/useAsked.ts';
import type { FaceShown } from '../../document/workers/flowing.ts';
import { Corners } from '../../ui/Corners.tsx';
import { WholeScreen } from '../../ui/WholeScreen.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { useUnits } from '../../ui/units.ts';
import { LaidOver } from './LaidOver.tsx';
import { useReading } from './useReading.ts';

const of = quantitiesOf(pieceCameSchema);

export interface FaceProps {
  plan: Plan;
  projectId: string;
  stepId: string;
  bar: Billet;
  piece: string;
  came: PieceCame | undefined;
  photograph: string;
  take(some: Partial<PieceCame>): void;
  /** Says in the plan how its tiles really lie; nothing where this device may not. */
  say: ((remedy: Remedy) => void) | undefined;
  onClose(): void;
}

/** A photographed stretch of a flat bar's broad face against what was foreseen: where along it everything really lies. */
export default function FaceDialog(props: FaceProps) {
  const { projectId, photograph, onClose } = props;
  const photo = useAsked(useCallback(() => photoOf(projectId, photograph), [projectId, photograph]));
  return (
    <WholeScreen title="What the face shows" onClose={onClose}>
      {photo.error && <Alert severity="error">{photo.error}</Alert>}
      {photo.asking && <LinearProgress aria-label="Fetching the photograph" />}
      {photo.value && <FaceReader {...props} photo={photo.value} />}
    </WholeScreen>
  );
}

interface Stretch {
  readonly corners: Four;
  readonly fromMm: number;
  readonly toMm: number;
}

/** Lines that first lie along the middle of the photograph, as a stretch so long and wide would. */
const firstStretch = (photo: Photo, bar: Billet): Stretch => ({
  corners: firstCorners(photo, bar.lengthMm / sizeOf(bar).widthMm),
  fromMm: 0,
  toMm: bar.lengthMm,
});

function FaceReader(props: FaceProps & { photo: Photo }) {
  const { plan, stepId, bar, piece, came, photograph, photo, take, say, onClose } = props;
  const { lengths } = useUnits();
  const [given, setGiven] = useState(() => firstStretch(photo, bar));
  const { value: shown, ...reading } = useReading<FaceShown>();
  const change = (some: Partial<Stretch>) => {
    reading.forget();
    setGiven({ ...given, ...some });
  };
  const read = (turned?: boolean) => {
    const { corners, ...stretch } = given;
    const asked = { photo, taps: corners, ...stretch, ...(turned !== undefined && { turned }) };
    reading.begin(faceReadBeside(plan, stepId, piece, asked));
  };
  const sight = shown?.read.sight;
  const along = sight?.ok ? sight.along : null;
  const trouble = reading.failed ?? (sight && !sight.ok ? FACE_REFUSED[sight.why] : null);
  const aspect = (given.toMm - given.fromMm) / sizeOf(bar).widthMm;
  return (
    <Stack sx={{ gap: 1.5 }}>
      {shown?.shown ? (
        <LaidOver what="The photographed face" {...shown.shown} aspect={aspect} />
      ) : (
        <Corners photo={photo} corners={given.corners} onChange={(corners) => change({ corners })} />
      )}
      {along && shown && !reading.isReading ? (
        <>
          <Box role="status" aria-label="What was read">
            <Box component="ul" sx={{ m: 0, pl: 3, '& li': { mb: 0.75 } }}>
              {faceSaid(shown.read, lengths).map((line) => (
                <li key={line}>{line}</li>
              ))}
            </Box>
          </Box>
          <Stack direction="row" useFlexGap sx={{ gap: 1, flexWrap: 'wrap' }}>
            {along.turnedTold ? (
              <Button
                variant="contained"
                onClick={() => {
                  take({ face: [...apart(came?.face, along), { ...along, photograph }] });
                  onClose();
                }}
              >
                Take it over
              </Button>
            ) : (
              <WhichIsLeft choose={read} />
            )}
            {say && along.turnedTold && shown.read.remedy && (
              <Button
                variant="outlined"
                onClick={() => {
                  say(shown.read.remedy!);
                  // The plan is another now.
                  reading.forget();
                }}
              >
                {shown.read.remedy.label}
              </Button>
            )}
            <Button variant="outlined" onClick={() => change({})}>
              Lines again
            </Button>
          </Stack>
        </>
      ) : (
        <>
          <Typography>
            Drag the four lines onto both long edges and onto where the stretch begins and ends; say how far
            from end A that is.
          </Typography>
          {trouble && <Alert severity="warning">{trouble}</Alert>}
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, maxWidth: 520 }}>
            <QuantityField
              of={of('cropped.endAMm')}
              label="From end A, from"
              value={given.fromMm}
              onChange={(fromMm) => change({ fromMm: Math.min(fromMm, bar.lengthMm) })}
            />
            <QuantityField
              of={of('lengthMm')}
              label="From end A, to"
              value={given.toMm}
              onChange={(toMm) => change({ toMm: Math.min(toMm, bar.lengthMm) })}
            />
          </Box>
          {reading.isReading ? (
            <Stack direction="row" sx={{ gap: 2, alignItems: 'center' }}>
              <LinearProgress aria-label="Reading" sx={{ flex: 1 }} />
              <Button variant="outlined" onClick={reading.stop}>
                Stop
              </Button>
            </Stack>
          ) : (
            <Button variant="contained" onClick={() => read()} sx={{ alignSelf: 'start' }}>
              Read it
            </Button>
          )}
        </>
      )}
    </Stack>
  );
}

/** Readings of other stretches: of two that overlap the later counts. */
const apart = (known: readonly Along[] | undefined, along: Along): readonly Along[] =>
  (known ?? []).filter((f) => f.toMm <= along.fromMm || f.fromMm >= along.toMm);

/** Asked where the face looks alike both ways round. */
const WhichIsLeft = ({ choose }: { choose(turned: boolean): void }) => (
  <>
    <Button variant="contained" onClick={() => choose(false)}>
      End A lies to the left
    </Button>
    <Button variant="contained" onClick={() => choose(true)}>
      End B lies to the left
    </Button>
  </>
);
