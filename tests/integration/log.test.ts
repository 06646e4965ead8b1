import { spawnSync } from 'node:child_process';
import { pathForLog } from '@/server/log';
import { codeOfError, framesOf } from '@/server/log/fault';
import { targetOf } from '@/server/listen/target';

const SETTINGS = {
  DATABASE_URL: 'postgres://a@127.0.0.1:1/none',
  BASE_URL: 'http://studio.example',
  PUBLIC_URL: 'http://cards.example',
  SESSION_SECRET: 'a secret of no installation at all, ever',
};

/** Random secrets of previews, codes and ids, in every spelling that a server may be asked in. */
test('no secret of an address reaches a log, however it is spelt', () => {
  const secrets = [
    '7K3M9Q2XW8RT5VYZ',
    '0f8fad5b-d9cb-469f-a165-70867728950e',
    'a'.repeat(64),
    'odile.brandreth@x.example',
  ];
  for (const secret of secrets)
    for (const spelt of [
      `/p/${secret}`,
      `/P/${secret}`,
      `/./p/${secret}`,
      `//p//${secret}`,
      `/%70/${secret}`,
      `/x/../p/${secret}/picture-en-0123456789abcdef.jpg`,
      `/\\p\\${secret}`,
      `/api/cards/${secret}`,
      `/api/cards/${secret.toUpperCase()}/live?token=${secret}`,
      `/unknown/${secret}?${secret}`,
      `/people#${secret}`,
    ]) {
      const target = targetOf('GET', spelt);
      if (!target.ok) continue;
      expect(pathForLog(target.url).toLowerCase()).not.toContain(secret.toLowerCase());
    }
  expect(pathForLog('/api/cards/0f8fad5b-d9cb-469f-a165-70867728950e/live')).toBe('/api/cards/:id/live');
  expect(pathForLog('/_next/static/chunks/0a1b2c.js')).toBe('/_next/static/chunks/:id');
});

test('of an error the log has where it came from, and nothing of what it says, even where that looks like frames', () => {
  const said =
    'no such person Odile Brandreth\n    at secret (/odile/brandreth.ts:1:1)\n    at +44 7700 900731 (x.ts:1:1)';
  const thrown = (made: () => unknown): unknown => {
    try {
      return made();
    } catch (error) {
      return error;
    }
  };
  const errors = [
    thrown(() => {
      throw new TypeError(said);
    }),
    thrown(() => JSON.parse(said)),
    Object.assign(new Error(said), { name: 'Odd', code: '23505' }),
    Object.assign(new Error('short'), { stack: `Error: short\n${said}` }),
    said,
    null,
  ];
  for (const error of errors) expect(JSON.stringify(framesOf(error))).not.toMatch(/odile|secret|7700/i);
  expect(framesOf(errors[0])[0]).toMatch(/log\.test\.ts:\d+$/);
  expect(framesOf(errors[2])[0]).toMatch(/log\.test\.ts:\d+$/);
  expect(errors.map(codeOfError)).toEqual(['TypeError', 'SyntaxError', '23505', 'Error', 'unknown', 'unknown']);
});

test('what the framework writes on the console is a line of our log each, without what somebody typed; a refusal is no fault', () => {
  const script = `
    import { toOurLog } from './src/server/listen/framework-log.ts';
    toOurLog('framework');
    // Pages come in a bundle of their own, with a class of their own.
    class Refusal extends Error { name = 'Refusal'; constructor(problem) { super(problem.code); this.problem = problem; } }
    console.log('   \\u001b[32mReady in %dms\\u001b[39m', 12);
    console.error('⨯', new TypeError('no such person Odile Brandreth'));
    console.error(new Refusal({ code: 'NOT_FOUND' }), { digest: '1' });
    console.warn('Cannot serialise: “Odile Brandreth”');
    console.log('');`;
  const env = { ...process.env, ...SETTINGS };
  const done = spawnSync(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script], {
    env,
    encoding: 'utf8',
  });
  expect([done.status, done.stderr]).toEqual([0, '']);
  expect(done.stdout).not.toContain('Odile');
  const lines = done.stdout
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line) as object);
  expect(lines).toMatchObject([
    { level: 30, from: 'framework', msg: 'Ready in 12ms' },
    { level: 50, from: 'framework', code: 'TypeError', msg: 'a page failed' },
    { level: 30, from: 'framework', code: 'NOT_FOUND', msg: 'a page refused' },
    { level: 40, from: 'framework', msg: 'Cannot serialise' },
  ]);
});
