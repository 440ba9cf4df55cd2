import { run } from './commands.ts';
import { UsageError } from './usage.ts';

try {
  console.log(await run(process.argv.slice(2)));
} catch (error) {
  const known =
    error instanceof UsageError || (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS');
  if (!known) throw error;
  console.error((error as Error).message);
  process.exitCode = 2;
}
