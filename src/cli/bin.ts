#!/usr/bin/env node
import { watchInterrupts } from './interrupts.js';
import { processIo } from './io.js';
import { main } from './main.js';

const interrupted = watchInterrupts((line) => void process.stderr.write(`\n${line}\n`));
process.exitCode = await main(process.argv.slice(2), { ...processIo(), interrupted });
