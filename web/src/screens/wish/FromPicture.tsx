import { Button, Stack, Typography } from '@mui/material';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import type { Grey } from '../../../../core/likeness/grey.ts';
import { type BladeRuns, isPlain, lyingAlong, repeatIn } from '../../../../core/likeness/repeat.ts';
import type { Four } from '../../../../core/sighting/homography.ts';
import type { Photo } from '../../../../core/sighting/photo.ts';
import { openedPhoto } from '../../document/sights.ts';
import { Corners } from '../../ui/Corners.tsx';
import { FileButton } from '../../ui/FileButton.tsx';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { WholeScreen } from '../../ui/WholeScreen.tsx';

/** Often it is cropped already. */
const wholeOf = ({ width, height }: Photo): Four => [
  [0, 0],
  [width, 0],
  [width, height],
  [0, height],
];

const RUNS: Record<BladeRuns, string> = { across: 'Left to right', up: 'Upwards' };

/** A picture of one's own, one repeat of it marked by its corners; as it was marked it can be looked at again. */
export function FromPicture({ look }: { look(picture: Grey): void }) {
  const [photo, setPhoto] = useState<Photo | null>(null);
  const [corners, setCorners] = useState<Four | null>(null);
  const [runs, setRuns] = useState<BladeRuns>('across');
  const [isOpen, setOpen] = useState(false);
  const { enqueueSnackbar } = useSnackbar();
  const take = async (file: File) => {
    try {
      const read = await openedPhoto(file);
      setPhoto(read);
      setCorners(wholeOf(read));
      setRuns('across');
      setOpen(true);
    } catch (error) {
      enqueueSnackbar((error as Error).message, { variant: 'error' });
    }
  };
  return (
    <>
      <FileButton text="From a picture" accept="image/*" take={take} />
      {photo && <Button onClick={() => setOpen(true)}>The picture again</Button>}
      {isOpen && photo && corners && (
        <WholeScreen title="One repeat of the picture" onClose={() => setOpen(false)}>
          <Stack direction="row" useFlexGap spacing={2} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
            <Typography sx={{ flex: '1 1 320px' }}>
              Draw the lines round one repeat: one element, or as much of it as comes again and again. A
              little more or less, or a little turned, does no harm.
            </Typography>
            <Typography>The blade runs</Typography>
            <Toggles<BladeRuns>
              label="The blade runs"
              value={runs}
              options={Object.entries(RUNS) as [BladeRuns, string][]}
              onChange={setRuns}
            />
            <Button
              variant="contained"
              onClick={() => {
                const repeat = repeatIn(photo, lyingAlong(corners, runs));
                if (isPlain(repeat)) {
                  enqueueSnackbar('What is marked is all of one tone: draw the lines round more of it.', {
                    variant: 'error',
                  });
                  return;
                }
                setOpen(false);
                look(repeat);
              }}
            >
              Look for plans like it
            </Button>
          </Stack>
          <Corners photo={photo} corners={corners} onChange={setCorners} />
        </WholeScreen>
      )}
    </>
  );
}
