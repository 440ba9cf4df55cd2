import { type Material, materialById } from './material.ts';
import type { Volumes } from './volumes.ts';

/** °C. What may not be taken hotter than this melts long before steel welds. */
const LOW_MELTING_C = 1100;

export const meltsLow = ({ limitC }: Material): boolean => limitC < LOW_MELTING_C;

/** The heat at which a billet's seams close, °C, and what sets its two ends; `caps`: low-melting sheet, whose own seams are the only ones that close under its heat. */
export interface WeldingWindow {
  readonly low: number;
  readonly high: number;
  readonly lowest: Material;
  readonly highest: Material;
  readonly caps: Material | null;
}

/**
 * The overlap of the windows of everything in a billet (handbook, heat). Copper or brass between steels joins them well below
 * steel's heat: it sets no window for steel, but caps the heat. Null where nothing welds.
 */
export function weldingWindow(volumes: Volumes, materials: readonly Material[]): WeldingWindow | null {
  const all = Object.keys(volumes).flatMap((id) => {
    const material = volumes[id] > 0 ? materialById(materials, id) : undefined;
    return material?.weldC ? [{ material, low: material.weldC[0], high: material.weldC[1] }] : [];
  });
  const soft = all.filter(({ material }) => meltsLow(material));
  const windows = soft.length > 0 ? soft : all;
  if (windows.length === 0) return null;
  const low = windows.reduce((a, b) => (b.low > a.low ? b : a));
  const high = windows.reduce((a, b) => (b.high < a.high ? b : a));
  return {
    low: low.low,
    high: high.high,
    lowest: low.material,
    highest: high.material,
    caps: soft.length > 0 && all.length > soft.length ? high.material : null,
  };
}
