import type { Billet } from '../billet/billet.ts';
import { figured } from '../words/figures.ts';
import { SIDES, type Side } from '../instruct/action.ts';
import { faceAfter, orientationNamed } from '../geometry/orientation.ts';
import { isRectangle } from '../geometry/outline.ts';
import { cutCount, sawMarks } from '../geometry/cutting.ts';
import { type StepResult, heatsIn } from '../plan/index.ts';
import { note, warning } from '../moves/contract/common.ts';
import { type Finding, moveOf } from '../moves/index.ts';
import { divisionMm, formatFine, formatLength } from '../units/length.ts';
import { COMMON_PRACTICE } from '../units/figure.ts';
import type { Case, Judge } from './judgement.ts';

const isHot = ({ step }: StepResult): boolean => heatsIn(step) > 0;

/** Which of a lane's pieces a piece after a step was: those it was sawn from, or itself; all, where they were laid together. */
function cameFrom({ step, before, after }: StepResult, bar: Billet, i: number): readonly Billet[] {
  const move = moveOf(step.kind);
  if (move.chooses)
    return before.filter((b) => b.field === bar.field && (b.piece?.number ?? 1) === (bar.piece?.number ?? 1));
  const parts = move.splits?.(step.parameters) ?? 1;
  return after?.length === before.length * parts ? [before[Math.floor(i / parts)]] : before;
}

/** The long faces of every piece that a lane had in hand which were in the fire since they were last ground or sawn. */
function scaled(steps: readonly StepResult[]): Map<Billet, Set<Side>> {
  const faces = new Map<Billet, Set<Side>>();
  for (const result of steps) {
    const { kind, parameters } = result.step;
    const move = moveOf(kind);
    const to = move.turns?.(parameters);
    [...(result.after ?? []), ...(move.chooses ? result.aside : [])].forEach((bar, i) => {
      const now = new Set(
        isHot(result) ? SIDES : cameFrom(result, bar, i).flatMap((was) => [...(faces.get(was) ?? [])]),
      );
      move.bares?.(parameters, i + 1).forEach((side) => now.delete(side));
      faces.set(bar, to ? new Set([...now].map((side) => faceAfter(orientationNamed(to), side))) : now);
    });
  }
  return faces;
}

/** Faces that meet with scale on them do not weld: each is judged, whichever others were ground. */
function ungroundFinding({ others: taken, lane, at, result, shop }: Case): Finding[] {
  const { step, before } = result;
  const meets = moveOf(step.kind).meets?.(before, step.parameters);
  if (!meets) return [];
  const bad = new Set<Side>();
  const whose = new Set<string>();
  let own = false;
  const here = scaled(lane.steps.slice(0, at));
  const there = new Map(taken.map((other) => [other, scaled(other.steps)]));
  meets.forEach((sides, i) => {
    const bar = before[i];
    const { piece } = bar;
    const other = piece?.lane === undefined ? null : taken.find((l) => l.lane.id === piece.lane);
    const scale = other ? there.get(other)?.get(other.ends[other.pieces.indexOf(bar)]) : here.get(bar);
    const found = sides.filter((side) => scale?.has(side));
    if (found.length === 0) return;
    found.forEach((side) => bad.add(side));
    if (other) whose.add(`“${other.lane.name}”`);
    else own = true;
  });
  if (bad.size === 0) return [];
  const off = shop.fayingMm;
  const ground = (side: Side) => (bad.has(side) ? off : 0);
  const canGrind = own && whose.size === 0 && before.every((b) => isRectangle(b.outline));
  const faces = bad.size === SIDES.length ? '' : ` (${SIDES.filter((side) => bad.has(side)).join(', ')})`;
  return [
    warning(
      'unground',
      `The faces${whose.size > 0 ? ` of ${[...whose].join(' and ')}` : ''} that will meet${faces} were in the fire since they were last ground: scale in a seam keeps it from welding. Take ${formatFine(off, shop.lengths)} off each that meets.`,
      {
        ...(canGrind
          ? {
              remedy: {
                label: 'Grind them first',
                insertBefore: 'grind',
                parameters: {
                  topMm: ground('top'),
                  bottomMm: ground('bottom'),
                  leftMm: ground('left'),
                  rightMm: ground('right'),
                },
              },
            }
          : {}),
        why: {
          ...figured('off a face', off),
          value: formatFine(off, shop.lengths),
          formula: 'the shop’s allowance for its grinder',
          inputs: [['grinder', shop.grinder]],
          source: COMMON_PRACTICE,
        },
      },
    ),
  ];
}

/** A stack with seams both ways is pressed, turned a quarter and pressed again. */
function bothWays({ lane, at, result }: Case): Finding[] {
  if (!moveOf(result.step.kind).welds || !result.before[0]?.loose) return [];
  const laid = lane.steps[at - 1]?.step;
  const p = laid && moveOf(laid.kind).lays?.(laid.parameters);
  if (!p || p.columns < 2 || p.rows < 2) return [];
  const heats = heatsIn(result.step);
  const seams = `${p.columns - 1} upright and ${p.rows - 1} level`;
  const why = {
    ...figured('seams', p.columns + p.rows - 2),
    value: seams,
    formula: '(columns − 1) upright and (rows − 1) level',
    inputs: [['layout', `${p.columns} × ${p.rows}`]] as const,
    source: COMMON_PRACTICE,
  };
  if (heats < 2)
    return [
      warning(
        'both ways',
        `Seams run both ways here (${seams}); one heat sets only those the dies close. Press, quarter turn, press, in two heats at least.`,
        { parameter: 'heats', remedy: { label: 'Two heats', set: { heats: 2 } }, why },
      ),
    ];
  return [
    note(
      'both ways',
      `Seams run both ways (${seams}): a light press, a quarter turn, a light press; only then harder.`,
      { why },
    ),
  ];
}

/** mm. Pieces that differ by more are waste and annoyance. */
const UNEQUAL_MM = 0.8;

function unequalFinding({ result, shop }: Case): Finding[] {
  const { step, before } = result;
  const cuttings = before.flatMap((bar) => moveOf(step.kind).cuts?.(bar, step.parameters, shop) ?? []);
  if (cuttings.length === 0) return [];
  const differs = cuttings.map((c) => sawMarks(c, shop.lengths).largestDifferenceMm);
  const largestDifferenceMm = Math.max(...differs);
  const cutting = cuttings[differs.indexOf(largestDifferenceMm)];
  if (largestDifferenceMm < UNEQUAL_MM) return [];
  return [
    warning(
      'unequal pieces',
      `Marks to ${formatFine(divisionMm(shop.lengths), shop.lengths)} leave ${formatFine(largestDifferenceMm, shop.lengths)} between the longest and the shortest piece.`,
      {
        remedy: {
          label: 'Mark finer',
          shop: {
            lengths:
              shop.lengths.unit === 'in' ? { unit: 'in', division: 64 } : { unit: 'mm', division: 0.1 },
          },
        },
        why: {
          ...figured('largest difference', largestDifferenceMm),
          value: formatFine(largestDifferenceMm, shop.lengths),
          formula: 'longest − shortest piece between the rounded marks',
          inputs: [
            ['cuts', String(cutCount(cutting))],
            ['kerf', formatFine(cutting.kerfMm, shop.lengths)],
            ['bar', formatLength(cutting.lengthMm, shop.lengths)],
          ],
          source: 'follows from the sizes themselves',
        },
      },
    ),
  ];
}

export const judgeFaces: Judge = (subject) => ({
  figures: [],
  findings: [...ungroundFinding(subject), ...bothWays(subject), ...unequalFinding(subject)],
});
