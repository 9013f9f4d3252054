import { boolean, number, object, string } from 'yup';
import { bytes, closed, keyed, list, position, text, whole } from './schema-parts.js';

export const findingSchema = closed({
  check: text(),
  placement: text(),
  screens: keyed(object({ saves: whole() })),
  says: text(),
});

const savings = closed({
  expected: whole(),
  firstView: whole(),
  whole: whole(),
  unsure: bytes(),
  screens: keyed(whole()),
});

const fileToMake = closed({
  name: text(),
  asked: boolean().oneOf([true]),
  from: text(),
  recipe: string()
    .oneOf(['resized', 'equal-looks', 'bare', 'cleaned', 'animation', 'still', 'cropped'])
    .required(),
  width: bytes(),
  format: text(),
  bytes: bytes(),
  quality: number().nullable().defined(),
  palette: boolean().oneOf([true]),
  error: number().min(0).required(),
  crop: closed({
    x: bytes(),
    y: bytes(),
    width: bytes(),
    height: bytes(),
    of: closed({ width: bytes(), height: bytes() }),
    decibels: number().nullable().defined(),
  }).optional(),
});

export const fixSchema = closed({
  id: text(),
  kind: string().oneOf(['edit', 'hand']).required(),
  checks: list(text()),
  title: text(),
  saves: savings,
  alone: savings,
  steps: list(closed({ kind: text(), expected: whole() })),
  sureness: text(),
  shift: number().min(0).required(),
  findings: list(number().integer().min(0).required()),
  pages: list(text()),
  places: list(
    closed({
      placement: text(),
      page: text(),
      source: position,
      selector: text(),
      edit: bytes(),
      after: text(),
      takes: keyed(
        closed({
          before: string().nullable().defined(),
          after: string().nullable().defined(),
          bytes: bytes(),
          reach: number().min(0).max(1).required(),
          inFirstView: boolean().required(),
        }),
      ),
    }),
  ),
  edits: list(
    closed({
      kind: string().oneOf(['tag', 'style', 'link']).required(),
      example: text(),
      before: text(),
      after: text(),
    }),
  ),
  files: list(fileToMake),
  notes: list(text()),
});
