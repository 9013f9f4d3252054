import { keyedValues, type AnySchema } from './schema-parts.js';
import { formOf, type SchemaForm } from './schema-form.js';

/** Says yes only to what a schema takes as it is. */
export type QuickCheck = (value: unknown) => boolean;

/**
 * A check that is read off a schema and made once: Yup walks through its schemas anew for each value, which takes a minute for the run of a large
 * site. What it refuses may still be right, and what is wrong with it is told by the schema; what it lets pass, the schema does too.
 */
export function quickCheckOf(schema: AnySchema): QuickCheck {
  return checkOf(formOf(schema));
}

function checkOf(schema: SchemaForm): QuickCheck {
  const values = keyedValues.get(schema);
  if (values) {
    const check = checkOf(formOf(values));
    return (value) => isRecord(value) && Object.values(value).every(check);
  }
  const present = presentCheckOf(schema);
  const { optional = false, nullable = false } = schema.spec ?? {};
  return (value) => {
    if (value === undefined) return optional;
    if (value === null) return nullable;
    return present(value);
  };
}

function presentCheckOf(schema: SchemaForm): QuickCheck {
  const { tests, oneOf } = schema.describe();
  const checks = [kindCheckOf(schema), ...tests.map(({ name, params }) => testOf(schema, name, params))];
  if (oneOf.length > 0) checks.push((value) => oneOf.includes(value));
  const [first, second, ...others] = checks;
  if (!first) return never;
  if (!second) return first;
  return (value) => first(value) && second(value) && others.every((check) => check(value));
}

const never: QuickCheck = () => false;

function kindCheckOf({ type, fields, innerType }: SchemaForm): QuickCheck {
  switch (type) {
    case 'mixed':
      return () => true;
    case 'string':
    case 'boolean':
      return (value) => typeof value === type;
    case 'number':
      return (value) => typeof value === 'number' && !Number.isNaN(value);
    case 'array': {
      const check = innerType ? checkOf(innerType) : () => true;
      return (value) => Array.isArray(value) && value.every(check);
    }
    case 'object': {
      const checks = Object.entries(fields ?? {}).map(([name, field]) => [name, checkOf(field)] as const);
      return (value) => isRecord(value) && checks.every(([name, check]) => check(value[name]));
    }
    default:
      return never;
  }
}

function testOf(
  { type }: SchemaForm,
  name: string | undefined,
  params: Readonly<Record<string, unknown>> | undefined,
): QuickCheck {
  const size = (value: unknown) => (type === 'number' ? Number(value) : String(value).length);
  const known = type === 'number' || type === 'string';
  const [least, most] = [params?.['min'], params?.['max']];
  if (name === 'required' && type === 'string') return (value) => value !== '';
  if (name === 'integer') return Number.isInteger;
  if (name === 'min' && known && typeof least === 'number') return (value) => size(value) >= least;
  if (name === 'max' && known && typeof most === 'number') return (value) => size(value) <= most;
  return never;
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
