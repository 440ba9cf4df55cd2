/**
 * The flow a z̄³ + b z̄⁷ + c z̄¹¹ at z = x + iy, into `out`. Every term is the conjugate of an analytic function, so the flow has
 * no divergence and whatever drifts in it keeps its area exactly (handbook, geometry, "The ideal bias re-square").
 */
export function lobedFlow(
  x: number,
  y: number,
  a: number,
  b: number,
  c: number,
  out: [number, number],
): void {
  const re2 = x * x - y * y;
  const im2 = -2 * x * y;
  const re3 = re2 * x + im2 * y;
  const im3 = im2 * x - re2 * y;
  const re4 = re2 * re2 - im2 * im2;
  const im4 = 2 * re2 * im2;
  const re7 = re3 * re4 - im3 * im4;
  const im7 = re3 * im4 + im3 * re4;
  out[0] = a * re3 + b * re7 + c * (re7 * re4 - im7 * im4);
  out[1] = a * im3 + b * im7 + c * (re7 * im4 + im7 * re4);
}

export type Drift = (x: number, y: number, t: number, out: [number, number]) => void;

/** Fourth-order Runge–Kutta through a drift, from time `from` to time `to`; where the point ends, into `out`. */
export function walkDrift(
  drift: Drift,
  x: number,
  y: number,
  from: number,
  to: number,
  steps: number,
  out: [number, number],
): void {
  const h = (to - from) / steps;
  const k1: [number, number] = [0, 0];
  const k2: [number, number] = [0, 0];
  const k3: [number, number] = [0, 0];
  const k4: [number, number] = [0, 0];
  for (let i = 0; i < steps; i++) {
    const t = from + i * h;
    drift(x, y, t, k1);
    drift(x + (h / 2) * k1[0], y + (h / 2) * k1[1], t + h / 2, k2);
    drift(x + (h / 2) * k2[0], y + (h / 2) * k2[1], t + h / 2, k3);
    drift(x + h * k3[0], y + h * k3[1], t + h, k4);
    x += (h / 6) * (k1[0] + 2 * k2[0] + 2 * k3[0] + k4[0]);
    y += (h / 6) * (k1[1] + 2 * k2[1] + 2 * k3[1] + k4[1]);
  }
  out[0] = x;
  out[1] = y;
}
