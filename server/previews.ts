import type { Logger } from 'pino';
import { Preview, Project } from './database.ts';
import { ApiError } from './errors.ts';
import type { FlowStore } from './flowStore.ts';
import type { Preview as Worked } from './reckoning/work.ts';
import type { ProjectStore } from './projects.ts';

/** Quiet after the last save before a picture is made, ms. */
const QUIET_MS = 1500;
/** The same where flows are waited for: the page that changes the piece works them out too, and leaves them here. */
const FLOWS_QUIET_MS = 20_000;

/** A plan that cannot be read, or takes too much, has no picture: that is said, and not tried again and again. */
function notWorkedOut(error: unknown): Worked {
  if (error instanceof ApiError && (error.code === 'bad plan' || error.code === 'too much'))
    return { verdict: 'not worked out', png: null, measured: [], evidence: [] };
  throw error;
}

type Kept = 'made' | 'gone';

/** Of which revision of a piece, and with how much of its log. */
type Of = Pick<Project, 'revision' | 'log'>;

/** Keeps a picture, unless its piece was changed or thrown away while it was made: then another is on its way, or none is wanted. */
export function keepPreview(
  id: string,
  { revision, log }: Of,
  { verdict, png, measured, evidence }: Worked,
): Promise<Kept> {
  return Project.sequelize!.transaction(async (transaction) => {
    const piece = await Project.findByPk(id, {
      attributes: ['revision', 'log', 'removedAt'],
      lock: transaction.LOCK.SHARE,
      transaction,
    });
    if (piece?.revision !== revision || piece.log !== log || piece.removedAt) return 'gone';
    const picture = png && Buffer.from(png);
    const kept = { projectId: id, revision, log, verdict, picture, measured, evidence };
    await Preview.upsert(kept, { transaction });
    return 'made';
  });
}

/** Makes the shelf's small pictures, one at a time, and keeps each with the revision that it shows. */
export class Previews {
  private readonly projects: ProjectStore;
  private readonly flows: FlowStore;
  private readonly logger: Logger;
  private readonly timers = new Map<string, NodeJS.Timeout>();
  /** Those that wait for nothing go first; those that wait for flows follow, one by one. */
  private quick: Promise<void> = Promise.resolve();
  private slow: Promise<void> = Promise.resolve();
  private closed = false;

  constructor(projects: ProjectStore, flows: FlowStore, logger: Logger) {
    this.projects = projects;
    this.flows = flows;
    this.logger = logger;
  }

  /** A piece was made or changed: its picture is made anew when it has been left alone for a moment. */
  changed(id: string, quietMs = QUIET_MS): void {
    this.after(id, quietMs, () => {
      this.quick = this.quick
        .then(async () => {
          // Changed again in the meantime, it is made by the later timer.
          if ((await this.make(id, { rounds: 1 })) !== 'waits' || this.timers.has(id)) return;
          this.after(id, quietMs && FLOWS_QUIET_MS, () => {
            this.slow = this.slow.then(() => this.inTime(id));
          });
        })
        .catch((error: unknown) => this.failed(id, error));
    });
  }

  private after(id: string, ms: number, then: () => void): void {
    clearTimeout(this.timers.get(id));
    const timer = setTimeout(() => {
      this.timers.delete(id);
      then();
    }, ms);
    timer.unref();
    this.timers.set(id, timer);
  }

  /** Pieces that have no picture of their newest revision, as after an update of the program. */
  async catchUp(): Promise<void> {
    const all = await Project.findAll({
      attributes: ['id', 'revision', 'log'],
      where: { removedAt: null },
      include: [{ model: Preview, attributes: ['revision', 'log', 'verdict', 'measured', 'evidence'] }],
    });
    // What could not be worked out then may be now.
    for (const { id, revision, log, Preview: made } of all)
      if (
        made?.revision !== revision ||
        made.log !== log ||
        made.verdict === 'not worked out' ||
        !made.measured ||
        !made.evidence
      )
        this.changed(id, 0);
  }

  close(): void {
    this.closed = true;
    for (const timer of this.timers.values()) clearTimeout(timer);
  }

  private async inTime(id: string): Promise<void> {
    try {
      await this.make(id);
    } catch (error) {
      this.failed(id, error);
    }
  }

  private failed(id: string, error: unknown): void {
    if (this.closed) return;
    // The pool was full: it is tried again when there may be room.
    if (error instanceof ApiError && error.code === 'busy') this.changed(id, FLOWS_QUIET_MS);
    else this.logger.error({ err: error, piece: id }, 'a small picture could not be made');
  }

  private async make(id: string, within?: { rounds: number }): Promise<Kept | 'waits'> {
    if (this.closed || !(await Project.count({ where: { id, removedAt: null } }))) return 'gone';
    const { plan, revision, log } = await this.projects.raw(id);
    const made = await this.flows.reckoned('preview', { plan }, within).catch(notWorkedOut);
    return made === 'waits' ? made : keepPreview(id, { revision, log }, made);
  }
}
