// Prints "passed failed" of a runner's JSON report. A runner that crashed, or counted nothing, is a failure.
import { readFileSync } from 'node:fs';

const [file, code] = process.argv.slice(2);
const report = JSON.parse(readFileSync(file, 'utf8'));
let passed;
let failed;
if (report.numPassedTests !== undefined) {
  passed = report.numPassedTests;
  failed =
    report.numFailedTests + report.testResults.filter((suite) => suite.status === 'failed' && suite.assertionResults.length === 0).length;
} else {
  const { expected, unexpected, flaky, skipped } = report.stats;
  passed = expected;
  // A test that passes only when repeated, or is skipped, has not passed.
  failed = unexpected + flaky + skipped;
}
if (code !== '0' && failed === 0) failed = 1;
if (passed + failed === 0) failed = 1;
console.log(`${passed} ${failed}`);
