import { expect } from 'chai';
import { lookupOutside } from '../../../src/site/live/reachable.js';

const lookUp = (name: string, options: object = {}) =>
  new Promise<string>((resolve) => {
    lookupOutside(name, options, (error, address) =>
      resolve(error ? error.message : JSON.stringify(address)),
    );
  });

describe('a name', () => {
  it('that leads into an inner network is refused, however it is looked up', async () => {
    for (const options of [{}, { all: true }])
      expect(await lookUp('localhost', options)).to.match(
        /leads into an inner network \((127\.0\.0\.1|::1)\)/,
      );
  });

  it('that is not known is told as Node tells it', async () => {
    expect(await lookUp('no-such-name.invalid')).to.match(/ENOTFOUND|EAI_AGAIN/);
  });
});
