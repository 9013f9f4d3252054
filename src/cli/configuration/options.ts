import type { Command } from 'commander';

/** Adds the options that every command has which reads a configuration. */
export function addConfigurationOptions(command: Command): Command {
  return command
    .option(
      '--config <file>',
      'read settings from this file (yukkuri.config.json, .yaml, .js, .mjs or .ts here or above, or "yukkuri" in package.json, if left out)',
    )
    .option('--no-config', 'read no settings from any file');
}
