import { expect, test } from '@jest/globals';
import { leadTime } from './leadTime';

test('how long it takes is told by what came, and by what was agreed only where too little did', () => {
  const [often, twice] = [
    { count: 3, days: 7, spread: 2 },
    { count: 2, days: 5, spread: 1 },
  ];
  expect(leadTime({ own: often, all: { count: 40, days: 1, spread: 0 }, agreed: 14 })).toEqual({ days: 7, spread: 2, from: 'own', seen: 3 });
  expect(leadTime({ own: twice, all: { count: 4, days: 4, spread: 1 }, agreed: 14 })).toEqual({ days: 4, spread: 1, from: 'all', seen: 4 });
  expect(leadTime({ own: twice, all: undefined, agreed: 14 })).toEqual({ days: 14, spread: 0, from: 'agreed', seen: 0 });
});
