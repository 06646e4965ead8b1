import { readFileSync, writeFileSync } from 'node:fs';
import { ACTIONS, reachOf, ROLES } from '../src/core/access';
import { LIMIT_REASONS, LIMITS, RATES, type LimitName } from '../src/core/limits';
import { describeSettings } from '../src/server/env';

/** Writes the tables of the docs from what they tell of: settings, limits, rates and roles. */
function put(file: string, mark: string, head: string[], rows: (string | number)[][]): void {
  const line = (cells: (string | number)[]) => `| ${cells.join(' | ')} |`;
  const table = [line(head), `|${'---|'.repeat(head.length)}`, ...rows.map(line)].join('\n');
  const text = readFileSync(file, 'utf8').replace(
    new RegExp(`(<!-- ${mark}: .*?-->)[^]*(<!-- /${mark} -->)`),
    (_, from: string, to: string) => `${from}\n${table}\n${to}`,
  );
  writeFileSync(file, text);
}

put(
  'docs/running.md',
  'settings',
  ['setting', 'what for', 'default'],
  describeSettings().map(({ name, purpose, default: fallback }) => [`\`${name}\``, purpose, fallback ?? '**needed**']),
);
put(
  'docs/limits.md',
  'limits',
  ['limit', 'at most', 'why'],
  Object.entries(LIMITS)
    .map(([name, value]) => ({ name, value, reason: LIMIT_REASONS[name as LimitName] }))
    .map(({ name, value, reason: [unit, why] }) => [`\`${name}\``, `${value.toLocaleString('en-GB')} ${unit}`, why]),
);
put(
  'docs/limits.md',
  'rates',
  ['kind of request', 'at most', 'counted by', 'why'],
  Object.entries(RATES).map(([kind, { count, seconds, by, why }]) => [
    kind,
    `${count} in ${seconds >= 120 ? `${seconds / 60} minutes` : `${seconds} s`}`,
    by,
    why,
  ]),
);
put(
  'docs/roles.md',
  'roles',
  ['action', ...ROLES],
  ACTIONS.map((action) => [`\`${action}\``, ...ROLES.map((role) => reachOf(role, action).replace('none', '·'))]),
);
