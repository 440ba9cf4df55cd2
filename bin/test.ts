import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const scratch = mkdtempSync(join(tmpdir(), 'retablo-report-'));

interface Count {
  passed: number;
  failed: number;
}

function run(title: string, command: string, args: string[], env: Record<string, string> = {}): boolean {
  console.log(`\n== ${title}`);
  const { status } = spawnSync(command, args, {
    stdio: ['ignore', 'inherit', 'inherit'],
    env: { ...process.env, ...env },
  });
  return status === 0;
}

function report<T>(file: string): T | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as T;
  } catch {
    return null;
  }
}

/** A check counts as one test. */
const check = (title: string, script: string): Count =>
  run(title, 'npm', ['run', '-s', script]) ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };

function units(): Count {
  const file = join(scratch, 'vitest.json');
  const fine = run('unit, property and server tests', 'npx', [
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

function browser(): Count {
  const file = join(scratch, 'playwright.json');
  const fine = run('browser tests', 'npx', ['playwright', 'test', '--reporter=list,json'], {
    PLAYWRIGHT_JSON_OUTPUT_NAME: file,
  });
  const result = report<{ stats: { expected: number; unexpected: number; flaky: number } }>(file);
  if (!result) return { passed: 0, failed: 1 };
  const { expected, unexpected, flaky } = result.stats;
  return { passed: expected, failed: Math.max(unexpected + flaky, fine ? 0 : 1) };
}

const counts = [
  check('format', 'check:format'),
  check('lint', 'check:lint'),
  check('types', 'check:types'),
  check('direction of imports, no cycles', 'check:imports'),
  units(),
  browser(),
];
rmSync(scratch, { recursive: true, force: true });
const sum = (key: keyof Count) => counts.reduce((total, c) => total + c[key], 0);
console.log(`\n${sum('passed')} passed, ${sum('failed')} failed`);
process.exitCode = sum('failed') === 0 ? 0 : 1;
