import { facePlane } from '../../../../core/billet/face.ts';
import { type Painted, paint } from '../../../../core/render/paint.ts';
import { makePalette } from '../../../../core/render/palette.ts';
import { makeShop } from '../../../../core/shop/shop.ts';
import type { Placed } from '../../../../core/moves/index.ts';
import {
  type Level,
  type Seen,
  type ToLay,
  exerciseOf,
  judgedLaying,
  kindOf,
} from '../../../../core/trainer/index.ts';

/** A face that is asked about, painted. */
export interface Pictured {
  readonly caption: string;
  readonly picture: Painted;
}

/** An exercise as it is shown. */
export interface Shown {
  readonly question: string;
  readonly shown: readonly Pictured[];
  readonly choices: readonly { readonly text: string; readonly pictured: Pictured | null }[];
  readonly right: number;
  readonly lay?: ToLay | undefined;
  readonly why: string;
  readonly played: readonly Pictured[];
}

/** Dots of the longer side of a face. */
const LARGE_PX = 360;
const SMALL_PX = 200;
const shop = makeShop();

function pictured({ bar, face, caption }: Seen, mostPx: number): Pictured {
  const plane = facePlane(bar, face);
  const perMm = mostPx / Math.max(plane.widthMm, plane.heightMm);
  const picture = paint({
    billet: bar,
    plane,
    widthPx: Math.max(8, Math.round(plane.widthMm * perMm)),
    heightPx: Math.max(8, Math.round(plane.heightMm * perMm)),
    palette: makePalette(shop, 'etched', ['1084', '15n20'], 'as they etch'),
  });
  return { caption, picture };
}

export const training = {
  /** The exercise of a kind for a level and a seed. */
  exercise(kind: string, level: Level, seed: number): Shown {
    const made = exerciseOf(kindOf(kind), level, seed);
    return {
      question: made.question,
      shown: made.shown.map((s) => pictured(s, LARGE_PX)),
      choices: made.choices.map(({ text, seen }) => ({
        text,
        pictured: seen ? pictured(seen, SMALL_PX) : null,
      })),
      right: made.right,
      lay: made.lay,
      why: made.why,
      played: made.played.map((s) => pictured(s, SMALL_PX)),
    };
  },
  /** Pieces laid by hand: whether they show what was wanted, and what they show. */
  judgeLaying(task: ToLay, places: readonly Placed[]): { isRight: boolean; came: Pictured } {
    const { isRight, came } = judgedLaying(task, places);
    return { isRight, came: pictured(came, LARGE_PX) };
  },
};
