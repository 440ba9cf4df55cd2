import { type Shop, codedMaterial } from '../shop/shop.ts';
import type { Plane } from '../billet/face.ts';
import type { FaceOutline } from './outlines.ts';
import type { Palette } from './palette.ts';

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

const rgb = (c: readonly number[]): string => `rgb(${c.map(Math.round).join(',')})`;

/** mm. Finer than any cutter or printer. */
const DIGITS = 4;

/** A face as an SVG drawing in true size (1 unit is 1 mm): a path with holes for each material, painted as in the palette. */
export function faceSvg(
  outlines: readonly FaceOutline[],
  plane: Plane,
  palette: Palette,
  shop: Shop,
  title: string,
): string {
  const [w, h] = [plane.widthMm, plane.heightMm].map((mm) => Number(mm.toFixed(DIGITS)));
  const at = ([x, y]: readonly [number, number]) =>
    `${Number(x.toFixed(DIGITS))} ${Number((plane.heightMm - y).toFixed(DIGITS))}`;
  const paths = outlines.map(({ code, polygons }) => {
    const d = polygons
      .flat()
      .map((ring) => `M${ring.map(at).join('L')}Z`)
      .join('');
    const fill = rgb(palette[code]?.paper ?? [255, 255, 255]);
    const { id, name } = codedMaterial(shop, code);
    return `  <path id="${escaped(id)}" fill="${fill}" fill-rule="evenodd" d="${d}"><title>${escaped(name)}</title></path>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="0 0 ${w} ${h}">`,
    `  <title>${escaped(title)}</title>`,
    ...paths,
    '</svg>',
    '',
  ].join('\n');
}
