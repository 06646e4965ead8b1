import { BlockList, isIP } from 'node:net';
import fc from 'fast-check';
import { nearOf } from './near';

/** Networks that nobody outside reaches, by Node.js's own list of addresses: RFC 1918, RFC 3927, RFC 4193, RFC 4291. */
const near = new BlockList();
near.addSubnet('10.0.0.0', 8);
near.addSubnet('172.16.0.0', 12);
near.addSubnet('192.168.0.0', 16);
near.addSubnet('169.254.0.0', 16);
near.addSubnet('fc00::', 7, 'ipv6');
const loopback = new BlockList();
loopback.addSubnet('127.0.0.0', 8);
loopback.addAddress('::1', 'ipv6');
loopback.addAddress('0.0.0.0');

const byNode = (address: string) => {
  const family = isIP(address) === 6 ? ('ipv6' as const) : ('ipv4' as const);
  return loopback.check(address, family) ? 'computer' : near.check(address, family) ? 'network' : null;
};

test('whether an address is reached from everywhere is told as Node.js tells it, over all of them and their edges', () => {
  const part = fc.integer({ min: 0, max: 255 });
  const beginning = fc.constantFrom(
    [10, 0],
    [127, 0],
    [172, 15],
    [172, 16],
    [172, 31],
    [172, 32],
    [192, 167],
    [192, 168],
    [192, 169],
    [169, 254],
    [0, 0],
    [8, 8],
  );
  const v4 = fc
    .tuple(fc.oneof(beginning, fc.tuple(part, part)), part, part)
    .map(([[a, b], c, d]) => [a, b, c, d].join('.'));
  fc.assert(
    fc.property(v4, fc.constantFrom('', ':4600', '/h/7K3M9QXZ', '?x#y'), (address, more) => {
      expect([address, nearOf(`http://${address}${more}`)]).toEqual([address, byNode(address)]);
    }),
    { numRuns: 400 },
  );
  const group = fc.integer({ min: 0, max: 0xffff });
  const head = fc.oneof(
    fc.constantFrom(0xfbff, 0xfc00, 0xfdff, 0xfe00, 0xfe7f, 0xfe80, 0xfe9a, 0xfebf, 0xfec0, 0x2001),
    group,
  );
  fc.assert(
    fc.property(head, fc.array(group, { minLength: 7, maxLength: 7 }), (first, rest) => {
      // As a browser writes it (WHATWG URL, 3.5).
      const host = new URL(`http://[${[first, ...rest].map((each) => each.toString(16)).join(':')}]/`).hostname;
      const address = host.slice(1, -1);
      expect([address, nearOf(`https://${host}:8443/`)]).toEqual([
        address,
        first >= 0xfe80 && first <= 0xfebf ? 'network' : byNode(address),
      ]);
    }),
  );
});

// RFC 6761 6.3, RFC 6762 3, RFC 8375 7; names of one label are of the network alone (common practice, no published source).
test.each([
  ['http://localhost:4600/', 'computer'],
  ['http://a.localhost/', 'computer'],
  ['http://[::1]:4600/', 'computer'],
  ['https://studio.local/', 'network'],
  ['https://nas.home.arpa', 'network'],
  ['https://intranet/cards', 'network'],
  ['https://local.heath.example/', null],
  ['https://10.0.0.1.heath.example/', null],
  ['https://heath.example/localhost', null],
  ['mailto:a@localhost', null],
  ['', null],
])('%s is near: %s', (link, told) => {
  expect(nearOf(link)).toBe(told);
});
