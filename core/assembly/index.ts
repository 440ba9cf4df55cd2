export * from './seams.ts';
export * from './bestMatch.ts';
