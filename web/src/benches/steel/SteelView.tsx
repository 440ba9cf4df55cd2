import { useId, useLayoutEffect, useRef, useState } from 'react';
import type { FaceName } from '../../../../core/billet/face.ts';
import { type Plan, stepResult, materialOrder } from '../../../../core/plan/index.ts';
import type { View } from '../../../../core/render/palette.ts';
import type { Painted } from '../../../../core/render/paint.ts';
import { type PaintJob } from '../../document/workers/paintJob.ts';
import { useFlows } from '../../document/flows.ts';
import { useEvaluated } from '../../document/useEvaluation.ts';
import { ask, askOf } from '../../document/workers/host.ts';

interface SteelViewProps {
  plan: Plan;
  stepId: string;
  when: 'before' | 'after';
  piece?: number;
  face: FaceName;
  view: View;
  /** Size on screen, CSS pixels. */
  width: number;
  height: number;
  /** Dots painted to a pixel; more for paper than for the screen. */
  density?: number;
  /** Smaller is painted first. */
  urgency: number;
  /** What it is, for those who cannot see it; empty where the picture only adorns what is said beside it. */
  label: string;
  mostAspect?: number;
  /** The ground side of the plan's blade instead of the face. */
  blade?: 'right' | 'left';
  /** A loose can pressed so far on its way to solid. Keep the object while it says the same. */
  pressed?: PaintJob['pressed'];
  passes?: PaintJob['passes'];
  offDeg?: PaintJob['offDeg'];
  cutShare?: PaintJob['cutShare'];
  /** Only a part of a long one. Keep the object while it says the same. */
  closeUp?: PaintJob['closeUp'];
}

/** The rough picture has one pixel for this many, each way. */
const ROUGH = 3;

/** A face of the steel: rough at once, sharp after; the old picture stays until a new one is there. */
export function SteelView(props: SteelViewProps) {
  const {
    plan,
    stepId,
    when,
    piece = 0,
    face,
    view,
    width,
    height,
    urgency,
    label,
    mostAspect,
    blade,
    density = 1,
    pressed,
    passes,
    offDeg,
    cutShare,
    closeUp,
  } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const slot = useId();
  const [failed, setFailed] = useState<string | null>(null);
  const flows = useFlows((state) => state.flows);
  // What the picture shows, and nothing else of the plan: renaming a piece paints nothing anew.
  const evaluation = useEvaluated(plan);
  const result = stepResult(evaluation, stepId);
  const shown = (when === 'before' ? result?.before : result?.after)?.[piece];
  const { materials } = evaluation.shop;
  const order = materialOrder(evaluation).join();
  const outline = blade && plan.blade;
  const asksOther = passes !== undefined || offDeg !== undefined;
  const step = asksOther ? result?.step : undefined;
  const flowsKnown = asksOther ? flows : null;
  // In the layout phase, so that the worker starts before the browser paints the rest of the page.
  useLayoutEffect(() => {
    const scale = (window.devicePixelRatio || 1) * density;
    const job = {
      slot,
      stepId,
      when,
      piece,
      face,
      view,
      mostAspect,
      blade,
      pressed,
      passes,
      offDeg,
      cutShare,
      closeUp,
    };
    let stale = false;
    const show = async (rough: boolean): Promise<void> => {
      const shrink = rough ? ROUGH : 1;
      const widthPx = Math.max(1, Math.round((width * scale) / shrink));
      const heightPx = Math.max(1, Math.round((height * scale) / shrink));
      const picture = await askOf('painting', plan, (api, planKey) =>
        api.paint({
          ...job,
          planKey,
          widthPx,
          heightPx,
          rough,
          urgency: rough ? urgency - 10 : urgency,
        }),
      );
      if (stale || !canvas.current) return;
      if (picture) hang(canvas.current, picture);
      else if (rough) canvas.current.removeAttribute('data-painted');
      if (picture) canvas.current.dataset.painted = rough ? 'rough' : 'sharp';
    };
    show(true)
      .then(() => (stale ? undefined : show(false)))
      .then(
        () => !stale && setFailed(null),
        (error: Error) => !stale && setFailed(error.message),
      );
    return () => {
      stale = true;
      ask('painting', (api) => api.drop(slot)).catch(() => undefined);
    };
    // The plan is whichever this picture is of: it is painted anew only when what it shows is another.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [
    shown,
    step,
    flowsKnown,
    materials,
    order,
    outline,
    face,
    view,
    width,
    height,
    urgency,
    slot,
    mostAspect,
    density,
    pressed,
    passes,
    offDeg,
    cutShare,
    closeUp,
  ]);
  const spoken = label === '' ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label };
  return (
    <>
      {failed && <span role="alert">This picture could not be drawn: {failed}.</span>}
      <canvas ref={canvas} {...spoken} style={{ width, height, display: 'block' }} />
    </>
  );
}

function hang(canvas: HTMLCanvasElement, picture: Painted): void {
  canvas.width = picture.widthPx;
  canvas.height = picture.heightPx;
  canvas.getContext('2d')?.putImageData(new ImageData(picture.rgba, picture.widthPx, picture.heightPx), 0, 0);
}
