import type { Billet } from '../billet/billet.ts';
import type { Flows } from '../flow/flows.ts';
import { betweenDies } from '../billet/sectionFlow.ts';
import type { Shop } from '../shop/shop.ts';
import { type Flowing, moveOf } from '../moves/index.ts';
import { withParameters } from './plan.ts';
import { type Evaluation, type StepResult, makeStep } from './evaluate.ts';

type Made = Pick<StepResult, 'step' | 'before'>;
type Asked = Pick<Evaluation, 'shop' | 'flows'>;

/** How the section flows in a step that is reckoned so; null in any other. */
export const flowingOf = ({ step, before }: Made, shop: Shop): Flowing | null =>
  before.length > 0 ? (moveOf(step.kind).flows?.(before, step.parameters, shop) ?? null) : null;

/** The bar after the first passes only, as it lies between the dies; null where that is not known. */
export function afterPasses(made: Made, passes: number, { shop, flows }: Asked): Billet | null {
  const flowing = flowingOf(made, shop);
  if (!flowing || passes === 0) return flowing?.bar ?? null;
  const stage = flows.stageOf(flowing.spec, passes);
  return stage?.ok ? betweenDies(flowing.bar, flowing.spec, stage) : null;
}

/** As such bars usually flow, and as this one does; null where the two are not known. */
export function besideUsual(made: Made, { shop, flows }: Asked) {
  const flowing = flowingOf(made, shop);
  if (!flowing) return null;
  const { step, before } = made;
  return moveOf(step.kind).beside?.(before, step.parameters, shop, flows.of(flowing.spec)) ?? null;
}

/** The step as it is when its tipping is turned off by so many degrees; null where it tips nothing. */
export function turnedOff<M extends Made>(made: M, deg: number): M | null {
  const parameters = moveOf(made.step.kind).turnedOff?.(made.step.parameters, deg) ?? null;
  return parameters === null ? null : { ...made, step: withParameters(made.step, parameters) };
}

/** What a step comes to, made over again: of one that was turned off, say. Null where its flow is not known. */
export function madeAgain(
  { step, before }: Made,
  { shop, flows }: { shop: Shop; flows: Flows },
): Billet | null {
  const made = makeStep(step, before, shop, flows);
  return made.waits ? null : (made.after?.[0] ?? null);
}
