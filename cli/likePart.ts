import { WorkedOutFlows } from '../core/flow/flows.ts';
import { type Likeness, type Sought, likenessOf, soughtIn } from '../core/likeness/pose.ts';
import type { Plan } from '../core/plan/index.ts';
import {
  type Near,
  knownOf,
  nearest,
  offerOf,
  shippedFaces,
  shownBy,
  specLike,
} from '../core/recipes/index.ts';
import type { Asked } from './inParts.ts';
import { type Said, said } from './said.ts';

/** What was found to be like a picture: its plan and how like that plan's own face is, or why there is none. */
export type Alike =
  | {
      readonly ok: true;
      readonly plan: Plan;
      readonly said: Said;
      readonly shown: Near['shown'];
      readonly like: Likeness | null;
    }
  | { readonly ok: false; readonly recipe: string; readonly reason: string };

const flows = new WorkedOutFlows();

function planned(near: Near, { piece, wish }: Asked, sought: Sought): Alike {
  const offered = offerOf(specLike(near, piece, wish), piece, wish, flows);
  if (!offered.ok) return { ok: false, recipe: near.spec.recipe, reason: offered.reason };
  const { offer, evaluation } = offered;
  const pattern = shownBy(evaluation, offer, near);
  return {
    ok: true,
    plan: offer.plan,
    said: said(offer, evaluation),
    shown: near.shown,
    like: pattern && likenessOf(sought, pattern),
  };
}

async function answer(asked: Asked): Promise<Near[] | Alike[]> {
  const { picture, wish, among, share, found } = asked;
  const sought = soughtIn(picture);
  if (found) return found.map((near) => planned(near, asked, sought));
  return nearest(sought, (await shippedFaces(share, among)).map(knownOf), wish, flows, undefined, share);
}

/** Looks among a part of the recipes, or plans what was found, beside others: asked by a message, and answers by one. */
process.on('message', (message) => {
  void answer(message as Asked).then((answered) => process.send!(answered));
});
