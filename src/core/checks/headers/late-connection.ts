import { draftOf, exampleOf, imagesInWords, senderOf, serverRemarks } from '../../headers/server-remarks.js';
import { defineCheck, nothingToPaste, type Draft } from '../../judging/check.js';

type ConnectionEvidence = {
  url: string;
  others: number;
  host: string;
  origin: string;
};

export const lateConnection = defineCheck<ConnectionEvidence>({
  id: 'late-connection',
  about: {
    title: 'Connect early to the host of the first images',
    means:
      'Images of the first view come from another host: its name is looked up and a connection is made only when the browser comes to them.',
    evidence: 'The host, and an image of the first view that it sends.',
    fix: 'A link with rel="preconnect" in the head of the page, to be written by hand.',
    silent: 'Where the page has such a link already, or the host sends nothing in the first view.',
  },
  cut: null,
  sureness: 'observed in the browser',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    return evidence
      ? `${imagesInWords(evidence.url, evidence.others)} of the first view come from ${evidence.host}, to which nothing connects before.`
      : '';
  },
  find(facts) {
    const connected = new Map(facts.pages.map(({ path, connects = [] }) => [path, new Set(connects)]));
    const isLate = (url: string, page: string) =>
      /^https?:/.test(url) && !(connected.get(page)?.has(new URL(url).origin) ?? false);
    return serverRemarks(facts, ({ url }, placement, screen) =>
      placement.downloads[screen]?.began === 'first-view' && isLate(url, placement.page)
        ? senderOf(url)
        : undefined,
    ).map((remark): Draft<ConnectionEvidence> => {
      const { url, others } = exampleOf(remark);
      const { host, origin } = new URL(url);
      const evidence = { url, others, host, origin };
      return draftOf(remark, evidence);
    });
  },
  remedy({ screens }) {
    const [evidence] = Object.values(screens);
    return nothingToPaste(`Write into the head: <link rel="preconnect" href="${evidence?.origin ?? ''}">`);
  },
});
