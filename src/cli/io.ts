/** The edges of the process that a command may touch, so that tests can give their own. */
export interface Io {
  out: Output;
  err: Output;
  environment: Readonly<Record<string, string | undefined>>;
  /** Aborted when the user wants the program to end. */
  interrupted?: AbortSignal;
}

export interface Output {
  write(text: string): void;
  isTerminal: boolean;
  columns: number;
}

/** Columns where nothing else is known: pipes and files. */
const plainColumns = 100;

export function processIo(): Io {
  const output = (stream: NodeJS.WriteStream): Output => ({
    write: (text) => void stream.write(text),
    isTerminal: stream.isTTY === true,
    columns: stream.columns ?? (Number(process.env['COLUMNS']) || plainColumns),
  });
  return { out: output(process.stdout), err: output(process.stderr), environment: process.env };
}

/**
 * Colours of an output: `NO_COLOR` forbids them (whatever its value, if not empty), `FORCE_COLOR` asks for them, else a
 * terminal has them.
 */
export function coloursOf(output: Output, environment: Io['environment']): 0 | 1 | 2 | 3 {
  if (environment['NO_COLOR']) return 0;
  const forced = environment['FORCE_COLOR'];
  if (forced !== undefined) return forced === '0' || forced === 'false' ? 0 : 1;
  return output.isTerminal && environment['TERM'] !== 'dumb' ? 1 : 0;
}
