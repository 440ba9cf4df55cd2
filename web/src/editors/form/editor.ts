import type { Billet } from '../../../../core/billet/billet.ts';
import type { Change } from '../../document/planStore.ts';
import type { Finding } from '../../../../core/moves/index.ts';

/** What every move's editor is given: its numbers, a way to change some of them, and what stands before it. */
export interface EditorProps<P> {
  parameters: P;
  /** Over what they are by then: a function is given the numbers as they are. */
  change(some: Change<P>): void;
  before: readonly Billet[];
  /** The finding that speaks of a parameter and is an error, if any. */
  problem(parameter: string): string | undefined;
  findings: readonly Finding[];
}
