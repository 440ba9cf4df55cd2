import { outlineArea } from '../../../../core/geometry/outline.ts';
import { openFile } from './openFile.ts';

/** Corners of a can's outline at most. */
const MOST_CORNERS = 400;

export type CanOutlineRead = { ok: true; outline: [number, number][] } | { ok: false; message: string };

/** The largest outline of a drawing, one unit wide and centred, for the inside of a can. */
export async function outlineOfDrawing(file: Blob): Promise<CanOutlineRead> {
  const opened = await openFile(file);
  if (!opened.ok) return opened;
  if (opened.kind === 'dots')
    return { ok: false, message: 'A can’s outline wants a drawing (SVG), not a picture of dots.' };
  if (!opened.read.ok) return opened.read;
  const rings = opened.read.drawing.tones.flatMap((t) => t.region);
  const largest = rings.reduce((a, b) => (outlineArea(b) > outlineArea(a) ? b : a));
  if (largest.length > MOST_CORNERS)
    return {
      ok: false,
      message: `This outline has ${largest.length} corners; a can is bent from at most ${MOST_CORNERS}: simplify it.`,
    };
  const [xs, ys] = [largest.map(([x]) => x), largest.map(([, y]) => y)];
  const width = Math.max(...xs) - Math.min(...xs);
  const [cx, cy] = [(Math.max(...xs) + Math.min(...xs)) / 2, (Math.max(...ys) + Math.min(...ys)) / 2];
  return { ok: true, outline: largest.map(([x, y]) => [(x - cx) / width, (y - cy) / width]) };
}
