import { describe, expect, it } from 'vitest';
import { rectangle } from '../geometry/outline.ts';
import { type Mesh } from './mesh.ts';
import { stopFace } from './dies.ts';
import { type MeshedSection } from './pressing.ts';
import { porous } from './steel.ts';
import { PLAIN, sectionOf, turned, press } from '../tests/pressing.ts';

describe('powder', () => {
  const cells = (mesh: Mesh, of: (x: number, y: number) => number): Float64Array =>
    Float64Array.from({ length: mesh.quads.length / 4 }, (_, e) => {
      const nodes = [...mesh.quads.subarray(4 * e, 4 * e + 4)];
      return of(
        nodes.reduce((s, i) => s + mesh.x[i] / 4, 0),
        nodes.reduce((s, i) => s + mesh.y[i] / 4, 0),
      );
    });
  const areaOf = ({ x, y, quads }: Mesh, e: number): number => {
    const [a, b, c, d] = quads.subarray(4 * e, 4 * e + 4);
    return ((x[c] - x[a]) * (y[d] - y[b]) - (x[d] - x[b]) * (y[c] - y[a])) / 2;
  };

  it.each([0.62, 0.8, 0.95])(
    'at %d of solid in a closed die follows the closed form of its law (Shima & Oyane 1976, recalled), density and force, to 1e-4',
    (density) => {
      const start = sectionOf(rectangle(40, 40), 6, 2);
      const toMm = 39.9;
      // One step, so that its middle is known.
      const { section, report } = press({ ...start, density: cells(start.mesh, () => density) }, toMm, {
        friction: 0,
        axial: { by: 'height', spread: 1 },
        faces: [stopFace(1, () => 40), stopFace(-1, () => 40)],
        stepShare: 0.01,
      });
      expect(report.steps).toBe(1);
      for (const rho of section.density!)
        expect(Math.abs(rho / ((density * 40) / toMm) - 1)).toBeLessThan(1e-4);
      // Uniaxial: dev² = 4/9 r², volume r; the force is the slope of the potential by the rate of closing.
      const h = (40 + toMm) / 2;
      const { f2, strong } = porous((density * 40) / h);
      const r = 1 / h;
      const q = r * r * (4 / 9 + f2);
      const c = 3 * Math.sqrt(3) ** (PLAIN.exponent - 1);
      const closed = 40 * c * strong * q ** ((PLAIN.exponent - 1) / 2) * r * (4 / 9 + f2);
      expect(Math.abs(report.forcePerMm / closed - 1)).toBeLessThan(1e-4);
    },
  );

  it.each([0.62, 0.8, 0.95])(
    'at %d of solid pressed alike from all sides follows the closed form of its law, density and pressure, to 1e-4',
    (density) => {
      const start = sectionOf(rectangle(40, 40), 6, 2);
      const toMm = 39.9;
      const { section, report } = press({ ...start, density: cells(start.mesh, () => density) }, toMm, {
        friction: 0,
        // Shortened along as much as across: −e = ḣ/h.
        axial: { by: 'height', spread: 2 },
        faces: [stopFace(1, (height) => height, 1), stopFace(-1, (height) => height, 1)],
        stepShare: 0.01,
      });
      expect(report.steps).toBe(1);
      for (const rho of section.density!)
        expect(Math.abs(rho / (density * (40 / toMm) ** 3) - 1)).toBeLessThan(1e-4);
      // All three rates are r: no change of shape, volume 3r; p = (slope of the potential by the rate of volume).
      const h = (40 + toMm) / 2;
      const { f2, strong } = porous(density * (40 / h) ** 3);
      const [r, c] = [1 / h, 3 * Math.sqrt(3) ** (PLAIN.exponent - 1)];
      const p = c * strong * (9 * r * r * f2) ** ((PLAIN.exponent - 1) / 2) * f2 * 3 * r;
      expect(Math.abs(report.forcePerMm / (p * h) - 1)).toBeLessThan(1e-4);
      // Of each element as well, as far as the iteration is let go.
      for (const pressure of section.pushes!) expect(Math.abs(pressure / p - 1)).toBeLessThan(3e-4);
    },
  );

  it('that has become solid keeps the room it then takes, however far it is pressed on', () => {
    const start = sectionOf(rectangle(40, 40), 8, 3);
    const { section, report } = press({ ...start, density: cells(start.mesh, () => 0.985) }, 24, {
      friction: 0,
      axial: { by: 'height', spread: 1 },
    });
    expect(report.meanDensity).toBeGreaterThan(0.994);
    expect(Math.max(...section.density!)).toBeLessThan(1.001);
    // No more than the solid steel that was in it, and the pores that a law for powder leaves.
    expect(report.areaMm2 / (0.985 * 1600)).toBeGreaterThan(0.999);
    expect(report.areaMm2 / (0.985 * 1600)).toBeLessThan(1.006);
  });

  it('round a solid insert in a can: mass kept to 1e-6, the insert keeps its area to 0.5 %, the powder closes', () => {
    const start = sectionOf(rectangle(60, 60), 12, 5);
    const solid = (x: number, y: number) =>
      Math.max(Math.abs(x), Math.abs(y)) > 26 || Math.hypot(x - 5, y) < 9;
    const density = cells(start.mesh, (x, y) => (solid(x, y) ? 1 : 0.62));
    const insert = [...density.keys()].filter(
      (e) => density[e] === 1 && cells(start.mesh, (x, y) => Math.hypot(x - 5, y))[e] < 9,
    );
    const mass = (s: MeshedSection) => s.density!.reduce((sum, rho, e) => sum + rho * areaOf(s.mesh, e), 0);
    const area = (s: MeshedSection) => insert.reduce((sum, e) => sum + areaOf(s.mesh, e), 0);
    let section: MeshedSection = { ...start, density };
    const [mass0, area0] = [mass(section), area(section)];
    let last = 0.62;
    for (const [turn, toMm] of [
      [0, 56],
      [90, 56],
      [90, 52],
      [90, 52],
    ]) {
      const { section: next, report } = press(turned(section, turn), toMm, {
        axial: { by: 'height', spread: 1 },
      });
      section = next;
      expect(report.meanDensity).toBeGreaterThan(last);
      last = report.meanDensity;
    }
    expect(Math.abs(mass(section) / mass0 - 1)).toBeLessThan(1e-6);
    expect(Math.abs(area(section) / area0 - 1)).toBeLessThan(0.005);
    expect(last).toBeGreaterThan(0.8);
    expect(Math.max(...section.density!)).toBeLessThan(1.01);
  });
});
