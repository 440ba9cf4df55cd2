import { DxfWriter, Units, point2d } from '@tarikjabiri/dxf';
import { type Region, boxOf } from '../geometry/regions.ts';

/** Outlines under one name: a layer of the file. mm */
export interface NamedRegion {
  readonly name: string;
  readonly region: Region;
}

/** mm. Beside the outlines stands a square of this side, to check by caliper that nothing was scaled. */
export const TEST_SQUARE_MM = 20;
const APART_MM = 10;
const TEST = 'test square 20 mm';

function withSquare(named: readonly NamedRegion[]): {
  all: NamedRegion[];
  box: NonNullable<ReturnType<typeof boxOf>>;
} {
  const box = boxOf(named.flatMap((n) => [...n.region])) ?? { minX: 0, minY: 0, maxX: 0, maxY: 0 };
  const [x, y, s] = [box.maxX + APART_MM, box.minY, TEST_SQUARE_MM];
  const square = [
    [
      [x, y],
      [x + s, y],
      [x + s, y + s],
      [x, y + s],
    ],
  ] as Region;
  return {
    all: [...named, { name: TEST, region: square }],
    box: { ...box, maxX: x + s, maxY: Math.max(box.maxY, y + s) },
  };
}

/** Outlines in true size as DXF: closed polylines, a layer for each name, millimetres; with the test square. */
export function dxfOf(named: readonly NamedRegion[]): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  withSquare(named).all.forEach(({ name, region }, i) => {
    // Layer names may not hold these characters.
    const layer = name.replace(/[<>/\\":;?*|=`,]/g, ' ').slice(0, 60);
    if (!dxf.tables.layerTable.exist(layer)) dxf.addLayer(layer, (i % 6) + 1, 'Continuous');
    dxf.setCurrentLayerName(layer);
    for (const ring of region)
      dxf.addLWPolyline(
        ring.map(([x, y]) => ({ point: point2d(x, y) })),
        { flags: 1 },
      );
  });
  return dxf.stringify();
}

const COLOURS = ['#2f4a3a', '#9a3b26', '#27407a', '#7a5a1f', '#5a2b6b'];
const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);
const MARGIN_MM = 3;

/** The same as SVG: a group for each name, hairlines, millimetres as the drawing's own unit. */
export function svgOf(named: readonly NamedRegion[], title: string): string {
  const { all, box } = withSquare(named);
  const [x0, y1] = [box.minX - MARGIN_MM, box.maxY + MARGIN_MM];
  const [w, h] = [box.maxX - box.minX + 2 * MARGIN_MM, box.maxY - box.minY + 2 * MARGIN_MM];
  const mm = (v: number): string => String(Math.round(v * 1e4) / 1e4);
  const groups = all.map(({ name, region }, i) => {
    const data = region
      .map((ring) => `M${ring.map(([x, y]) => `${mm(x - x0)} ${mm(y1 - y)}`).join('L')}Z`)
      .join('');
    return `<g id="${escaped(name)}"><path d="${data}" fill="none" stroke="${COLOURS[i % COLOURS.length]}" stroke-width="0.1"/></g>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="${mm(w)}mm" height="${mm(h)}mm" viewBox="0 0 ${mm(w)} ${mm(h)}"><title>${escaped(title)}</title>${groups.join('')}</svg>
`;
}
