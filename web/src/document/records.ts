import same from 'fast-deep-equal';
import { createStore, promisifyRequest, values } from 'idb-keyval';
import { create } from 'zustand';
import { type Plan, type WrittenRecord, asPlanned, withRecords } from '../../../core/plan/index.ts';
import { mergedRecord, takenBack } from '../../../core/records/merge.ts';
import type { BenchRecord } from '../../../core/records/record.ts';
import { api } from './api.ts';
import { sender } from './sending.ts';

/** A record that the server may not have yet. */
interface Waiting extends WrittenRecord {
  readonly projectId: string;
  /** Why the server does not take it; nothing while it only waits. */
  readonly trouble?: string;
}

const store = createStore('retablo-records', 'waiting');
const keyOf = ({ projectId, id }: Pick<Waiting, 'projectId' | 'id'>): string => `${projectId} ${id}`;

interface Log {
  readonly projectId: string | null;
  /** How much of the piece's log the server has told. */
  readonly log: number;
  /** Every record as it was written last, by id; taken back ones too, so that late news does not bring them back. */
  readonly written: ReadonlyMap<string, WrittenRecord>;
  /** Those that stand. */
  readonly records: readonly BenchRecord[];
  /** Those of this browser that the server has not, of all pieces. */
  readonly waiting: readonly Waiting[];
  /** How many things that this page wrote can be taken back. */
  readonly undoable: number;
  /** Whether the plan is shown without them. */
  readonly planned: boolean;
}

const NONE: readonly BenchRecord[] = [];

/** What was written of the open piece at the bench. */
export const useRecords = create<Log>(() => ({
  projectId: null,
  log: 0,
  written: new Map(),
  records: NONE,
  waiting: [],
  undoable: 0,
  planned: false,
}));

/** What stood before each thing that this page wrote of the open piece, and what it wrote. */
let before: { readonly id: string; readonly stood: BenchRecord | null; readonly wrote: BenchRecord }[] = [];
/** When this page wrote what: told of it by the server, it is no news. */
const own = new Set<string>();
/** As many are kept. */
const MOST_UNDONE = 200;

/** The later written of each; the same log where nothing is new. */
function merged(
  written: Log['written'],
  more: readonly WrittenRecord[],
): Pick<Log, 'written' | 'records'> | null {
  const all = new Map(written);
  for (const one of more) {
    const known = all.get(one.id);
    if (!known || known.written < one.written) all.set(one.id, one);
  }
  if (all.size === written.size && more.every((one) => all.get(one.id) === written.get(one.id))) return null;
  const records = [...all.values()].flatMap(({ record }) => record ?? []);
  return { written: all, records: records.length > 0 ? records : NONE };
}

/**
 * What another device wrote of a record that waits here to be sent: what waits is written over that then, so that neither is lost.
 * An own writing that the server has by now is only what the next is written over.
 */
function overNews(projectId: string, news: readonly WrittenRecord[]): WrittenRecord[] {
  return news.map((told) => {
    const waits = useRecords
      .getState()
      .waiting.find((w) => keyOf(w) === keyOf({ projectId, id: told.id }) && !refused(w));
    // No later than what this was written over it says nothing new.
    if (!waits || waits.written === told.written || told.written <= (waits.from?.written ?? '')) return told;
    const mine = own.has(`${told.id} ${told.written}`);
    const both =
      mine || !waits.from || !waits.record || !told.record
        ? waits.record
        : mergedRecord(waits.from, waits.record, told.record);
    if (both && told.record && same({ ...both, written: '' }, { ...told.record, written: '' })) {
      void letGo(waits);
      return told;
    }
    const next = { ...waits, record: both, written: both?.written ?? waits.written, from: told.record };
    own.add(`${next.id} ${next.written}`);
    void keep(next);
    return next;
  });
}

/** Lays records over those of the open piece. How much of the log is known only what is told in turn says. */
function lay(projectId: string, more: readonly WrittenRecord[], log?: number): void {
  const now = useRecords.getState();
  if (now.projectId !== projectId) return;
  useRecords.setState({
    ...merged(now.written, more),
    ...(log !== undefined && { log: Math.max(log, now.log) }),
  });
}

/** Takes over what the server tells of the open piece. */
export const hear = (projectId: string, news: readonly WrittenRecord[], log?: number): void =>
  lay(projectId, overNews(projectId, news), log);

/** Opens the log of a piece: what the server has, and over it what waits in this browser. */
export async function openLog(
  projectId: string,
  records: readonly BenchRecord[],
  log: number,
): Promise<void> {
  const known = records.map((record) => ({ id: record.id, record, written: record.written }));
  const { waiting } = useRecords.getState();
  before = [];
  useRecords.setState({
    projectId,
    undoable: 0,
    log,
    planned: false,
    written: new Map(),
    records: NONE,
    ...merged(new Map(), [...known, ...waiting.filter((w) => w.projectId === projectId)]),
  });
  await lookUp();
  lay(
    projectId,
    useRecords.getState().waiting.filter((w) => w.projectId === projectId),
  );
}

export const closeLog = (): void =>
  useRecords.setState({ projectId: null, log: 0, written: new Map(), records: NONE, planned: false });

async function lookUp(): Promise<void> {
  try {
    useRecords.setState({ waiting: await values<Waiting>(store) });
  } catch {
    // A browser that keeps nothing: what waits is known to this page alone.
  }
}

async function keep(waiting: Waiting): Promise<void> {
  useRecords.setState(({ waiting: all }) => ({
    waiting: [...all.filter((w) => keyOf(w) !== keyOf(waiting)), waiting],
  }));
  try {
    await store('readwrite', (all) => {
      all.put(waiting, keyOf(waiting));
      all.transaction.commit();
      return promisifyRequest(all.transaction);
    });
  } catch {
    // It is sent from the page then.
  }
}

/** Lets go of one that the server has; what was written over it meanwhile goes on waiting. */
async function letGo(sent: Waiting): Promise<void> {
  const next = (w: Waiting): Waiting[] => (w.written === sent.written ? [] : [{ ...w, from: sent.record }]);
  useRecords.setState(({ waiting }) => ({
    waiting: waiting.flatMap((w) => (keyOf(w) === keyOf(sent) ? next(w) : [w])),
  }));
  try {
    await store('readwrite', (all) => {
      const asked = all.get(keyOf(sent)) as IDBRequest<Waiting | undefined>;
      asked.onsuccess = () => {
        const left = asked.result && next(asked.result).at(0);
        if (left) all.put(left, keyOf(sent));
        else all.delete(keyOf(sent));
      };
      return promisifyRequest(all.transaction);
    });
  } catch {
    // Nothing was kept.
  }
}

const refused = ({ trouble }: Waiting): boolean => trouble !== undefined;

/** Sends what waits, oldest first; the server takes the same again without harm. */
const sendRecords = sender<Waiting>({
  next: () => useRecords.getState().waiting.find((w) => !refused(w)),
  send: (one) => api.write(one.projectId, one),
  sent: letGo,
  refused: (one, trouble) => keep({ ...one, trouble }),
});

/** Lets go of those that the server does not take. */
export const dropRefused = (): void =>
  useRecords
    .getState()
    .waiting.filter(refused)
    .forEach((one) => void letGo(one));

/** Writes a record of the open piece: it counts at once, waits in the browser, and is sent. */
export function write(record: BenchRecord): void {
  const { id } = record;
  const stood = useRecords.getState().written.get(id)?.record ?? null;
  const wrote = { ...record, written: laterThan(id) };
  before = [...before, { id, stood, wrote }].slice(-MOST_UNDONE);
  put(id, wrote);
  useRecords.setState({ undoable: before.length });
}

/** Takes back what this page wrote last. */
export function undoRecord(): void {
  const last = before.pop();
  if (!last) return;
  const { id, stood, wrote } = last;
  const record = takenBack(stood, wrote, useRecords.getState().written.get(id)?.record ?? null);
  put(id, record && { ...record, written: laterThan(id) });
  useRecords.setState({ undoable: before.length });
}

/** Now, or just after the one that it replaces: clocks of two devices differ. */
function laterThan(id: string): string {
  const known = useRecords.getState().written.get(id);
  const now = Date.now();
  return new Date(known ? Math.max(now, Date.parse(known.written) + 1) : now).toISOString();
}

function put(id: string, record: BenchRecord | null): void {
  const { projectId, waiting, written } = useRecords.getState();
  if (!projectId) return;
  // What stands here is what the server has, unless something of it waits already.
  const waits = waiting.find((w) => keyOf(w) === keyOf({ projectId, id }) && !refused(w));
  const from = waits ? waits.from : (written.get(id)?.record ?? null);
  const one = { id, record, written: record?.written ?? laterThan(id), from };
  own.add(`${id} ${one.written}`);
  lay(projectId, [one]);
  void keep({ projectId, ...one }).then(sendRecords);
}

/** Goes on sending as long as the page lives. */
export function startRecords(): void {
  void lookUp().then(sendRecords);
  window.addEventListener('online', () => void sendRecords());
}

const joined = new WeakMap<Plan, { readonly records: readonly BenchRecord[]; readonly plan: Plan }>();

/** A plan with what came of it: the same object for the same plan and records. */
export function asItStands(plan: Plan, records: readonly BenchRecord[]): Plan {
  if (records.length === 0) return asPlanned(plan);
  const known = joined.get(plan);
  if (known?.records === records) return known.plan;
  const made = withRecords(plan, records);
  joined.set(plan, { records, plan: made });
  return made;
}
