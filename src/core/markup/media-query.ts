import { T, componentEnds, cssTokens, TokenReader, withoutOuterSpace, type CssToken } from './css-tokens.js';
import type { Environment } from './environment.js';
import { conditionHolds, parseMediaCondition, type MediaCondition } from './media-condition.js';

export interface MediaQuery {
  negated: boolean;
  type: string;
  condition?: MediaCondition;
}

/** Parses a media query list. A query with a syntax error becomes `not all`. Media Queries 4, section 3. */
export function parseMediaQueryList(text: string): MediaQuery[] {
  const tokens = cssTokens(text);
  if (withoutOuterSpace(tokens).length === 0) return [];
  const ends = componentEnds(tokens);
  const queries: MediaQuery[] = [];
  let start = 0;
  for (let at = 0; at <= tokens.length; at = ends[at] ?? at + 1) {
    if (at < tokens.length && tokens[at]?.type !== T.Comma) continue;
    queries.push(parseMediaQuery(tokens.slice(start, at)) ?? { negated: true, type: 'all' });
    start = at + 1;
  }
  return queries;
}

const reservedTypes = new Set(['only', 'not', 'and', 'or', 'layer']);

function parseMediaQuery(tokens: readonly CssToken[]): MediaQuery | undefined {
  const whole = withoutOuterSpace(tokens);
  const condition = parseMediaCondition(whole);
  if (condition) return { negated: false, type: 'all', condition };
  const reader = new TokenReader(whole);
  const negated = reader.isIdent('not');
  if (negated || reader.isIdent('only')) {
    reader.next();
    reader.skipSpace();
  }
  const type = reader.next();
  if (type?.type !== T.Ident || reservedTypes.has(type.text.toLowerCase())) return undefined;
  reader.skipSpace();
  const query: MediaQuery = { negated, type: type.text.toLowerCase() };
  if (reader.done) return query;
  if (!reader.isIdent('and')) return undefined;
  reader.next();
  if (!reader.skipSpace()) return undefined;
  const rest = parseMediaCondition(whole.slice(reader.at), false);
  return rest && { ...query, condition: rest };
}

/** Whether any query of the list matches; an empty list matches. */
export function mediaQueriesMatch(queries: readonly MediaQuery[], environment: Environment): boolean {
  if (queries.length === 0) return true;
  return queries.some(({ negated, type, condition }) => {
    const typeMatches = type === 'all' || type === 'screen';
    if (!typeMatches) return negated;
    // Of an unknown condition the negation is unknown too, and unknown does not match.
    const holds = condition ? conditionHolds(condition, environment) : true;
    return holds !== undefined && holds !== negated;
  });
}
