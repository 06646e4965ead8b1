import { FIRST_PIECE, inSize, SIZE_NAMES, type Piece } from '../../src/core/print';
import type { ShownPiece } from '../../src/core/shown';
import { say } from '../stop';
import { asking, signedIn, type Account } from './account';
import type { Figure } from './figure';
import { median } from './load';

/** Cards that are printed, each in both orientations: the middle one counts. */
const CARDS = 12;
/** A file without a photo is lighter than this, in bytes. */
const LIGHT = 60_000;

/** How long a printed card takes, from the press to the proven file, and what all sizes of the demo's cards come to. */
export async function measurePaper(address: string, account: Account): Promise<Figure[]> {
  say('  cards of the demo are printed and proven …');
  const session = await signedIn(address, account);
  const ask = asking(address, session);
  const { people } = await ask<{ people: { cards: { id: string; state: string }[] }[] }>('GET', '/api/people');
  const cards = people.flatMap(({ cards: own }) => own).filter(({ state }) => state === 'published');
  const [times, sizes]: [number[], number[]] = [[], []];
  const proven = { passed: 0, of: 0 };
  const put = async (id: string, piece: Piece): Promise<ShownPiece> => {
    const shown = await ask<ShownPiece>('PUT', `/api/hand-outs/${id}/print`, piece);
    proven.of += 1;
    proven.passed += shown.proof.passed ? 1 : 0;
    return shown;
  };
  for (const { id: cardId } of cards.slice(0, CARDS)) {
    const json = { cardId, placement: 'Bench', channel: 'print' };
    const { id } = await ask<{ id: string }>('POST', '/api/hand-outs', json);
    for (const form of ['lying', 'standing'] as const) {
      await put(id, { ...FIRST_PIECE, form });
      const began = performance.now();
      const answer = await fetch(`${address}/api/hand-outs/${id}/print.pdf`, { headers: session });
      const { length } = Buffer.from(await answer.arrayBuffer());
      if (!answer.ok) throw new Error(`a printed card was answered with ${answer.status}`);
      times.push(performance.now() - began);
      sizes.push(length);
    }
  }
  const { id } = await ask<{ id: string }>('POST', '/api/hand-outs', {
    ...{ cardId: cards[0]!.id, placement: 'Sizes', channel: 'print' },
  });
  for (const size of SIZE_NAMES)
    for (const form of ['lying', 'standing'] as const)
      await put(id, { ...inSize(FIRST_PIECE, size), form, distanceMm: 500 });
  return [
    {
      name: 'a card of two sides, printed and proven from the file',
      value: median(times),
      unit: 'ms',
      must: { atMost: 400 },
      beside: `the middle one of ${times.length}, over loopback; slowest ${Math.max(...times).toFixed(0)} ms`,
    },
    {
      name: 'its file without a photo',
      value: Math.max(...sizes),
      unit: 'bytes',
      must: { atMost: LIGHT },
      beside: `the largest of ${sizes.length}, with its logo`,
    },
    {
      name: 'printed pieces of the demo that pass their proof',
      value: proven.passed / proven.of,
      unit: 'of all',
      must: { atLeast: 1 },
      beside: `${proven.passed} of ${proven.of}: cards lying and standing, and every size of one card`,
    },
  ];
}
