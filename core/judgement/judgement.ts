import type { Billet } from '../billet/billet.ts';
import type { Blade } from '../blade/index.ts';
import { type LaneResult, type StepResult, heatsIn } from '../plan/index.ts';
import type { Flows } from '../flow/flows.ts';
import type { Shop } from '../shop/shop.ts';
import { type Material, materialById } from '../materials/material.ts';
import { meltsLow } from '../materials/welding.ts';
import type { Finding } from '../moves/contract/move.ts';
import type { Figure } from '../units/figure.ts';

/** A step that came to something, with all that judging it needs. */
export interface Case {
  readonly lane: LaneResult;
  /** Where it stands in its lane. */
  readonly at: number;
  readonly result: StepResult & { readonly after: readonly Billet[] };
  /** What stands there after it: what came at the bench, laid over what was reckoned. */
  readonly stands: readonly Billet[];
  readonly shop: Shop;
  /** How sections flow, as far as it is known. */
  readonly flows: Flows;
  /** The lanes whose pieces it lays. */
  readonly others: readonly LaneResult[];
  /** Of the plan's last step, its blade; the finished bar is judged as one. */
  readonly finished: { readonly blade: Blade | undefined } | null;
}

/** What is to be said about a step beside what its own move says: figures that can be asked, and findings. */
export interface Judgement {
  readonly figures: readonly Figure[];
  readonly findings: readonly Finding[];
}

export const NOTHING_TO_SAY: Judgement = { figures: [], findings: [] };

/** One kind of judgement: a file each in core/judgement. */
export type Judge = (subject: Case) => Judgement;

/** What melts low in a billet, and sets how hot it is forged; nothing where nothing does. */
export const lowestIn = (bar: Billet, shop: Shop): Material | null =>
  Object.keys(bar.volumes)
    .filter((id) => bar.volumes[id] > 0)
    .flatMap((id) => materialById(shop.materials, id) ?? [])
    .filter((m) => m.weldC !== null && meltsLow(m))
    .reduce<Material | null>((a, b) => (a && a.limitC <= b.limitC ? a : b), null);

/** Heats of a step, and how hot: its own temperature, or the shop's forging heat, less where something inside melts low. */
export function heatsOf(subject: Case): { heats: number; atC: number } {
  const { step } = subject.result;
  const { forgingC } = subject.shop.forge;
  const { parameters: p } = step;
  const bar = heaviest(subject);
  const low = bar && lowestIn(bar, subject.shop);
  const forged = Math.min(forgingC, low?.limitC ?? Infinity);
  return { heats: heatsIn(step), atC: 'temperatureC' in p ? p.temperatureC : forged };
}

/** The heaviest of what goes into the fire: what is there before the step, or what the step itself brings. */
export const heaviest = ({ result }: Case): Billet | undefined =>
  result.before.reduce<Billet | undefined>(
    (most, b) => (most && most.lengthMm * areaOf(most) >= b.lengthMm * areaOf(b) ? most : b),
    undefined,
  );

const areaOf = (b: Billet): number => Object.values(b.volumes).reduce((sum, v) => sum + v, 0) / b.lengthMm;
