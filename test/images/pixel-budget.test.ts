import { expect } from 'chai';
import { PixelBudget } from '../../dist/src/images/pixel-budget.js';

/** Work that ends when it is told to. */
function job() {
  let end: () => void = () => undefined;
  const done = new Promise<void>((resolve) => (end = resolve));
  return { done, end: () => end() };
}

const soon = () => new Promise((resolve) => setTimeout(resolve, 5));

describe('the budget of pixels at once', () => {
  it('lets work begin in order, and only as far as it keeps within the budget', async () => {
    const budget = new PixelBudget(10);
    const begun: string[] = [];
    const jobs = { a: job(), b: job(), c: job(), d: job() };
    const start = (name: keyof typeof jobs, pixels: number) =>
      budget.run(pixels, () => {
        begun.push(name);
        return jobs[name].done;
      });
    const all = [start('a', 6), start('b', 6), start('c', 3), start('d', 2)];
    await soon();
    // c and d would fit beside a, but b came first.
    expect(begun).to.deep.equal(['a']);
    jobs.a.end();
    await soon();
    expect(begun).to.deep.equal(['a', 'b', 'c']);
    jobs.b.end();
    await soon();
    expect(begun).to.deep.equal(['a', 'b', 'c', 'd']);
    jobs.c.end();
    jobs.d.end();
    await Promise.all(all);
  });

  it('is whole again after parts of pixels, so that what needs all of it begins', async () => {
    const budget = new PixelBudget(10);
    // As floating-point numbers 10 − 3.3 − 1.1 + 3.3 + 1.1 is less than 10.
    await Promise.all([3.3, 1.1].map((pixels) => budget.run(pixels, soon)));
    const all = budget.run(10, () => Promise.resolve('begun'));
    expect(await Promise.race([all, soon().then(() => 'waits')])).to.equal('begun');
  });

  it('lets what is larger than itself run alone, and goes on after failures', async () => {
    const budget = new PixelBudget(10);
    let beside = 0;
    const large = budget.run(1000, () => soon().then(() => expect(beside).to.equal(0)));
    const small = budget.run(1, () => Promise.resolve(++beside));
    await large;
    expect(await small).to.equal(1);
    const failed = await budget
      .run(5, () => Promise.reject(new Error('no picture')))
      .catch((cause: Error) => cause.message);
    expect(failed).to.equal('no picture');
    expect(await budget.run(10, () => Promise.resolve('after'))).to.equal('after');
  });
});
