export * from './length.ts';
export * from './mass.ts';
export * from './temperature.ts';
export type { Parsed } from './parsed.ts';
