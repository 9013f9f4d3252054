#!/usr/bin/env node
import { setFlagsFromString } from 'node:v8';
import { endKeptProcess } from '../browser/kept-process.js';
import { exitCodes } from './exit-codes.js';
import { watchInterrupts } from './interrupts.js';
import { processIo } from './io.js';
import { main } from './main.js';

// Left to itself, Node.js lets the memory of a large audit grow to some three times of what is in use before it looks for garbage
// (docs/architecture.md).
setFlagsFromString('--heap-growing-percent=30');

process.stdout.on('error', (cause: NodeJS.ErrnoException) => {
  // Whoever reads may have seen enough: `yukkuri audit … | head`.
  if (cause.code === 'EPIPE') process.exit();
  process.stderr.write(`yukkuri: The output cannot be written: ${cause.message}. Lead it elsewhere.\n`);
  process.exit(exitCodes.notFinished);
});

const interrupted = watchInterrupts((line) => void process.stderr.write(`\n${line}\n`));
process.exitCode = await main(process.argv.slice(2), { ...processIo(), interrupted });
await endKeptProcess();
// What a fault left open must not keep the program from ending.
if (process.exitCode === exitCodes.notFinished) setTimeout(() => process.exit(), 2000).unref();
