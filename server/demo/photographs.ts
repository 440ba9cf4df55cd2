import sharp from 'sharp';
import { evaluate, materialOrder, stepResult, withRecords } from '../../core/plan/index.ts';
import { foreseenOf } from '../../core/render/foreseen.ts';
import { type Faults, photographed, shotWith } from '../../core/sighting/camera.ts';
import type { StoredProject } from '../../core/plan/index.ts';
import { keepPhotograph } from '../photographs.ts';

const PLAIN: Faults = { turned: 0, leans: 0, tipped: 6, blur: 1, shine: 0.1, light: 1, background: 0.6 };

/** Photographs that the records of the demo pieces speak of, as the simulated camera takes them, each of an end after a move. */
const TAKEN: readonly { id: string; step: string; end: 'A' | 'B'; faults: Faults }[] = [
  { id: '00000000-0000-4000-8000-0000000000a1', step: 'c4', end: 'A', faults: { ...PLAIN, turned: 1 } },
  { id: '00000000-0000-4000-8000-0000000000a2', step: 'c4', end: 'B', faults: { ...PLAIN, turned: 2.5 } },
  {
    id: '00000000-0000-4000-8000-0000000000a3',
    step: 's4',
    end: 'B',
    faults: { ...PLAIN, turned: -3, shine: 0.3 },
  },
];

/** Takes the photographs that a piece's records speak of. */
export async function takePhotographs({ id: project, plan, records }: StoredProject): Promise<void> {
  const spoken = new Set(records.flatMap((r) => r.pictures ?? []).map((p) => p.id));
  const taken = TAKEN.filter(({ id }) => spoken.has(id));
  if (taken.length === 0) return;
  const evaluation = evaluate(withRecords(plan, records));
  for (const { id, step, end, faults } of taken) {
    const result = stepResult(evaluation, step);
    const bar = (result?.reckoned ?? result)?.after?.[0];
    if (!bar) throw new Error(`There is no bar to photograph after ${step}.`);
    const foreseen = foreseenOf(bar, evaluation.shop, materialOrder(evaluation))[end];
    const { photo } = photographed({ ...foreseen, ...shotWith(end, faults), seed: taken.length });
    const raw = { width: photo.width, height: photo.height, channels: 4 } as const;
    const file = await sharp(Buffer.from(photo.rgba), { raw }).jpeg({ quality: 90 }).toBuffer();
    const record = records.find((r) => r.pictures?.some((p) => p.id === id))!;
    await keepPhotograph(project, id, file, new Date(record.written));
  }
}
