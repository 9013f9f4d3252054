import { expect } from 'chai';
import { pagesToShow, samplePages } from '../../../src/core/templates/sampling.js';

const pages = (count: number) => Array.from({ length: count }, (_, index) => index);

describe('the pages of a template that are visited', () => {
  it('are so many that a fault of one page in twenty shows with 95 %', () => {
    // 0.95^58 = 0.0510, 0.95^59 = 0.0485.
    expect(pagesToShow()).to.equal(59);
    // 0.9^28 = 0.0523, 0.9^29 = 0.0471; 0.5^4 = 0.0625, 0.5^5 = 0.03125.
    expect(pagesToShow(0.1)).to.equal(29);
    expect(pagesToShow(0.5)).to.equal(5);
    expect(pagesToShow(0.05, 0.99)).to.equal(90);
  });

  it('are all of them where few could be read', () => {
    expect(samplePages(pages(68), 4).read).to.deep.equal([]);
    expect(samplePages(pages(68), 4).learnt).to.have.lengthOf(68);
    expect(samplePages(pages(69), 4).read).to.have.lengthOf(10);
  });

  it('are 59, those that check among them, and of many pages one in twenty', () => {
    const of = (count: number, screens: number) => {
      const { learnt, checked, onOne, read } = samplePages(pages(count), screens);
      expect([...learnt, ...checked, ...onOne, ...read]).to.deep.equal(pages(count));
      return [learnt.length, checked.length, onOne.length, read.length];
    };
    expect(of(120, 1)).to.deep.equal([54, 5, 0, 61]);
    // A twentieth of the 800 that are not learnt from.
    expect(of(820, 1)).to.deep.equal([20, 40, 0, 760]);
    expect(of(5020, 1)).to.deep.equal([20, 250, 0, 4750]);
    // On several screens 25 of them on all, the others on one.
    expect(of(120, 2)).to.deep.equal([20, 5, 34, 61]);
    expect(of(820, 4)).to.deep.equal([20, 5, 35, 760]);
    expect(of(5020, 4)).to.deep.equal([20, 5, 245, 4750]);
  });
});
