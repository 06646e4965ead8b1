import { readFileSync, writeFileSync } from 'node:fs';
import { describeSettings } from '../src/server/env';

/** Writes the table of settings in docs/running.md from the settings themselves. */
const FILE = 'docs/running.md';
const rows = describeSettings().map(
  ({ name, purpose, default: fallback }) => `| \`${name}\` | ${purpose} | ${fallback ?? '**needed**'} |`,
);
const table = ['| setting | what for | default |', '|---|---|---|', ...rows].join('\n');
const text = readFileSync(FILE, 'utf8').replace(
  /(<!-- settings: .*?-->)[^]*(<!-- \/settings -->)/,
  (_, from: string, to: string) => `${from}\n${table}\n${to}`,
);
writeFileSync(FILE, text);
