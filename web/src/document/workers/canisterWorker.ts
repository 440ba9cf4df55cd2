import * as Comlink from 'comlink';
import type { CanisterWorker } from './canister.worker.ts';

/** Reading drawings, tracing, walking back and forms, beside the page. */
export const canisterWorker = Comlink.wrap<CanisterWorker>(
  new Worker(new URL('./canister.worker.ts', import.meta.url), { type: 'module', name: 'canister' }),
);
