import type { KilnProblem, KilnProgram } from '../../../../core/kiln/program.ts';
import { kilnProblemSaid } from '../../../../core/kiln/said.ts';
import type { Finding } from '../../../../core/moves/index.ts';
import type { Shop } from '../../../../core/shop/shop.ts';

/** What the shop's kiln cannot do of a program, with what it can. */
export function problemText(problem: KilnProblem, program: KilnProgram, shop: Shop): Finding {
  const { code, text, label } = kilnProblemSaid(problem, program, shop);
  return { code, severity: 'warning', text, remedy: { label, set: problem.set } };
}
