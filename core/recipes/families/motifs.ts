/** Drawings of our own for powders: outlines one unit wide, centred, y up, rings counter-clockwise and holes the other way. */
type Point = [number, number];
type Ring = Point[];

const round = (v: number): number => Math.round(1e4 * v) / 1e4;

/** A closed line round the middle, by its distance from it at each angle. */
const around = (radius: (angle: number) => number, points = 72, back = false): Ring => {
  const ring = Array.from({ length: points }, (_, i): Point => {
    const angle = (2 * Math.PI * i) / points;
    const r = radius(angle);
    return [round(r * Math.cos(angle)), round(r * Math.sin(angle))];
  });
  return back ? ring.reverse() : ring;
};

/** Two arcs that meet in points. */
const leaf = (wide: number): Ring => {
  const half = 24;
  const side = (sign: 1 | -1): Ring =>
    Array.from({ length: half }, (_, i): Point => {
      const t = i / half;
      return [round(sign * (t - 0.5)), round(-sign * wide * Math.sin(Math.PI * t))];
    });
  return [...side(1), ...side(-1)];
};

const crescent = (): Ring => {
  const outer = Array.from({ length: 49 }, (_, i): Point => {
    const a = (Math.PI * (50 + (260 * i) / 48)) / 180;
    return [round(0.5 * Math.cos(a)), round(0.5 * Math.sin(a))];
  });
  const [x0, y0] = outer[0];
  const inner = Array.from({ length: 30 }, (_, i): Point => {
    const t = (i + 1) / 31;
    const y = -y0 + 2 * y0 * t;
    return [round(x0 - 0.52 * Math.sqrt(Math.max(0, 1 - (y / y0) ** 2))), round(y)];
  });
  return [...outer, ...inner];
};

export const MOTIFS: readonly { readonly name: string; readonly region: Ring[] }[] = [
  { name: 'ring', region: [around(() => 0.5), around(() => 0.27, 72, true)] },
  { name: 'leaf', region: [leaf(0.26)] },
  { name: 'crescent', region: [crescent()] },
  { name: 'five petals', region: [around((a) => 0.36 + 0.14 * Math.cos(5 * a), 120)] },
  {
    name: 'lozenge',
    region: [
      [
        [0.5, 0],
        [0, 0.5],
        [-0.5, 0],
        [0, -0.5],
      ],
      [
        [0.2, 0],
        [0, -0.2],
        [-0.2, 0],
        [0, 0.2],
      ],
    ],
  },
];
