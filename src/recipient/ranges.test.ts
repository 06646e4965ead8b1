import { Readable } from 'node:stream';
import { deliver, deliverFile } from './deliver';

/* Conditional requests and ranges as RFC 9110 has them; the examples of a file of ten thousand bytes are its own (14.1.2). */
const LENGTH = 10_000;
const bytes = Buffer.from(Array.from({ length: LENGTH }, (_, at) => at % 251));
const ask = (headers: Record<string, string>, { method = 'GET', cache = 'public, max-age=60' } = {}) =>
  deliver(
    { method, header: (name: string) => headers[name] ?? '' } as never,
    { body: bytes, gzip: null, etag: '"v1"', headers: { 'Content-Type': 'image/jpeg' } },
    cache,
    {},
  );

test.each<[string, number, number]>([
  ['bytes=0-499', 0, 499],
  ['bytes=500-999', 500, 999],
  ['bytes=-500', 9_500, 9_999],
  ['bytes=9500-', 9_500, 9_999],
  // A last position beyond the end is the end.
  ['bytes=9990-20000', 9_990, 9_999],
  ['bytes=-20000', 0, 9_999],
  ['bytes=0-0', 0, 0],
])('%s is bytes %i to %i', (range, first, last) => {
  const answer = ask({ range });
  expect([answer.status, answer.headers['Content-Range'], answer.headers['Content-Length']]).toEqual([
    206,
    `bytes ${first}-${last}/${LENGTH}`,
    String(last - first + 1),
  ]);
  expect(Buffer.compare(answer.body as Buffer, bytes.subarray(first, last + 1))).toBe(0);
});

test.each([['bytes=10000-'], ['bytes=10000-10001'], ['bytes=-0']])(
  '%s is nowhere: 416 tells how long it is',
  (range) => {
    const answer = ask({ range });
    expect([answer.status, answer.headers['Content-Range'], answer.body]).toEqual([416, `bytes */${LENGTH}`, '']);
  },
);

test.each([['bytes=500-200'], ['bytes=0-0,-1'], ['items=0-5'], ['bytes=a-b'], ['bytes=-'], ['bytes= 0 - 5 x'], ['']])(
  '“%s” is none that is to be heeded: the whole is sent (14.2)',
  (range) => {
    const answer = ask({ range });
    expect([answer.status, answer.headers['Content-Length'], answer.headers['Content-Range']]).toEqual([
      200,
      String(LENGTH),
      undefined,
    ]);
  },
);

test('a range counts only of the very copy that somebody has (13.1.5), and a copy that is good is not sent again (13.1.2)', () => {
  expect(ask({ range: 'bytes=0-9', 'if-range': '"v1"' }).status).toBe(206);
  expect(ask({ range: 'bytes=0-9', 'if-range': '"v0"' }).status).toBe(200);
  // A weak tag never fits a range (13.1.5), and fits a whole copy (8.8.3.2).
  expect(ask({ range: 'bytes=0-9', 'if-range': 'W/"v1"' }).status).toBe(200);
  for (const good of ['"v1"', 'W/"v1"', '"v0", "v1"', '*']) {
    const answer = ask({ 'if-none-match': good, range: 'bytes=0-9' });
    expect([good, answer.status, answer.body, answer.headers.ETag]).toEqual([good, 304, '', '"v1"']);
  }
  for (const other of ['"v0"', 'v1', '"v1'])
    expect([other, ask({ 'if-none-match': other }).status]).toEqual([other, 200]);
  // What must not be kept has no tag to ask by.
  const fresh = ask({ 'if-none-match': '"v1"' }, { cache: 'no-store' });
  expect([fresh.status, fresh.headers.ETag]).toEqual([200, undefined]);
});

test('HEAD has the headers of GET and nothing else (9.3.2)', () => {
  for (const headers of [{}, { range: 'bytes=5-9' }] as Record<string, string>[]) {
    const [head, get] = [ask(headers, { method: 'HEAD' }), ask(headers)];
    expect([head.status, head.headers, head.body]).toEqual([get.status, get.headers, '']);
  }
});

test('of a file in the store the asked part alone is read; one that is gone there is no answer of ours', async () => {
  const read: [number, number][] = [];
  const file = { length: LENGTH, etag: '"v1"', headers: { 'Content-Type': 'video/mp4' } };
  const from = (headers: Record<string, string>, gone = false, method: 'GET' | 'HEAD' = 'GET') =>
    deliverFile({ method, header: (name: string) => headers[name] ?? '' }, file, 'public', (first, last) => {
      read.push([first, last]);
      return Promise.resolve(gone ? null : Readable.from([bytes.subarray(first, last + 1)]));
    });
  expect((await from({ range: 'bytes=500-999' }))!.status).toBe(206);
  expect((await from({}))!.status).toBe(200);
  expect(await from({}, true)).toBeNull();
  // What is answered without bytes asks the store for none.
  expect((await from({ 'if-none-match': '"v1"' }))!.status).toBe(304);
  expect((await from({ range: 'bytes=10000-' }))!.status).toBe(416);
  expect((await from({}, false, 'HEAD'))!.body).toBe('');
  expect(read).toEqual([
    [500, 999],
    [0, 9_999],
    [0, 9_999],
  ]);
});
