import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import type { Instance } from './instance.ts';

/** A save that was answered: which revision it became, and what was in it. */
interface Acknowledged {
  readonly revision: number;
  readonly notes: string;
}

/** Saves one piece again and again; each save is sent, with its id, until it is answered. */
export class Writer {
  readonly acknowledged: Acknowledged[] = [];
  readonly statuses = new Map<number, number>();
  private readonly instance: Instance;
  private readonly id: string;
  private going = true;

  constructor(instance: Instance, id: string) {
    this.instance = instance;
    this.id = id;
  }

  end(): void {
    this.going = false;
  }

  async run(): Promise<void> {
    const opened = await this.instance.call<{ revision: number; plan: object }>(
      'GET',
      `/projects/${this.id}`,
    );
    let { revision } = opened.body;
    let afterSaves: string[] = [];
    for (let n = 0; this.going; n++) {
      const notes = `${this.id} ${n}`;
      const saveId = randomUUID();
      const body = { expectedRevision: revision, saveId, afterSaves, plan: { ...opened.body.plan, notes } };
      revision = await this.saved(body);
      afterSaves = [saveId];
      this.acknowledged.push({ revision, notes });
      await wait(Math.random() * 30);
    }
  }

  private async saved(body: object): Promise<number> {
    for (;;) {
      const answer = await this.instance
        .call<{ revision: number }>('PUT', `/projects/${this.id}`, body, 35_000)
        .catch(() => null);
      const status = answer?.status ?? 0;
      this.statuses.set(status, (this.statuses.get(status) ?? 0) + 1);
      if (answer?.status === 200) return answer.body.revision;
      if (status !== 0 && status !== 503 && status !== 507)
        throw new Error(`A save was answered ${status}: ${JSON.stringify(answer?.body)}`);
      await wait(100);
    }
  }

  /** Acknowledged saves that are not there as they were. */
  async lost(): Promise<number> {
    let lost = 0;
    for (const { revision, notes } of this.acknowledged) {
      const { body } = await this.instance.call<{ plan?: { notes: string } }>(
        'GET',
        `/projects/${this.id}/revisions/${revision}`,
      );
      if (body.plan?.notes !== notes) lost += 1;
    }
    return lost;
  }
}
