import fc from 'fast-check';
import { expect, it } from 'vitest';
import { placeBack, wholeOrder } from '@/islands/editor/inPlace';

it('what is taken out comes back where it stood, in whatever order, with others taken out and brought back between', () => {
  const all = ['a', 'b', 'c', 'd', 'e', 'f'];
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...all), { maxLength: 30 }), (presses) => {
      let there = [...all];
      let order: string[] = [];
      const back = (id: string) => {
        const at = placeBack(id, there, order);
        there = [...there.slice(0, at), id, ...there.slice(at)];
      };
      for (const id of presses) {
        if (!there.includes(id)) back(id);
        else {
          order = wholeOrder(order, there);
          there = there.filter((other) => other !== id);
        }
        expect(there).toEqual(all.filter((one) => there.includes(one)));
      }
      for (const id of all) if (!there.includes(id)) back(id);
      expect(there).toEqual(all);
    }),
  );
});

it('stays behind what it stood behind where the others were put in another order meanwhile', () => {
  const order = wholeOrder(wholeOrder([], ['a', 'b', 'c', 'd']), ['d', 'a', 'c']);
  expect(order).toEqual(['d', 'a', 'b', 'c']);
  expect(placeBack('b', ['d', 'a', 'c'], order)).toBe(2);
});
