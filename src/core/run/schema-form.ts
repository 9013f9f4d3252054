import type { AnySchema } from './schema-parts.js';

/** What a Yup schema tells of itself. */
export interface SchemaForm {
  type?: string;
  fields?: Record<string, SchemaForm>;
  innerType?: SchemaForm;
  spec?: { nullable?: boolean; optional?: boolean };
  describe(): {
    tests: { name?: string; params?: Record<string, unknown> | undefined }[];
    oneOf: unknown[];
  };
}

/** A schema, as far as its form is asked. */
export const formOf = (schema: AnySchema): SchemaForm => schema as unknown as SchemaForm;
