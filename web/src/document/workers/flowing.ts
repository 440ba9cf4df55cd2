import {
  type Found,
  type Free,
  type WantedPattern,
  pressFor,
} from '../../../../core/moves/forge/press/search.ts';
import { type Billet, writtenOn } from '../../../../core/billet/billet.ts';
import { type Plan, evaluate, materialOrder, stepResult } from '../../../../core/plan/index.ts';
import { type FaceAsked, type FaceRead, faceRead } from '../../../../core/render/faceRead.ts';
import { faceForeseen } from '../../../../core/render/foreseen.ts';
import { WIDE } from '../../../../core/sighting/along.ts';
import type { SeamQuestion } from '../../../../core/loose/question.ts';
import {
  type Dots,
  faceThere,
  flattened,
  foreseenThere,
  outlinesOf,
} from '../../../../core/sighting/overlay.ts';
import {
  type EndPhotographed,
  type Foreseen,
  type Sight,
  sightedAtAnEnd,
  warpOf,
} from '../../../../core/sighting/sighting.ts';
import { endOf } from '../../../../core/sighting/said.ts';
import { STILL, type Warp } from '../../../../core/sighting/warp.ts';
import { seamReport } from '../../../../core/loose/report.ts';
import type { SeamAnswer } from '../../../../core/loose/stored.ts';
import { type SeamWay, waysToShut } from '../../../../core/loose/ways.ts';
import { flows } from './knowledge.ts';
import { type FlowSpec, type FlowStage, keyOf, runFlow as runSpec } from '../../../../core/flow/run.ts';

/** Dots a side of what is laid over each other. */
const SHOWN_PX = 512;

/** What was foreseen as it lies in a photograph, and the outlines of its bands. */
export interface Overlay {
  readonly foreseen: Dots;
  readonly outlines: Dots;
}

/** A sighting with the photograph laid out square, and what was foreseen as it was read to lie in it, and as it was planned. */
export interface SightShown {
  readonly sight: Sight;
  readonly shown: ShownOver | null;
}

/** A photograph laid out, and what was foreseen of it over it; so many dots wide. */
export interface ShownOver {
  readonly widthPx: number;
  readonly photo: Dots;
  readonly read: Overlay;
  readonly planned: Overlay;
}

/** What a photographed face showed, with the same. */
export interface FaceShown {
  readonly read: FaceRead;
  readonly shown: ShownOver | null;
}

/** Of the outlines laid over a photograph: seen on dark and on light steel. */
const OUTLINES = [255, 122, 46] as const;

/** A face is shown so many times as finely as it is read. */
const FACE_TIMES = 3;

/** A half turn in its plane. */
function halfTurnedDots(dots: Dots): Dots {
  const made = new Uint8ClampedArray(dots.length);
  for (let k = 0; k < dots.length; k += 4) made.set(dots.subarray(dots.length - 4 - k, dots.length - k), k);
  return made;
}

/** How often a screen is told how far something is, ms. */
const TOLD_MS = 80;

/** Tells no oftener than a screen can show. */
function seldom<A extends unknown[]>(tell: (...how: A) => void): (...how: A) => void {
  let told = 0;
  return (...how) => {
    const now = performance.now();
    if (now - told < TOLD_MS) return;
    told = now;
    tell(...how);
  };
}

/** What takes seconds; it is stopped by ending the worker. */
export const flowing = {
  /** Works a flow out, pass by pass; stages that are known are taken over. It is stopped by ending the worker. */
  runFlow(
    spec: FlowSpec,
    known: (FlowStage | undefined)[],
    found: (key: string, stage: FlowStage) => void,
    progress: (pass: number, share: number) => void,
  ): void {
    runSpec(
      spec,
      (passes) => known[passes - 1],
      (passes, stage) => found(keyOf(spec, passes), stage),
      seldom(progress),
    );
  },
  /** How the seams of loose pieces close, press by press. Stopped like the rest. */
  seamReport: (question: SeamQuestion, progress: (share: number) => void): SeamAnswer =>
    seamReport(question, seldom(progress)),
  /** Ways of pressing loose pieces all round, those that shut their seams soonest first. */
  waysToShut: (
    question: SeamQuestion,
    roundMm: number,
    progress: (share: number, ways: readonly SeamWay[]) => void,
  ): SeamWay[] => waysToShut(question, roundMm, seldom(progress)),
  /** Reads a photograph of an end against what was foreseen; both as they lie over each other. Stopped like the rest. */
  sight(asked: EndPhotographed, foreseen: Foreseen, progress: (share: number) => void): SightShown {
    const sight = sightedAtAnEnd(asked, foreseen, seldom(progress));
    if (!sight.ok) return { sight, shown: null };
    const { sighting, corners } = sight;
    const there = (warp: Warp): Overlay => {
      const dots = foreseenThere(foreseen[endOf(sighting)], sighting.orientation, warp, SHOWN_PX);
      return { foreseen: dots, outlines: outlinesOf(dots, OUTLINES) };
    };
    return {
      sight,
      shown: {
        widthPx: SHOWN_PX,
        photo: flattened(asked.photo, corners, SHOWN_PX),
        read: there(warpOf(sighting)),
        planned: there(STILL),
      },
    };
  },
  /** Reads a photograph of a stretch of a piece's upper face; null where there is no such piece yet. Stopped like the rest. */
  faceSight(plan: Plan, stepId: string, piece: string, asked: FaceAsked): FaceShown | null {
    const evaluation = evaluate(plan, undefined, flows);
    const pieceOf = (after: readonly Billet[]) => after.find((b, i) => writtenOn(b, i) === piece);
    const read = faceRead(evaluation, stepId, pieceOf, asked);
    if (!read) return null;
    const { sight } = read;
    const result = stepResult(evaluation, stepId);
    const there = pieceOf((result?.reckoned ?? result)?.after ?? []);
    if (!sight.ok || !there) return { read, shown: null };
    const { along, corners } = sight;
    const foreseen = faceForeseen(
      there,
      evaluation.shop,
      materialOrder(evaluation),
      along.fromMm,
      along.toMm,
    );
    const [long, high] = [FACE_TIMES * sight.laidOut.long, FACE_TIMES * WIDE];
    const over = (as: 'read' | 'planned'): Overlay => {
      const dots = faceThere(foreseen, along, as, long, high);
      return { foreseen: dots, outlines: outlinesOf(dots, OUTLINES, long) };
    };
    const photo = flattened(asked.photo, corners, long, high);
    return {
      read,
      shown: {
        widthPx: long,
        photo: along.turned ? halfTurnedDots(photo) : photo,
        read: over('read'),
        planned: over('planned'),
      },
    };
  },
  /** Looks for the way of pressing that comes nearest to what is wanted. Stopped like the rest. */
  searchPress(
    spec: FlowSpec,
    wanted: WantedPattern,
    free: Free,
    progress: (share: number, best: Found | null) => void,
  ): Found | null {
    return pressFor(spec, wanted, free, progress);
  },
};
