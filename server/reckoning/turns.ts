/** One at a time for one asker: what is asked for under a key waits until what was asked before under it has ended. */
export class Turns {
  private readonly last = new Map<string, Promise<unknown>>();

  async take<T>(key: string, act: () => Promise<T>): Promise<T> {
    const before = this.last.get(key);
    const mine = (async () => {
      await before?.catch(() => undefined);
      return act();
    })();
    this.last.set(key, mine);
    try {
      return await mine;
    } finally {
      if (this.last.get(key) === mine) this.last.delete(key);
    }
  }
}
