import '../wording/schema-words.js';
import { array, lazy, number, object, string, type ISchema } from 'yup';

export const bytes = () => number().integer().min(0).required();
export const text = () => string().defined();
export const share = () => number().min(0).max(1).required();
export type AnySchema = ISchema<unknown>;
export const closed = (fields: Record<string, AnySchema>) => object(fields as never).required();
export const list = (item: AnySchema) =>
  array()
    .of(item as never)
    .defined();

/** A list that older runs do not have. */
export const newerList = (item: AnySchema) => array().of(item as never);

/** A record whose keys are not known beforehand and whose values all follow one schema. */
export const keyed = (value: AnySchema) => {
  const schema = lazy((input: unknown) =>
    object(
      Object.fromEntries(
        Object.keys((input as object | undefined) ?? {}).map((key) => [key, value]),
      ) as never,
    ).required(),
  );
  keyedValues.set(schema, value);
  return schema;
};

/** What the values of a record follow: such a schema does not tell it itself. */
export const keyedValues = new WeakMap<object, AnySchema>();

export const slot = object({
  x: number().required(),
  y: number().required(),
  width: number().min(0).required(),
  height: number().min(0).required(),
});
export const slotOrNull = () => slot.nullable().default(null);
export const position = object({
  file: text(),
  line: number().integer().min(1).required(),
  column: number().integer().min(1).required(),
  quote: string().oneOf(['"', "'"]),
})
  .nullable()
  .default(null);

/** Whole numbers that may be below nothing. */
export const whole = () => number().integer().required();
