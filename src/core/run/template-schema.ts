import { boolean, number, string } from 'yup';
import { closed, list, newerList, text, whole } from './schema-parts.js';

/** Skeletons of which only some pages were swept. */
export const sweptTemplatesSchema = newerList(
  closed({
    pages: whole(),
    swept: list(text()),
    checked: list(text()),
    agrees: boolean().required(),
  }),
);

/** Templates of a large site, of which some pages were read. */
export const readTemplatesSchema = newerList(
  closed({
    example: text(),
    pages: whole(),
    read: whole(),
    readInPart: number().integer().min(1),
    learnt: whole(),
    checked: whole(),
    checkedOnOne: number().integer().min(1),
    compared: whole(),
    agreed: whole(),
    alsoVisited: list(closed({ why: text(), pages: whole(), screens: newerList(text()) })),
    visitedWhole: string().nullable().defined(),
  }),
);
