import { Alert, Box, LinearProgress, Stack } from '@mui/material';
import { useCallback, useState } from 'react';
import { type Billet, sizeOf } from '../../../../core/billet/billet.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import type { PieceCame } from '../../../../core/records/record.ts';
import type { Photo } from '../../../../core/sighting/photo.ts';
import { endOf } from '../../../../core/sighting/said.ts';
import { type Foreseen, REFUSED, type Sighting, firstCorners } from '../../../../core/sighting/sighting.ts';
import { foreseenOf, photoOf, readBeside } from '../../document/sights.ts';
import { useAsked } from '../../document/useAsked.ts';
import type { SightShown } from '../../document/workers/flowing.ts';
import { WholeScreen } from '../../ui/WholeScreen.tsx';
import { Corners } from '../../ui/Corners.tsx';
import { type Given, GivenFields } from './Given.tsx';
import { LaidOver } from './LaidOver.tsx';
import { Told } from './Told.tsx';
import { useReading } from './useReading.ts';

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
  /** As the photograph's caption has it; a cut in the middle may be seen as either. */
  end: 'A' | 'B' | null;
  where: 'ends' | 'middle';
  take(some: Partial<PieceCame>): void;
  onClose(): void;
}

/** A photographed end against what was foreseen: lines onto its edges, sizes, and what it shows; taken over by a press. */
export default function SightDialog(props: SightProps) {
  const { plan, projectId, stepId, bar, piece, photograph, where, onClose } = props;
  const photo = useAsked(useCallback(() => photoOf(projectId, photograph), [projectId, photograph]));
  const foreseen = useAsked(
    useCallback(() => foreseenOf(plan, stepId, piece, where), [plan, stepId, piece, where]),
  );
  const trouble = photo.error ?? foreseen.error;
  return (
    <WholeScreen title="What the photograph shows" onClose={onClose}>
      {trouble && <Alert severity="error">{trouble}</Alert>}
      {!trouble && (!photo.value || foreseen.asking) && (
        <LinearProgress aria-label="Fetching the photograph" />
      )}
      {foreseen.value === null && !foreseen.asking && !foreseen.error && (
        <Alert severity="info">
          What is foreseen of this end is not known yet: its flow is being worked out. Try again in a moment.
        </Alert>
      )}
      {photo.value && foreseen.value && (
        <Reader {...props} photo={photo.value} foreseen={foreseen.value} key={sizeOf(bar).widthMm} />
      )}
    </WholeScreen>
  );
}

type ReaderProps = SightProps & { photo: Photo; foreseen: Foreseen };

function Reader({ photo, foreseen, bar, came, photograph, focal, end, where, take, onClose }: ReaderProps) {
  const size = sizeOf(bar);
  const [given, setGiven] = useState<Given>(() => ({
    corners: firstCorners(photo, size.widthMm / size.heightMm),
    widthMm: came?.widthMm ?? size.widthMm,
    heightMm: came?.heightMm ?? size.heightMm,
    rising: undefined,
    falling: undefined,
    end,
  }));
  const [share, setShare] = useState(0);
  const { value: shown, ...reading } = useReading<SightShown>();
  const read = (of: Given) => {
    setShare(0);
    reading.begin(readBeside(askedOf(of, photo, focal), foreseen, setShare));
  };
  /** What was read of other lines or sizes is no longer shown. */
  const change = (some: Partial<Given>) => {
    reading.forget();
    setGiven({ ...given, ...some });
  };
  const sight = shown?.sight;
  const sighting = sight?.ok ? sight.sighting : null;
  const isTurned = sighting ? sighting.orientation % 2 === 1 : false;
  const aspect = given.widthMm / given.heightMm;
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 2,
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 3fr) minmax(0, 2fr)' },
      }}
    >
      {shown?.shown ? (
        <LaidOver what="The photographed end" {...shown.shown} aspect={isTurned ? 1 / aspect : aspect} />
      ) : (
        <Corners photo={photo} corners={given.corners} onChange={(corners) => change({ corners })} />
      )}
      <Stack sx={{ gap: 1.5, minWidth: 0 }}>
        {sighting && !reading.isReading ? (
          <Told
            sighting={sighting}
            where={where}
            again={reading.forget}
            takeOver={() => {
              take(takenOver(sighting, photograph, where, given, came));
              onClose();
            }}
            isEnd={(which) => {
              const next = { ...given, end: which };
              setGiven(next);
              read(next);
            }}
          />
        ) : (
          <GivenFields
            given={given}
            where={where}
            change={change}
            trouble={reading.failed ?? (sight && !sight.ok ? REFUSED[sight.why] : null)}
            done={reading.isReading ? share : null}
            read={() => read(given)}
            stop={reading.stop}
          />
        )}
      </Stack>
    </Box>
  );
}

function askedOf({ corners, widthMm, heightMm, rising, falling, end }: Given, photo: Photo, focal?: number) {
  return {
    photo,
    taps: corners,
    sizes: { acrossMm: widthMm, heightMm },
    ...(rising !== undefined && falling !== undefined && { diagonalsMm: [rising, falling] as const }),
    ...(end && { end }),
    ...(focal !== undefined && { focalPx: focal * Math.hypot(photo.width, photo.height) }),
  };
}

/** What the record of the piece takes: the end, and how it leans where diagonals say so, or the sight does beyond its uncertainty. */
function takenOver(
  sighting: Sighting,
  photograph: string,
  where: 'ends' | 'middle',
  { rising, falling }: Given,
  came?: PieceCame,
): Partial<PieceCame> {
  const key = where === 'middle' ? 'middle' : (`end${endOf(sighting)}` as const);
  const { leansDeg, leansWithinDeg } = sighting;
  const measured = rising !== undefined && falling !== undefined;
  const leans = leansDeg !== null && (measured || Math.abs(leansDeg) > 2 * (leansWithinDeg ?? 0));
  return {
    [key]: { ...came?.[key], sighting: { ...sighting, photograph } },
    ...(leans && { leansDeg: Number(leansDeg.toFixed(1)) }),
  };
}
