import type { FigureId } from '../words/figures.ts';
import { heatsIn } from '../plan/index.ts';
import { sizeOf } from '../billet/billet.ts';
import { findingsOf, judge } from '../judgement/index.ts';
import { materialById } from '../materials/material.ts';
import { massKg } from '../materials/volumes.ts';
import {
  type CutRow,
  type Evaluation,
  type StepResult,
  cutFromSections,
  cutList,
  endMarks,
  laneMark,
  sayStep,
  sectionsOf,
} from '../plan/index.ts';
import type { Shop } from '../shop/shop.ts';
import { boughtVolume, moveOf } from '../moves/index.ts';
import { formatMass } from '../units/mass.ts';
import { formatStockSizes, formatLength, formatSizes } from '../units/length.ts';

/** One move as it hangs on the wall. */
export interface WallStep {
  readonly stepId: string;
  readonly number: number;
  readonly title: string;
  /** What it comes to, in a line. */
  readonly sizes: string;
  readonly say: readonly string[];
  /** How the pieces will lie: to be written on them before sawing. */
  readonly marks: readonly string[];
  readonly figures: readonly (readonly [what: string, value: string])[];
  /** Warnings and errors, in full. */
  readonly heed: readonly string[];
  readonly cautions: readonly string[];
  /** Boxes for what really came. */
  readonly boxes: readonly string[];
}

export interface WallSheet {
  readonly title: string;
  readonly goal: string;
  readonly comes: string;
  readonly notes: string;
  readonly lanes: readonly { name: string; mark: string; steps: readonly WallStep[] }[];
  readonly cut: readonly (readonly [
    steel: string,
    section: string,
    length: string,
    count: string,
    where: string,
  ])[];
  readonly buy: readonly string[];
  /** For everything that is not one step's: said once, at the head. */
  readonly general: string;
}

/** The figures a maker wants at the wall; the rest is asked on screen. */
const SHOWN: readonly FigureId[] = [
  'weight',
  'thinnest band',
  'soak',
  'time in hand',
  'press force',
  'largest bite',
  'least handle',
  'welding window',
];

/** “1·2” is row and place; a wedge has its side. */
const placeWords = (place: string): string =>
  place.includes('·') ? `row ${place.replace('·', ' place ')}` : `at the ${place}`;

function wallStep(evaluation: Evaluation, result: StepResult, number: number): WallStep {
  const { shop } = evaluation;
  const { step, after } = result;
  const findings = findingsOf(evaluation, result);
  const bar = after?.[0];
  const sections = sectionsOf(after ?? [], shop.lengths);
  const count =
    !after || after.length < 2 ? '' : `${after.length} pieces, ${sections.length > 1 ? '' : 'each '}`;
  const heats = heatsIn(step);
  return {
    stepId: step.id,
    number,
    title: moveOf(step.kind).title,
    sizes: bar
      ? `${count}${sections.join(' and ')}, ${formatLength(bar.lengthMm, shop.lengths)} long`
      : 'cannot be done as it is planned',
    say: sayStep(result, shop),
    marks: moveOf(step.kind).cuts
      ? endMarks(evaluation, result).map(
          (m) => `${m.piece} ${placeWords(m.place)}, end ${m.front} in front, arrow ${m.arrow}`,
        )
      : [],
    figures: judge(evaluation, result)
      .figures.filter((f) => SHOWN.includes(f.id))
      .map((f) => [f.what, f.value]),
    heed: findings.filter((f) => f.severity === 'warning' || f.severity === 'error').map((f) => f.text),
    cautions: findings.filter((f) => f.severity === 'caution').map((f) => f.text),
    boxes: ['width', 'height', 'length', ...(heats > 0 ? ['heats', 'hottest'] : []), 'remarks'],
  };
}

/** Section, length and number of a row of the cut list; powder is weighed, balls are counted. */
function sizesOf(row: CutRow, shop: Shop): [section: string, length: string, count: string] {
  const { what, material, widthMm, thicknessMm, lengthMm, count } = row;
  if (what === 'powder')
    return ['powder', '', formatMass(massKg({ [material]: boughtVolume(row) }, shop.materials), shop.masses)];
  if (what === 'ball') return [`${formatStockSizes([widthMm], shop.lengths)} balls`, '', String(count)];
  const section =
    what === 'rod'
      ? `${formatStockSizes([widthMm], shop.lengths)} round`
      : formatStockSizes([widthMm, thicknessMm], shop.lengths);
  return [section, formatLength(lengthMm, shop.lengths), String(count)];
}

/** The whole plan as it hangs on the wall; screen and paper print the same. */
export function wallSheet(evaluation: Evaluation): WallSheet {
  const { plan, shop, goal } = evaluation;
  const { lengthMm, widthMm, thicknessMm } = plan.goal;
  const rows = cutList(evaluation);
  const name = (id: string) => materialById(shop.materials, id)?.name ?? id;
  const section = (w: number, t: number) => formatStockSizes([w, t], shop.lengths);
  const size = goal.bar && sizeOf(goal.bar);
  return {
    title: plan.name,
    goal: formatSizes([lengthMm, widthMm, thicknessMm], shop.lengths),
    comes: size
      ? formatSizes([goal.bar!.lengthMm, size.widthMm, size.heightMm], shop.lengths)
      : 'no finished bar yet',
    notes: plan.notes,
    lanes: evaluation.lanes
      .filter((l) => l.steps.length > 0)
      .map(({ lane, steps }) => ({
        name: lane.name,
        mark: laneMark(plan, lane.id),
        steps: steps.map((result, i) => wallStep(evaluation, result, i + 1)),
      })),
    cut: rows.map((r) => [name(r.material), ...sizesOf(r, shop), r.lanes.join(', ')]),
    buy: cutFromSections(rows, [], shop).flatMap((s) =>
      s.buy.map(
        (b) =>
          `${b.count} × ${name(s.material)} ${section(s.widthMm, s.thicknessMm)}, ${formatLength(b.lengthMm, shop.lengths)} long`,
      ),
    ),
    general:
      'Predictions of first order. Local codes, the makers of machines and chemicals, and licensed practice come before anything written here.',
  };
}
