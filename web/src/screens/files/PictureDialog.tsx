import { Alert, Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { FACES, type FaceName, facePlane, tellingFace } from '../../../../core/billet/face.ts';
import type { StepResult } from '../../../../core/plan/index.ts';
import type { View } from '../../../../core/render/palette.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import { formatSizes } from '../../../../core/units/index.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { SteelView } from '../../benches/steel/SteelView.tsx';
import { askOf } from '../../document/workers/host.ts';
import { download, fileName } from '../../ui/download.ts';
import { Popup } from '../../ui/Popup.tsx';

/** px to the mm of a PNG, as long as it stays under so many px on its longer side. */
const PX_PER_MM = 20;
const MOST_PX = 5000;
const PREVIEW = { width: 460, height: 300 };

/** A face after a move, as a picture (PNG) or as outlines in true size (SVG). */
export function PictureDialog({ result, onClose }: { result: StepResult; onClose(): void }) {
  const { plan, shop } = useEvaluation();
  const billet = result.after![0];
  const [face, setFace] = useState<FaceName>(tellingFace(billet));
  const [view, setView] = useState<View>('etched');
  const [state, setState] = useState<'ready' | 'working' | string>('ready');
  const plane = facePlane(billet, face);
  const perMm = Math.min(PX_PER_MM, MOST_PX / Math.max(plane.widthMm, plane.heightMm));
  const shown = Math.min(PREVIEW.width / plane.widthMm, PREVIEW.height / plane.heightMm);
  const name = fileName(
    plan.name,
    `-${moveOf(result.step.kind).title}-${face}`.toLowerCase().replace(/\s+/g, '-'),
  );
  const make = async (work: () => Promise<Blob | null>, ending: string) => {
    setState('working');
    const content = await work().catch((error: Error) => error);
    if (content instanceof Error) return setState(`It could not be drawn: ${content.message}`);
    if (!content) return setState('There is no steel on this face.');
    download(name + ending, content);
    setState('ready');
  };
  const png = async () => {
    const [widthPx, heightPx] = [plane.widthMm, plane.heightMm].map((mm) =>
      Math.max(1, Math.round(mm * perMm)),
    );
    const picture = await askOf('painting', plan, (api, planKey) =>
      api.paint({
        slot: 'file',
        planKey,
        stepId: result.step.id,
        when: 'after',
        piece: 0,
        face,
        view,
        widthPx,
        heightPx,
        rough: false,
        urgency: -20,
      }),
    );
    if (!picture) return null;
    const canvas = new OffscreenCanvas(picture.widthPx, picture.heightPx);
    const image = new ImageData(picture.rgba, picture.widthPx, picture.heightPx);
    canvas.getContext('2d')?.putImageData(image, 0, 0);
    return canvas.convertToBlob({ type: 'image/png' });
  };
  const svg = async () => {
    const title = `${plan.name}: ${moveOf(result.step.kind).title}, ${face}`;
    const text = await askOf('painting', plan, (api, key) =>
      api.faceSvg(key, result.step.id, face, view, title),
    );
    return text === null ? null : new Blob([text], { type: 'image/svg+xml' });
  };
  const working = state === 'working';
  return (
    <Popup
      title={<>Picture after {moveOf(result.step.kind).title.toLowerCase()}</>}
      onClose={onClose}
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          <Button variant="outlined" disabled={working} onClick={() => void make(svg, '.svg')}>
            Outlines, SVG
          </Button>
          <Button variant="contained" disabled={working} onClick={() => void make(png, '.png')}>
            Picture, PNG
          </Button>
        </>
      }
    >
      <Stack direction="row" spacing={1.5}>
        <Choice
          label="Face"
          value={face}
          options={FACES.map((f) => [f, f] as const)}
          onChange={(f) => setFace(f)}
        />
        <Choice
          label="Painted"
          value={view}
          options={[
            ['etched', 'as etched'],
            ['materials', 'by material'],
          ]}
          onChange={(v) => setView(v)}
        />
      </Stack>
      <SteelView
        plan={plan}
        stepId={result.step.id}
        when="after"
        face={face}
        view={view}
        width={Math.max(2, Math.round(plane.widthMm * shown))}
        height={Math.max(2, Math.round(plane.heightMm * shown))}
        urgency={-5}
        label={`The picture, ${face}`}
      />
      <Typography color="text.secondary">
        {formatSizes([plane.widthMm, plane.heightMm], shop.lengths)}. The PNG has {Math.round(perMm * 25.4)}{' '}
        dots to the inch; the SVG is in true size, one path for each steel.
      </Typography>
      {state !== 'ready' && !working && <Alert severity="error">{state}</Alert>}
    </Popup>
  );
}
