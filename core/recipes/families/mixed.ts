import { defineRecipe } from '../recipe.ts';
import { LAYER_NUMBERS, faced, quarterMm, quarterStar, square, stacked } from './parts.ts';

/** The pieces of a bar as they lie in a lane of their own. */
const pieces = (count: number): { pieces: number } => ({ pieces: count });

export const ninePiece = defineRecipe({
  id: 'nine-piece',
  name: 'Nine pieces',
  text: 'Five quarter stars and four plain layered pieces as a chessboard, with strips between.',
  group: 'mixed',
  numbers: {
    ...LAYER_NUMBERS,
    strip: { label: 'Strip, to the piece', least: 0.04, most: 0.12, usual: 0.07 },
  },
  layouts: ['alike', 'brick'],
  isLayered: true,
  make(asked) {
    const { making, numbers, sideMm, wish } = asked;
    const side = Math.max(16, quarterMm(asked) * 0.85);
    making.lane('sweeps', 'Sweeps');
    quarterStar(asked, side).do('cut', pieces(5));
    faced(making).lane('plain', 'Plain');
    square(stacked({ ...asked, numbers: { ...numbers, layers: Math.max(3, numbers.layers / 2) } }), side);
    making.do('cut', pieces(4));
    faced(making).lane('block', 'Nine pieces');
    making
      .do('assemble', {
        columns: 3,
        rows: 3,
        layout: 'alike',
        from: ['sweeps', 'plain'],
        fill: 'chequer',
        strips: { material: wish.bright, thicknessMm: numbers.strip * side, where: 'cross' },
      })
      .do('weld');
    square(making, sideMm);
  },
});

export const folds = defineRecipe({
  id: 'folds',
  name: 'Folds round a centre',
  text: 'Pieces of one bar folded like a book on both sides of a plain one: every seam meets its twin.',
  group: 'mixed',
  numbers: LAYER_NUMBERS,
  layouts: ['alike', 'brick'],
  isLayered: true,
  make(asked) {
    const { making, sideMm, wish } = asked;
    const side = Math.max(16, quarterMm(asked) * 0.8);
    making.lane('fold', 'Folds');
    quarterStar(asked, side).do('cut', pieces(4));
    faced(making).lane('centre', 'Centre');
    making.do(
      'stack',
      { layers: 1, widthMm: side + 4, lengthMm: making.startMm },
      { pattern: [{ material: wish.bright, thicknessMm: side + 4 }] },
    );
    square(making, side).do('cut', pieces(2));
    faced(making).lane('block', 'Block');
    const fold = (piece: number, orientation: string) => ({ lane: 'fold', piece, orientation });
    const middle = (piece: number) => ({ lane: 'centre', piece, orientation: 'as it lies' });
    making
      .do('assemble', {
        columns: 3,
        rows: 2,
        layout: 'free',
        places: [
          fold(1, 'as it lies'),
          middle(1),
          fold(2, 'rolled left–right'),
          fold(4, 'rolled top–bottom'),
          middle(2),
          fold(3, 'turned 180°'),
        ],
      })
      .do('weld');
    square(making, sideMm);
  },
});
