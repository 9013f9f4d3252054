import { boolean, number, string } from 'yup';
import { bytes, closed, list, share, text, whole } from './schema-parts.js';

const seconds = () => number().integer().nullable().defined();

/** What a server said of an image. */
export const answerSchema = closed({
  url: text(),
  type: text(),
  wireBytes: bytes(),
  bytes: bytes(),
  coding: string().nullable().defined(),
  protocol: string().nullable().defined(),
  cacheControl: string().nullable().defined(),
  expiresIn: seconds(),
  unchangedFor: seconds(),
  etag: string().nullable().defined(),
  age: number().min(0).required(),
  vary: string().nullable().defined(),
  redirects: list(text()),
  packed: number().integer().min(0).nullable().defined(),
  negotiated: boolean().nullable().defined(),
});

/** What returning visits pay once more. */
export const againSchema = closed({
  returning: share(),
  after: whole(),
  bytes: bytes(),
  questions: number().min(0).required(),
})
  .optional()
  .default(undefined);
