import { type Material, materialById } from './material.ts';

/** The one steel that there is; null where there are several, or none. */
export function onlySteel(volumes: Volumes): string | null {
  const there = Object.keys(volumes).filter((id) => volumes[id] > 0);
  return there.length === 1 ? there[0] : null;
}

/** Volume of each material in mm³, by material id. */
export type Volumes = Readonly<Record<string, number>>;

export function addVolumes(...all: Volumes[]): Volumes {
  const sum: Record<string, number> = {};
  for (const volumes of all) for (const [id, mm3] of Object.entries(volumes)) sum[id] = (sum[id] ?? 0) + mm3;
  return sum;
}

export const scaleVolumes = (volumes: Volumes, factor: number): Volumes =>
  Object.fromEntries(Object.entries(volumes).map(([id, mm3]) => [id, mm3 * factor]));

export const subtractVolumes = (from: Volumes, taken: Volumes): Volumes =>
  addVolumes(from, scaleVolumes(taken, -1));

export const totalVolume = (volumes: Volumes): number =>
  Object.values(volumes).reduce((sum, mm3) => sum + mm3, 0);

/** Mass in kg. Throws when a material is not in the table: the plan's check comes before. */
export function massKg(volumes: Volumes, materials: readonly Material[]): number {
  return Object.entries(massByMaterial(volumes, materials)).reduce((sum, [, kg]) => sum + kg, 0);
}

/** Mass in kg of each material, by id. */
export function massByMaterial(volumes: Volumes, materials: readonly Material[]): Record<string, number> {
  return Object.fromEntries(
    Object.entries(volumes).map(([id, mm3]) => {
      const material = materialById(materials, id);
      if (!material) throw new Error(`no material “${id}”`);
      return [id, mm3 * material.densityKgM3 * 1e-9];
    }),
  );
}

/** The same volume without some steels: the most of what is there stands for them. */
export function without(volumes: Volumes, gone: readonly string[]): Volumes {
  const kept = Object.fromEntries(Object.entries(volumes).filter(([id]) => !gone.includes(id)));
  const names = Object.keys(kept);
  if (gone.length === 0 || names.length === 0) return volumes;
  const most = names.reduce((a, b) => (kept[b] > kept[a] ? b : a));
  return { ...kept, [most]: kept[most] + totalVolume(volumes) - totalVolume(kept) };
}

/** Share of a whole below which a steel is gone. */
const SLIVER = 1e-5;

/** Without steels of which there is next to nothing. */
export function withoutSlivers(volumes: Volumes): Volumes {
  const whole = totalVolume(volumes);
  return without(
    volumes,
    Object.keys(volumes).filter((id) => volumes[id] < SLIVER * whole),
  );
}
