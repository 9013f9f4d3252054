import { setLocale } from 'yup';

/**
 * What is said of mistaken options, settings and runs, in words of ours. Imported before any schema is made: each takes the words that hold
 * then.
 */
const kinds: Readonly<Record<string, string>> = {
  number: 'a number',
  string: 'a text',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
};

setLocale({
  mixed: {
    required: ({ path }) => `${path} is missing`,
    notType: ({ path, type }) => `${path} must be ${kinds[type] ?? type}`,
    oneOf: ({ path, values }) => `${path} must be one of ${String(values)}`,
  },
  number: {
    min: ({ path, min }) => `${path} must be at least ${min}`,
    max: ({ path, max }) => `${path} must be at most ${max}`,
    integer: ({ path }) => `${path} must be a whole number`,
  },
});
