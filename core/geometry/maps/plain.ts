import { type PointMap, sectionMap } from './pointMap.ts';

/** A lean: x slides by tan(lean) · y, the height stays. Keeps area; the square becomes a parallelogram. */
export function leaning(leanRad: number): PointMap {
  const t = Math.tan(leanRad);
  return sectionMap(
    (x, y, out) => {
      out[0] = x + t * y;
      out[1] = y;
    },
    (x, y, out) => {
      out[0] = x - t * y;
      out[1] = y;
    },
  );
}

/** A turn of the whole section about its axis, counter-clockwise. */
export function turning(angleRad: number): PointMap {
  const c = Math.cos(angleRad);
  const s = Math.sin(angleRad);
  return sectionMap(
    (x, y, out) => {
      out[0] = c * x - s * y;
      out[1] = s * x + c * y;
    },
    (x, y, out) => {
      out[0] = c * x + s * y;
      out[1] = c * y - s * x;
    },
  );
}

/** A twist: the section at z turns by `radPerMm` · z (handbook, geometry, "Twist"). */
export function twisting(radPerMm: number): PointMap {
  const turn = (sign: 1 | -1): PointMap['forward'] => {
    return ({ x, y, z, count }) => {
      for (let i = 0; i < count; i++) {
        const c = Math.cos(radPerMm * z[i]);
        const s = sign * Math.sin(radPerMm * z[i]);
        const px = x[i];
        x[i] = c * px - s * y[i];
        y[i] = s * px + c * y[i];
      }
    };
  };
  return { usesZ: true, forward: turn(1), backward: turn(-1) };
}

/**
 * A rectangle w × h pressed to a triangle of base b and height h′, apex down, with b·h′/2 = w·h: y from the apex side,
 * y′ = h′·√(y/h), x′ = (x/w)·b·(y′/h′). Keeps area point by point and gathers upright layers into a fan. Both shapes are
 * centred on their bounding boxes. mm.
 */
export function wedging(widthMm: number, heightMm: number, baseMm: number, toHeightMm: number): PointMap {
  const perHeight = 1 / toHeightMm;
  return sectionMap(
    (x, y, out) => {
      const up = toHeightMm * Math.sqrt(Math.max(0, y + heightMm / 2) / heightMm);
      out[0] = (x / widthMm) * baseMm * up * perHeight;
      out[1] = up - toHeightMm / 2;
    },
    (x, y, out) => {
      const up = Math.max(1e-12 * toHeightMm, y + toHeightMm / 2);
      out[0] = (x * toHeightMm * widthMm) / (baseMm * up);
      out[1] = heightMm * (up * perHeight) ** 2 - heightMm / 2;
    },
  );
}

/**
 * A rectangle w × h pressed in its middle from above and below: two wedges, their blunt ends on one another in a waist, as wide as
 * steel is kept. With w₀ the waist and t the slope of each face, h·x = w₀·x′ + t·x′², y′ = y·(w₀ + 2t·x′)/h. mm.
 */
export function waisting(heightMm: number, waistMm: number, slope: number): PointMap {
  return sectionMap(
    (x, y, out) => {
      const far = (Math.sqrt(waistMm ** 2 + 4 * slope * heightMm * Math.abs(x)) - waistMm) / (2 * slope);
      out[0] = Math.sign(x) * far;
      out[1] = (y * (waistMm + 2 * slope * far)) / heightMm;
    },
    (x, y, out) => {
      const far = Math.abs(x);
      out[0] = (Math.sign(x) * (waistMm * far + slope * far ** 2)) / heightMm;
      out[1] = (y * heightMm) / (waistMm + 2 * slope * far);
    },
  );
}

/** Upright lines slide down by drag·e^(−|x|/fades), all of them up again by the mean of that, so that the middle of the section stays: area is kept. mm. */
export function dragging(dragMm: number, fadesMm: number, widthMm: number): PointMap {
  const mean = ((2 * fadesMm) / widthMm) * dragMm * (1 - Math.exp(-widthMm / 2 / fadesMm));
  const down = (x: number) => dragMm * Math.exp(-Math.abs(x) / fadesMm) - mean;
  return sectionMap(
    (x, y, out) => {
      [out[0], out[1]] = [x, y - down(x)];
    },
    (x, y, out) => {
      [out[0], out[1]] = [x, y + down(x)];
    },
  );
}
