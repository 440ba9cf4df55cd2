export * from './chance.ts';
export * from './forecast.ts';
export * from './simulated.ts';
export * from './kept.ts';
export * from './surer.ts';
export * from './said.ts';
