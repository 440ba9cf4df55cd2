import { sizeOf } from '../billet/billet.ts';
import { massByMaterial, massKg, addVolumes } from '../materials/volumes.ts';
import { moveOf } from '../moves/index.ts';
import { type Evaluation, sayStep } from './evaluate.ts';
import { startFor } from './backward.ts';

/** The evaluated plan as plain figures, for the command line and for other programs. Masses kg, lengths mm. */
export function summarize(evaluation: Evaluation) {
  const { shop, goal } = evaluation;
  return {
    name: evaluation.plan.name,
    goal: goal.goal,
    reached: goal.reached,
    spare: goal.spare,
    start: startFor(evaluation.plan),
    lanes: evaluation.lanes.map(({ lane, steps }) => ({
      id: lane.id,
      name: lane.name,
      steps: steps.map((result) => ({
        id: result.step.id,
        kind: result.step.kind,
        title: moveOf(result.step.kind).title,
        pieces: result.after?.length ?? 0,
        size: result.after?.[0] ? { ...sizeOf(result.after[0]), lengthMm: result.after[0].lengthMm } : null,
        bandMm: result.after?.[0]?.bandMm ?? null,
        massKg: massByMaterial(addVolumes(...(result.after ?? []).map((b) => b.volumes)), shop.materials),
        addedKg: massByMaterial(result.added, shop.materials),
        lossesKg: Object.fromEntries(result.losses.map((l) => [l.cause, massKg(l.volumes, shop.materials)])),
        findings: result.findings,
        say: sayStep(result, shop),
      })),
    })),
  };
}
