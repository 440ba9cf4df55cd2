import { carbonOf } from './carbon.ts';
import { note } from '../moves/contract/common.ts';
import { moveOf } from '../moves/index.ts';
import { massByMaterial } from '../materials/volumes.ts';
import { heatsIn } from '../plan/index.ts';
import { type Judge, NOTHING_TO_SAY } from './judgement.ts';

/** Mass %. From so much carbon on a bar may harden as it cools in air (common practice, no source). */
const HARDENS = 0.5;
const SOFT = ['divorced-eutectoid anneal', 'sub-critical anneal'];

/** A saw that will not touch the bar: since it was hot last it was not made soft. */
export const judgeSoft: Judge = ({ lane, at, result: { step, before }, shop }) => {
  const move = moveOf(step.kind);
  const [bar] = before;
  if (!bar || !(move.cuts ?? move.splits ?? move.sawing)) return NOTHING_TO_SAY;
  const last = lane.steps.slice(0, at).findLast((s) => heatsIn(s.step) > 0 || s.step.kind === 'treat');
  if (!last || (last.step.kind === 'treat' && SOFT.includes(last.step.parameters.treatment)))
    return NOTHING_TO_SAY;
  if (carbonOf(massByMaterial(bar.volumes, shop.materials), shop) < HARDENS) return NOTHING_TO_SAY;
  return {
    figures: [],
    findings: [
      note(
        'may be hard',
        'It may have hardened as it cooled, and then no saw or drill touches it: let it cool slowly in the forge or in ash, or anneal it.',
        { remedy: { label: 'Anneal it first', insertBefore: 'treat' } },
      ),
    ],
  };
};
