import type { Forged } from '../geometry/maps/forged.ts';

/** mm. Round the outline on the sheet. */
const MARGIN_MM = 5;

/** The outline of a blank in true size, edge down, end A to the left, its heel marked: SVG in mm, to be printed or cut as a template. */
export function blankSvg(forged: Forged, heelMm: number, name: string): string {
  const { lo, hi, everyMm } = forged.stations;
  const [low, high] = [Math.min(...lo), Math.max(...hi)];
  const [wide, tall] = [forged.lengthMm + 2 * MARGIN_MM, high - low + 2 * MARGIN_MM];
  const at = (i: number, x: number) =>
    `${(MARGIN_MM + i * everyMm).toFixed(2)},${(MARGIN_MM + high - x).toFixed(2)}`;
  const points = [
    ...Array.from(hi, (x, i) => at(i, x)),
    ...Array.from(lo, (x, i) => at(i, x)).reverse(),
  ].join(' ');
  const heel = (MARGIN_MM + heelMm).toFixed(2);
  const title = name.replace(/[&<>]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;' })[c]!);
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${wide.toFixed(2)}mm" height="${tall.toFixed(2)}mm" viewBox="0 0 ${wide.toFixed(2)} ${tall.toFixed(2)}">`,
    `<title>${title}</title>`,
    `<polygon points="${points}" fill="none" stroke="#000" stroke-width="0.2"/>`,
    `<line x1="${heel}" x2="${heel}" y1="0" y2="${tall.toFixed(2)}" stroke="#000" stroke-width="0.1" stroke-dasharray="1 1"/>`,
    '</svg>',
    '',
  ].join('\n');
}
