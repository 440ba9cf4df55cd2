import {
  bestMatch,
  readingOrder,
  type SeamFigures,
  type StarPoints,
  seamFigures,
  starPoints,
  turnedBefore,
} from '../assembly/index.ts';
import { type Billet, sizeOf } from '../billet/billet.ts';
import { rectangle } from '../geometry/outline.ts';
import { totalVolume } from '../materials/volumes.ts';
import { leanNow, upright } from '../moves/forge/lean.ts';
import { MOST_MISS_DEG, resquare } from '../moves/forge/resquare.ts';
import { PRESETS } from '../moves/lay/assemble/layout.ts';
import { type AssembleParameters, gridPlacesOf, laidPieces } from '../moves/lay/assemble/laid.ts';
import type { Remedy } from '../moves/index.ts';
import { MOST_TRUE_DEG, bestTrueDeg } from '../moves/saw/trueUp.ts';
import {
  type Evaluation,
  type Plan,
  type StepResult,
  evaluate,
  stepResult,
  withRemedies,
} from '../plan/index.ts';
import { doneSteps, ofTheBar } from '../records/record.ts';
import type { Shop } from '../shop/shop.ts';

/** One way on from a bar whose picture stands turned or leans: what its pieces then look like laid together, and what it costs. */
export interface WayOn {
  readonly id:
    | 'as it is'
    | 'book-matched'
    | 'laid otherwise'
    | 'ground by the picture'
    | 'ground as measured'
    | 'pressed again'
    | 'squared up';
  readonly title: string;
  /** The pieces laid together: what is to be drawn. */
  readonly bar: Billet;
  /** The seam that differs most, share of it. */
  readonly mismatch: number;
  readonly points: StarPoints['worst'];
  /** Side of each piece, and the share of the steel that this way takes more than going on as it is. */
  readonly sideMm: number;
  readonly lostShare: number;
  /** What carries it out, one after the other; nothing where nothing is to be done. */
  readonly remedies: readonly Remedy[];
}

/** Degrees: a turn smaller is none. */
const LEAST_DEG = 0.3;
/** So much better at least another way must be than a plainer one, as `offOf` counts. */
const WORTH_IT = 0.02;
/** Degrees to which an angle can be set on a shim. */
const SHIM_DEG = 0.1;

/** What is known of how the picture of a step's bar stands turned, counter-clockwise on end B; null where nobody looked. */
export function turnShown({ plan }: Evaluation, { step }: StepResult): number | null {
  if (step.kind === 'measure') return step.parameters.turnDeg;
  const own = ofTheBar((plan.records ?? []).filter((r) => r.step === step.id));
  const shown = own
    .flatMap((r) => r.pieces ?? [])
    .flatMap(({ endA, middle, endB }) => [
      endA?.sighting?.turnedDeg ?? endA?.turnedDeg ?? [],
      middle?.sighting?.turnedDeg ?? [],
      endB?.sighting?.turnedDeg ?? endB?.turnedDeg ?? [],
    ])
    .flat();
  return shown.length > 0 ? shown.reduce((a, b) => a + b, 0) / shown.length : null;
}

type Assembly = Extract<StepResult['step'], { kind: 'assemble' }>;
type Inserted = Extract<Remedy, { insertAfter: string }>;

/** How the pieces of a bar are laid together: as the plan has it, or four of it where the plan has nothing yet. */
interface Laying {
  /** What comes in after the bar, the last first, and what an assembly that is there is given. */
  with(before: readonly Inserted[], laid: Partial<AssembleParameters>): readonly Remedy[];
  readonly parameters: AssembleParameters;
  readonly assembly: string | null;
}

function layingOf({ plan }: Evaluation, { step, after }: StepResult): Laying | null {
  const lane = plan.lanes.find((l) => l.steps.includes(step))!;
  const later = lane.steps.slice(lane.steps.indexOf(step) + 1);
  const elsewhere = plan.lanes.filter((l) => l !== lane).flatMap((l) => l.steps);
  const own = later.find((s): s is Assembly => s.kind === 'assemble');
  const others = elsewhere.find(
    (s): s is Assembly => s.kind === 'assemble' && Boolean(s.parameters.from?.includes(lane.id)),
  );
  const assembly = own ?? others;
  const done = doneSteps(plan.records);
  if (later.some((s) => done.has(s.id)) || (assembly && done.has(assembly.id))) return null;
  if (assembly)
    return {
      assembly: assembly.id,
      parameters: assembly.parameters,
      with: (before, laid) => [
        ...before,
        ...(Object.keys(laid).length > 0 ? [{ label: 'Lay', set: laid, step: assembly.id }] : []),
      ],
    };
  if (after!.length > 1 && after!.length < FOUR) return null;
  const parameters: AssembleParameters = { columns: 2, rows: 2, layout: 'turned' };
  return {
    assembly: null,
    parameters,
    with: (before, laid) => [
      { label: 'Lay', insertAfter: 'assemble', parameters: { ...parameters, ...laid } },
      ...(after!.length === 1
        ? [{ label: 'Cut', insertAfter: 'cut', parameters: { pieces: FOUR, cropAMm: 0, cropBMm: 0 } }]
        : []),
      ...before,
    ],
  };
}
const FOUR = 4;

type Laid = Pick<WayOn, 'bar' | 'mismatch' | 'points' | 'sideMm'> & {
  readonly volume: number;
  readonly result: StepResult;
};

/** A way worked through; null where it cannot be gone. */
function laidBy(
  evaluation: Evaluation,
  result: StepResult,
  laying: Laying,
  remedies: readonly Remedy[],
): Laid | null {
  const { plan: gone, inserted } = withRemedies(evaluation, result, remedies);
  // Of what comes in the assembly is the first: each comes to stand right behind the bar.
  const stepId = laying.assembly ?? inserted[0];
  const plan = endedAt(gone, stepId);
  const laid = stepResult(evaluate(plan, evaluation), stepId);
  if (!laid?.after || laid.step.kind !== 'assemble') return null;
  const { before, step } = laid;
  const [whole] = laid.after;
  const seams: SeamFigures[] = seamFigures(before, step.parameters, whole).filter((s) => !s.meantToClash);
  return {
    bar: whole,
    result: laid,
    points: starPoints(before, step.parameters, whole)?.worst ?? null,
    mismatch: Math.max(0, ...seams.map((s) => Math.max(s.frontMismatch, s.backMismatch))),
    sideMm: Math.min(...before.map(sideOf)),
    volume: before.reduce((sum, b) => sum + totalVolume(b.volumes), 0),
  };
}

const sideOf = (bar: Billet): number => Math.min(sizeOf(bar).widthMm, sizeOf(bar).heightMm);

/** The plan without what comes after a step in its lane: it is not drawn. */
const endedAt = (plan: Plan, stepId: string): Plan => ({
  ...plan,
  lanes: plan.lanes.map((lane) => {
    const at = lane.steps.findIndex((s) => s.id === stepId);
    return at < 0 ? lane : { ...lane, steps: lane.steps.slice(0, at + 1) };
  }),
});

/** How far from well it looks: the worst seam, and by what part of a piece the points miss. */
const offOf = ({ mismatch, points, sideMm }: Laid): number =>
  mismatch + (points ? Math.abs(points.missMm) / sideMm : 0);

interface Tried {
  readonly laid: Laid;
  readonly remedies: readonly Remedy[];
}

const least = (tried: readonly Tried[]): Tried | null =>
  tried.reduce<Tried | null>((a, b) => (a && offOf(a.laid) <= offOf(b.laid) ? a : b), null);

/** Ways on from a bar that was looked at; none where it shows no turn and no lean, or nothing can be laid of what is there. */
export function waysOn(evaluation: Evaluation, result: StepResult): WayOn[] {
  const turnDeg = turnShown(evaluation, result);
  const bar = result.after?.[0];
  if (turnDeg === null || !bar) return [];
  const leansDeg = leanNow(bar);
  const leans = Math.abs(leansDeg) >= LEAST_DEG;
  if (Math.abs(turnDeg) < LEAST_DEG && !leans && !bar.field.variesAlongZ) return [];
  const laying = layingOf(evaluation, result);
  if (!laying) return [];
  const { shop } = evaluation;
  const tryIt = (before: readonly Inserted[], laid: Partial<AssembleParameters>): Tried[] => {
    const remedies = laying.with(before, laid);
    const made = laidBy(evaluation, result, laying, remedies);
    return made ? [{ laid: made, remedies }] : [];
  };
  const matched = layouts({ ...laying.parameters, layout: 'mirrored', places: undefined }).slice(0, 2);
  const own = laying.assembly ? [{}] : layouts(laying.parameters).slice(0, 2);
  const squaring: Inserted[] = leans
    ? [{ label: 'Square it up', insertAfter: 'lean', parameters: { leanDeg: -leansDeg, heats: 1 } }]
    : [];
  const withLine = (tried: Tried[]) => tried.find((t) => t.laid.points !== null) ?? tried[0];
  const [asItIs, book] = [own, matched].map((all) => withLine(all.flatMap((laid) => tryIt(squaring, laid))));
  if (!asItIs) return [];
  const isMirrored = laying.parameters.layout === 'mirrored';
  const shownLaid = laying.assembly ? {} : laidOf(book ?? asItIs);
  const truedBy = (deg: number) => tryIt([...ground(deg), ...squaring], shownLaid);
  const plain = laying.assembly ? asItIs : (book ?? asItIs);
  const measured = rounded(turnDeg);
  const best = Math.abs(turnDeg) < LEAST_DEG ? null : bestGround(upright(bar), turnDeg, truedBy);
  const pays = best !== null && offOf(best.laid) < offOf(plain.laid) - WORTH_IT;
  const way = (id: WayOn['id'], title: string, tried: Tried | null | undefined): WayOn[] => {
    if (!tried) return [];
    const { bar, mismatch, points, sideMm, volume } = tried.laid;
    const lostShare = Math.max(0, 1 - volume / asItIs.laid.volume);
    return [{ id, title, bar, mismatch, points, sideMm, lostShare, remedies: tried.remedies }];
  };
  const grounds = (deg: number) =>
    `Ground true by ${Math.abs(deg)}°${deg * turnDeg < 0 ? ' the other way' : ''}`;
  return [
    ...way(
      leans ? 'squared up' : 'as it is',
      leans
        ? 'Squared up in the press first'
        : laying.assembly
          ? 'As it is, laid as planned'
          : 'Live with it, pieces turned',
      asItIs,
    ),
    ...(!isMirrored
      ? way('book-matched', 'Live with it, book-matched', book)
      : book?.laid.points && !asItIs.laid.points
        ? way('book-matched', 'Book-matched, with another corner in the middle', book)
        : []),
    ...way(
      'laid otherwise',
      'Pieces laid otherwise',
      otherwise(laying, asItIs, book ?? null, (laid) => tryIt(squaring, laid)),
    ),
    ...(pays ? way('ground by the picture', `${grounds(best.deg)}, by the picture`, best) : []),
    ...(best && best.deg !== measured && Math.abs(measured) >= LEAST_DEG
      ? way('ground as measured', `${grounds(measured)}, as measured`, truedBy(measured)[0])
      : []),
    ...(Math.abs(turnDeg) < LEAST_DEG
      ? []
      : way(
          'pressed again',
          'Pressed again, there and back',
          pressedAgain(
            upright(bar),
            turnDeg,
            shop,
            (before) => tryIt([...before, ...squaring], shownLaid),
            plain,
          ),
        )),
  ];
}

const rounded = (deg: number): number => Math.round(deg / SHIM_DEG) / Math.round(1 / SHIM_DEG);

const ground = (deg: number): Inserted[] => [
  { label: `Grind true by ${deg}°`, insertAfter: 'trueUp', parameters: { errorDeg: deg } },
];

/** The layout that a way was tried with. */
function laidOf({ laid }: Tried): Partial<AssembleParameters> {
  const { layout, places } = (laid.result.step as Assembly).parameters;
  return { layout, places };
}

/** A layout as it is, and with another corner of every piece in the middle. */
function layouts(p: AssembleParameters): Partial<AssembleParameters>[] {
  const places = [gridPlacesOf(p)];
  for (let i = 0; i < 3; i++) places.push(turnedBefore(places[i]));
  return places.map((turned, i) =>
    // Other pieces make other seams: all are judged again.
    i === 0
      ? { layout: p.layout, places: p.places, clash: undefined }
      : { layout: 'free', places: turned, clash: undefined },
  );
}

/** The way of laying them that looks best of all, pieces from near one another side by side, where it is worth it. */
function otherwise(
  { parameters }: Laying,
  asItIs: Tried,
  book: Tried | null,
  tryIt: (laid: Partial<AssembleParameters>) => Tried[],
): Tried | null {
  const all = PRESETS.filter((layout) => layout !== 'brick').flatMap((layout) =>
    layouts({ ...parameters, layout, places: undefined }),
  );
  const meet = asItIs.laid.points ?? book?.laid.points ?? null;
  const best = least(all.flatMap(tryIt).filter(({ laid }) => meet === null || laid.points !== null));
  if (!best) return null;
  const { before, step } = best.laid.result;
  const p = (step as Assembly).parameters;
  const { order, beforeMm, afterMm } = bestMatch(laidPieces(before, p), p.columns, p.rows);
  const nearer =
    afterMm < beforeMm - 1
      ? tryIt({ layout: 'free', places: readingOrder(gridPlacesOf(p), order), clash: undefined })
      : [];
  const found = least([best, ...nearer])!;
  const plain = Math.min(offOf(asItIs.laid), book ? offOf(book.laid) : Infinity);
  return offOf(found.laid) < plain - WORTH_IT ? found : null;
}

/** Shares of the measured turn that are tried, and how far about the best of them. */
const SHARES = [0.2, 0.4, 0.6, 0.8, 1, 1.2, 1.5];

/** The angle to grind by after which the pieces look best, by laying them. */
function bestGround(
  bar: Billet,
  turnDeg: number,
  truedBy: (deg: number) => Tried[],
): (Tried & { deg: number }) | null {
  const known = new Map<number, Tried | null>();
  const at = (deg: number): Tried | null => {
    if (!known.has(deg))
      known.set(deg, deg === 0 || Math.abs(deg) > MOST_TRUE_DEG ? null : (truedBy(deg)[0] ?? null));
    return known.get(deg)!;
  };
  const best = (degs: readonly number[]) =>
    degs
      .map(rounded)
      .flatMap((deg) => {
        const tried = at(deg);
        return tried ? [{ ...tried, deg }] : [];
      })
      .sort((a, b) => offOf(a.laid) - offOf(b.laid))[0] ?? null;
  const byLines = bestTrueDeg(bar);
  const rough = best([...SHARES.map((s) => s * turnDeg), ...(byLines === null ? [] : [byLines])]);
  if (!rough) return null;
  const step = Math.max(SHIM_DEG, Math.abs(turnDeg) / 16);
  return best([-2, -1, 0, 1, 2].map((i) => rough.deg + i * step));
}

/** A way is shown at once: the flow of every one that is tried would take minutes. */
const AT_ONCE = { reckoned: 'usual' } as const;

/** Pressed on the bias there and back, the second time off by as much as the picture stands turned. */
function pressedAgain(
  bar: Billet,
  turnDeg: number,
  shop: Shop,
  tryIt: (before: readonly Inserted[]) => Tried[],
  plain: Tried,
): Tried | null {
  const there = resquare.begin([bar], shop);
  const back = resquare.begin([{ ...bar, outline: rectangle(there.sideMm, there.sideMm) }], shop);
  const best = least(
    [0.8, 1, 1.2].flatMap((share) => {
      const errorDeg = rounded(-share * turnDeg);
      if (Math.abs(errorDeg) > MOST_MISS_DEG) return [];
      return tryIt([
        {
          label: 'Press it back',
          insertAfter: 'resquare',
          parameters: { ...back, ...AT_ONCE, turn: 'left', errorDeg },
        },
        {
          label: 'Press it there',
          insertAfter: 'resquare',
          parameters: { ...there, ...AT_ONCE, turn: 'right' },
        },
      ]);
    }),
  );
  return best && offOf(best.laid) < offOf(plain.laid) - WORTH_IT ? best : null;
}
