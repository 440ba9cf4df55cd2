import { cleanup } from '@testing-library/react';
import { afterEach, vi } from 'vitest';

type Tell = (entries: { contentRect: { width: number; height: number } }[]) => void;

/** What a page has and the test's DOM lacks. */
export class Observer {
  static all: Observer[] = [];
  readonly seen = new Set<Element>();
  private readonly tell: Tell;
  constructor(tell: Tell) {
    this.tell = tell;
    Observer.all.push(this);
  }
  observe(element: Element): void {
    this.seen.add(element);
  }
  unobserve(element: Element): void {
    this.seen.delete(element);
  }
  disconnect(): void {
    this.seen.clear();
  }
  size(width: number, height: number): void {
    this.tell([{ contentRect: { width, height } }]);
  }
}

/** Workers that never answer by themselves; what was asked of them can be seen. */
export class SilentWorker extends EventTarget {
  static all: SilentWorker[] = [];
  readonly asked: unknown[] = [];
  ended = false;
  readonly name: string;
  constructor(_url: unknown, { name }: { name: string }) {
    super();
    this.name = name;
    SilentWorker.all.push(this);
  }
  postMessage(message: unknown): void {
    this.asked.push(message);
  }
  terminate(): void {
    this.ended = true;
  }
}

vi.stubGlobal('ResizeObserver', Observer);
vi.stubGlobal('Worker', SilentWorker);

afterEach(() => {
  cleanup();
  Observer.all = [];
});
