import { checks } from '../src/core/checks/index.js';

/** The text of docs/checks.md. */
export function checksDocument(): string {
  const list = checks.map(({ id, about }) => `- [\`${id}\`](#${id}): ${about.title}`).join('\n');
  const parts = checks.map(
    ({ id, about, cut, sureness }) =>
      `## ${id}\n\n**${about.title}.** ${about.means}\n\n` +
      `- *Evidence:* ${about.evidence}\n- *Fix:* ${about.fix}\n- *Silent:* ${about.silent}\n` +
      `- *In the ledger:* ${cut ?? 'costs no bytes by itself'}\n- *Sureness:* ${sureness}\n`,
  );
  return (
    '# Checks\n\nThis page is written from the checks themselves (`npm run docs`). A finding that saves less than 4 kB or less than ' +
    '15 % of the file on every screen is a trifle: it is counted, not listed. Checks that ask for other pixels say nothing of pictures that are shown enlarged and whose pixels a style keeps sharp (`image-rendering`).\n\n' +
    `${list}\n\n${parts.join('\n')}`
  );
}
