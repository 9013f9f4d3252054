import { diffWordsWithSpace } from 'diff';
import { plainText } from '../plain-text.js';

/** Longer texts are shown without marks: comparing them would take longer than reading them. */
const mostCompared = 20_000;
const mostShown = 6000;

/** A text of a page before and after a fix, with what goes and what comes marked. */
export function MarkupDifference({ before, after, id }: { before: string; after: string; id: string }) {
  const marked =
    before.length + after.length <= mostCompared
      ? diffWordsWithSpace(before, after)
      : [
          { value: before, removed: true, added: false },
          { value: after, removed: false, added: true },
        ];
  const shown = (side: 'removed' | 'added') =>
    marked
      .filter((part) => (side === 'removed' ? !part.added : !part.removed))
      .map((part, index) => {
        const text = cut(plainText(part.value, true));
        if (part[side] && side === 'removed') return <del key={index}>{text}</del>;
        return part[side] ? <ins key={index}>{text}</ins> : <span key={index}>{text}</span>;
      });
  return (
    <div class="pair">
      <div>
        <h4>now</h4>
        <pre tabIndex={0} dir="ltr">
          {shown('removed')}
        </pre>
      </div>
      <div>
        <h4>
          {after === '' ? 'remove it' : 'write'}
          {after === '' ? null : (
            <button type="button" hidden data-needs-script data-copies={id}>
              copy
            </button>
          )}
        </h4>
        {after === '' ? null : (
          <pre tabIndex={0} dir="ltr" id={id}>
            {shown('added')}
          </pre>
        )}
      </div>
    </div>
  );
}

const cut = (text: string) =>
  text.length > mostShown ? `${text.slice(0, mostShown)}… (${text.length} characters)` : text;
