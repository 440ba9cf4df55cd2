import CloseIcon from '@mui/icons-material/Close';
import PhotoCameraIcon from '@mui/icons-material/PhotoCameraOutlined';
import { Box, Button, IconButton, Stack, Typography } from '@mui/material';
import type { Evaluation, StepResult } from '../../../../core/plan/index.ts';
import type { BenchRecord } from '../../../../core/records/record.ts';
import { FileButton } from '../../ui/FileButton.tsx';
import { Photograph } from '../../benches/Photograph.tsx';
import { dropPhotograph, focalOf, keepPhotograph, usePhotographs } from '../../document/photographs.ts';
import { usePlanStore } from '../../document/planStore.ts';
import { fire } from '../../ui/fireTheme.ts';
import { LayOver, Readings } from './Readings.tsx';
import type { Doing } from '../../document/useDoing.ts';

type Picture = NonNullable<BenchRecord['pictures']>[number];

/** What a photograph of a bar mostly shows. */
const SHOWS = ['End A', 'End B', 'Middle', 'Top', 'The whole bar'] as const;

interface PhotographsProps {
  doing: Doing;
  result: StepResult;
  stands: Evaluation;
}

/** Taken or chosen, each with what it shows; sent when the server is there. */
export function Photographs({ doing, result, stands }: PhotographsProps) {
  const projectId = usePlanStore((state) => state.projectId);
  const pictures = doing.record?.pictures ?? [];
  const put = (next: (now: readonly Picture[]) => Picture[]) =>
    doing.change((now) => {
      const then = next(now.pictures ?? []);
      return { pictures: then.length > 0 ? then : undefined };
    });
  const say = (id: string, shows: string) =>
    put((now) => now.map((p) => (p.id === id ? { ...p, shows } : p)));
  const take = async (file: File): Promise<void> => {
    const focal = await focalOf(file);
    if (!projectId) return;
    const id = keepPhotograph(projectId, file);
    put((now) => [...now, { id, shows: '', ...(focal !== undefined && { focal }) }]);
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
              <LayOver
                projectId={projectId}
                picture={picture}
                result={result}
                stands={stands}
                doing={doing}
                name={(shows) => say(picture.id, shows)}
              />
            )
          }
          say={(shows) => say(picture.id, shows)}
          remove={() => put((now) => now.filter((p) => p.id !== picture.id))}
        />
      ))}
      <Readings doing={doing} stands={stands} result={result} />
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
