import * as Comlink from 'comlink';
import type { ManifoldToplevel } from 'manifold-3d/manifold';
import wasm from 'manifold-3d/manifold.wasm?url';
import type { FaceName } from '../../../../core/billet/face.ts';
import { partOf } from '../../../../core/billet/face.ts';
import { type Can, roomOf } from '../../../../core/canister/can.ts';
import { type NamedRegion, dxfOf, svgOf } from '../../../../core/form/outlineFiles.ts';
import { type FormSolid, formSolid, wallsOf } from '../../../../core/form/solid.ts';
import { stlOf } from '../../../../core/form/stl.ts';
import { threeMfOf } from '../../../../core/form/threeMf.ts';
import { leastBandMm } from '../../../../core/geometry/acuity.ts';
import { type Point2, rectangle } from '../../../../core/geometry/outline.ts';
import { type Region, boxOf } from '../../../../core/geometry/regions.ts';
import { type ThinPlace, thinPlaces } from '../../../../core/picture/fitting.ts';
import { type DrawingRead, refused } from '../../../../core/picture/drawing.ts';
import { MOST_IMAGE_BYTES, imageHeader } from '../../../../core/picture/imageHeader.ts';
import { type Filling, type Placing, aspectOf, fillingsOf } from '../../../../core/picture/picture.ts';
import { drawingFromSvg } from '../../../../core/picture/svg.ts';
import { type Dots, TRACED_PX, type Tracing, traced } from '../../../../core/picture/traced.ts';
import { type Evaluation, type Plan, stepResult, materialOrder } from '../../../../core/plan/index.ts';
import {
  type Copy,
  type Difference,
  type Walked,
  copiesOn,
  copyAt,
  difference,
  faceOfCan,
  walkedBack,
  wantedOn,
} from '../../../../core/plan/walkBack.ts';
import { type Painted, painting } from '../../../../core/render/paint.ts';
import { makePalette } from '../../../../core/render/palette.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import type { Four } from '../../../../core/sighting/homography.ts';
import type { Photo } from '../../../../core/sighting/photo.ts';
import { type Posterised, posterised } from '../../../../core/sighting/posterised.ts';
import { evaluatedByKey } from './knowledge.ts';

/** How a picture of dots is cut and turned before it is traced: shares of its sides left off, degrees. */
export interface Cropping {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  readonly turnDeg: number;
}

export type Opened =
  | { ok: true; kind: 'drawing'; read: DrawingRead }
  | { ok: true; kind: 'dots' }
  | { ok: false; message: string };

/** What the finished face shows of a can's picture, and what that means in the can. */
export interface FormReport {
  /** Whole copies of the can's section on the face. */
  readonly copies: readonly Omit<Copy, 'starts'>[];
  readonly faceWidthMm: number;
  readonly faceHeightMm: number;
  readonly wanted: readonly Filling[];
  /** Set where the picture is walked back. */
  readonly difference: Difference | null;
  /** What was found when it was tried to walk it back as it now stands. */
  readonly walk: Walked | null;
}

export interface CanReport {
  readonly outline: readonly Point2[];
  readonly fillings: readonly Filling[];
  readonly walls: Region;
  readonly thinInCan: readonly ThinPlace[];
  readonly solid: Omit<FormSolid, 'mesh'> | null;
}

/** What the eye tells at arm's length is the least that is worth drawing on the finished face. */
const ARM_MM = 500;

let library: Promise<ManifoldToplevel> | null = null;

/** The solid modelling library, fetched when it is first wanted. */
async function solids(): Promise<ManifoldToplevel> {
  library ??= import('manifold-3d/manifold').then(async ({ default: load }) => {
    const loaded = await load({ locateFile: () => wasm });
    loaded.setup();
    return loaded;
  });
  return library;
}

let picture: ImageBitmap | null = null;

function canOf(plan: Plan, stepId: string): Can {
  const step = plan.lanes.flatMap((l) => l.steps).find((s) => s.id === stepId);
  const can = step && moveOf(step.kind).fills?.(step.parameters);
  if (!can) throw new Error(`“${stepId}” is no can of this piece`);
  return can;
}

function known(planKey: number): Evaluation {
  const evaluation = evaluatedByKey(planKey);
  if (!evaluation) throw new Error('this piece is no longer known here');
  return evaluation;
}

async function solidOf(can: Can): Promise<FormSolid | null> {
  if (!can.picture) return null;
  const room = roomOf(can);
  return formSolid(await solids(), fillingsOf(can.picture), [outlineOf(can)], room.depthMm, can.picture.form);
}

const outlineOf = (can: Can): Point2[] => {
  const room = roomOf(can);
  return [...(room.outline ?? rectangle(room.widthMm, room.heightMm))];
};

/** Names of powders on the layers of the files. */
function named({ shop }: Evaluation, fillings: readonly Filling[]): NamedRegion[] {
  return fillings.map(({ powder, region }) => ({
    name: shop.materials.find((m) => m.id === powder)?.name ?? powder,
    region,
  }));
}

export const forms = {
  /** Looks at a file: a drawing is read at once, a picture of dots is decoded by the browser and kept for tracing. */
  async open(file: Blob): Promise<Opened> {
    if (file.size > MOST_IMAGE_BYTES) return { ok: false, message: 'This file is too large: at most 12 MB.' };
    const bytes = new Uint8Array(await file.arrayBuffer());
    const head = new TextDecoder().decode(bytes.subarray(0, 400)).trimStart();
    if (/^\uFEFF?</i.test(head))
      return { ok: true, kind: 'drawing', read: drawingFromSvg(new TextDecoder().decode(bytes)) };
    const read = imageHeader(bytes);
    if (!read.ok) return read;
    try {
      const type = `image/${read.header.type}`;
      picture?.close();
      picture = await createImageBitmap(new Blob([bytes], { type }));
    } catch {
      return { ok: false, message: 'This picture cannot be decoded: it is damaged or cut short.' };
    }
    return { ok: true, kind: 'dots' };
  },
  /** The picture that was opened, cut and turned, no larger than is traced. */
  dots({ left, right, top, bottom, turnDeg }: Cropping): Dots | null {
    if (!picture) return null;
    const { width, height } = picture;
    const [w, h] = [Math.max(1, width * (1 - left - right)), Math.max(1, height * (1 - top - bottom))];
    const turn = (turnDeg * Math.PI) / 180;
    const [cos, sin] = [Math.abs(Math.cos(turn)), Math.abs(Math.sin(turn))];
    const [across, up] = [w * cos + h * sin, w * sin + h * cos];
    const scale = Math.min(1, TRACED_PX / Math.max(across, up));
    const [widthPx, heightPx] = [
      Math.max(8, Math.round(across * scale)),
      Math.max(8, Math.round(up * scale)),
    ];
    const canvas = new OffscreenCanvas(widthPx, heightPx);
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    context.fillStyle = 'white';
    context.fillRect(0, 0, widthPx, heightPx);
    context.translate(widthPx / 2, heightPx / 2);
    context.rotate(turn);
    context.scale(scale, scale);
    context.drawImage(picture, left * width, top * height, w, h, -w / 2, -h / 2, w, h);
    const { data } = context.getImageData(0, 0, widthPx, heightPx);
    return Comlink.transfer({ widthPx, heightPx, rgba: data as Uint8ClampedArray }, [data.buffer]);
  },
  /** A photographed end as so many tones, by where its corners were tapped; null where they make none. */
  posterised: (photo: Photo, taps: Four, count: number): Posterised | null => posterised(photo, taps, count),
  trace(dots: Dots, how: Tracing): DrawingRead {
    return dots.widthPx > 0 ? traced(dots, how) : refused('There is no picture.');
  },
  /** Where a picture goes on a face at first: the middle of the largest copy, as large as fits well. Null where the can's steel does not come to that face. */
  placeOn(planKey: number, stepId: string, on: FaceName): Placing | null {
    const evaluation = known(planKey);
    const can = canOf(evaluation.plan, stepId);
    const face = faceOfCan(evaluation, stepId, on);
    const [copy] = face ? copiesOn(face) : [];
    if (!face || !copy || !can.picture) return null;
    const [mx, my] = copy.middle;
    const room = 2 * Math.min(mx - copy.minX, copy.maxX - mx);
    const high = 2 * Math.min(my - copy.minY, copy.maxY - my);
    const widthMm = 0.8 * Math.min(room, high / aspectOf(can.picture.drawn));
    const round = (mm: number) => Math.round(mm * 100) / 100;
    return {
      on,
      x: round(mx - face.plane.widthMm / 2),
      y: round(my - face.plane.heightMm / 2),
      widthMm: Math.max(1, round(widthMm)),
      turnDeg: 0,
      mirrored: false,
      columns: 1,
      rows: 1,
    };
  },
  /** The picture on its face: copies, what is wanted, what comes out. */
  faceReport(planKey: number, stepId: string): FormReport | null {
    const evaluation = known(planKey);
    const { picture: drawn } = canOf(evaluation.plan, stepId);
    if (!drawn) return null;
    const face = faceOfCan(evaluation, stepId, drawn.place.on === 'can' ? 'end B' : drawn.place.on);
    if (!face) return null;
    const copies = copiesOn(face);
    const bare = copies.map(({ minX, minY, maxX, maxY, middle, areaMm2 }) => ({
      minX,
      minY,
      maxX,
      maxY,
      middle,
      areaMm2,
    }));
    const size = { faceWidthMm: face.plane.widthMm, faceHeightMm: face.plane.heightMm };
    if (drawn.place.on === 'can') {
      return { copies: bare, ...size, wanted: [], difference: null, walk: null };
    }
    const wanted = wantedOn(face, drawn);
    const box = boxOf(wanted.flatMap((f) => f.region as Region));
    const copy = box && copyAt(copies, [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]);
    return {
      copies: bare,
      ...size,
      wanted,
      walk: walkedBack(face, wanted),
      difference: drawn.walked && copy ? difference(evaluation, face, copy, wanted, drawn.walked) : null,
    };
  },
  /** Places on the finished face that the eye would not tell. */
  thinOnFace(fillings: Filling[], widthMm: number, heightMm: number): ThinPlace[] {
    const outline = rectangle(widthMm, heightMm).map(([x, y]): Point2 => [x + widthMm / 2, y + heightMm / 2]);
    return thinPlaces(fillings, [outline], leastBandMm(ARM_MM));
  },
  async canReport(planKey: number, stepId: string): Promise<CanReport | null> {
    const can = canOf(known(planKey).plan, stepId);
    if (!can.picture) return null;
    const fillings = fillingsOf(can.picture);
    const outline = outlineOf(can);
    const solid = await solidOf(can);
    return {
      outline,
      fillings,
      walls: wallsOf(fillings, [outline], can.picture.form.wallMm),
      thinInCan: thinPlaces(fillings, [outline], can.picture.form.leastMm),
      solid: solid && { volumeMm3: solid.volumeMm3, pieces: solid.pieces, heightMm: solid.heightMm },
    };
  },
  /** The form as a file; null where there is no wall to print. */
  async file(planKey: number, stepId: string, kind: 'stl' | '3mf' | 'svg' | 'dxf'): Promise<Blob | null> {
    const evaluation = known(planKey);
    const { plan } = evaluation;
    const can = canOf(plan, stepId);
    if (!can.picture) return null;
    if (kind === 'svg' || kind === 'dxf') {
      const regions = [
        ...named(evaluation, fillingsOf(can.picture)),
        { name: 'inside of the can', region: [outlineOf(can)] },
      ];
      return kind === 'svg'
        ? new Blob([svgOf(regions, `${plan.name}: ${can.picture.name}`)], { type: 'image/svg+xml' })
        : new Blob([dxfOf(regions)], { type: 'image/vnd.dxf' });
    }
    const solid = await solidOf(can);
    if (!solid) return null;
    return kind === 'stl'
      ? new Blob([stlOf(solid.mesh, plan.name)], { type: 'model/stl' })
      : new Blob([threeMfOf(solid.mesh)], { type: 'model/3mf' });
  },
  /** Part of the finished face, painted: from a corner, so large, so many dots. */
  paintPart(
    planKey: number,
    stepId: string,
    on: FaceName,
    box: { left: number; low: number; widthMm: number; heightMm: number },
    widthPx: number,
    heightPx: number,
  ): Painted | null {
    const evaluation = known(planKey);
    if (!stepResult(evaluation, stepId)) return null;
    const face = faceOfCan(evaluation, stepId, on);
    if (!face) return null;
    const plane = partOf(face.plane, box.left, box.low, box.widthMm, box.heightMm);
    const palette = makePalette(evaluation.shop, 'etched', materialOrder(evaluation));
    const work = painting({ billet: face.billet, plane, widthPx, heightPx, palette, rough: false });
    let step = work.next();
    while (!step.done) step = work.next();
    return Comlink.transfer(step.value, [step.value.rgba.buffer]);
  },
};
