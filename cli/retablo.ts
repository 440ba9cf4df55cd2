import { UsageError, run } from './commands.ts';

try {
  console.log(run(process.argv.slice(2)));
} catch (error) {
  const known =
    error instanceof UsageError || (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS');
  if (!known) throw error;
  console.error((error as Error).message);
  process.exitCode = 2;
}
