import { sizeOf } from '../billet/billet.ts';
import { accordionSizes } from '../geometry/tiling.ts';
import { heated } from '../moves/contract/common.ts';
import { moveOf } from '../moves/index.ts';
import { type Evaluation, type StepResult, stepResult } from './evaluate.ts';
import { heatsIn } from './plan.ts';

/** Where a plan's elements are first all there: how many lie across and up in the bar after that step. */
export interface ElementMark {
  readonly stepId: string;
  readonly columns: number;
  readonly rows: number;
  /** Of what is left along the bar: one is as long as what the step makes takes to come again, and so many lie across the finished bar. */
  readonly repeats?: true;
  /** And of the finished bar's width so much is theirs, where plain steel lies beside them. */
  readonly widthShare?: number;
}

/** One element as the finished face shows it, mm. */
export interface Element {
  readonly alongMm: number;
  readonly acrossMm: number;
}

interface Cell {
  readonly acrossMm: number;
  readonly upMm: number;
  readonly alongMm: number | null;
}

/** How many elements lie on one another in the bar, after what was laid since. */
const rowsIn = (cell: Cell, heightMm: number): number => heightMm / cell.upMm;

/** A row that is trimmed by less than this is still one element, which the tile's own face then repeats. */
const ONE_ROW = 1.2;

/** What a step makes of an element: only stretches count, and the side that it is brought to (handbook, wish). */
function after(cell: Cell, result: StepResult, evaluation: Evaluation): Cell {
  const [bar] = result.before;
  const [made] = result.after ?? [];
  const { step } = result;
  if (!bar || !made) return cell;
  const { heightMm } = sizeOf(bar);
  const brought = (faceMm: number, perUp: number): Cell => ({
    ...cell,
    alongMm: rowsIn(cell, heightMm) < ONE_ROW ? faceMm : cell.upMm * perUp,
  });
  switch (step.kind) {
    case 'tile': {
      const sine = Math.sin((step.parameters.angleDeg * Math.PI) / 180);
      return brought(heightMm / sine, 1 / sine);
    }
    case 'accordion': {
      const { openingDeg, rootMm, legMm } = step.parameters;
      const openingRad = (openingDeg * Math.PI) / 180;
      const { faceMm } = accordionSizes({ heightMm, lengthMm: bar.lengthMm, rootMm, legMm, openingRad });
      return brought(faceMm, faceMm / heightMm);
    }
    case 'upset': {
      const grows = Math.sqrt(bar.lengthMm / step.parameters.toHeightMm);
      return { acrossMm: cell.acrossMm * grows, upMm: cell.upMm, alongMm: cell.upMm * grows };
    }
    case 'draw':
    case 'flatten':
    case 'press': {
      const [hot] = heated(result.before, heatsIn(step), evaluation.shop).after;
      const [from, to] = [sizeOf(hot), sizeOf(made)];
      return {
        acrossMm: (cell.acrossMm * to.widthMm) / from.widthMm,
        upMm: (cell.upMm * to.heightMm) / from.heightMm,
        alongMm: cell.alongMm === null ? null : (cell.alongMm * made.lengthMm) / hot.lengthMm,
      };
    }
    default:
      return cell;
  }
}

/** One element on the finished face, followed from where it was laid; null where the plan does not come so far. */
export function elementOn(evaluation: Evaluation, mark: ElementMark): Element | null {
  const start = stepResult(evaluation, mark.stepId);
  const [laid] = start?.after ?? [];
  if (!start || !laid) return null;
  const lane = evaluation.lanes.find((l) => l.steps.includes(start))!;
  const { widthMm, heightMm } = sizeOf(laid);
  const first: Cell = {
    acrossMm: widthMm / mark.columns,
    upMm: heightMm / mark.rows,
    alongMm: mark.repeats ? (moveOf(start.step.kind).repeatMm?.(laid, start.step.parameters) ?? null) : null,
  };
  const rest = lane.steps.slice(lane.steps.indexOf(start) + 1);
  const steps = lane === evaluation.goalLane ? rest : [...rest, ...evaluation.goalLane.steps];
  const last = steps.reduce((cell, result) => after(cell, result, evaluation), first);
  const [bar] = evaluation.goalLane.steps.at(-1)?.after ?? [];
  if (!bar || last.alongMm === null) return null;
  const { widthMm: wide } = sizeOf(bar);
  return {
    alongMm: last.alongMm,
    acrossMm: mark.repeats ? ((mark.widthShare ?? 1) * wide) / mark.columns : Math.min(last.acrossMm, wide),
  };
}

/** Moves that bring the end grain to the side. */
const BRINGS = ['tile', 'accordion', 'upset'];

/** The whole end grain of the bar that is first brought to the side, as one element; null where none is. */
export function sideMark({ goalLane: { steps } }: Evaluation): ElementMark | null {
  const at = steps.findIndex(({ step }) => BRINGS.includes(step.kind));
  return at > 0 ? { stepId: steps[at - 1].step.id, columns: 1, rows: 1 } : null;
}
