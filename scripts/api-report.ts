/** Writes docs/api/*.api.md: every type that the library gives, for review. With --check it only compares. */
import { apiReports } from './api-reports.js';

const changed = apiReports({ write: !process.argv.includes('--check') });
if (changed.length > 0 && process.argv.includes('--check')) {
  process.stderr.write(`Changed: ${changed.join(', ')}. Look at the difference, then run "npm run api".\n`);
  process.exitCode = 1;
}
