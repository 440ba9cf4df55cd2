export * from './estimate.ts';
export * from './numbers.ts';
export { ONLY_CLEANED, READ_SD, TO_SIZE, fayingGrinds, freshCuts, isLaid } from './done.ts';
export * from './evidence.ts';
export * from './believed.ts';
export * from './calibration.ts';
export * from './said.ts';
export * from './advice.ts';
