export * from './seams.ts';
export * from './bestMatch.ts';
export * from './tileJoints.ts';
export * from './star.ts';
