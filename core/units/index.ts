export * from './force.ts';
export * from './length.ts';
export * from './mass.ts';
export * from './reckoning.ts';
export * from './temperature.ts';
export * from './time.ts';
export type { Parsed } from './parsed.ts';
