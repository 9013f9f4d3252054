import { bytesInWords, count } from '../../core/wording/words.js';
import { amount } from '../fix-words.js';
import { Drawing, fixId, Foreign, Table } from './parts.js';
import { proofPlot } from './plots.js';
import type { Proved } from './report-view.js';

const mostPlotted = 40;

/** What was promised for the mended copy, and what an audit of it saw. */
export function ProofSection({ proved: { mended, proof } }: { proved: Proved }) {
  const rows = mended.fixes.flatMap(({ id, title }) => {
    const own = proof.fixes[id];
    return own ? [{ id, title, ...own }] : [];
  });
  const ofBytes = rows.filter(({ promised, achieved }) => promised !== 0 || achieved !== 0);
  const broken = rows.filter(({ kept }) => !kept);
  const { went, stayed, appeared } = proof.findings;
  return (
    <section id="mended">
      <h2>The mended copy</h2>
      <p class="lead">
        {count(rows.length, 'fix was', 'fixes were')} made and measured again: an average visit was to save{' '}
        <strong>{bytesInWords(proof.average.promised)}</strong> and saves{' '}
        <strong>{bytesInWords(proof.average.achieved)}</strong>.{' '}
        {broken.length === 0
          ? 'Every fix is kept, within 2 % or 2 kB.'
          : `${count(broken.length, 'fix is', 'fixes are')} not kept.`}
      </p>
      <p>
        Findings: {went} gone, {stayed} still there, {count(appeared.length, 'that was', 'that were')} not
        there before
        {appeared.length > 0 ? ':' : '.'}
      </p>
      {appeared.length > 0 ? (
        <ul>
          {appeared.slice(0, mostPlotted).map(({ check, page, says }, index) => (
            <li key={index}>
              {check} on <Foreign text={page} />: <Foreign text={says} most={600} />
            </li>
          ))}
        </ul>
      ) : null}
      {ofBytes.length > 0 ? (
        <Drawing
          svg={proofPlot(ofBytes.slice(0, mostPlotted).map(({ id, ...each }) => ({ name: id, ...each })))}
        >
          Ring: promised; dot: achieved.
        </Drawing>
      ) : null}
      <Table
        label="Promised and achieved, by fix"
        words={[1, 4]}
        head={['fix', 'title', 'promised', 'achieved', 'kept']}
        rows={rows.map(({ id, title, promised, achieved, kept, reasons }) => [
          <a href={`#${fixId(id)}`}>{id}</a>,
          <Foreign text={title} />,
          amount(promised),
          amount(achieved),
          kept ? 'yes' : <Foreign text={`no: ${reasons.join('; ')}`} />,
        ])}
      />
    </section>
  );
}
