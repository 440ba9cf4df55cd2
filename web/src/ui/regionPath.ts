import type { Region } from '../../../core/geometry/regions.ts';

/** A region as SVG path data, y down, from millimetres and a scale. */
export const svgPathOf = (
  region: Region,
  place: (x: number, y: number) => readonly [number, number],
): string =>
  region
    .map(
      (ring) =>
        `M${ring
          .map(([x, y]) =>
            place(x, y)
              .map((v) => v.toFixed(2))
              .join(' '),
          )
          .join('L')}Z`,
    )
    .join('');
