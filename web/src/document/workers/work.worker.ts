import './zodWithoutEval.ts';
import * as Comlink from 'comlink';
import { answers } from './answers.ts';
import { flowing } from './flowing.ts';
import { foretelling } from './foretelling.ts';
import { forms } from './forms.ts';
import { knowledge } from './knowledge.ts';
import { paintingWork } from './painting.ts';
import { training } from './training.ts';
import { wishing } from './wishing.ts';

/** Everything that may be asked of a worker; all of them can do the same. */
const work = {
  ...knowledge,
  ...paintingWork,
  ...answers,
  ...forms,
  ...flowing,
  ...wishing,
  ...training,
  ...foretelling,
};

export type Work = typeof work;

Comlink.expose(work);
