import { expect } from 'chai';
import fc from 'fast-check';
import {
  chooseSize,
  conditionHolds,
  cssTokens,
  environmentOf,
  mediaQueriesMatch,
  parseMediaCondition,
  parseMediaQueryList,
  parseSizes,
} from '../../../src/core/markup/index.js';

const phone = environmentOf({ width: 390, height: 844, density: 3, touch: true });
const laptop = environmentOf({ width: 1440, height: 900, density: 2, touch: false });

/** Worked out by hand from the HTML standard (4.8.4.3.11) and CSS Values 4. On a window of 1440 by 900 CSS px. */
const sizes: [text: string, size: number][] = [
  ['', 1440],
  ['50vw', 720],
  ['10em', 160],
  ['1in', 96],
  ['0', 0],
  ['10vh', 90],
  ['10vmin', 90],
  ['10vmax', 144],
  ['25svw', 360],
  ['calc(100vw - 40px)', 1400],
  ['calc((100vw - 40px) / 2)', 700],
  ['calc(2 * 10em + 5px)', 325],
  ['min(50vw, 300px)', 300],
  ['max(50vw, 300px)', 720],
  ['clamp(100px, 50vw, 600px)', 600],
  ['calc(100vw - 5000px)', 0],
  ['(min-width: 1000px) 400px, 100vw', 400],
  ['(max-width: 1000px) 400px, 100vw', 1440],
  ['(width >= 1440px) 1px, 2px', 1],
  ['(width > 1440px) 1px, 2px', 2],
  ['(1000px < width <= 1440px) 1px, 2px', 1],
  ['(min-width: 90em) 1px, 2px', 1],
  ['(min-width: calc(80em + 10em)) 1px, 2px', 1],
  ['(orientation: landscape) and (not (hover: none)) 1px, 2px', 1],
  ['not (orientation: landscape) 1px, 2px', 2],
  ['(unheard-of: 1) 1px, 2px', 2],
  ['not (unheard-of: 1) 1px, 2px', 2],
  ['(unheard-of: 1) or (min-width: 1px) 1px, 2px', 1],
  ['-5px, 7px', 7],
  ['50%, 7px', 7],
  ['foo, 7px', 7],
  ['calc(1px+2px), 7px', 7],
  ['calc(5), 7px', 7],
  ['screen 5px, 7px', 7],
  [', 7px', 7],
  ['/* c */ 7px', 7],
  ['min(3px, 7px', 3],
];

describe('sizes', () => {
  for (const [text, size] of sizes)
    it(`"${text}" is ${size} px`, () =>
      expect(chooseSize(parseSizes(text), laptop, undefined).size).to.equal(size));

  it('is the slot’s width for auto where that applies, else the full width', () => {
    expect(chooseSize(parseSizes('auto, 50vw'), laptop, 300).size).to.equal(300);
    expect(chooseSize(parseSizes('auto, 50vw'), laptop, undefined).size).to.equal(1440);
  });

  it('is that width in whole px, as the packaged browser takes it', () => {
    // Images of these widths were given files of 150, 151 and 152 px to choose among.
    const taken: [slot: number, size: number][] = [
      [149.59, 150],
      [150.02, 150],
      [150.19, 150],
      [150.5, 151],
      [150.97, 151],
      [151.3, 151],
      [151.59, 152],
    ];
    for (const [slot, size] of taken)
      expect(chooseSize(parseSizes('auto'), laptop, slot).size, String(slot)).to.equal(size);
  });

  it('says which entry applied and which were passed over', () => {
    const list = parseSizes('foo, (min-width: 1px) 5px, 7px');
    expect(chooseSize(list, laptop, undefined).entry).to.equal(0);
    expect(list.entries[0]?.text).to.equal('(min-width: 1px) 5px');
    expect(list.errors).to.deep.equal([{ text: 'foo', why: 'it does not end in a length of 0 or more' }]);
  });

  it('takes any text', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(chooseSize(parseSizes(text), phone, undefined).size).to.be.at.least(0);
      }),
    );
  });
});

/** Media Queries 4, on a phone of 390 by 844 CSS px at 3 dots per px with a touch screen. */
const queries: [text: string, matches: boolean][] = [
  ['', true],
  ['all', true],
  ['screen', true],
  ['print', false],
  ['not print', true],
  ['not screen', false],
  ['only screen and (max-width: 390px)', true],
  ['screen and (max-width: 389px)', false],
  ['(max-width: 389px), (min-height: 800px)', true],
  ['(hover: none) and (pointer: coarse)', true],
  ['(hover)', false],
  ['(min-resolution: 3dppx)', true],
  ['(min-resolution: 288dpi)', true],
  ['(resolution > 3x)', false],
  ['(aspect-ratio: 390/844)', true],
  ['(min-aspect-ratio: 1/1)', false],
  ['(orientation: portrait)', true],
  ['(width < 400px) and (height > 800px)', true],
  ['(prefers-color-scheme: dark)', false],
  ['(min-width: 1px) and (max-width: 2px) or (min-width: 1px)', false],
  ['screen or (min-width: 1px)', false],
  ['not (min-width: 500px)', true],
  ['not screen and (min-width: 500px)', true],
  ['(foo: bar)', false],
  ['not (foo: bar)', false],
  ['(', false],
];

describe('media queries', () => {
  for (const [text, matches] of queries)
    it(`"${text}" ${matches ? 'matches' : 'does not match'}`, () =>
      expect(mediaQueriesMatch(parseMediaQueryList(text), phone)).to.equal(matches));

  it('know true, false and unknown', () => {
    const holds = (text: string) => {
      const condition = parseMediaCondition(cssTokens(text));
      return condition && conditionHolds(condition, phone);
    };
    expect(holds('(foo)')).to.equal(undefined);
    expect(holds('(foo) or (min-width: 1px)')).to.equal(true);
    expect(holds('(foo) and (min-width: 9999px)')).to.equal(false);
    expect(holds('not (foo)')).to.equal(undefined);
  });
});
