export * from './material.ts';
export * from './table.ts';
export * from './volumes.ts';
