// npm test: type check, lint with dependency rules, Jest, build, Playwright; fast ones first. Ends with the true sums
// of Jest and Playwright.
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { ensureChromium } from './chromium.mjs';
import { root, run } from './prepare.mjs';

const reports = join(root, '.reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });

let passed = 0;
let failed = 0;
let broken = false;
/** What failed, by name and first words: said last of all, for where only the end of the output is kept. */
const failures = [];
const tellFailed = (where, words) =>
  failures.push(`== failed: ${where}\n${stripVTControlCharacters(String(words)).slice(0, 800)}\n`);

function step(name, work) {
  const start = Date.now();
  process.stdout.write(`\n== ${name}\n`);
  const good = work();
  process.stdout.write(`== ${name}: ${good ? 'good' : 'FAILED'}, ${((Date.now() - start) / 1000).toFixed(1)} s\n`);
  if (!good) broken = true;
  return good;
}

const report = (name) => {
  try {
    return JSON.parse(readFileSync(join(reports, name), 'utf8'));
  } catch {
    return null;
  }
};

function jest(workspace, nodeArguments = []) {
  const file = `${workspace}.json`;
  const status = run(
    process.execPath,
    [...nodeArguments, join(root, 'node_modules/jest/bin/jest.js'), '--json', `--outputFile=${join(reports, file)}`],
    { cwd: join(root, workspace), stdio: ['ignore', 'ignore', 'inherit'] },
  );
  const result = report(file);
  passed += result?.numPassedTests ?? 0;
  failed += result?.numFailedTests ?? 0;
  if (result && !result.success && result.numFailedTests === 0) failed++;
  for (const suite of result?.testResults ?? []) {
    const unmet = suite.assertionResults.filter(({ status }) => status === 'failed');
    for (const { fullName, failureMessages } of unmet) tellFailed(`${suite.name}: ${fullName}`, failureMessages[0]);
    if (suite.status === 'failed' && unmet.length === 0) tellFailed(suite.name, suite.message);
  }
  return status === 0 && result !== null && result.numPassedTests > 0;
}

function tellFailedIn(suite) {
  for (const inner of suite.suites ?? []) tellFailedIn(inner);
  for (const { file, line, title, tests } of suite.specs ?? []) {
    const result = tests.find(({ status }) => status === 'unexpected')?.results.at(-1);
    if (result) tellFailed(`${file}:${line} ${title}`, result.error?.message ?? result.status);
  }
}

function playwright() {
  if (ensureChromium() === null) {
    failed++;
    return false;
  }
  const status = run('npx', ['playwright', 'test'], {
    cwd: join(root, 'e2e'),
    env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: join(reports, 'e2e.json') },
  });
  const stats = report('e2e.json')?.stats;
  passed += (stats?.expected ?? 0) + (stats?.flaky ?? 0);
  failed += stats?.unexpected ?? 1;
  // What was on the page when a test failed, for a machine that nobody can look at afterwards; of that the beginning.
  const results = join(root, 'test-results');
  for (const name of existsSync(results) ? readdirSync(results) : []) {
    const file = join(results, name, 'error-context.md');
    if (existsSync(file)) process.stdout.write(`\n== ${name}\n${readFileSync(file, 'utf8').slice(0, 6000)}\n`);
  }
  for (const suite of report('e2e.json')?.suites ?? []) tellFailedIn(suite);
  return status === 0 && stats !== undefined;
}

step('type check', () => run('npm', ['run', '--silent', 'typecheck']) === 0);
step('lint', () => run('npm', ['run', '--silent', 'lint']) === 0);
for (const workspace of ['core', 'cli', 'web']) step(`Jest, ${workspace}`, () => jest(workspace));
if (step('build', () => run('npm', ['run', '--silent', 'build']) === 0)) {
  step('Jest, server', () => jest('server', ['--experimental-vm-modules', '--disable-warning=ExperimentalWarning']));
  step('Playwright', playwright);
}
if (broken && failed === 0) failed = 1;
for (const words of failures) process.stdout.write(`\n${words}`);
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(broken || failed > 0 ? 1 : 0);
