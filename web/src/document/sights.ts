import * as Comlink from 'comlink';
import type { Plan } from '../../../core/plan/index.ts';
import type { Shot } from '../../../core/sighting/camera.ts';
import type { FaceAsked } from '../../../core/render/faceRead.ts';
import type { Photo } from '../../../core/sighting/photo.ts';
import type { EndPhotographed, Foreseen, Prediction } from '../../../core/sighting/sighting.ts';
import { api } from './api.ts';
import { usePhotographs } from './photographs.ts';
import { askApart, askOf } from './workers/host.ts';
import type { FaceShown, SightShown } from './workers/flowing.ts';

/** A photograph is read from no more dots a side than are kept of it. */
const MOST_PX = 2400;

/** A photograph as it is kept: here while it waits, else on the server. */
async function fileOf(projectId: string, id: string): Promise<Blob> {
  const waiting = usePhotographs.getState().waiting.get(id)?.file;
  if (waiting) return waiting;
  const answer = await fetch(api.photographUrl(projectId, id, 'large')).catch(() => null);
  if (!answer?.ok)
    throw new Error(
      'The photograph is not here, and the server does not answer with it: try again when it does.',
    );
  return answer.blob();
}

/** The dots of a photograph of the piece, upright. Throws, in words, where it is not there or cannot be opened. */
export const photoOf = async (projectId: string, id: string): Promise<Photo> =>
  openedPhoto(await fileOf(projectId, id));

/** The dots of a photograph in a file, upright. Throws, in words, where it cannot be opened. */
export async function openedPhoto(file: Blob): Promise<Photo> {
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => {
    throw new Error(
      'This browser cannot open the photograph: have the camera write JPEG (often called “most compatible”), or send it first.',
    );
  });
  const by = Math.min(1, MOST_PX / Math.max(bitmap.width, bitmap.height));
  const [width, height] = [Math.round(bitmap.width * by), Math.round(bitmap.height * by)];
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d');
  if (!context) throw new Error('This browser gives no room to draw in: close other pages and try again.');
  // A drawing without a ground stands on white.
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  return { width, height, rgba: context.getImageData(0, 0, width, height).data };
}

export const foreseenOf = (
  plan: Plan,
  stepId: string,
  piece: string,
  where: 'ends' | 'middle',
): Promise<Foreseen | null> =>
  askOf('answers', plan, (work, planKey) => work.foreseen(planKey, stepId, piece, where));

/** Reads a photograph beside the page; `end` stops it. */
export const readBeside = (
  asked: EndPhotographed,
  foreseen: Foreseen,
  progress: (share: number) => void,
): { readonly answer: Promise<SightShown>; end(): void } =>
  askApart('sight', (work) => work.sight(asked, foreseen, Comlink.proxy(progress)));

/** Reads a photograph of a face beside the page; `end` stops it. */
export function faceReadBeside(
  plan: Plan,
  stepId: string,
  piece: string,
  asked: FaceAsked,
): { readonly answer: Promise<FaceShown>; end(): void } {
  const { answer, end } = askApart('sight', (work) => work.faceSight(plan, stepId, piece, asked));
  const known = answer.then((shown) => {
    if (!shown)
      throw new Error('What is foreseen of this face is not known yet: its flow is being worked out.');
    return shown;
  });
  return { answer: known, end };
}

/** What the simulated camera takes of an end or the upper face of the first piece after a move, as a JPEG; null where nothing is foreseen of it. */
export async function simulatedPhotograph(
  plan: Plan,
  stepId: string,
  what: 'end' | 'face',
  shot: Omit<Shot, keyof Prediction>,
): Promise<Blob | null> {
  const photo = await askOf('answers', plan, (work, planKey) => work.simulated(planKey, stepId, what, shot));
  if (!photo) return null;
  const canvas = new OffscreenCanvas(photo.width, photo.height);
  const dots = new ImageData(Uint8ClampedArray.from(photo.rgba), photo.width, photo.height);
  canvas.getContext('2d')?.putImageData(dots, 0, 0);
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 });
}
