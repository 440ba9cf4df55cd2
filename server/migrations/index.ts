import type { QueryInterface } from 'sequelize';
import { projects } from './001-projects.ts';
import { shop } from './002-shop.ts';
import { flows } from './003-flows.ts';
import { previews } from './004-previews.ts';
import { saves } from './007-saves.ts';
import { history } from './008-history.ts';
import { removed } from './009-removed.ts';
import { records } from './011-records.ts';
import { photographs } from './012-photographs.ts';
import { devices } from './013-devices.ts';
import { measured } from './014-measured.ts';
import { evidence } from './015-evidence.ts';
import { sorts } from './016-sorts.ts';
import { drawnAnew } from './drawnAnew.ts';

export interface Migration {
  name: string;
  up(params: { context: QueryInterface }): Promise<void>;
  down(params: { context: QueryInterface }): Promise<void>;
}

/** In the order they are run; a migration that has landed is never changed. */
export const migrations: readonly Migration[] = [
  projects,
  shop,
  flows,
  previews,
  drawnAnew('005-drawn-anew'),
  drawnAnew('006-drawn-anew'),
  saves,
  history,
  removed,
  // An accordion leans as it is cut.
  drawnAnew('010-drawn-anew'),
  records,
  photographs,
  devices,
  measured,
  evidence,
  sorts,
];
