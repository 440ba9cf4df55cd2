import type { Billet } from '../billet/billet.ts';
import { ORIENTATION_NAMES } from '../geometry/orientation.ts';
import { ORIENTATION_SAID } from '../instruct/words.ts';
import type { Placed } from '../moves/index.ts';
import { presetPlaces } from '../moves/lay/assemble/layout.ts';
import { type Plan, evaluate, stepResult } from '../plan/index.ts';
import { faced } from '../recipes/families/parts.ts';
import { sweptBar } from './bars.ts';
import {
  type Kind,
  type Level,
  type Random,
  type Seen,
  VISIBLE,
  difference,
  oneOf,
  playedOf,
  seen,
} from './exercise.ts';

/** Pieces of one bar that are to be laid by hand: the plan in which they lie as they come off the saw, and one way that is right. */
export interface ToLay {
  readonly plan: Plan;
  readonly stepId: string;
  readonly places: readonly Placed[];
}

const SIDE = 2;
const COUNT = SIDE * SIDE;
const AS_SAWN = Array.from({ length: COUNT }, (_, i): Placed => ({
  piece: i + 1,
  orientation: 'as it lies',
}));

/** The block that comes of pieces laid so. */
function blockOf({ plan, stepId }: ToLay, places: readonly Placed[]): Billet {
  const laid = {
    ...plan,
    lanes: plan.lanes.map((lane) => ({
      ...lane,
      steps: lane.steps.map((s) =>
        s.id === stepId ? { ...s, parameters: { ...s.parameters, layout: 'free', places } } : s,
      ),
    })),
  } as Plan;
  return stepResult(evaluate(laid), stepId)!.after![0];
}

/** Of the block what is seen of one piece that lies otherwise. */
const OF_ONE = VISIBLE / COUNT;

/** What comes of pieces laid so, and whether it is what was wanted: any way that looks the same is as good as the one that is kept. */
export function judgedLaying(
  task: ToLay,
  places: readonly Placed[],
): { readonly isRight: boolean; readonly came: Seen } {
  const [came, wanted] = [places, task.places].map((p) => seen(blockOf(task, p), 'As you laid them'));
  return { isRight: difference(came, wanted) < OF_ONE, came };
}

/** How four pieces are to lie: as a star's do, with one of them otherwise, or each by chance. */
function wantedPlaces(level: Level, random: Random): Placed[] {
  if (level === 3) return AS_SAWN.map((p) => ({ ...p, orientation: oneOf(ORIENTATION_NAMES, random) }));
  const preset = oneOf(['turned', 'mirrored'] as const, random);
  const places = presetPlaces({ columns: SIDE, rows: SIDE, preset });
  const other = level === 1 ? -1 : Math.floor(random() * COUNT);
  return places.map((p, i) => (i === other ? { ...p, orientation: oneOf(ORIENTATION_NAMES, random) } : p));
}

/** Lay the four pieces so that this comes out: turned and rolled by hand. */
export const layThem: Kind = {
  id: 'lay-them',
  title: 'Lay the four yourself',
  make(level, random) {
    const making = faced(sweptBar(level, random).do('cut', { pieces: COUNT }));
    making.do('assemble', { columns: SIDE, rows: SIDE, layout: 'free', places: AS_SAWN });
    const task = {
      plan: making.plan,
      stepId: making.steps.at(-1)!.step.id,
      places: wantedPlaces(level, random),
    };
    if (judgedLaying(task, AS_SAWN).isRight) return null;
    const wanted = blockOf(task, task.places);
    const ways = task.places.map((p) => `${p.piece} ${ORIENTATION_SAID[p.orientation]}`);
    return {
      question: 'Four pieces lie as they came off the saw. Turn and roll them until they make this block.',
      shown: [seen(wanted, 'The block that is wanted')],
      choices: [],
      right: 0,
      lay: task,
      why: `It comes of piece ${ways.join('; ')}. Pieces of one bar are alike: which of them lies where does not matter.`,
      played: [...playedOf(making.steps.slice(0, -1)), seen(wanted, 'Laid')],
    };
  },
};
