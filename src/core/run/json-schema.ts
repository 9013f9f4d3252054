import { shortenedLists } from './alike.js';
import { formOf, type SchemaForm } from './schema-form.js';
import { keyedValues } from './schema-parts.js';
import { runSchema } from './schema.js';

/** A part of a JSON Schema. */
export type JsonSchema = Readonly<Record<string, unknown>>;

/** Address by which other schemas may name the one of a run. */
export const runSchemaId = 'urn:yukkuri:run:2';

/** The JSON Schema (draft 2020-12) of a saved run, read off the schema by which runs are checked. */
export function runJsonSchema(): JsonSchema {
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: runSchemaId,
    title: 'A saved run of yukkuri',
    ...withAlike(convert(formOf(runSchema))),
    $defs: { alike: alikeSchema },
  };
}

/** RFC 6901, section 3. */
const pointer: JsonSchema = { type: 'string', pattern: '^(/|$)' };

/** What stands in a long list in the place of an element that is like one before it. */
const alikeSchema: JsonSchema = {
  type: 'object',
  description:
    'like the element "as" of the same list, counted from 0, but for the values "to", in turn at each of the JSON Pointers "at"; those with ' +
    'one value stand together, and a number is an element before it that names them',
  properties: {
    as: { type: 'integer', minimum: 0 },
    at: {
      anyOf: [
        { type: 'integer', minimum: 0 },
        { type: 'array', items: { anyOf: [pointer, { type: 'array', items: pointer }] } },
      ],
    },
    to: { type: 'array' },
  },
  required: ['as', 'at', 'to'],
};

/** In some lists of a run, and of its fixes, elements may be written as like others. */
function withAlike(schema: JsonSchema): JsonSchema {
  const inner = Object.entries((schema['properties'] ?? {}) as Record<string, JsonSchema>);
  const properties = inner.map(([name, each]) => {
    const items = each['items'] as JsonSchema;
    if (name === 'fixes') return [name, { ...each, items: withAlike(items) }];
    const shortened = { ...each, items: { anyOf: [items, { $ref: '#/$defs/alike' }] } };
    return [name, shortenedLists.includes(name) ? shortened : each];
  });
  return { ...schema, properties: Object.fromEntries(properties) as JsonSchema };
}

function convert(schema: SchemaForm): JsonSchema {
  const values = keyedValues.get(schema);
  if (values) return { type: 'object', additionalProperties: convert(formOf(values)) };
  const { spec, fields, innerType, type } = schema;
  const { tests, oneOf } = schema.describe();
  const limits = Object.assign(
    {},
    ...tests.map(({ name, params }) => limitOf(name, params, type)),
  ) as JsonSchema;
  const isWhole = tests.some(({ name }) => name === 'integer');
  const plain = type === 'mixed' ? undefined : isWhole ? 'integer' : type;
  const nullable = spec?.nullable === true;
  return {
    ...(plain === undefined ? {} : { type: nullable ? [plain, 'null'] : plain }),
    ...limits,
    ...(oneOf.length > 0 ? { enum: nullable ? [...oneOf, null] : oneOf } : {}),
    ...(fields ? objectOf(fields) : {}),
    ...(innerType ? { items: convert(innerType) } : {}),
  };
}

function objectOf(fields: Record<string, SchemaForm>): JsonSchema {
  const names = Object.keys(fields);
  return {
    properties: Object.fromEntries(names.map((name) => [name, convert(fields[name] as SchemaForm)])),
    required: names.filter((name) => fields[name]?.spec?.optional !== true),
  };
}

function limitOf(
  name: string | undefined,
  params: Record<string, unknown> | undefined,
  type: string | undefined,
): JsonSchema {
  const [least, most] = type === 'string' ? ['minLength', 'maxLength'] : ['minimum', 'maximum'];
  if (name === 'min') return { [least]: params?.['min'] };
  if (name === 'max') return { [most]: params?.['max'] };
  return {};
}
