import {
  type Kind,
  type Packing,
  type Round,
  poured,
  pouredKinds,
} from '../../../../core/canister/packing.ts';
import type { Room } from '../../../../core/canister/room.ts';
import { type Billet, writtenOn } from '../../../../core/billet/billet.ts';
import { type WayOn, waysOn } from '../../../../core/judgement/index.ts';
import { type Task, tasksOf } from '../../../../core/days/index.ts';
import { paceFrom } from '../../../../core/learning/index.ts';
import { type MoveKind, moveOf } from '../../../../core/moves/index.ts';
import {
  type Plan,
  type Rescue,
  type StartAnswer,
  evaluate,
  materialOrder,
  rescuesOf,
  startFor,
  stepResult,
  triedOnStripes,
} from '../../../../core/plan/index.ts';
import { faceShown, foreseenOf, isFourSided, stretchOf } from '../../../../core/render/foreseen.ts';
import type { Painted } from '../../../../core/render/paint.ts';
import { type Shot, photographed } from '../../../../core/sighting/camera.ts';
import type { Photo } from '../../../../core/sighting/photo.ts';
import type { Foreseen, Prediction } from '../../../../core/sighting/sighting.ts';
import { previewOf, sideBySide } from '../../../../core/render/preview.ts';
import { type Believed, beliefOf } from './foretelling.ts';
import { evaluatedByKey, flows } from './knowledge.ts';

/** Of a move's small picture, dots: two a pixel of the menu. */
const PICTURE = { widthPx: 112, heightPx: 80 };
const GAP_PX = 6;

/** Dots a side of the pieces laid together by one of the ways on. */
const WAY_PX = 480;

/** A way on with its picture. */
export type WayShown = Omit<WayOn, 'bar'> & { readonly picture: Painted };

/** Dots a side of a simulated photograph of a face. */
const FACE_PX = 1400;

/** Questions with one answer. */
export const answers = {
  /** What a move does to a striped bar, every piece that comes of it; null where that cannot be shown. */
  movePicture(kind: MoveKind): Painted | null {
    const tried = triedOnStripes(kind);
    const pieces = tried?.lanes[0].steps.at(-1)?.after ?? [];
    if (!tried || pieces.length === 0) return null;
    const widthPx = Math.floor((PICTURE.widthPx - GAP_PX * (pieces.length - 1)) / pieces.length);
    const order = materialOrder(tried);
    // What is done to a face is seen on it.
    const faceOf = (b: Billet) =>
      moveOf(kind).group === 'Surface' && b.field.variesAlongZ ? 'top' : undefined;
    const each = pieces.map((b) => previewOf(b, tried.shop, order, { ...PICTURE, widthPx }, faceOf(b)));
    return sideBySide(each, GAP_PX);
  },
  /** Ways to a finished bar from what is there. */
  rescues: (plan: Plan): Rescue[] => rescuesOf(evaluate(plan, undefined, flows)),
  /** What is left to do of a piece, for the days. */
  tasksOf: (piece: string, plan: Plan, believed: Believed): Task[] =>
    tasksOf(piece, evaluate(plan, undefined, flows), paceFrom(beliefOf(believed))),
  /** What is foreseen of a piece's ends or middle after a move, as it was reckoned; null where there is none, or it is not known yet. */
  foreseen(planKey: number, stepId: string, piece: string, where: 'ends' | 'middle'): Foreseen | null {
    const evaluation = evaluatedByKey(planKey);
    const result = evaluation && stepResult(evaluation, stepId);
    const bar = ((result?.reckoned ?? result)?.after ?? []).find((b, i) => writtenOn(b, i) === piece);
    return bar ? foreseenOf(bar, evaluation!.shop, materialOrder(evaluation!), where) : null;
  },
  /** An end of the first piece after a move as the simulated camera takes it, or so much of its upper face as one photograph shows well; null where nothing is foreseen of it. */
  simulated(
    planKey: number,
    stepId: string,
    what: 'end' | 'face',
    shot: Omit<Shot, keyof Prediction>,
  ): Photo | null {
    const evaluation = evaluatedByKey(planKey);
    const result = evaluation && stepResult(evaluation, stepId);
    const [bar] = (result?.reckoned ?? result)?.after ?? [];
    if (!bar || !isFourSided(bar)) return null;
    const { shop } = evaluation!;
    const order = materialOrder(evaluation!);
    if (what === 'end') return photographed({ ...foreseenOf(bar, shop, order)[shot.end], ...shot }).photo;
    const toMm = stretchOf(bar);
    return photographed({ ...faceShown(bar, shop, order, 0, toMm), ...shot, end: 'B', sizePx: FACE_PX })
      .photo;
  },
  /** Ways on from a bar that was looked at after a move, each worked through. */
  waysOn(planKey: number, stepId: string): WayShown[] {
    const evaluation = evaluatedByKey(planKey);
    const result = evaluation && stepResult(evaluation, stepId);
    if (!result) return [];
    const order = materialOrder(evaluation);
    const most = { widthPx: WAY_PX, heightPx: WAY_PX };
    return waysOn(evaluation, result).map(({ bar, ...way }) => ({
      ...way,
      picture: previewOf(bar, evaluation.shop, order, most, 'end B'),
    }));
  },
  startFor: (plan: Plan): StartAnswer => startFor(plan, flows),
  pour: (radii: number[], room: Room, fixed: Round[], seed: number): Packing =>
    poured(radii, room, fixed, seed),
  pourKinds: (kinds: Kind[], room: Room & { depthMm: number }, fixed: Round[], seed: number, lifts: number) =>
    pouredKinds(kinds, room, fixed, seed, lifts),
};
