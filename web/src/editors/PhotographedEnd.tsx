import {
  Alert,
  Box,
  Button,
  LinearProgress,
  Stack,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { FoundParameters } from '../../../core/moves/begin/found.ts';
import { materialById } from '../../../core/materials/material.ts';
import { type DotsKept, keptDots } from '../../../core/picture/runs.ts';
import type { Four } from '../../../core/sighting/homography.ts';
import type { Photo } from '../../../core/sighting/photo.ts';
import type { Posterised } from '../../../core/sighting/posterised.ts';
import { firstCorners } from '../../../core/sighting/sighting.ts';
import type { Shop } from '../../../core/shop/shop.ts';
import { openedPhoto } from '../document/sights.ts';
import { useAsked } from '../document/useAsked.ts';
import { useShop } from '../document/useEvaluation.ts';
import { ask } from '../document/workers/host.ts';
import { Corners } from '../ui/Corners.tsx';
import { colours } from '../ui/theme.ts';
import { WholeScreen } from '../ui/WholeScreen.tsx';

interface PhotographedEndProps {
  file: File;
  bar: FoundParameters;
  take(dots: DotsKept): void;
  onClose(): void;
}

/** A photographed end turned into the steels of a bar: lines onto its edges, and what it becomes beside it. */
export function PhotographedEnd({ file, bar, take, onClose }: PhotographedEndProps) {
  const photo = useAsked(useCallback(() => openedPhoto(file), [file]));
  return (
    <WholeScreen title="The end of a bar that is there" onClose={onClose}>
      {photo.error && <Alert severity="error">{photo.error}</Alert>}
      {photo.asking && <LinearProgress aria-label="Opening the photograph" />}
      {photo.value && <InSteels photo={photo.value} bar={bar} take={take} />}
    </WholeScreen>
  );
}

/** Which steel each tone is, the darkest first: as the shop's steels etch. */
function byTone({ steels }: FoundParameters, { materials }: Shop): number[] {
  const tone = (id: string) => materialById(materials, id)?.tone ?? 0;
  return steels.map((_, k) => k).sort((a, b) => tone(steels[a]) - tone(steels[b]));
}

/** The tones as they are seen on end B once the photograph is turned so many quarters to the left. */
function asOnEndB({ n, tone }: Posterised, quarters: number, end: 'A' | 'B'): Uint8Array {
  return tone.map((_, at) => {
    const [i, j] = [at % n, Math.floor(at / n)];
    let [x, y] = [end === 'A' ? n - 1 - i : i, j];
    for (let k = 0; k < quarters; k++) [x, y] = [n - 1 - y, x];
    return tone[y * n + x];
  });
}

type InSteelsProps = Pick<PhotographedEndProps, 'bar' | 'take'> & { photo: Photo };

function InSteels({ photo, bar, take }: InSteelsProps) {
  const shop = useShop();
  const [corners, setCorners] = useState<Four>(() => firstCorners(photo, bar.widthMm / bar.heightMm));
  const [end, setEnd] = useState<'A' | 'B'>('B');
  const [quarters, setQuarters] = useState(0);
  const count = bar.steels.length;
  /** Where the lines lay when it was last asked to be read. */
  const [lay, setLay] = useState<Four | null>(null);
  const question = useMemo(
    () => lay && (() => ask('forms', (work) => work.posterised(photo, lay, count))),
    [photo, lay, count],
  );
  const seen = useAsked(question);
  const isRead = lay === corners && !seen.asking;
  const order = byTone(bar, shop);
  const value = isRead ? seen.value : null;
  const steel = value && asOnEndB(value, quarters, end).map((tone) => order[tone]);
  return (
    <Box
      sx={{
        display: 'grid',
        gap: 2,
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 3fr) minmax(0, 2fr)' },
      }}
    >
      <Corners photo={photo} corners={corners} onChange={setCorners} />
      <Stack sx={{ gap: 1.5, minWidth: 0, alignItems: 'flex-start' }}>
        <Typography>
          Drag the four lines onto the edges of the section; what is dragged is enlarged.
        </Typography>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={end}
          aria-label="Which end it is"
          onChange={(_, which: 'A' | 'B' | null) => which && setEnd(which)}
        >
          {(['A', 'B'] as const).map((which) => (
            <ToggleButton key={which} value={which} sx={{ color: colours.ink }}>
              End {which}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Button variant="outlined" onClick={() => setQuarters((quarters + 1) % 4)}>
          Turn it a quarter to the left
        </Button>
        <Button variant={value ? 'outlined' : 'contained'} onClick={() => setLay(corners)}>
          Read it
        </Button>
        {lay === corners && seen.asking && <LinearProgress aria-label="Reading" sx={{ width: '100%' }} />}
        {seen.error && <Alert severity="error">{seen.error}</Alert>}
        {isRead && !seen.error && !value && (
          <Alert severity="warning">
            The four corners do not make a section: drag the lines onto its edges.
          </Alert>
        )}
        {value && steel && <Steels side={value.n} steel={steel} bar={bar} shop={shop} />}
        {value && steel && (
          <Button variant="contained" onClick={() => take(keptDots(value.n, steel))}>
            So it is
          </Button>
        )}
      </Stack>
    </Box>
  );
}

interface SteelsProps {
  side: number;
  steel: Uint8Array;
  bar: FoundParameters;
  shop: Shop;
}

const SHOWN_PX = 320;

/** The end as it becomes, seen on end B, each steel as it etches. */
function Steels({ side, steel, bar, shop }: SteelsProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const tones = bar.steels.map((id) => Math.round(255 * (materialById(shop.materials, id)?.tone ?? 0.5)));
  const said = tones.join();
  useEffect(() => {
    const dots = new ImageData(side, side);
    const grey = said.split(',').map(Number);
    steel.forEach((k, at) => dots.data.set([grey[k], grey[k], grey[k], 255], 4 * at));
    canvas.current?.getContext('2d')?.putImageData(dots, 0, 0);
  }, [side, steel, said]);
  const aspect = bar.widthMm / bar.heightMm;
  const width = SHOWN_PX * Math.min(1, aspect);
  const shares = bar.steels.map((id, k) => {
    const share = steel.reduce((sum, s) => sum + Number(s === k), 0) / steel.length;
    return `${Math.round(100 * share)} % ${materialById(shop.materials, id)?.name ?? id}`;
  });
  return (
    <>
      <canvas
        ref={canvas}
        width={side}
        height={side}
        role="img"
        aria-label="The end in its steels, seen on end B"
        style={{ width, height: width / aspect }}
      />
      <Typography>{shares.join(', ')}.</Typography>
    </>
  );
}
