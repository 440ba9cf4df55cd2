import { WorkedOutFlows } from '../core/flow/flows.ts';
import { library } from '../core/recipes/index.ts';
import type { LibraryPart } from './wholeLibrary.ts';

/** Part of the library of pictures, worked out beside the others: which of how many; with the flows that it took. */
const [part, of] = process.argv.slice(2).map(Number);
const flows = new WorkedOutFlows();
const known = [...library(flows, { part, of })].flat();
process.send!({ known, stages: flows.all() } satisfies LibraryPart);
