import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ProjectStore } from '../projects.ts';

const here = dirname(fileURLToPath(import.meta.url));

export const demoFiles = (): string[] =>
  readdirSync(here)
    .filter((file) => file.endsWith('.json'))
    .sort()
    .map((file) => join(here, file));

/** Puts the made-up demo pieces on an empty shelf. */
export async function loadDemo(store: ProjectStore): Promise<number> {
  if (!(await store.isEmpty())) return 0;
  const files = demoFiles();
  for (const file of files) await store.create(JSON.parse(readFileSync(file, 'utf8')));
  return files.length;
}
