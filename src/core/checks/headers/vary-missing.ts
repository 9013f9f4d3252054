import { draftOf, exampleOf, imagesInWords, senderOf, serverRemarks } from '../../headers/server-remarks.js';
import { defineCheck, nothingToPaste, type Draft } from '../../judging/check.js';

type VaryEvidence = {
  url: string;
  others: number;
  vary: string;
};

const names = (vary: string | null) => (vary ?? '').split(',').map((each) => each.trim().toLowerCase());

export const varyMissing = defineCheck<VaryEvidence>({
  id: 'vary-missing',
  about: {
    title: 'Say that the format depends on the browser',
    means:
      'The server sends another format to browsers that take no newer one, but does not say so: a cache between it and visitors may hand a format to a browser that cannot show it.',
    evidence:
      'That the address was asked twice with another Accept header, that two contents came, and what Vary says.',
    fix: 'A line in the settings of the server or of the image host.',
    silent:
      'Where both contents are the same, Vary names Accept, or the answers of the server are not known.',
  },
  cut: null,
  sureness: 'asked twice',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    const { url, others, vary } = evidence;
    return `${imagesInWords(url, others)}: the format changes with the Accept header, and Vary says ${vary === '' ? 'nothing' : `"${vary}"`}.`;
  },
  find: (facts) =>
    serverRemarks(facts, ({ url, negotiated, vary }) =>
      negotiated === true && !names(vary).some((name) => name === 'accept' || name === '*')
        ? senderOf(url)
        : undefined,
    ).map((remark): Draft<VaryEvidence> => {
      const { url, others } = exampleOf(remark);
      const evidence = { url, others, vary: remark.answers.get(url)?.vary ?? '' };
      return draftOf(remark, evidence);
    }),
  remedy: () => nothingToPaste('Send "Vary: Accept" with these images.'),
});
