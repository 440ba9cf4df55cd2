import { PNG } from 'pngjs';
import { KnownFlows } from '../core/flow/flows.ts';
import type { FlowSpec, FlowStage } from '../core/flow/run.ts';
import {
  type Plan,
  evaluate,
  flowsAwaited,
  lastReached,
  materialOrder,
  type Verdict,
} from '../core/plan/index.ts';
import { previewOf } from '../core/render/preview.ts';

/** Dots of a small picture at most: twice what the shelf shows, for fine screens. */
const MOST = { widthPx: 632, heightPx: 260 };

export interface PreviewAsked {
  readonly plan: Plan;
  /** Flows that are known, by key. */
  readonly stages: readonly (readonly [key: string, stage: FlowStage])[];
}

export type PreviewMade =
  { readonly awaits: readonly FlowSpec[] } | { readonly verdict: Verdict; readonly png: Uint8Array | null };

/** Works a plan through and paints what it comes to; or says which flows it waits for. Runs in a thread of its own. */
export default function makePreview({ plan, stages }: PreviewAsked): PreviewMade {
  const flows = new KnownFlows();
  for (const [key, stage] of stages) flows.keep(key, stage);
  const evaluation = evaluate(plan, undefined, flows);
  const awaits = flowsAwaited(evaluation);
  if (awaits.length > 0) return { awaits };
  const { goal, shop } = evaluation;
  const verdict = goal.reached ? 'reached' : goal.unfinished ? 'unfinished' : goal.bar ? 'short' : 'no bar';
  const billet = lastReached(evaluation)?.after?.[0];
  if (!billet) return { verdict, png: null };
  const { widthPx, heightPx, rgba } = previewOf(billet, shop, materialOrder(evaluation), MOST);
  const png = new PNG({ width: widthPx, height: heightPx });
  png.data = Buffer.from(rgba);
  return { verdict, png: PNG.sync.write(png) };
}
