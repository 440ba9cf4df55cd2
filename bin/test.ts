import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const scratch = mkdtempSync(join(tmpdir(), 'retablo-report-'));

interface Count {
  passed: number;
  failed: number;
  /** Passed when they were tried again, each alone. */
  again?: number;
}

/** Runs a command; what it prints comes out in one piece when it ends, so that what runs beside it does not mix in. */
function run(
  title: string,
  command: string,
  args: string[],
  env: Record<string, string> = {},
): Promise<boolean> {
  const began = performance.now();
  return new Promise((resolve) => {
    const child = spawn(command, args, {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, ...env },
    });
    let said = '';
    const hear = (text: Buffer): void => {
      said += text.toString();
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('close', (status) => {
      const seconds = Math.round((performance.now() - began) / 1000);
      console.log(`\n== ${title}: ${status === 0 ? 'passed' : 'FAILED'} after ${seconds} s\n${said}`);
      resolve(status === 0);
    });
  });
}

function report<T>(file: string): T | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as T;
  } catch {
    return null;
  }
}

/** A check counts as one test. */
const check = async (title: string, script: string): Promise<Count> =>
  (await run(title, 'npm', ['run', '-s', script])) ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };

async function units(): Promise<Count> {
  const file = join(scratch, 'vitest.json');
  const fine = await run('unit, property and server tests', 'npx', [
    'vitest',
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  const result = report<{ numPassedTests: number; numFailedTests: number }>(file);
  if (!result) return { passed: 0, failed: 1 };
  return { passed: result.numPassedTests, failed: Math.max(result.numFailedTests, fine ? 0 : 1) };
}

interface Browsed {
  stats: { expected: number; unexpected: number; flaky: number };
}

async function browsed(title: string, ...args: string[]): Promise<Count> {
  const file = join(scratch, 'playwright.json');
  rmSync(file, { force: true });
  const fine = await run(title, 'npx', ['playwright', 'test', '--reporter=list,json', ...args], {
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
  });
  const result = report<Browsed>(file);
  if (!result) return { passed: 0, failed: 1 };
  const { expected, unexpected, flaky } = result.stats;
  return { passed: expected, failed: Math.max(unexpected + flaky, fine ? 0 : 1) };
}

/** How many browser tests may fail and still be given a second try. */
const FEW = 4;

/** Two tests at a time wait for each other on a busy machine: a few that fail are tried once more, each alone, and named as such. */
async function browser(): Promise<Count> {
  const together = await browsed('browser tests');
  if (together.failed === 0 || together.failed > FEW || together.passed === 0) return together;
  const alone = await browsed('browser tests that failed, each alone', '--last-failed', '--workers=1');
  return { passed: together.passed + alone.passed, failed: alone.failed, again: alone.passed };
}

const began = performance.now();
// Each stage keeps both cores of a small machine busy by itself; side by side they only hold each other up.
const checks = await Promise.all([
  check('lint', 'check:lint'),
  check('types', 'check:types'),
  check('format', 'check:format')
    .then((first) =>
      check('direction of imports, no cycles', 'check:imports').then((second) => [first, second]),
    )
    .then(async (before) => [...before, await check('no unused exports', 'check:unused')]),
]);
const counts = [...checks.flat(), await units(), await browser()];
rmSync(scratch, { recursive: true, force: true });
const sum = (key: keyof Count) => counts.reduce((total, c) => total + (c[key] ?? 0), 0);
console.log(`\nafter ${Math.round((performance.now() - began) / 1000)} s`);
if (sum('again') > 0) console.log(`${sum('again')} passed only when tried again, each alone: named above`);
console.log(`${sum('passed')} passed, ${sum('failed')} failed`);
process.exitCode = sum('failed') === 0 ? 0 : 1;
