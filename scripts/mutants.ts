/** Runs the mutation tester over slices of the core, one after the other: all of them, or those that are named. */
import { execa } from 'execa';

const slices = [
  'markup',
  'layout',
  'shift',
  'bytes',
  'likeness',
  'mending',
  'plan',
  'judging',
  'checks',
  'run',
];
const named = process.argv.slice(2);

for (const slice of named.length > 0 ? named : slices)
  await execa('npx', ['stryker', 'run'], { stdio: 'inherit', env: { YUKKURI_SLICE: slice } });
