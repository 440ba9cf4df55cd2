import CloseIcon from '@mui/icons-material/Close';
import PhotoCameraIcon from '@mui/icons-material/PhotoCameraOutlined';
import { Box, Button, IconButton, Stack, Typography } from '@mui/material';
import { writtenOn } from '../../../../core/billet/billet.ts';
import type { Plan, StepResult } from '../../../../core/plan/index.ts';
import { useState } from 'react';
import type { BenchRecord } from '../../../../core/records/record.ts';
import { isFourSided } from '../../../../core/render/foreseen.ts';
import { ReadPhotograph } from '../../benches/sight/ReadPhotograph.tsx';
import { FileButton } from '../../ui/FileButton.tsx';
import { Photograph } from '../../benches/Photograph.tsx';
import { dropPhotograph, keepPhotograph, usePhotographs } from '../../document/photographs.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { fire } from '../../ui/fireTheme.ts';
import type { Doing } from '../../document/useDoing.ts';

type Picture = NonNullable<BenchRecord['pictures']>[number];

/** What a photograph of a bar mostly shows. */
const SHOWS = ['End A', 'End B', 'Middle', 'Top', 'The whole bar'] as const;

interface PhotographsProps {
  doing: Doing;
  result: StepResult;
  plan: Plan;
}

/** Taken or chosen, each with what it shows; sent when the server is there. */
export function Photographs({ doing, result, plan }: PhotographsProps) {
  const projectId = usePlanStore((state) => state.projectId);
  const pictures = doing.record?.pictures ?? [];
  const put = (next: readonly Picture[]) =>
    doing.change({ pictures: next.length > 0 ? [...next] : undefined });
  const take = (file: File): Promise<void> => {
    if (projectId) put([...pictures, { id: keepPhotograph(projectId, file), shows: '' }]);
    return Promise.resolve();
  };
  return (
    <Stack component="section" aria-label="Photographs" sx={{ gap: 1 }}>
      <Box>
        <FileButton
          text="Photograph"
          variant="outlined"
          accept="image/*"
          capture="environment"
          icon={<PhotoCameraIcon fontSize="large" />}
          take={take}
        />
      </Box>
      {pictures.map((picture) => (
        <Taken
          key={picture.id}
          picture={picture}
          read={
            projectId && (
              <Read projectId={projectId} picture={picture} result={result} plan={plan} doing={doing} />
            )
          }
          say={(shows) => put(pictures.map((p) => (p === picture ? { ...p, shows } : p)))}
          remove={() => put(pictures.filter((p) => p !== picture))}
        />
      ))}
    </Stack>
  );
}

interface TakenProps {
  picture: Picture;
  read: React.ReactNode;
  say(shows: string): void;
  remove(): void;
}

function Taken({ picture, read, say, remove }: TakenProps) {
  const waiting = usePhotographs((state) => state.waiting.get(picture.id));
  return (
    <Stack
      direction="row"
      sx={{ gap: 1.5, alignItems: 'flex-start', borderTop: `1px solid ${fire.line}`, pt: 1 }}
    >
      <Photograph id={picture.id} alt={picture.shows || 'A photograph, not named yet'} />
      <Stack sx={{ flex: 1, gap: 1 }}>
        {waiting?.trouble ? (
          <Typography color="error" role="alert">
            {waiting.trouble}
          </Typography>
        ) : (
          <Stack
            direction="row"
            useFlexGap
            role="group"
            aria-label="It shows"
            sx={{ flexWrap: 'wrap', gap: 1 }}
          >
            {SHOWS.map((what) => (
              <Button
                key={what}
                variant="outlined"
                aria-pressed={picture.shows === what}
                onClick={() => say(what)}
                sx={picture.shows === what ? { borderColor: fire.ember, color: fire.ember } : {}}
              >
                {what}
              </Button>
            ))}
          </Stack>
        )}
        {!waiting?.trouble && read}
      </Stack>
      <IconButton
        aria-label="Take this photograph out"
        onClick={() => {
          void dropPhotograph(picture.id);
          remove();
        }}
      >
        <CloseIcon fontSize="large" />
      </IconButton>
    </Stack>
  );
}

const ENDS = { 'End A': 'A', 'End B': 'B' } as const;

interface ReadProps extends PhotographsProps {
  projectId: string;
  picture: Picture;
}

/** What a photograph of an end shows of a piece, read and taken over; taken back as easily. */
function Read({ projectId, picture, result, plan, doing }: ReadProps) {
  const made = (result.reckoned ?? result).after ?? [];
  const [chosen, setChosen] = useState(0);
  const end = ENDS[picture.shows as keyof typeof ENDS] ?? null;
  const bar = made[Math.min(chosen, made.length - 1)];
  // Only an end that has four sides can be laid out square.
  if (!bar || !isFourSided(bar) || (picture.shows !== '' && end === null)) return null;
  const piece = writtenOn(bar, made.indexOf(bar));
  const came = doing.record?.pieces?.find((p) => p.piece === piece);
  const key = end && (`end${end}` as const);
  const sighting = key ? came?.[key]?.sighting : undefined;
  const takeBack = () => {
    if (!key) return;
    const rest = { ...came?.[key] };
    delete rest.sighting;
    doing.changePiece(piece, { [key]: Object.keys(rest).length > 0 ? rest : undefined });
  };
  return (
    <Stack sx={{ gap: 1, alignItems: 'flex-start' }}>
      {made.length > 1 && (
        <Stack
          direction="row"
          useFlexGap
          role="group"
          aria-label="Of which piece"
          sx={{ flexWrap: 'wrap', gap: 1 }}
        >
          {made.map((b, i) => (
            <Button
              key={writtenOn(b, i)}
              variant="outlined"
              aria-pressed={b === bar}
              onClick={() => setChosen(i)}
            >
              {writtenOn(b, i)}
            </Button>
          ))}
        </Stack>
      )}
      {sighting ? (
        <>
          <Typography>
            Read: the layers run {Math.abs(sighting.turnedDeg).toFixed(1)}°{' '}
            {sighting.turnedDeg < 0 ? 'clockwise' : 'counter-clockwise'} of where they should.
          </Typography>
          <Button variant="outlined" onClick={takeBack}>
            Take the reading back
          </Button>
        </>
      ) : (
        <ReadPhotograph
          plan={plan}
          projectId={projectId}
          stepId={result.step.id}
          bar={bar}
          piece={piece}
          came={came}
          photograph={picture.id}
          end={end}
          take={(some) => doing.changePiece(piece, some)}
        />
      )}
    </Stack>
  );
}
