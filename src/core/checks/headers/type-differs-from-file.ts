import { imageTypes, isTypeOf, mediaType } from '../../headers/media-types.js';
import { draftOf, exampleOf, imagesInWords, senderOf, serverRemarks } from '../../headers/server-remarks.js';
import { defineCheck, nothingToPaste, type Draft } from '../../judging/check.js';

type TypeEvidence = {
  url: string;
  others: number;
  type: string;
  format: string;
};

export const typeDiffersFromFile = defineCheck<TypeEvidence>({
  id: 'type-differs-from-file',
  about: {
    title: 'Send the true content type',
    means:
      'Browsers mostly look into the file and show it all the same; with nosniff, for vector pictures, in feeds and in other programs it is not shown.',
    evidence: 'The content type that was sent, and the format that the file has.',
    fix: 'A line in the settings of the server, or the right ending of the file’s name.',
    silent: 'For formats without a registered type, and where the answers of the server are not known.',
  },
  cut: null,
  sureness: 'as the server answered',
  words(draft) {
    const [evidence] = Object.values(draft.screens);
    if (!evidence) return '';
    const { url, others, type, format } = evidence;
    return `${imagesInWords(url, others)}: sent as ${type === '' ? 'nothing' : `"${type}"`}, but ${others === 0 ? 'it is' : 'they are'} ${format.toUpperCase()}.`;
  },
  find(facts) {
    const formatOf = (url: string) => facts.files.get(url)?.format ?? '';
    return serverRemarks(facts, ({ url, type }) => {
      const format = formatOf(url);
      return format in imageTypes && !isTypeOf(type, format)
        ? JSON.stringify([senderOf(url), mediaType(type), format])
        : undefined;
    }).map((remark): Draft<TypeEvidence> => {
      const { url, others } = exampleOf(remark);
      const evidence = {
        url,
        others,
        type: mediaType(remark.answers.get(url)?.type ?? ''),
        format: formatOf(url),
      };
      return draftOf(remark, evidence);
    });
  },
  remedy({ screens }) {
    const [evidence] = Object.values(screens);
    return nothingToPaste(`Send "Content-Type: ${imageTypes[evidence?.format ?? '']?.[0] ?? ''}".`);
  },
});
