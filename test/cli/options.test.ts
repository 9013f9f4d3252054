import { expect } from 'chai';
import { parse } from 'yaml';
import { parseBytes } from '../../src/cli/configuration/bytes.js';
import { firstConfiguration } from '../../src/cli/configuration/suggest.js';
import { yukkuriProcess } from '../support/program.js';

describe('options', function () {
  this.timeout(60_000);

  it('that are mistaken are told in words for people', async () => {
    const wrong: [string[], string][] = [
      [['--page-limit', 'soon'], '--page-limit must be a number; got "soon"'],
      [['--at-once', '0'], '--at-once must be at least 1; got "0"'],
      [['--at-once', '1.5'], '--at-once must be a whole number; got "1.5"'],
      [['--trifle-share', '2'], '--trifle-share must be at most 1; got "2"'],
      [['--by', 'colour'], '--by must be fix, cause, page or picture; got "colour"'],
      [['--pictures', 'big'], '--pictures must be one of none, small, full; got "big"'],
      [
        ['--sarif', '-', '--junit', '-'],
        'Only one can go to standard output, not the SARIF file and the JUnit file',
      ],
      [['--csv', 'sizes'], '--csv must be one of fixes, placements, downloads, pages'],
      [['--baseline', 'none.json'], '"none.json" is no run of this version'],
    ];
    for (const [args, said] of wrong) {
      const { code, err } = await yukkuriProcess(['audit', 'test', ...args]);
      expect(code, args.join(' ')).to.equal(2);
      expect(err).to.include(said);
      expect(err).to.not.match(/NaN|cast from|type, but/);
    }
  });

  it('are completed in shells', async () => {
    expect((await yukkuriProcess(['completion', 'bash'])).out).to.include('complete -F');
    expect((await yukkuriProcess(['complete', '--', 'rep'])).out).to.match(/^report\t/);
    expect((await yukkuriProcess(['complete', '--', 'audit', '--mark'])).out).to.match(/^--markdown\t/);
    expect((await yukkuriProcess(['completion', 'tcsh'])).code).to.equal(2);
  });

  it('of bytes may be written as people write them', () => {
    const amounts = [300, '300', '300 B', '1.5 kB', '2MB', '0.25 mb', '', '1 GB', '-3', 'many', -1, NaN].map(
      parseBytes,
    );
    expect(amounts).to.deep.equal([
      300,
      300,
      300,
      1500,
      2_000_000,
      250_000,
      ...Array<undefined>(6).fill(undefined),
    ]);
  });

  it('of a first configuration are those that were answered', () => {
    const text = firstConfiguration({
      basePath: '/docs/',
      formats: ['webp'],
      phones: 0.7,
      fallback: 'index.html',
      firstView: 250_400,
    });
    const settings = parse(text) as Record<string, unknown> & { screens: Record<string, { share: number }> };
    expect(settings).to.deep.include({
      basePath: '/docs/',
      fallback: 'index.html',
      formats: 'webp',
      limits: [{ pages: '/**', firstView: '251 kB', shift: 0.1 }],
    });
    expect(settings.screens['phone']?.share).to.equal(0.7);
    const sum = Object.values(settings.screens).reduce((total, { share }) => total + share, 0);
    expect(sum).to.be.closeTo(1, 0.002);
  });
});
