import { readFileSync } from 'node:fs';
import { FACES } from '../core/billet/face.ts';
import { type Evaluation, evaluate, readPlanText } from '../core/plan/index.ts';

export const USAGE = `Usage:
  retablo figures PLAN.json
      prints every step's sizes, masses, losses, figures (by id, with value and unit), findings and instruction as JSON
  retablo face PLAN.json --out FACE.png [--step ID] [--face "end B" | --at MM] [--piece 1] [--size 800] [--view etched|materials|codes]
      draws a face after a step (the last one unless named), or the section so far from end A as seen from end B;
      faces: ${FACES.join(', ')}
      codes: one point a dot, its grey the number of the material (0: no steel), and FACE.json beside it says which is which
  retablo wish WISH.json [--out FOLDER] [--count 16] [--seed 1]
      plans for a wish as JSON, each with its element, steel, work and what is to be lived with, and as plan files in the folder;
      a wish file has goal (lengthMm, widthMm, thicknessMm) and, as in a plan file where wanted, wish, blade, shop, materials, name
  retablo find PICTURE.png [--out FOLDER] [--wish WISH.json] [--corners "x,y x,y x,y x,y"] [--among star,framed]
      what comes nearest to one repeat of a picture (PNG or JPEG; all of it, or what lies within four corners, clockwise from the upper left)
      whose left to right is along the blade (where upwards is, begin with the lower left corner),
      among all recipes or those named, as JSON, each with how its own face agrees, or one element of its end grain where that alone is near (correlation of the greys; directions: of the way the lines run), and as plan files in the folder
  retablo learn RECORDS.json
      what records say of the shop's numbers (a plan file with records, or a list of such plans) as JSON: each number with how sure it is, how it
      differs from time to time, the table's value and its source, the formula, every measurement; what is proposed, what experience says, and how often
      what came lay in the band that was promised before
  retablo forecast PLAN.json [--learned RECORDS.json] [--count 300] [--seed 1]
      the plan run forward so many times with the numbers as they happen to be, as JSON: how often the goal is reached, bands that hold eight of ten
      (finished sizes, each step, hours, the worst corner missed), from which numbers the doubt comes, and what would make it surer
  retablo read PHOTO --predicted PICTURE.png --width MM --height MM --taps "x,y x,y x,y x,y" [--focal PX] [--diagonals D1,D2] [--end A|B] [--lattice 20,40] [--out RESULT.json]
      reads a photograph of an etched end (JPEG or PNG) against what was foreseen of it on end B: how it lies, how far the layers have turned,
      how it leans, where it is stretched, each with how sure; --plan PLAN.json --step ID [--piece 1] [--face "end A"|"end B"|middle] in place of a picture;
      a stretch of a flat bar's upper face, from above: --plan PLAN.json --step ID --face top [--from MM] [--to MM] [--left A|B, which end lies there] --taps …;
      with a lattice, which point of the foreseen section is seen at each of its points [px, py, x mm, y mm]`;

/** Something the caller can mend; the message says how. */
export class UsageError extends Error {}

/** The plan of a file, worked through. */
export function planOf(path: string | undefined): Evaluation {
  if (!path) throw new UsageError(USAGE);
  let text: string;
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    throw new UsageError(`Cannot read ${path}.`);
  }
  const read = readPlanText(text);
  if (!read.ok) throw new UsageError(read.problems.map((p) => `${p.path || path}: ${p.message}`).join('\n'));
  return evaluate(read.plan);
}

export function wholeNumber(option: string, text: string, most: number): number {
  const number = Number(text);
  if (!Number.isInteger(number) || number < 1 || number > most)
    throw new UsageError(`--${option} must be a whole number from 1 to ${most}`);
  return number;
}
