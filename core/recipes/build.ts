import { type Evaluation, type Goal, emptyPlan } from '../plan/index.ts';
import type { Flows } from '../flow/flows.ts';
import type { ElementMark } from '../plan/element.ts';
import { faced, flat, laid, square } from './families/parts.ts';
import { recipeOf } from './families/index.ts';
import { MARRIED } from './married.ts';
import { Making, NotMade } from './making.ts';
import type { Shop } from '../shop/shop.ts';
import { type SideBar, WAYS, toRule } from './sides.ts';
import type { Piece, Spec } from './spec.ts';
import type { Wish } from '../plan/wish.ts';

/** Bars of an element that are laid together to the block: as four-ways while both numbers are even, and what is left over. */
export function rounds(columns: number, rows: number): { fours: number; across: number; up: number } {
  let [fours, across, up] = [0, columns, rows];
  while (across % 2 === 0 && up % 2 === 0 && across > 0 && (across > 2 || up > 2)) {
    fours++;
    across /= 2;
    up /= 2;
  }
  return { fours, across, up };
}

/** mm. A side of the bar of one element. */
const SIDES_MM = [16, 34] as const;
const MOST_ONE_MM = 46;
/** More steel in the pieces than in the bar that they are forged to. */
const MORE = 1.6;

/** Side of the bar of one element: so much steel that a block of them comes to the bar before the tiles, and spreads to its width. mm */
function elementSide({ widthMm, heightMm }: SideBar, across: number, up: number, making: Making): number {
  const { fayingMm } = making.shop;
  const one = across * up === 1;
  const most = one ? MOST_ONE_MM : SIDES_MM[1];
  let side = Math.sqrt((MORE * widthMm * heightMm) / (across * up)) + 2 * fayingMm;
  side = Math.max(
    side,
    SIDES_MM[0],
    (0.92 * widthMm) / across + 2 * fayingMm,
    (1.03 * heightMm) / up + 2 * fayingMm,
  );
  return Math.min(most, side);
}

/** mm. The start's section: by how much steel the finished bar wants, so that the stack is neither a plate nor a needle. */
const STARTS_MM = [34, 64] as const;
const startSide = ({ lengthMm, widthMm, thicknessMm }: Goal): number =>
  Math.min(
    STARTS_MM[1],
    Math.max(STARTS_MM[0], (0.85 * lengthMm * widthMm * (thicknessMm + 0.8)) ** (1 / 3)),
  );

/** More steel than is in the finished bar, about; mm of a start that holds so much. */
const ABOUT = 1.9;
const aboutMm3 = ({ lengthMm, widthMm, thicknessMm }: Goal): number =>
  ABOUT * lengthMm * widthMm * (thicknessMm + 1);
export const aboutMm = (goal: Goal): number => aboutMm3(goal) / startSide(goal) ** 2;

/** Drawn so much wider than wished for, where steel may be spared: of bars drawn to the very width every other comes narrower. A judgement of ours. */
const WIDER = 0.02;

const drawnTo = ({ goal }: Piece, { spareShare }: Wish, shop: Shop): Goal => ({
  ...goal,
  widthMm: toRule(goal.widthMm * (1 + Math.min(spareShare, WIDER)), shop, Math.ceil),
});

interface Built {
  readonly making: Making;
  /** Null where nothing is to be followed. */
  readonly mark: ElementMark | null;
}

/** The moves of a spec, from the start to the finished bar; what a plan made before it has alike is taken over. */
export function built(
  spec: Spec,
  piece: Piece,
  wish: Wish,
  flows: Flows,
  startLengthMm: number,
  earlier?: Evaluation,
): Built {
  const making = new Making(emptyPlan(piece), flows, startLengthMm, earlier);
  const goal = drawnTo(piece, wish, making.shop);
  const recipe = recipeOf(spec.recipe);
  const thickMm = toRule(goal.thicknessMm + 2 * making.shop.fayingMm, making.shop, Math.ceil);
  // The flat bar that the pattern itself is drawn to: the whole one, or what is married to something and drawn on.
  const married = MARRIED[spec.around];
  const leaf = married.leaf(goal.widthMm, thickMm, making.shop);
  const way = WAYS[spec.side];
  const bar = way.bar(
    {
      widthMm: leaf.widthMm,
      thicknessMm: leaf.thickMm,
      lengthMm: goal.lengthMm / leaf.longer,
      alongMm: spec.alongMm / leaf.longer,
      rows: spec.rows * (recipe.elements?.(spec.numbers)[1] ?? 1),
    },
    making.shop,
  );
  const start = {
    making,
    steelMm3: aboutMm3(goal),
    startMm: startSide(goal),
    numbers: spec.numbers,
    wish,
  };
  let mark: ElementMark | null = null;
  if (recipe.along) {
    const wanted = {
      widthMm: bar.widthMm,
      thickMm: bar.thickMm,
      alongMm: spec.alongMm,
      longer: (leaf.longer * bar.thickMm * bar.widthMm) / (leaf.thickMm * leaf.widthMm),
      goal: { widthMm: leaf.widthMm, thicknessMm: leaf.thickMm },
    };
    const stepId = recipe.along({ ...start, sideMm: bar.thickMm }, wanted);
    if (stepId !== null) {
      const [columns] = recipe.elements?.(spec.numbers) ?? [1];
      mark = { stepId, columns, rows: 1, repeats: true, widthShare: leaf.widthShare };
    }
  } else {
    const { fours, across, up } = rounds(spec.columns, spec.rows);
    const [perX, perY] = recipe.elements?.(spec.numbers) ?? [1, 1];
    const sideMm = elementSide(bar, across, up, making);
    recipe.make!({ ...start, sideMm });
    const marked = (columns: number, rows: number): void => {
      mark ??= { stepId: making.lastId, columns: columns * perX, rows: rows * perY };
    };
    for (let i = 0; i < fours; i++) {
      laid(making, 2, 2, spec.inner ?? spec.layout);
      marked(2, 2);
      square(making, sideMm);
    }
    if (across * up > 1) {
      laid(making, across, up, spec.layout);
      marked(across, up);
    }
    flat(making, bar.widthMm, bar.heightMm);
    marked(1, 1);
    faced(making, 'level');
    way.bring(making, bar);
  }
  if (spec.around === 'cladding' && !piece.blade)
    throw new NotMade(
      'Plates of plain steel hide the pattern, but where a blade is ground through them: say which blade it is to be.',
    );
  if (spec.around !== 'plain') {
    flat(making, leaf.widthMm, leaf.thickMm);
    married.lay?.(making, { widthMm: goal.widthMm, thickMm, leaf });
  }
  const drawnMm = leaf.drawnMm ?? thickMm;
  making.do('draw', { shape: 'flat', sideMm: undefined }, { widthMm: goal.widthMm, thicknessMm: drawnMm });
  const off = Math.max(0, (drawnMm - goal.thicknessMm) / 2);
  making.do('grind', { leftMm: 0, rightMm: 0 }, { topMm: off, bottomMm: off });
  return { making, mark };
}
