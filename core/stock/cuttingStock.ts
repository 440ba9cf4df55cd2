/** Pieces wanted of one length. Lengths mm. */
export interface WantedLengths {
  readonly lengthMm: number;
  readonly count: number;
}

/** A length that is to be had: so many of it (Infinity: as many as wanted), at a cost each (a price, or the length itself). */
export interface StockLength {
  readonly lengthMm: number;
  readonly count: number;
  readonly cost: number;
  /** Whose it is, for whoever reads the answer. */
  readonly name: string;
}

export interface CutBar {
  readonly stock: StockLength;
  /** Lengths in the order they are sawn, longest first. */
  readonly piecesMm: readonly number[];
  /** What is left at the end after the last kerf. */
  readonly restMm: number;
}

export interface CuttingAnswer {
  readonly bars: readonly CutBar[];
  readonly cost: number;
  /** Lengths for which nothing long enough was left. */
  readonly missing: readonly WantedLengths[];
  /** Whether no cheaper way exists; false where the search was cut off at its bound. */
  readonly proven: boolean;
}

/** Branches looked at before the best so far is taken. */
const MOST_BRANCHES = 15_000;
/** Ways to fill one bar that are looked at; more is a search cut short. */
const MOST_FILLINGS = 3000;
/** mm. A piece this much too long still comes out of a bar. */
const SLACK_MM = 1e-6;

interface Kind {
  readonly lengthMm: number;
  left: number;
}

/** The rest of a bar: n pieces need their lengths and n − 1 kerfs; what is left over costs one more. */
function restOf(lengthMm: number, piecesMm: readonly number[], kerfMm: number): number {
  const used = piecesMm.reduce((sum, mm) => sum + mm, 0) + (piecesMm.length - 1) * kerfMm;
  return Math.max(0, lengthMm - used - kerfMm);
}

/** First-fit decreasing: each piece, longest first, into the first open bar that takes it, else into the cheapest new one. */
export function firstFitDecreasing(
  wanted: readonly WantedLengths[],
  stock: readonly StockLength[],
  kerfMm: number,
): CuttingAnswer {
  const left = new Map(stock.map((s) => [s, s.count]));
  const open: { stock: StockLength; roomMm: number; piecesMm: number[] }[] = [];
  const missing: WantedLengths[] = [];
  for (const { lengthMm, count } of [...wanted].sort((a, b) => b.lengthMm - a.lengthMm))
    for (let n = 0; n < count; n++) {
      let bar = open.find((b) => b.roomMm + SLACK_MM >= lengthMm);
      if (!bar) {
        const fits = stock.filter((s) => left.get(s)! > 0 && s.lengthMm + SLACK_MM >= lengthMm);
        const best = fits.sort((a, b) => a.cost - b.cost || a.lengthMm - b.lengthMm)[0];
        if (!best) {
          missing.push({ lengthMm, count: count - n });
          break;
        }
        left.set(best, left.get(best)! - 1);
        bar = { stock: best, roomMm: best.lengthMm, piecesMm: [] };
        open.push(bar);
      }
      bar.piecesMm.push(lengthMm);
      bar.roomMm -= lengthMm + kerfMm;
    }
  return answer(open, missing, kerfMm, false);
}

function answer(
  bars: readonly { stock: StockLength; piecesMm: readonly number[] }[],
  missing: readonly WantedLengths[],
  kerfMm: number,
  proven: boolean,
): CuttingAnswer {
  return {
    bars: bars.map(({ stock, piecesMm }) => ({
      stock,
      piecesMm,
      restMm: restOf(stock.lengthMm, piecesMm, kerfMm),
    })),
    cost: bars.reduce((sum, b) => sum + b.stock.cost, 0),
    missing,
    proven,
  };
}

/** The ways to fill a bar to which no further piece fits, the longest piece left always among them. At most MOST_FILLINGS. */
function fillings(roomMm: number, kinds: readonly Kind[], kerfMm: number): number[][] {
  const found: number[][] = [];
  const first = kinds.findIndex((k) => k.left > 0);
  const counts = kinds.map(() => 0);
  const walk = (i: number, room: number): void => {
    if (found.length >= MOST_FILLINGS) return;
    if (i === kinds.length) {
      const more = kinds.some((k, j) => k.left > counts[j] && k.lengthMm <= room + SLACK_MM);
      if (!more) found.push([...counts]);
      return;
    }
    const each = kinds[i].lengthMm + kerfMm;
    const most = Math.min(kinds[i].left, Math.floor((room + kerfMm + SLACK_MM) / each));
    for (let n = most; n >= (i === first ? 1 : 0); n--) {
      counts[i] = n;
      walk(i + 1, room - n * each);
    }
    counts[i] = 0;
  };
  walk(first, roomMm);
  return found;
}

/**
 * Pieces from stock lengths at least cost, kerf between them: branch and bound over fillings, remembering what was seen, begun
 * from first-fit decreasing and so never worse. Exact unless `proven` is false. Pieces that nothing can give are `missing`.
 */
export function cutFromStock(
  wanted: readonly WantedLengths[],
  stock: readonly StockLength[],
  kerfMm: number,
): CuttingAnswer {
  const start = firstFitDecreasing(wanted, stock, kerfMm);
  if (start.missing.length > 0) return start;
  const byLength = new Map<number, number>();
  for (const { lengthMm, count } of wanted) byLength.set(lengthMm, (byLength.get(lengthMm) ?? 0) + count);
  const kinds: Kind[] = [...byLength].map(([lengthMm, left]) => ({ lengthMm, left }));
  kinds.sort((a, b) => b.lengthMm - a.lengthMm);
  const shelf = stock.map((s) => ({ stock: s, left: s.count }));
  shelf.sort((a, b) => a.stock.cost / a.stock.lengthMm - b.stock.cost / b.stock.lengthMm);
  const search = new Search(kinds, shelf, kerfMm, start);
  search.branch(0, []);
  return answer(search.best, [], kerfMm, !search.cutShort);
}

type Used = { stock: StockLength; piecesMm: readonly number[] };

class Search {
  best: readonly Used[];
  cutShort = false;
  private branches = 0;
  private bestCost: number;
  private readonly seen = new Map<string, number>();
  private readonly kinds: Kind[];
  private readonly shelf: { stock: StockLength; left: number }[];
  private readonly kerfMm: number;
  constructor(
    kinds: Kind[],
    shelf: { stock: StockLength; left: number }[],
    kerfMm: number,
    start: CuttingAnswer,
  ) {
    this.kinds = kinds;
    this.shelf = shelf;
    this.kerfMm = kerfMm;
    this.best = start.bars;
    this.bestCost = start.cost;
  }

  /** Least that the pieces left can still cost: their length at the cheapest rates on the shelf, used up in turn. */
  private atLeast(): number {
    let needMm = this.kinds.reduce((sum, k) => sum + k.left * (k.lengthMm + this.kerfMm), 0);
    let cost = 0;
    for (const { stock, left } of this.shelf) {
      if (needMm <= SLACK_MM) break;
      const each = stock.lengthMm + this.kerfMm;
      const share = Math.min(left, needMm / each);
      cost += share * stock.cost;
      needMm -= share * each;
    }
    return cost;
  }

  branch(cost: number, used: readonly Used[]): void {
    if (this.kinds.every((k) => k.left === 0)) {
      if (cost < this.bestCost - 1e-9) {
        this.bestCost = cost;
        this.best = used;
      }
      return;
    }
    if (this.least(cost) >= this.bestCost - 1e-9) return;
    if (this.branches >= MOST_BRANCHES) {
      this.cutShort = true;
      return;
    }
    this.branches++;
    const state = `${this.kinds.map((k) => k.left).join()}|${this.shelf.map((s) => s.left).join()}`;
    const before = this.seen.get(state);
    if (before !== undefined && before <= cost + 1e-9) return;
    this.seen.set(state, cost);
    for (const entry of this.shelf) {
      if (entry.left <= 0 || entry.stock.lengthMm + SLACK_MM < this.kinds.find((k) => k.left > 0)!.lengthMm)
        continue;
      const ways = fillings(entry.stock.lengthMm, this.kinds, this.kerfMm);
      if (ways.length >= MOST_FILLINGS) this.cutShort = true;
      for (const counts of ways) {
        const piecesMm = counts.flatMap((n, i) => Array.from({ length: n }, () => this.kinds[i].lengthMm));
        entry.left--;
        counts.forEach((n, i) => (this.kinds[i].left -= n));
        this.branch(cost + entry.stock.cost, [...used, { stock: entry.stock, piecesMm }]);
        counts.forEach((n, i) => (this.kinds[i].left += n));
        entry.left++;
      }
    }
  }

  /** With all bars at one cost, costs come in whole bars: the bound is rounded up to that. */
  private least(cost: number): number {
    const more = this.atLeast();
    const [{ stock }] = this.shelf;
    const alike = this.shelf.every((s) => s.stock.cost === stock.cost);
    return cost + (alike && stock.cost > 0 ? Math.ceil(more / stock.cost - 1e-9) * stock.cost : more);
  }
}
