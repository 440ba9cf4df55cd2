export * from './board.ts';
export * from './hours.ts';
export * from './schedule.ts';
export * from './tasks.ts';
export * from './quote.ts';
