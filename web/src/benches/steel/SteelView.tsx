import { useId, useLayoutEffect, useRef } from 'react';
import type { FaceName } from '../../../../core/billet/face.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import type { View } from '../../../../core/render/palette.ts';
import type { Picture } from '../../../../core/render/paint.ts';
import type { PaintJob } from '../../document/workers/paintJob.ts';
import { painter, planKey } from '../../document/workers/painter.ts';

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
  } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const slot = useId();
  // In the layout phase, so that the worker starts before the browser paints the rest of the page.
  useLayoutEffect(() => {
    const scale = (window.devicePixelRatio || 1) * density;
    const job = {
      slot,
      planKey: planKey(plan),
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
    };
    let stale = false;
    const show = async (rough: boolean): Promise<void> => {
      const shrink = rough ? ROUGH : 1;
      const widthPx = Math.max(1, Math.round((width * scale) / shrink));
      const heightPx = Math.max(1, Math.round((height * scale) / shrink));
      const picture = await painter.paint({
        ...job,
        widthPx,
        heightPx,
        rough,
        urgency: rough ? urgency - 10 : urgency,
      });
      if (stale || !canvas.current) return;
      if (picture) hang(canvas.current, picture);
      else if (rough) canvas.current.removeAttribute('data-painted');
      if (picture) canvas.current.dataset.painted = rough ? 'rough' : 'sharp';
    };
    void show(true).then(() => (stale ? undefined : show(false)));
    return () => {
      stale = true;
      void painter.drop(slot);
    };
  }, [
    plan,
    stepId,
    when,
    piece,
    face,
    view,
    width,
    height,
    urgency,
    slot,
    mostAspect,
    blade,
    density,
    pressed,
    passes,
    offDeg,
  ]);
  const spoken = label === '' ? { 'aria-hidden': true } : { role: 'img', 'aria-label': label };
  return <canvas ref={canvas} {...spoken} style={{ width, height, display: 'block' }} />;
}

function hang(canvas: HTMLCanvasElement, picture: Picture): void {
  canvas.width = picture.widthPx;
  canvas.height = picture.heightPx;
  canvas.getContext('2d')?.putImageData(new ImageData(picture.rgba, picture.widthPx, picture.heightPx), 0, 0);
}
