export * from './plan.ts';
export * from './evaluate.ts';
export * from './backward.ts';
export * from './summary.ts';
export * from './lanes.ts';
export * from './demand.ts';
export * from './tileAdvice.ts';
export * from './marks.ts';
