import { isIPv6 } from 'node:net';
import fc from 'fast-check';
import {
  ACTIONS,
  checkPassword,
  deviceOf,
  isSameOrigin,
  mayReach,
  networkOf,
  reachOf,
  recordsWithin,
  ROLES,
} from './index';

const groups = (address: string): string[] => {
  // Node.js writes an address out as the URL standard does (WHATWG URL 3.5), which is shortest.
  const shortest = new URL(`http://[${address}]/`).hostname.slice(1, -1);
  const [head = '', tail] = shortest.split('::');
  const [before, after] = [head, tail ?? ''].map((part) => part.split(':').filter(Boolean));
  const between = tail === undefined ? [] : Array<string>(8 - before!.length - after!.length).fill('0');
  return [...before!, ...between, ...after!];
};

test('however an IPv6 address is spelled, its network is its first 64 bits (property; RFC 4291 2.2)', () => {
  const group = fc.oneof(fc.constant(0), fc.integer({ min: 0, max: 0xffff }));
  fc.assert(
    fc.property(fc.array(group, { minLength: 8, maxLength: 8 }), fc.boolean(), fc.boolean(), (parts, long, upper) => {
      const written = parts.map((part) => part.toString(16).padStart(long ? 4 : 1, '0')).join(':');
      const spelled = [upper ? written.toUpperCase() : written, new URL(`http://[${written}]/`).hostname.slice(1, -1)];
      for (const each of spelled) {
        expect(isIPv6(each)).toBe(true);
        if (/^::ffff:\d+\./i.test(each)) continue;
        expect([each, networkOf(each)]).toEqual([each, `${groups(written).slice(0, 4).join(':')}::/64`]);
      }
    }),
  );
  expect(networkOf('fe80::1%eth0')).toBe('fe80:0:0:0::/64');
  // IPv4 as it is, also within IPv6 (RFC 4291 2.5.5.2).
  expect(['192.0.2.9', '::ffff:192.0.2.9', '::FFFF:192.0.2.9', 'unknown'].map(networkOf)).toEqual([
    '192.0.2.9',
    '192.0.2.9',
    '192.0.2.9',
    'unknown',
  ]);
});

test.each<[string | null, string | null, string | null, boolean]>([
  ['https://studio.example', 'same-origin', 'https://studio.example', true],
  ['https://studio.example', null, 'https://studio.example', true],
  [null, 'same-origin', 'https://studio.example', true],
  [null, null, 'https://studio.example', false],
  [null, 'none', 'https://studio.example', false],
  ['https://studio.example', 'same-site', 'https://studio.example', false],
  ['https://studio.example', 'cross-site', 'https://studio.example', false],
  ['https://cards.example', null, 'https://studio.example', false],
  ['https://studio.example:8443', null, 'https://studio.example', false],
  ['http://studio.example', null, 'https://studio.example', false],
  ['http://studio.example:8443', null, 'http://studio.example:8443', true],
  ['null', null, 'null', false],
  ['studio.example', null, 'https://studio.example', false],
])('a change from %s, fetched as %s, to %s: ours %s (Fetch Metadata, RFC 6454)', (origin, fetchSite, ours, told) => {
  expect(isSameOrigin({ origin: origin!, fetchSite: fetchSite!, ours: ours! })).toBe(told);
});

test('a device is told by its kind alone (user agents as browsers send them; from memory)', () => {
  const kinds = {
    'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36':
      'phone',
    'Mozilla/5.0 (Linux; Android 14; SM-X710) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Safari/537.36':
      'tablet',
    'Mozilla/5.0 (iPad; CPU OS 16_6 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/16.6 Mobile/15E148 Safari/604.1':
      'tablet',
    'Mozilla/5.0 (iPhone; CPU iPhone OS 18_1 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.1 Mobile/15E148 Safari/604.1':
      'phone',
    'Mozilla/5.0 (X11; Linux x86_64; rv:133.0) Gecko/20100101 Firefox/133.0': 'computer',
    'curl/8.5.0': 'program',
    '': 'program',
  };
  for (const [agent, kind] of Object.entries(kinds)) expect([agent, deviceOf(agent)]).toEqual([agent, kind]);
});

test('a password has from 10 to 200 letters (NIST SP 800-63B 3.1.1.2 asks for 8 at least)', () => {
  const length = (letters: number) => {
    const read = checkPassword('x'.repeat(letters));
    return read.ok || read.problem.code;
  };
  expect([9, 10, 200, 201].map(length)).toEqual(['PASSWORD_SHORT', true, true, 'PASSWORD_LONG']);
});

test('nobody reaches more than their role says: all, their team’s and their own, their own, nothing', () => {
  const [own, colleague, stranger] = ['own', 'colleague', 'stranger'];
  for (const role of ROLES)
    for (const action of ACTIONS) {
      const reach = reachOf(role, action);
      const may = (ownRecord: string | null, team: string[] = []) =>
        [own, colleague, stranger].map((id) => mayReach({ role, ownRecord, team: new Set(team) }, action, id));
      const none = [false, false, false];
      expect([role, action, may(null, [])]).toEqual([role, action, reach === 'all' ? [true, true, true] : none]);
      expect([role, action, may(own)]).toEqual([
        role,
        action,
        reach === 'all' ? [true, true, true] : reach === 'none' ? none : [true, false, false],
      ]);
      // A team is of no use to whoever reaches their own alone.
      expect([role, action, may(own, [colleague])]).toEqual([
        role,
        action,
        reach === 'all' ? [true, true, true] : [reach !== 'none', reach === 'team', false],
      ]);
      if (reach === 'none')
        expect(recordsWithin({ role, ownRecord: own, team: new Set([colleague]) }, action)).toEqual([]);
    }
  // Only an owner lets others in, and nobody but owners and administrators changes a person that is not theirs.
  expect(ROLES.filter((role) => reachOf(role, 'member.manage') !== 'none')).toEqual(['owner']);
  expect(ROLES.filter((role) => reachOf(role, 'record.write') === 'all')).toEqual(['owner', 'administrator']);
});
