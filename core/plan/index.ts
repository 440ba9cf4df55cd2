export * from './plan.ts';
export * from './evaluate.ts';
export * from './backward.ts';
export * from './lanes.ts';
export * from './demand.ts';
export * from './tileAdvice.ts';
export * from './marks.ts';
export * from './cutList.ts';
export * from './whatIf.ts';
export * from './remedy.ts';
export * from './trial.ts';
export * from './sawing.ts';
export * from './sections.ts';
export * from './pressing.ts';

export * from './gate.ts';
export * from './differences.ts';
export * from './stored.ts';
