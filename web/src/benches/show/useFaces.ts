import { useEffect, useRef, useState } from 'react';
import { CanvasTexture, SRGBColorSpace } from 'three';
import { dot, type Facet } from '../../../../core/pose/solid.ts';
import { type Thing, endOf, windowOf } from '../../../../core/pose/thing.ts';
import type { Plan } from '../../../../core/plan/index.ts';
import type { Painted } from '../../../../core/render/paint.ts';
import { ask, askOf } from '../../document/workers/host.ts';

/** Dots along the longer side of a face. */
const DOTS = 176;
const LEAST_DOTS = 8;

/** What is shown on the faces of things: of which move, before it or after. */
export interface Shown {
  readonly plan: Plan;
  readonly stepId: string;
  readonly when: 'before' | 'after';
}

/** Pictures of faces, each by its name. */
export type Faces = ReadonlyMap<string, CanvasTexture>;

const names = new WeakMap<Facet, number>();
let lastName = 0;

/** A face of a thing with what is written on it: the same as long as both are. */
export function faceName(thing: Thing, facet: Facet): string {
  const own = names.get(facet) ?? ++lastName;
  names.set(facet, own);
  const end = endOf(thing, facet);
  return end ? `${own} ${thing.name} ${end} ${thing.toTop.map((x) => x.toFixed(2)).join()}` : String(own);
}

/** Number, letter and arrow as they are marked on an end. */
function mark(canvas: HTMLCanvasElement, thing: Thing, facet: Facet, end: 'A' | 'B'): void {
  const { across, up } = windowOf(facet);
  const draw = canvas.getContext('2d')!;
  const size = Math.min(canvas.width, canvas.height);
  const [x, y] = [dot(thing.toTop, across), dot(thing.toTop, up)];
  draw.translate(canvas.width / 2, canvas.height / 2);
  draw.rotate(Math.atan2(x, y));
  draw.lineWidth = size / 16;
  draw.strokeStyle = '#17140f';
  draw.fillStyle = '#ffcf70';
  draw.font = `700 ${size * 0.34}px "Atkinson Hyperlegible Next", sans-serif`;
  draw.textAlign = 'center';
  draw.textBaseline = 'middle';
  const text = `${thing.name} ${end}`;
  draw.strokeText(text, 0, size * 0.14, size * 0.9);
  draw.fillText(text, 0, size * 0.14, size * 0.9);
  draw.beginPath();
  draw.moveTo(0, -size * 0.38);
  draw.lineTo(size * 0.13, -size * 0.16);
  draw.lineTo(-size * 0.13, -size * 0.16);
  draw.closePath();
  draw.stroke();
  draw.fill();
}

function textureOf({ widthPx, heightPx, rgba }: Painted, thing: Thing, facet: Facet): CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = widthPx;
  canvas.height = heightPx;
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, widthPx, heightPx), 0, 0);
  const end = endOf(thing, facet);
  if (end) mark(canvas, thing, facet, end);
  const texture = new CanvasTexture(canvas);
  texture.colorSpace = SRGBColorSpace;
  texture.anisotropy = 4;
  return texture;
}

/** The steel's own picture on every face of some things, painted beside the page. */
export function useFaces(things: readonly Thing[], { plan, stepId, when }: Shown): Faces {
  const [faces, setFaces] = useState<Faces>(new Map());
  const sharp = useRef(new Set<string>());
  useEffect(() => {
    let left = false;
    const slots: string[] = [];
    const paintFace = async (thing: Thing, facet: Facet, piece: number, name: string): Promise<void> => {
      const plane = windowOf(facet);
      const scale = DOTS / Math.max(plane.widthMm, plane.heightMm);
      const px = (mm: number) => Math.max(LEAST_DOTS, Math.round(mm * scale));
      const slot = `show ${name} ${slots.length}`;
      slots.push(slot);
      const job = { slot, stepId, when, piece, face: 'end B', view: 'etched', plane } as const;
      const [widthPx, heightPx] = [px(plane.widthMm), px(plane.heightMm)];
      // Roughly at first, all of them; ends before sides.
      for (const rough of [true, false]) {
        const urgency = (rough ? 0 : 10) + (endOf(thing, facet) ? 0 : 1);
        const picture = await askOf('painting', plan, (api, planKey) =>
          api.paint({ ...job, planKey, urgency, widthPx, heightPx, rough }),
        );
        if (!picture || left) return;
        if (!rough) sharp.current.add(name);
        const texture = textureOf(picture, thing, facet);
        setFaces((now) => new Map(now).set(name, texture));
      }
    };
    for (const thing of things)
      for (const { of, facets } of thing.parts)
        if (typeof of === 'number')
          for (const facet of facets) {
            const name = faceName(thing, facet);
            // A face that cannot be painted stays plain.
            if (!sharp.current.has(name)) paintFace(thing, facet, of, name).catch(() => undefined);
          }
    return () => {
      left = true;
      for (const slot of slots) ask('painting', (api) => api.drop(slot)).catch(() => undefined);
    };
  }, [things, plan, stepId, when]);
  return faces;
}
