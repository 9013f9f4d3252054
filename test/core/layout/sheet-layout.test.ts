import { expect } from 'chai';
import fc from 'fast-check';
import { layOutSheet } from '../../../src/core/layout/sheet-layout.js';
import { intersect } from '../../../src/core/layout/rectangle.js';

const side = fc.integer({ min: 1, max: 64 });
const items = fc.array(fc.record({ width: side, height: side }), { minLength: 1, maxLength: 40 });

describe('a sheet of small pictures', () => {
  it('holds every picture whole, none over another', () => {
    fc.assert(
      fc.property(items, (sizes) => {
        const { width, height, places } = layOutSheet(
          sizes.map((size, index) => ({ ...size, url: `/${index}` })),
        );
        expect(places).to.have.length(sizes.length);
        places.forEach((place, index) => {
          expect(place.x + place.width).to.be.at.most(width);
          expect(place.y + place.height).to.be.at.most(height);
          for (const other of places.slice(index + 1)) expect(intersect(place, other)).to.equal(undefined);
        });
      }),
    );
  });

  it('is the same whatever the order of its pictures', () => {
    fc.assert(
      fc.property(items, (sizes) => {
        const named = sizes.map((size, index) => ({ ...size, url: `/${index}` }));
        expect(layOutSheet([...named].reverse())).to.deep.equal(layOutSheet(named));
      }),
    );
  });
});
