import { createHeldOutbox, type HeldReply } from './hand-over-form';
import { createOutbound } from './reply-kept';

const storage = () => {
  let text: string | null = null;
  return { read: () => text, write: (next: string | null) => void (text = next) };
};
const answer = (status: number, redirected = false) => ({
  status,
  redirected,
  url: 'https://c.example/r/X',
  ok: status < 400,
});

test('a reply is kept until it was sent: through a lost network, a server that is away, and for a week at most', async () => {
  let now = Date.parse('2026-11-24T09:00:00Z');
  const kept = storage();
  const answers: (ReturnType<typeof answer> | null)[] = [null, answer(503), answer(422), answer(200, true)];
  const outbound = createOutbound({
    ...{ ...kept, now: () => now },
    post: () => {
      const next = answers.shift();
      return next ? Promise.resolve(next) : Promise.reject(new TypeError('no network'));
    },
  });
  outbound.keep('name=Ines');
  expect(outbound.kept()).toMatchObject({ body: 'name=Ines', unsent: false });
  expect([await outbound.send('name=Ines'), outbound.kept()?.unsent]).toEqual([{ is: 'kept' }, true]);
  expect([await outbound.send('name=Ines'), outbound.kept()?.unsent]).toEqual([{ is: 'kept' }, true]);
  // A mistake is the server's to tell: nothing is sent again by itself.
  expect([await outbound.send('name='), outbound.kept()]).toMatchObject([
    { is: 'refused' },
    { body: 'name=', unsent: false },
  ]);
  expect(await outbound.send('name=Ines')).toEqual({ is: 'sent', where: 'https://c.example/r/X' });
  expect(outbound.kept()).toBeNull();
  outbound.keep('name=Keld');
  now += 8 * 86_400_000;
  expect(outbound.kept()).toBeNull();
  kept.write('{broken');
  expect(outbound.kept()).toBeNull();
});

test('what others typed on the holder’s phone goes in its order once there is a network; what is refused for what it says does not hold up the rest', async () => {
  const kept = storage();
  const posted: string[] = [];
  const status: Record<string, number> = { b: 422 };
  let open = false;
  const outbox = createHeldOutbox({
    ...kept,
    post: ({ reach }) => {
      if (!open) return Promise.reject(new TypeError('no network'));
      posted.push(reach);
      return Promise.resolve(answer(status[reach] ?? 200));
    },
  });
  const reply = (reach: string): HeldReply => ({
    name: 'x',
    reach,
    note: '',
    card: 'c',
    occasion: null,
    at: '2026-11-24T09:00:00Z',
  });
  for (const reach of ['a', 'b', 'c']) outbox.add(reply(reach));
  expect(await outbox.sendAll()).toBe(3);
  open = true;
  status.c = 401;
  expect([await outbox.sendAll(), posted]).toEqual([1, ['a', 'b', 'c']]);
  status.c = 200;
  expect([await Promise.all([outbox.sendAll(), outbox.sendAll()]), posted]).toEqual([
    [0, 0],
    ['a', 'b', 'c', 'c'],
  ]);
  kept.write('not a list');
  expect(await outbox.sendAll()).toBe(0);
});
