import { expect } from 'chai';
import fc from 'fast-check';
import { parseFragment } from 'parse5';
import { chooseFixes } from '../../../src/core/mending/choose.js';
import { readReferences, writeInQuotes, type Quote } from '../../../src/core/markup/quoted-value.js';
import { planEdits } from '../../../src/core/mending/file-edits.js';
import { findText, splice } from '../../../src/core/mending/places.js';
import type { Fix, FixPlace } from '../../../src/core/run/index.js';
import { somePlacement } from '../../support/facts.js';

const none = { expected: 0, firstView: 0, whole: 0, unsure: 0, screens: {} };

function someFix(id: string, places: Partial<FixPlace>[], more: Partial<Fix> = {}): Fix {
  return {
    id,
    kind: 'edit',
    checks: [],
    title: id,
    saves: none,
    alone: none,
    steps: [],
    sureness: '',
    shift: 0,
    findings: [],
    pages: [],
    places: places.map((place) => ({
      placement: 'x',
      page: '/',
      source: { file: 'index.html', line: 1, column: 1 },
      selector: 'img',
      edit: 0,
      after: '',
      takes: {},
      ...place,
    })),
    edits: [],
    files: [],
    notes: [],
    ...more,
  };
}

describe('edits in files', () => {
  it('find the text at its place among equal ones, whatever ends the lines', () => {
    const content = '<p>\r\n<img src="a">\r\n  <img src="a">\n';
    expect(findText(content, '<img src="a">', { line: 2, column: 1 })).to.deep.equal({ from: 5, to: 18 });
    expect(findText(content, '<img src="a">', { line: 3, column: 3 })).to.deep.equal({ from: 22, to: 35 });
    expect(findText(content, '<img src="a">', { line: 4, column: 1 })).to.equal(undefined);
    // A picture around the place of its img, and a style attribute behind its name.
    expect(
      findText('<picture><img></picture>', '<picture><img></picture>', { line: 1, column: 10 }),
    ).to.deep.equal({
      from: 0,
      to: 24,
    });
    expect(findText('<b style="top:0">', 'top:0', { line: 1, column: 4 })).to.deep.equal({
      from: 10,
      to: 15,
    });
  });

  it('find what is written in an attribute by what it means', () => {
    const content = '<iframe srcdoc="\n&lt;img src=&quot;a&#38;b&#x22; alt=x>">';
    const place = { line: 2, column: 1, quote: '"' } as const;
    expect(findText(content, '<img src="a&b" alt=x>', place)).to.deep.equal({ from: 17, to: 55 });
    expect(findText(content, '<img src="a" alt=x>', place)).to.equal(undefined);
    expect(content.slice(17, 55)).to.equal('&lt;img src=&quot;a&#38;b&#x22; alt=x>');
  });

  it('in an attribute mean there what they mean elsewhere', () => {
    const pieces = fc.array(fc.constantFrom('&', '"', "'", '<', '&quot;', '&#34;', 'amp;', 'ü', '🏔', ' '));
    fc.assert(
      fc.property(pieces, fc.constantFrom('"', "'"), (parts, quote) => {
        const text = parts.join('');
        const written = writeInQuotes(text, quote as Quote);
        expect(written).not.to.include(quote);
        expect(readReferences(written).text).to.equal(text);
        expect(parseFragment(`<b title=${quote}${written}${quote}>`).childNodes[0]).to.have.nested.property(
          'attrs[0].value',
          text,
        );
      }),
    );
  });

  it('leave every other character as it is', () => {
    const pieces = fc.array(fc.tuple(fc.string(), fc.string({ minLength: 1 }), fc.string()), {
      maxLength: 8,
    });
    fc.assert(
      fc.property(pieces, fc.string(), (list, end) => {
        let content = '';
        const splices = list.map(([before, old, text]) => {
          content += before;
          const from = content.length;
          content += old;
          return { from, to: content.length, text };
        });
        content += end;
        const wanted = list.map(([before, , text]) => before + text).join('') + end;
        expect(splice(content, [...splices].reverse())).to.equal(wanted);
      }),
    );
    expect(() =>
      splice('abcd', [
        { from: 0, to: 2, text: '' },
        { from: 1, to: 3, text: '' },
      ]),
    ).to.throw(RangeError);
  });

  it('are made at all places of a fix or at none', () => {
    const placements = new Map(
      ['a', 'b', 'c'].map((id) => [id, somePlacement({ id, markup: `<img src="${id}">` })]),
    );
    const at = (line: number) => ({ file: 'index.html', line, column: 1 });
    const content = '<img src="a">\n<img src="changed">\n<img src="c">\n';
    const { files, made, left } = planEdits(
      [
        someFix('two', [
          { placement: 'a', source: at(1), after: '<img src="a2">' },
          { placement: 'b', source: at(2), after: '<img src="b2">' },
        ]),
        someFix('one', [{ placement: 'c', source: at(3), after: '<img src="c2">' }]),
        someFix('other', [{ placement: 'c', source: at(3), after: '<img src="c3">' }]),
        someFix('same', [{ placement: 'c', source: at(3), after: '<img src="c2">' }]),
      ],
      placements,
      () => ({ text: content, takes: () => true }),
    );
    expect(made.map(({ id }) => id)).to.deep.equal(['one', 'same']);
    expect(splice(content, files.get('index.html') ?? [])).to.equal(content.replace('"c"', '"c2"'));
    expect(left.map(({ fix }) => fix)).to.deep.equal(['two', 'other']);
    expect(left[0]?.why).to.match(/index\.html has changed since the audit: line 2/);
    expect(left[1]?.why).to.match(/index\.html:3:1 is edited by another fix in another way/);
  });

  it('are left to a person where the encoding of the file lacks a character of them', () => {
    const placements = new Map([['a', somePlacement({ id: 'a', markup: '<img src="a">' })]]);
    const at = { file: 'index.html', line: 1, column: 1 };
    const { files, left } = planEdits(
      [someFix('a', [{ placement: 'a', source: at, after: '<img src="\u0141">' }])],
      placements,
      () => ({ text: '<img src="a">', takes: (edit) => !edit.includes('\u0141') }),
    );
    expect([...files]).to.deep.equal([]);
    expect(left[0]?.why).to.match(/index\.html is written in an encoding that lacks a character/);
  });

  it('are those that were asked for, without what needs a person', () => {
    const step = (kind: string) => [{ kind, expected: 1 }];
    const fixes = [
      someFix('a', [{}], { steps: step('later') }),
      someFix('b', [{}], { steps: step('metadata') }),
      someFix('c', [{}], { kind: 'hand', notes: ['do it'] }),
      someFix('d', [{ source: null }]),
    ];
    const ids = (choice: Parameters<typeof chooseFixes>[1]) =>
      chooseFixes({ fixes }, choice).fixes.map(({ id }) => id);
    expect(ids({})).to.deep.equal(['a', 'b']);
    expect(ids({ first: 1 })).to.deep.equal(['a']);
    expect(ids({ causes: ['metadata'] })).to.deep.equal(['b']);
    expect(ids({ ids: ['b', 'c'] })).to.deep.equal(['b']);
    expect(chooseFixes({ fixes }, {}).left.map(({ fix, notes }) => [fix, notes])).to.deep.equal([
      ['c', ['do it']],
      ['d', []],
    ]);
  });
});
