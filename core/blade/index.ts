export * from './blade.ts';
export * from './ground.ts';
export * from './blank.ts';
