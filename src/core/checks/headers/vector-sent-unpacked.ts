import { draftOf, imagesInWords, exampleOf, senderOf, serverRemarks } from '../../headers/server-remarks.js';
import { defineCheck, nothingToPaste, type Draft } from '../../judging/check.js';
import { bytesInWords } from '../../wording/words.js';

type UnpackedEvidence = {
  url: string;
  others: number;
  bytes: number;
  packed: number;
};

/** What is saved below this is a trifle, bytes. */
const least = 1000;

export const vectorSentUnpacked = defineCheck<UnpackedEvidence>({
  id: 'vector-sent-unpacked',
  about: {
    title: 'Send vector pictures packed',
    means: 'Vector pictures are text: packed as hosts pack pages they take a third or less of the bytes.',
    evidence: 'The bytes on the wire, and what gzip makes of the same files.',
    fix: 'A line in the settings of the server.',
    silent: `Where packing saves less than ${least} bytes altogether, or the answers of the server are not known.`,
  },
  cut: null,
  sureness: 'as the server answered; packed by gzip',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    const { url, others, bytes, packed } = evidence;
    return `${imagesInWords(url, others)}: sent as ${bytesInWords(bytes)}; packed by gzip it is ${bytesInWords(packed)}.`;
  },
  find: (facts) =>
    serverRemarks(facts, ({ url, coding, packed }) =>
      coding === '' && packed !== null ? senderOf(url) : undefined,
    ).flatMap((remark): Draft<UnpackedEvidence>[] => {
      const answers = [...remark.answers.values()];
      const bytes = answers.reduce((sum, { wireBytes }) => sum + wireBytes, 0);
      const packed = answers.reduce(
        (sum, each) => sum + Math.min(each.wireBytes, each.packed ?? each.wireBytes),
        0,
      );
      if (bytes - packed < least) return [];
      const evidence = { ...exampleOf(remark), bytes, packed };
      return [draftOf(remark, evidence)];
    }),
  remedy: () => nothingToPaste('Let the server pack answers of the type image/svg+xml, as it packs pages.'),
});
