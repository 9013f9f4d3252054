import { cacheDirectives, cacheLife, durationInWords } from '../../headers/cache-life.js';
import { draftOf, exampleOf, imagesInWords, senderOf, serverRemarks } from '../../headers/server-remarks.js';
import { defineCheck, nothingToPaste, type Draft } from '../../judging/check.js';
import { hasHash } from '../../plan/file-names.js';
import type { ImageAnswer } from '../../run/types.js';

type LifeEvidence = {
  url: string;
  others: number;
  seconds: number;
  /** Whether the server says how long, or browsers guess. */
  told: boolean;
  /** Whether a browser can ask if the file has changed. */
  asks: boolean;
  hashed: boolean;
};

/** A visit that comes back the next day finds what lives so long, seconds; … */
const shortest = 86_400;
/** … and what has its content in its name never changes. */
const shortestHashed = 30 * 86_400;
const whole = 31_536_000;

const isShort = (answer: ImageAnswer) =>
  cacheLife(answer).seconds < (hasHash(answer.url) ? shortestHashed : shortest);

/** What is not to be kept may be meant so: a webcam changes at every look. */
const isMeant = ({ cacheControl }: ImageAnswer) => cacheDirectives(cacheControl).has('no-store');

export const shortCacheLife = defineCheck<LifeEvidence>({
  id: 'short-cache-life',
  about: {
    title: 'Let browsers keep images longer',
    means:
      'Visitors who come back fetch the same images once more, or wait for the server to say that they have not changed.',
    evidence:
      'How long a browser may use the image without asking (RFC 9111), whether it can ask for a change, and how many images of the server are sent so.',
    fix: 'A line in the settings of the server; nothing can be pasted into a page.',
    silent:
      'For a day and more, or thirty days where the name holds a hash of the content; for no-store, which is meant; where the answers of the server are not known.',
  },
  cut: null,
  sureness: 'as the server answered',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    const { url, others, seconds, told, asks } = evidence;
    const said = told
      ? 'may be used again for'
      : 'nothing is said of how long they may be used again; browsers guess';
    const after = asks
      ? `then browsers ask whether ${others === 0 ? 'it has' : 'they have'} changed`
      : `then browsers fetch ${others === 0 ? 'it' : 'them'} whole`;
    return `${imagesInWords(url, others)}: ${said} ${durationInWords(seconds)}; ${after}.`;
  },
  find: (facts) =>
    serverRemarks(facts, (answer) =>
      isShort(answer) && !isMeant(answer)
        ? JSON.stringify([senderOf(answer.url), answer.cacheControl, answer.expiresIn, hasHash(answer.url)])
        : undefined,
    ).map((remark): Draft<LifeEvidence> => {
      const { url, others } = exampleOf(remark);
      const answer = remark.answers.get(url);
      const { seconds, told, asks } = answer ? cacheLife(answer) : { seconds: 0, told: false, asks: false };
      const evidence = { url, others, seconds, told, asks, hashed: hasHash(url) };
      return draftOf(remark, evidence);
    }),
  remedy({ screens }) {
    const [evidence] = Object.values(screens);
    return nothingToPaste(
      evidence?.hashed
        ? `Send images whose name holds a hash with "Cache-Control: public, max-age=${whole}, immutable": another content has another name.`
        : 'Send images with "Cache-Control: public, max-age=604800" or more; put a hash of the content into their names, and they can be kept for a year.',
    );
  },
});
