import '../../core/wording/schema-words.js';
import { array, boolean, lazy, mixed, number, object, string, ValidationError } from 'yup';
import { checks } from '../../core/checks/index.js';
import { UsageError } from '../errors.js';
import { parseBytes } from './bytes.js';
import { unknown } from './names.js';

const byteAmount = (what: string) =>
  mixed<number | string>().test(
    'bytes',
    `${what} must be bytes, such as 300000 or "300 kB"`,
    (value) => value === undefined || parseBytes(value) !== undefined,
  );

const checkIds = ['*', ...checks.map(({ id }) => id)];
const day = /^\d{4}-\d{2}-\d{2}$/;

const exception = object({
  check: string()
    .required('check must name a check, or be "*"')
    .test(
      'check',
      ({ value }) => `${unknown(String(value), checkIds, 'check')}`,
      (value) => checkIds.includes(value),
    ),
  pages: string(),
  selector: string(),
  below: byteAmount('below'),
  reason: string(),
  until: string().matches(day, 'until must be a day, such as 2026-12-31'),
});

const limit = object({
  pages: string(),
  screens: array().of(string().required()),
  firstView: byteAmount('firstView'),
  expected: byteAmount('expected'),
  whole: byteAmount('whole'),
  saved: byteAmount('saved'),
  shift: number().min(0),
  checks: lazy((value: unknown) =>
    object(
      Object.fromEntries(
        Object.keys((value as object | undefined) ?? {}).map((id) => [
          id,
          number().integer().min(0).required(),
        ]),
      ),
    ),
  ),
});

const screen = object({
  width: number().integer().min(1).max(16384).required(),
  height: number().integer().min(1).max(16384).required(),
  density: number().min(0.25).max(8),
  touch: boolean(),
  share: number().min(0).max(1),
});

/** What a configuration may say beside the options of the audit. */
const ownFields = {
  screens: lazy((value: unknown) =>
    object(
      Object.fromEntries(Object.keys((value as object | undefined) ?? {}).map((name) => [name, screen])),
    ),
  ),
  leave: array().of(exception),
  limits: array().of(limit),
};

/** Schemas of the options of the audit, by their names. */
export type OptionFields = Readonly<Record<string, object>>;

/** Settings of the audit that a configuration file may hold: every option of its, and what only a file can say. */
export interface Settings {
  screens?: Record<
    string,
    { width: number; height: number; density?: number; touch?: boolean; share?: number }
  >;
  leave?: {
    check: string;
    pages?: string;
    selector?: string;
    below?: number | string;
    reason?: string;
    until?: string;
  }[];
  limits?: LimitSettings[];
  [option: string]: unknown;
}

export interface LimitSettings {
  pages?: string;
  screens?: string[];
  firstView?: number | string;
  expected?: number | string;
  whole?: number | string;
  saved?: number | string;
  shift?: number;
  checks?: Record<string, number>;
}

/**
 * Checks what a configuration file says. Every mistake is told at once, each with its place in the file and the nearest right name.
 * @param optionFields the options of the audit, which have the same names in a file
 * @throws {UsageError}
 */
export function checkSettings(value: unknown, file: string, optionFields: OptionFields): Settings {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new UsageError(`"${file}" must hold an object with settings.`);
  const fields = { ...optionFields, ...ownFields };
  const mistakes = unknownNames(value, fields);
  try {
    object(fields as never).validateSync(value, { strict: true, abortEarly: false });
  } catch (cause) {
    if (!(cause instanceof ValidationError)) throw cause;
    for (const { path = '', message, errors, params } of cause.inner.length > 0 ? cause.inner : [cause]) {
      const given = params?.['originalValue'];
      const told =
        given === undefined || message.startsWith('there is') ? '' : `; it is ${JSON.stringify(given)}`;
      mistakes.push(`${path}: ${inOwnWords(errors[0] ?? message, path)}${told}`);
    }
  }
  if (mistakes.length === 0) return value as Settings;
  throw new UsageError(
    `"${file}" has ${mistakes.length === 1 ? 'a mistake' : `${mistakes.length} mistakes`}:\n${[...new Set(mistakes)].map((each) => `  ${each}`).join('\n')}`,
  );
}

/** The place is told already: a sentence does not begin with the name once more. */
function inOwnWords(message: string, path: string): string {
  const name = path.split('.').at(-1) ?? '';
  const [first = '', ...rest] = message.split(' ');
  return first === path || first === name || first.startsWith('--') ? rest.join(' ') : message;
}

const inner: Record<string, readonly string[]> = {
  leave: Object.keys(exception.fields),
  limits: Object.keys(limit.fields),
};

/** Names that nobody knows, here and inside. */
function unknownNames(value: object, fields: Record<string, unknown>): string[] {
  const mistakes: string[] = [];
  const known = Object.keys(fields);
  for (const [name, own] of Object.entries(value)) {
    if (!known.includes(name)) mistakes.push(`${name}: ${unknown(name, known, 'setting')}`);
    const names = inner[name];
    if (names && Array.isArray(own))
      own.forEach((each: unknown, index) => {
        for (const key of Object.keys((each as object | null) ?? {}))
          if (!names.includes(key))
            mistakes.push(`${name}[${index}].${key}: ${unknown(key, names, 'setting')}`);
      });
    if (name === 'screens' && typeof own === 'object' && own !== null)
      for (const [screenName, each] of Object.entries(own))
        for (const key of Object.keys((each as object | null) ?? {}))
          if (!Object.keys(screen.fields).includes(key))
            mistakes.push(
              `screens.${screenName}.${key}: ${unknown(key, Object.keys(screen.fields), 'setting')}`,
            );
  }
  if ('limits' in value && Array.isArray(value.limits))
    value.limits.forEach((each: { checks?: object } | null, index: number) => {
      for (const id of Object.keys(each?.checks ?? {}))
        if (!checkIds.includes(id))
          mistakes.push(`limits[${index}].checks.${id}: ${unknown(id, checkIds, 'check')}`);
    });
  return mistakes;
}
