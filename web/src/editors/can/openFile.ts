import { ask } from '../../document/workers/host.ts';

/** Outlines are read and traced in seconds; what takes longer is no drawing for a can. */
export const IMPORT_LIMIT = {
  ms: 20_000,
  why: 'This takes longer than 20 s to work out: it has too many corners that cross or lie on one another. Simplify it in the drawing program first.',
} as const;

/** Reads a drawing or a picture of dots, within a limit of time. */
export const openFile = (file: Blob) => ask('forms', (api) => api.open(file), IMPORT_LIMIT);
