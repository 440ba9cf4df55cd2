import type { TestProject } from 'vitest/node';
import { temporaryCluster } from '../../bin/cluster.ts';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
  }
}

/** One throw-away PostgreSQL for all server tests of a run. */
export default async function setup(project: TestProject): Promise<() => void> {
  const cluster = await temporaryCluster();
  project.provide('databaseUrl', cluster.url);
  return () => cluster.stop();
}
