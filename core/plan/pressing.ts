import type { Billet } from '../billet/billet.ts';
import { stageOf } from '../flow/known.ts';
import { betweenDies } from '../billet/sectionFlow.ts';
import type { Shop } from '../shop/shop.ts';
import { FLOW_PENDING, type Flowing, moveOf } from '../moves/index.ts';
import type { StepResult } from './evaluate.ts';

type Made = Pick<StepResult, 'step' | 'before'>;

/** How the section flows in a step that is reckoned so; null in any other. */
export const flowingOf = ({ step, before }: Made, shop: Shop): Flowing | null =>
  before.length > 0 ? (moveOf(step.kind).flows?.(before, step.parameters, shop) ?? null) : null;

/** The bar after the first passes only, as it lies between the dies; null where that is not known. */
export function afterPasses(made: Made, passes: number, shop: Shop): Billet | null {
  const flowing = flowingOf(made, shop);
  if (!flowing || passes === 0) return flowing?.bar ?? null;
  const stage = stageOf(flowing.spec, passes);
  return stage?.ok ? betweenDies(flowing.bar, flowing.spec, stage) : null;
}

/** By the ideal map and by the flow. */
export const besideIdeal = ({ step, before }: Made, shop: Shop) =>
  before.length > 0 ? (moveOf(step.kind).beside?.(before, step.parameters, shop) ?? null) : null;

/** The step as it is when its tipping is turned off by so many degrees; null where it tips nothing. */
export function turnedOff<M extends Made>(made: M, deg: number): M | null {
  const parameters = moveOf(made.step.kind).turnedOff?.(made.step.parameters, deg) ?? null;
  return parameters === null ? null : { ...made, step: { ...made.step, parameters } };
}

/** What a step comes to, made over again: of one that was turned off, say. Null where its flow is not known. */
export function madeAgain({ step, before }: Made, shop: Shop): Billet | null {
  const move = moveOf(step.kind);
  const findings = move.check(before, step.parameters, shop);
  if (findings.some((f) => f.severity === 'error' || f.code === FLOW_PENDING)) return null;
  return move.apply(before, step.parameters, shop).after[0] ?? null;
}
