import { type LoosePiece, laidAt } from '../loose/pieces.ts';
import type { SeamPress, SeamQuestion } from '../loose/question.ts';

/** A ground piece, from its left and lower side. mm */
export const block = (name: string, x: number, y: number, wide: number, high: number): LoosePiece =>
  laidAt(name, [x, y], [wide, high]);

/** Four pieces of 25 mm, counter-clockwise from the lower left, as a maker lays them. */
export const fourOf = (some: Partial<SeamQuestion>): SeamQuestion => ({
  pieces: [
    block('1', -25, -25, 25, 25),
    block('2', 0, -25, 25, 25),
    block('3', 0, 0, 25, 25),
    block('4', -25, 0, 25, 25),
  ],
  strengths: [1, 1, 1, 1],
  exponent: 0.17,
  friction: 0.4,
  biteMm: 40,
  gapMm: 0.3,
  cornerMm: 0.5,
  larger: null,
  welds: true,
  presses: [],
  ...some,
});

/** Pieces as anyone might lay them: in a grid, in a row, with strips between, in a jacket; unlike in strength, pressed 1 to 10 % at once. */
export function anySeams(random: () => number): SeamQuestion {
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)];
  const size = () => 15 + 20 * random();
  const many = (n: number) => Array.from({ length: n }, size);
  const kind = pick(['2 × 2', '3 × 2', '3 × 3', 'row', 'strips', 'jacket'] as const);
  const sheet = 1 + 2 * random();
  const [xs, ys] = {
    '2 × 2': [many(2), many(2)],
    '3 × 2': [many(3), many(2)],
    '3 × 3': [many(3), many(3)],
    row: [many(2 + Math.floor(3 * random())), many(1)],
    strips: [[size(), sheet, size(), sheet, size()], many(1)],
    jacket: [many(2), many(1)],
  }[kind];
  const sum = (of: readonly number[]) => of.reduce((a, b) => a + b, 0);
  const [w, h] = [sum(xs), sum(ys)];
  const pieces: LoosePiece[] = ys.flatMap((high, j) =>
    xs.map((wide, i) =>
      laidAt(
        `${j + 1}.${i + 1}`,
        [sum(xs.slice(0, i)) - w / 2, sum(ys.slice(0, j)) - h / 2],
        [wide, high],
        wide === sheet,
      ),
    ),
  );
  if (kind === 'jacket')
    pieces.push(
      laidAt('sheet', [-w / 2 - sheet, -h / 2 - sheet], [w + 2 * sheet, sheet], true),
      laidAt('sheet', [-w / 2 - sheet, h / 2], [w + 2 * sheet, sheet], true),
      laidAt('sheet', [-w / 2 - sheet, -h / 2], [sheet, h], true),
      laidAt('sheet', [w / 2, -h / 2], [sheet, h], true),
    );
  const around = kind === 'jacket' ? 2 * sheet : 0;
  let [wide, high] = [w + around, h + around];
  const presses = Array.from({ length: 2 + Math.floor(2 * random()) }, (_, i): SeamPress => {
    const turned = i > 0 && random() < 0.7;
    if (turned) [wide, high] = [high, wide];
    const taken = high * (0.01 + 0.09 * random());
    high -= taken;
    wide += (taken * 0.5 * wide) / high;
    return { turned, toMm: high };
  });
  return {
    pieces,
    strengths: pieces.map(() => 0.5 + random()),
    exponent: 0.08 + 0.3 * random(),
    friction: 0.9 * random(),
    biteMm: pick([15, 30, 60, 'held']),
    gapMm: random() < 0.2 ? 0 : 0.8 * random(),
    cornerMm: 1.2 * random(),
    larger: random() < 0.4 ? { piece: Math.floor(random() * pieces.length), byMm: 0.8 * random() } : null,
    welds: random() < 0.8,
    presses,
  };
}
