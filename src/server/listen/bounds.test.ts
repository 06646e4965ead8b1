import { EventEmitter } from 'node:events';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { PassThrough, Readable } from 'node:stream';
import fc from 'fast-check';
import { createGate, hasBody, paced, shortBody, STREAMING } from './bounds';
import { clientAddress } from './client-address';

/** A request and its answer, as far as a gate looks at them. */
function visit(body = false) {
  const request = Object.assign(new EventEmitter(), {
    headers: body ? { 'content-length': '9' } : {},
    destroy: jest.fn(),
  });
  const response = Object.assign(new EventEmitter(), { destroy: jest.fn() });
  return {
    request: request as unknown as IncomingMessage,
    response: response as unknown as ServerResponse,
    ends: () => [request.emit('close'), response.emit('close')],
  };
}

test('one address has four hundred requests under way and no more, while others come in; each that ends makes room for one', () => {
  const gate = createGate();
  const open = Array.from({ length: 400 }, () => visit());
  const enters = (each: ReturnType<typeof visit>, address: string) => gate(each.request, each.response, address);
  expect(open.every((each) => enters(each, '192.0.2.1'))).toBe(true);
  expect([enters(visit(), '192.0.2.1'), enters(visit(), '192.0.2.2')]).toEqual([false, true]);
  open[0]!.ends();
  // An answer is over once, however often it is told.
  open[0]!.ends();
  expect([enters(visit(), '192.0.2.1'), enters(visit(), '192.0.2.1')]).toEqual([true, false]);
});

test('forty bodies of one address come in at a time; a stream of events, once it flows, is under way no more', () => {
  const gate = createGate();
  const enters = (each: ReturnType<typeof visit>) => gate(each.request, each.response, '192.0.2.1');
  const bodies = Array.from({ length: 40 }, () => visit(true));
  expect(bodies.every(enters)).toBe(true);
  expect([enters(visit(true)), enters(visit())]).toEqual([false, true]);
  bodies[0]!.request.emit('end');
  expect(enters(visit(true))).toBe(true);
  const streams = Array.from({ length: 358 }, () => visit());
  expect(streams.every(enters)).toBe(true);
  expect(enters(visit())).toBe(false);
  for (const { response } of streams) response.emit(STREAMING);
  expect(enters(visit())).toBe(true);
  for (const each of [...bodies, ...streams]) each.ends();
});

test('all together a thousand are under way, whatever their addresses; when all have ended the gate is as it was', () => {
  const gate = createGate();
  const open = Array.from({ length: 1_000 }, (_, at) => ({ ...visit(), address: `192.0.2.${at % 250}` }));
  expect(open.every(({ request, response, address }) => gate(request, response, address))).toBe(true);
  const more = visit();
  expect(gate(more.request, more.response, '203.0.113.9')).toBe(false);
  for (const each of open) each.ends();
  expect(
    open.every(({ address }) => {
      const again = visit();
      return gate(again.request, again.response, address);
    }),
  ).toBe(true);
});

test('a body is told by its length or by its coding (RFC 9112 6.3)', () => {
  const of = (headers: Record<string, string>) => hasBody({ headers } as unknown as IncomingMessage);
  expect([
    of({}),
    of({ 'content-length': '0' }),
    of({ 'content-length': '1' }),
    of({ 'transfer-encoding': 'chunked' }),
    of({ 'content-length': 'x' }),
  ]).toEqual([false, false, true, true, false]);
});

test('a large body comes in at a stated pace, whole and in its order', async () => {
  const sent = Buffer.alloc(3_200_000, 'abcdefgh');
  const began = performance.now();
  const chunks: Buffer[] = [];
  for await (const chunk of Readable.from([
    sent.subarray(0, 1_000_000),
    sent.subarray(1_000_000, 2_600_000),
    sent.subarray(2_600_000),
  ]).pipe(paced()))
    chunks.push(chunk as Buffer);
  expect(Buffer.concat(chunks).equals(sent)).toBe(true);
  // Two million bytes at once, the others at six million a second.
  expect(performance.now() - began).toBeGreaterThan(150);
});

test('a short body is read, a longer one is nothing', async () => {
  const read = async (text: string) => {
    const stream = new PassThrough();
    stream.end(text);
    return (await shortBody(stream as unknown as IncomingMessage, 10))?.toString() ?? null;
  };
  expect([await read('line-1'), await read('x'.repeat(11)), await read('')]).toEqual(['line-1', null, '']);
});

test('behind trusted proxies the client is whom the outermost of them saw; what stands further left was invented by whoever asked', () => {
  const address = fc.ipV4();
  fc.assert(
    fc.property(
      fc.array(fc.oneof(address, fc.string({ maxLength: 20 })), { maxLength: 5 }),
      fc.array(address, { minLength: 1, maxLength: 4 }),
      (invented, seen) => {
        // Each proxy appends the address that it was spoken to from.
        const header = [...invented, ...seen].join(', ');
        expect(clientAddress('10.0.0.9', header, seen.length)).toBe(seen[0]);
        expect(clientAddress('10.0.0.9', header, 0)).toBe('10.0.0.9');
      },
    ),
  );
  expect([clientAddress('10.0.0.9', '', 1), clientAddress('10.0.0.9', '192.0.2.1', 3)]).toEqual([
    '10.0.0.9',
    '10.0.0.9',
  ]);
});
