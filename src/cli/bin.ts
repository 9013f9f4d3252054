#!/usr/bin/env node
import { watchInterrupts } from './interrupts.js';
import { processIo } from './io.js';
import { main } from './main.js';

// Whoever reads may have seen enough: `yukkuri audit … | head`.
process.stdout.on('error', (cause: NodeJS.ErrnoException) => {
  if (cause.code !== 'EPIPE') throw cause;
  process.exit();
});

const interrupted = watchInterrupts((line) => void process.stderr.write(`\n${line}\n`));
process.exitCode = await main(process.argv.slice(2), { ...processIo(), interrupted });
