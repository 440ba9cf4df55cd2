import type { FigureId } from '../words/figures.ts';
import { heatsIn } from '../plan/index.ts';
import { type Pace, amountSaid, moneySaid, quoteOf } from '../days/index.ts';
import { findingsOf, judge } from '../judgement/index.ts';
import { materialById } from '../materials/material.ts';
import { massKg } from '../materials/volumes.ts';
import {
  type CutRow,
  type Evaluation,
  type StepResult,
  cutFromSections,
  actionsOf,
  cutList,
  laneMark,
  sectionsOf,
} from '../plan/index.ts';
import type { Shop } from '../shop/shop.ts';
import { type Action, care } from '../instruct/action.ts';
import { sentencesOf } from '../instruct/words.ts';
import { type Diagram, diagramsOf } from './diagrams.ts';
import { type Forecast, bandsSaid, inHundredSaid } from '../forecast/index.ts';
import { isDone } from '../records/record.ts';
import { recordSaid } from '../records/said.ts';
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
  /** What is drawn: how pieces lie, where the saw goes, what is written on the ends. */
  readonly diagrams: readonly Diagram[];
  readonly figures: readonly (readonly [what: string, value: string])[];
  /** How sizes may come; nothing where it is not known, or is done. */
  readonly may: string;
  /** Warnings and errors, in full. */
  readonly heed: readonly string[];
  /** By their letters. */
  readonly cautions: readonly string[];
  /** What was written of it at the bench, a line for each record. */
  readonly came: readonly string[];
  /** Boxes for what really came. */
  readonly boxes: readonly string[];
}

export interface WallSheet {
  readonly title: string;
  readonly goal: string;
  readonly comes: string;
  /** How often the goal is reached; nothing where it is not known. */
  readonly sure: string;
  readonly notes: string;
  /** Each said in full once a page, and referred to by its letter at its steps. */
  readonly cautions: readonly { readonly letter: string; readonly text: string }[];
  readonly lanes: readonly { name: string; mark: string; steps: readonly WallStep[] }[];
  readonly cut: readonly (readonly [
    steel: string,
    section: string,
    length: string,
    count: string,
    where: string,
  ])[];
  readonly buy: readonly string[];
  /** What it takes and costs; nothing where no price is known. */
  readonly costs: readonly (readonly [what: string, amount: string, price: string])[];
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

/** Letters for cautions in the order they come up: a, b, c … */
class Cautions {
  readonly all: { readonly letter: string; readonly text: string }[] = [];

  letterOf(text: string): string {
    const known = this.all.find((c) => c.text === text);
    if (known) return known.letter;
    const letter = String.fromCharCode(97 + (this.all.length % 26));
    this.all.push({ letter, text });
    return letter;
  }
}

const isDrawn = (action: Action): boolean =>
  action.do === 'lay' || action.do === 'lay wedge' || (action.do === 'turn' && action.piece !== undefined);

/** What hands do, in words; where the pieces are drawn as they lie, not once more piece by piece. */
function saidOf(actions: readonly Action[], diagrams: readonly Diagram[], shop: Shop): string[] {
  const drawn = diagrams.some((d) => d.what === 'as they lie');
  if (!drawn) return sentencesOf(actions, shop);
  const first = actions.findIndex(isDrawn);
  const rest = actions.flatMap((a, i): Action[] => (!isDrawn(a) ? [a] : i === first ? care('as drawn') : []));
  return sentencesOf(rest, shop);
}

function wallStep(
  evaluation: Evaluation,
  result: StepResult,
  number: number,
  cautions: Cautions,
  forecast: Forecast | null,
): WallStep {
  const { shop } = evaluation;
  const { step, after } = result;
  const findings = findingsOf(evaluation, result);
  const bar = after?.[0];
  const sections = sectionsOf(after ?? [], shop.lengths);
  const count =
    !after || after.length < 2 ? '' : `${after.length} pieces, ${sections.length > 1 ? '' : 'each '}`;
  const heats = heatsIn(step);
  const diagrams = diagramsOf(evaluation, result);
  const bands = isDone(result.records) ? undefined : forecast?.steps.find((s) => s.step === step.id);
  return {
    stepId: step.id,
    number,
    title: moveOf(step.kind).title,
    sizes: bar
      ? `${count}${sections.join(' and ')}, ${formatLength(bar.lengthMm, shop.lengths)} long`
      : 'cannot be done as it is planned',
    say: saidOf(actionsOf(result, shop), diagrams, shop),
    diagrams,
    figures: judge(evaluation, result)
      .figures.filter((f) => SHOWN.includes(f.id))
      .map((f) => [f.what, f.value]),
    may: bands ? bandsSaid(bands, shop) : '',
    heed: findings.filter((f) => f.severity === 'warning' || f.severity === 'error').map((f) => f.text),
    cautions: findings.filter((f) => f.severity === 'caution').map((f) => cautions.letterOf(f.text)),
    came: result.records
      .map((r) => [...recordSaid(r, shop), ...(r.remark ? [r.remark] : [])].join('; '))
      .filter((text) => text !== ''),
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

/** What it takes and costs, with the sum last. */
function costsOf(evaluation: Evaluation, pace?: Pace): WallSheet['costs'] {
  const { shop } = evaluation;
  const { rows, total } = quoteOf(evaluation, pace);
  if (total === 0) return [];
  return [
    ...rows.map(
      (r) => [r.what, amountSaid(r, shop), r.price === null ? 'no price' : moneySaid(r.price, shop)] as const,
    ),
    ['Together', '', moneySaid(total, shop)],
  ];
}

/** Words that no line holds are parted, so that they stay on the paper and need not be tried letter by letter. */
const parted = (text: string): string => text.replace(/\S{60}(?=\S)/g, '$& ');

/** The whole plan as it hangs on the wall; screen and paper print the same. */
export function wallSheet(evaluation: Evaluation, forecast: Forecast | null = null, pace?: Pace): WallSheet {
  const { plan, shop, goal } = evaluation;
  const { lengthMm, widthMm, thicknessMm } = plan.goal;
  const rows = cutList(evaluation);
  const name = (id: string) => materialById(shop.materials, id)?.name ?? id;
  const section = (w: number, t: number) => formatStockSizes([w, t], shop.lengths);
  const cautions = new Cautions();
  const lanes = evaluation.lanes
    .filter((l) => l.steps.length > 0)
    .map(({ lane, steps }) => ({
      name: lane.name,
      mark: laneMark(plan, lane.id),
      steps: steps.map((result, i) => wallStep(evaluation, result, i + 1, cautions, forecast)),
    }));
  return {
    title: plan.name,
    goal: formatSizes([lengthMm, widthMm, thicknessMm], shop.lengths),
    comes: goal.sizes
      ? formatSizes([goal.sizes.lengthMm, goal.sizes.widthMm, goal.sizes.heightMm], shop.lengths)
      : 'no finished bar yet',
    sure: forecast ? `With hands, fire and saw as they are it reaches that ${inHundredSaid(forecast)}.` : '',
    notes: parted(plan.notes),
    cautions: cautions.all,
    lanes,
    cut: rows.map((r) => [name(r.material), ...sizesOf(r, shop), r.lanes.join(', ')]),
    buy: cutFromSections(rows, [], shop).flatMap((s) =>
      s.buy.map(
        (b) =>
          `${b.count} × ${name(s.material)} ${section(s.widthMm, s.thicknessMm)}, ${formatLength(b.lengthMm, shop.lengths)} long`,
      ),
    ),
    costs: costsOf(evaluation, pace),
    general:
      'Predictions of first order. Local codes, the makers of machines and chemicals, and licensed practice come before anything written here.',
  };
}
