export * from './blade.ts';
export * from './ground.ts';
