import { WorkedOutFlows } from '../core/flow/flows.ts';
import { library } from '../core/recipes/index.ts';

/** Part of the library of pictures, worked out beside the others: which of how many. */
const [part, of] = process.argv.slice(2).map(Number);
process.send!([...library(new WorkedOutFlows(), { part, of })].flat());
